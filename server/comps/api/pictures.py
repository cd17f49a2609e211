"""Pictures of comps, and the numbers in them."""

from __future__ import annotations

import json
import time
from collections.abc import Callable
from math import ceil, log2
from typing import Annotated, Any, Literal
from urllib.parse import quote

from config.engine import drawing, drawing_card, evaluator
from config.errors import Problem
from config.pictures import Place, SampleOut, Shown, screen_for, screen_response, shown_response
from django.http import HttpRequest, HttpResponse
from elements.api.shapes import SpreadOut
from elements.pictures import CARD_HEIGHT, card_of
from neatveil.alpha import Reading
from neatveil.colour.working import to_working
from neatveil.comp import Comp as Document
from neatveil.comp.elements import Encoding
from neatveil.errors import NeatVeilError, ValueRefused, describe
from neatveil.evaluate import frame_box
from neatveil.picture import Box, PremultipliedPicture
from neatveil.view import Screen, difference, in_codes, profile, sample, spreads, straight_profile, waveform
from ninja import Field, Router, Schema
from projects.access import row_for

from comps.asking import document_for
from comps.drawing import at_stage, before, of_channel, of_matte, stored_document, uncut
from comps.lists import with_row
from comps.models import Comp

router = Router()

#: Problems of one picture that are told at most.
MOST_PROBLEMS = 5


class ElementDraft(Schema):
    reading: Reading | None = None
    encoding: Encoding | None = None


class MatteLook(Schema):
    """The layer's own matte, or the one that a step of it acts through; or one part of it alone."""

    step: Annotated[int, Field(ge=0)] | Literal["alpha"] | None = None
    part: int | None = Field(None, ge=0)


class CompLook(Schema):
    """What of a comp is looked at: all, the pile up to a layer, or one layer alone; perhaps a draft.

    ``stage``: only so many of the layer's steps are done. ``before``: the comp without the layer's work.
    """

    document: Document | None = None
    elements: dict[str, ElementDraft] = {}
    layer: str | None = None
    extent: Literal["comp", "upto", "layer"] = "comp"
    stage: int | None = Field(None, ge=0)
    before: bool = False
    row: int | None = Field(None, ge=1, description="Filled by this row of its list.")
    uncut: bool = Field(False, description="The layer without its own matte, as while that is made.")
    matte: MatteLook | None = Field(None, description="The layer alone, cut by this matte and nothing else.")
    extra_channel: str | None = Field(
        None, max_length=200, description="The layer as this extra channel of its element, such as depth."
    )


class OtherCompLook(CompLook):
    frame: int | None = None


class CompShown(Shown, CompLook):
    """``against``: the difference from another look at the same comp, times ``gain``."""

    passing: bool = Field(False, description="Something is being dragged: the picture is not kept.")
    against: OtherCompLook | None = None
    gain: float = Field(1.0, ge=1, le=255)


class PointIn(CompShown):
    x: int
    y: int


class LineIn(CompShown):
    line: tuple[Place, Place, Place, Place]


class BoxIn(CompShown):
    within: tuple[int, int, int, int] | None = None


class CompMeasure(Schema):
    """Of the light, premultiplied over black, and of the codes that the look shows; ``waveform``: counts."""

    light: dict[str, SpreadOut]
    codes: dict[str, SpreadOut]
    waveform: dict[str, list[list[int]]]


class CompProfile(Schema):
    """Along a line: distance in pixels, and R, G, B, A, luma at each point: light, and straight colour."""

    light: dict[str, list[float]]
    straight: dict[str, list[float]]


def _drawable(request: HttpRequest, comp_id: int, body: CompLook, frame: int) -> Document:
    drafts = {k: d.model_dump(exclude_none=True) for k, d in body.elements.items()}
    draft = body.document if body.row is None else _row(request, comp_id, body.document, body.row)
    return looked_at(document_for(request.user, comp_id, draft, drafts), body, frame)


