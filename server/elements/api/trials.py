"""Readings side by side."""

from __future__ import annotations

import cv2
from config.engine import drawing, evaluator
from config.errors import Problem
from django.http import HttpRequest, HttpResponse
from neatveil.alpha import Reading
from neatveil.alpha.suggest import Suggestion
from neatveil.comp.elements import Encoding
from neatveil.errors import ValueRefused
from neatveil.evaluate.reading_trials import places_for, suggestion_for
from neatveil.io import Facts
from neatveil.picture import Box, PremultipliedPicture, rgb_planes
from neatveil.view import TRIAL_LOOKS, trial_sheet
from ninja import Field, Router, Schema

from elements.actions.look_closer import save_suggestion
from elements.models import Element
from elements.resolve import core_element
from elements.uses import USES

from .shapes import element_for

router = Router()

#: Most readings side by side.
MOST = 6


class TrialPlace(Schema):
    frame: int
    box: tuple[int, int, int, int]
    disagreement: float = Field(0.0, description="Mean difference of the readings there, 8-bit codes.")


class TrialOut(Schema):
    suggestion: Suggestion
    readings: list[Reading] = Field(description="Side by side, in this order.")
    words: list[str]
    places: list[TrialPlace]
    backgrounds: list[str]


class SheetIn(Schema):
    readings: list[Reading] = Field(min_length=1, max_length=MOST)
    encoding: Encoding | None = None
    place: TrialPlace


@router.post("elements/{element_id}/trial", response={200: TrialOut, 404: Problem, 422: Problem})
def trial(request: HttpRequest, element_id: int) -> TrialOut:
    """Which readings are plausible, what speaks for each, and where they differ most."""
    row = element_for(request, element_id)
    element, facts = core_element(row), Facts.model_validate(row.facts)
    with drawing("", 0):
        suggestion = Suggestion.model_validate(row.suggestion) if row.suggestion else None
        suggestion = suggestion or suggestion_for(evaluator(), element, facts)
        if suggestion is None:
            raise ValueRefused(
                f"{row.name} has no alpha to be read.",
                advice="Join an alpha to it, or leave it opaque.", where=row.name,
            )  # fmt: skip
        if row.suggestion is None:
            save_suggestion(row, suggestion)
        readings = [c.reading for c in suggestion.candidates][:MOST]
        own = element.reading
        if own not in readings:
            readings = [*readings[: MOST - 1], own]
        spots = places_for(evaluator(), element, facts, readings)
    backgrounds = [*TRIAL_LOOKS, *(["plate"] if any(u.lies_before(row) for u in USES) else [])]
    places = [
        TrialPlace(frame=s.frame, box=(s.box.x0, s.box.y0, s.box.x1, s.box.y1), disagreement=s.disagreement)
        for s in spots
    ]
    return TrialOut(
        suggestion=suggestion, readings=readings, words=[r.words() for r in readings], places=places,
        backgrounds=backgrounds,
    )  # fmt: skip


@router.post("elements/{element_id}/trial/sheet", response={404: Problem, 422: Problem})
def sheet(request: HttpRequest, element_id: int, body: SheetIn) -> HttpResponse:
    """A PNG of one place: a row a reading, a column a background, pixel for pixel."""
    row = element_for(request, element_id)
    element = core_element(row, {"encoding": body.encoding} if body.encoding else None)
    box = Box(*body.place.box)
    if box.empty or box.width * box.height > 1 << 18:
        raise ValueRefused("A place has at most 262,144 pixels.", where="place")
    with drawing("", 0):
        stored = evaluator().stored(element, body.place.frame)
        pixels = trial_sheet(
            stored.with_planes({**stored.planes, **(rgb_planes(stored) or {})}), body.readings,
            element.encoding, box, _plate(row, body.place.frame, box),
        )  # fmt: skip
    _, data = cv2.imencode(".png", cv2.cvtColor(pixels, cv2.COLOR_RGBA2BGR), [cv2.IMWRITE_PNG_COMPRESSION, 1])
    response = HttpResponse(data.tobytes(), content_type="image/png")
    response["Cache-Control"] = "private, no-store"
    return response


def _plate(row: Element, frame: int, box: Box) -> PremultipliedPicture | None:
    """What lies behind the element where it is used first."""
    return next((p for use in USES if (p := use.behind(row, frame, box)) is not None), None)
