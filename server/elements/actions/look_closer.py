"""What takes a while to find out of an element: how its channels are used, and what reading fits."""

from __future__ import annotations

from config.events import announce
from django.db import transaction
from neatveil.alpha.suggest import Suggestion
from neatveil.errors import NeatVeilError
from neatveil.evaluate import Evaluator
from neatveil.evaluate.reading_trials import suggestion_for
from neatveil.io import Decoder, Facts

from elements.models import Element
from elements.resolve import core_element


def look_closer(element_id: int, decoder: Decoder, evaluator: Evaluator) -> None:
    """Set the channels' least and largest values and the suggestion; what fails leaves them open."""
    row = Element.objects.select_related("library").filter(pk=element_id).first()
    if row is None or row.state != Element.State.READY:
        return
    facts = Facts.model_validate(row.facts)
    try:
        facts = decoder.survey(str(row.place), facts)
        suggestion = suggestion_for(evaluator, core_element(row), facts)
    except NeatVeilError:
        return  # the picture itself says what is wrong when it is looked at
    save_suggestion(row, suggestion, facts)


def save_suggestion(row: Element, suggestion: Suggestion | None, facts: Facts | None = None) -> None:
    """Keep what was found; a reading is never changed by it, a person does that."""
    with transaction.atomic():
        locked = Element.objects.select_for_update().get(pk=row.pk)
        if facts is not None and locked.facts is not None:
            # what a render said of its channels stays
            data = {c["name"] for c in locked.facts["channels"] if c["data"]}
            channels = [
                {**c.model_dump(mode="json"), "data": c.data or c.name in data} for c in facts.channels
            ]
            locked.facts = {**locked.facts, "channels": channels}
        locked.suggestion = None if suggestion is None else suggestion.model_dump(mode="json")
        locked.save(update_fields=["facts", "suggestion"])
        announce(locked.project_id, "elements", locked.pk)