def looked_at(document: Document, body: CompLook, frame: int) -> Document:
    """The document as it is looked at: at a stage, before the layer's work, as one matte or one channel."""
    if body.extent != "comp" and not body.layer:
        raise ValueRefused("Name the layer to look at.", where="layer")
    if body.before and body.layer:
        document = before(document, body.layer)
    if body.stage is not None and body.layer:
        document = at_stage(document, body.layer, body.stage)
    if body.layer and (body.uncut or body.matte):
        document = (
            of_matte(document, body.layer, body.matte.step, body.matte.part)
            if body.matte
            else uncut(document, body.layer)
        )
    if body.extra_channel and body.layer:
        document = of_channel(document, body.layer, body.extra_channel, frame)
    return document


def _row(request: HttpRequest, comp_id: int, draft: Document | None, row: int) -> Document:
    comp = row_for(request.user, Comp, comp_id, "comp")
    return with_row(draft or stored_document(comp), comp.project_id, row)


def _extent(body: CompLook) -> dict[str, Any]:
    return {
        "upto": body.layer if body.extent == "upto" else None,
        "only": body.layer if body.extent == "layer" else None,
    }


@router.post("comps/{comp_id}/picture", response={404: Problem, 422: Problem})
def comp_picture(request: HttpRequest, comp_id: int, body: CompShown) -> HttpResponse:
    """The comp as asked: JPEG (fast), or raw R, G, B, 255 bytes (exact).

    Layers that cannot be computed are left out; the header X-Problems names them, and what others do without,
    as percent-encoded JSON.
    """
    document = _drawable(request, comp_id, body, body.frame)
    body.area(frame_box(document, body.level))  # refused before it is drawn
    with drawing(body.viewer, body.sequence) as outdated:
        start = time.perf_counter()
        if body.passing and body.against is None:
            screen, frame, failed = passing_screen(document, body, outdated)
            evaluated = time.perf_counter()
            response = screen_response(body, screen, frame)
        else:
            failed = []
            part = _part(body, outdated, failed)
            picture = evaluator().picture(document, body.frame, **part)
            if body.against is not None:
                picture = _against(request, comp_id, body, picture, part)
            evaluated = time.perf_counter()
            response = shown_response(body, picture)
    times = (evaluated - start) * 1e3, (time.perf_counter() - evaluated) * 1e3
    if failed:
        # header values are ASCII
        response["X-Problems"] = quote(json.dumps(told_of(failed)))
    response["Server-Timing"] = f"evaluate;dur={times[0]:.1f}, encode;dur={times[1]:.1f}"
    return response


def _part(body: CompShown, outdated: Callable[[], bool], failed: list[NeatVeilError]) -> dict[str, Any]:
    """What of a comp is drawn, as the evaluator takes it; ``failed`` collects what cannot be."""
    return {
        "level": body.level, "region": body.box(), "cancelled": outdated, "failed": failed, **_extent(body),
    }  # fmt: skip


def passing_screen(
    document: Document, body: CompShown, outdated: Callable[[], bool]
) -> tuple[Screen, Box, list[NeatVeilError]]:
    """What is seen of a comp while something is dragged, its frame at the level, and what failed."""
    failed: list[NeatVeilError] = []
    frame = frame_box(document, body.level)
    screen = screen_for(body, body.area(frame))
    evaluator().draw(document, body.frame, screen.take, **_part(body, outdated, failed))
    return screen, frame, failed


def told_of(failed: list[NeatVeilError]) -> list[dict[str, str]]:
    """The first problems of a picture, as the page reads them."""
    return [describe(e) for e in failed[:MOST_PROBLEMS]]


