"""Finding an element's facts, and the reading it starts with."""

from __future__ import annotations

from config.errors import NotThere
from config.events import announce
from django.conf import settings
from django.db import transaction
from neatveil.alpha import Reading
from neatveil.errors import NeatVeilError
from neatveil.io import Decoder, Facts
from neatveil.io.decoder import describe

from elements.models import Element


def look_at(element_id: int, decoder: Decoder) -> Element:
    """Probe the files and set facts, or why the element is refused."""
    row = Element.objects.filter(pk=element_id).first()
    if row is None:
        raise NotThere("This element was removed.")
    try:
        facts = decoder.probe(str(settings.MEDIA / row.file))
    except NeatVeilError as error:
        row.state, row.problem = Element.State.REFUSED, describe(error)
    else:
        row.state, row.facts, row.problem = Element.State.READY, facts.model_dump(mode="json"), None
        if not row.reading_set:
            row.reading = starting_reading(facts).model_dump(mode="json")
            row.encoding = facts.encoding
    with transaction.atomic():
        row.save(update_fields=["state", "facts", "problem", "reading", "encoding"])
        announce(row.project_id, "elements", row.pk)
    return row


def starting_reading(facts: Facts) -> Reading:
    """What the file's format or the file itself says; straight where nothing says anything.

    A movie says nothing: its card then tells that nobody has confirmed the reading.
    """
    if not facts.alpha:
        return Reading(alpha="none")
    return Reading(alpha=facts.alpha_claim or "straight")