@router.get("comps/{comp_id}/card", response={404: Problem, 422: Problem})
def comp_card(
    request: HttpRequest,
    comp_id: int,
    part: Literal["colour", "alpha"] = "colour",
    frame: int | None = None,
    row: int | None = None,
) -> HttpResponse:
    """A small JPEG for cards, of the colour over grey checks or of the alpha; what fails is left out.

    ``row``: filled by this row of its list.
    """
    draft = None if row is None else _row(request, comp_id, None, row)
    document = document_for(request.user, comp_id, draft, {})
    number = (document.first + document.last) // 2 if frame is None else frame
    level = max(0, ceil(log2(document.height / (2 * CARD_HEIGHT))))
    with drawing_card():
        return card_of(evaluator().picture(document, number, level=level, failed=[], keep=False), part)


def _against(
    request: HttpRequest, comp_id: int, body: CompShown, picture: PremultipliedPicture, part: dict[str, Any]
) -> PremultipliedPicture:
    assert body.against is not None
    other = body.against
    frame = body.frame if other.frame is None else other.frame
    document = _drawable(request, comp_id, other, frame)
    second = evaluator().picture(document, frame, **{**part, **_extent(other)})
    alpha = body.look.channel == "alpha"
    body.look = body.look.model_copy(update={"channel": "rgb"})
    return difference(picture, second, body.gain, alpha=alpha)


@router.post("comps/{comp_id}/values", response={200: SampleOut, 404: Problem, 422: Problem})
def comp_values(request: HttpRequest, comp_id: int, body: PointIn) -> SampleOut:
    """Values at one pixel of the comp, full size, with the stored ones of a layer.

    As in the picture, layers that cannot be computed are left out; so for lines and boxes.
    """
    document = _drawable(request, comp_id, body, body.frame)
    if not (0 <= body.x < document.width and 0 <= body.y < document.height):
        raise ValueRefused(f"({body.x}, {body.y}) lies outside {document.width} x {document.height}.")
    with drawing(body.viewer and f"{body.viewer}-values", body.sequence):
        got = sample(
            evaluator(), document, body.frame, body.x, body.y, body.layer, extent=body.extent, failed=[],
            look=body.look,
        )  # fmt: skip
    return SampleOut.of(got)


@router.post("comps/{comp_id}/profile", response={200: CompProfile, 404: Problem, 422: Problem})
def comp_profile(request: HttpRequest, comp_id: int, body: LineIn) -> CompProfile:
    """Values along a line across the full-size frame, of what is shown."""
    document = _drawable(request, comp_id, body, body.frame)
    with drawing("", 0):
        x0, y0, x1, y1 = body.line
        low, high = (min(x0, x1), min(y0, y1)), (max(x0, x1), max(y0, y1))
        near = Box(int(low[0]) - 2, int(low[1]) - 2, int(high[0]) + 3, int(high[1]) + 3)
        picture = evaluator().picture(
            document, body.frame, region=near, keep=False, failed=[], **_extent(body)
        )
        return CompProfile(light=profile(picture, body.line), straight=straight_profile(picture, body.line))


@router.post("comps/{comp_id}/measure", response={200: CompMeasure, 404: Problem, 422: Problem})
def comp_measure(request: HttpRequest, comp_id: int, body: BoxIn) -> CompMeasure:
    """Mean, standard deviation, min, max, histogram and waveform of a box, or of the whole frame.

    The whole frame is measured at the level that is shown; a box at full size. With a stage it is what the
    step after it sees: in the comp's working space.
    """
    document = _drawable(request, comp_id, body, body.frame)
    level = 0 if body.within else body.level
    box = Box(*body.within) if body.within else frame_box(document, level)
    with drawing("", 0):
        picture = evaluator().picture(
            document, body.frame, level=level, region=box, keep=not body.within, failed=[], **_extent(body)
        )
        if body.stage is not None:
            picture = to_working(picture, document.working)
        codes = in_codes(picture, body.look)
        return CompMeasure(
            light={n: SpreadOut.from_orm(s) for n, s in spreads(picture).items()},
            codes={n: SpreadOut.from_orm(s) for n, s in spreads(codes).items()},
            waveform=waveform(codes),
        )
