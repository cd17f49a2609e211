"""Looking at elements: pictures, values, profiles, measures, cards."""

from __future__ import annotations

from pathlib import Path
from typing import Any, Literal

from config.downloads import fetched
from config.engine import drawing, drawing_card, evaluator
from config.errors import Problem
from config.pictures import Place, SampleOut, Shown, shown_response
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from neatveil.alpha import Reading
from neatveil.comp import Element as CoreElement
from neatveil.comp.elements import Encoding
from neatveil.errors import FileMissing, NameUnknown, ValueRefused
from neatveil.io import Pattern
from neatveil.merge.pictures import over
from neatveil.picture import Box, PremultipliedPicture, cut, whole_frame
from neatveil.view import channel_picture, difference, profile, sample_element, spreads, straight_profile
from neatveil.view.coarse_uv import CoarseUV, coarse_uv
from neatveil.view.values import with_straight
from ninja import Field, Router, Schema

from elements.models import Element
from elements.pictures import card_of, card_response, shown_planes
from elements.resolve import core_element

from .shapes import SpreadOut, element_for

router = Router()


class OtherLook(Schema):
    """What a picture is laid over or compared with: another element, or this one read otherwise."""

    element: int
    frame: int | None = None
    reading: Reading | None = None
    encoding: Encoding | None = None


class ElementShown(Shown):
    """A look at an element, perhaps with a draft of its reading.

    ``planes``: channels to be shown instead of its colour. ``under``: an element behind it.
    ``against``: its difference from another look, times ``gain``.
    """

    reading: Reading | None = None
    encoding: Encoding | None = None
    planes: list[str] | None = Field(None, max_length=3)
    stretch: bool = False
    under: OtherLook | None = None
    against: OtherLook | None = None
    gain: float = Field(1.0, ge=1, le=255)


class ElementPoint(ElementShown):
    x: int
    y: int


class ElementLine(ElementShown):
    line: tuple[Place, Place, Place, Place]


class ElementBox(ElementShown):
    within: tuple[int, int, int, int] | None = None


class MeasureOut(Schema):
    """Of the code values as stored, and of the light as it is read, premultiplied over black."""

    stored: dict[str, SpreadOut]
    light: dict[str, SpreadOut]


class ProfileOut(Schema):
    """Along a line: distance in pixels, and R, G, B, A, luma at each point."""

    stored: dict[str, list[float]]
    straight: dict[str, list[float]]


def _core(row: Element, body: ElementShown | OtherLook) -> CoreElement:
    changes = {"reading": body.reading, "encoding": body.encoding}
    return core_element(row, {k: v for k, v in changes.items() if v is not None})


def _other(request: HttpRequest, body: ElementShown, other: OtherLook) -> PremultipliedPicture:
    row = element_for(request, other.element)
    element = _core(row, other)
    frame = body.frame if other.frame is None else other.frame
    frame = min(max(frame, element.first), element.last)
    return evaluator().source(element, frame, body.level)


def element_view(request: HttpRequest, row: Element, body: ElementShown) -> PremultipliedPicture:
    """The picture that was asked for, before the look is put on it."""
    element = _core(row, body)
    assert row.facts is not None  # an element that is not ready has no core form
    body.area(Box.sized(row.facts["width"], row.facts["height"]).halved(body.level))
    if body.planes:
        names = body.planes
        known = {c["name"] for c in row.facts["channels"]} | {p["name"] for p in row.parts}
        if not known.issuperset(names):
            raise NameUnknown(
                f"{row.name} has no channel {', '.join(set(names) - known)}.",
                advice=f"It has {', '.join(sorted(known))}.", where=row.name,
            )  # fmt: skip

        def make() -> PremultipliedPicture:
            stored = evaluator().stored(element, body.frame, names)
            return channel_picture(stored, names, element.encoding, stretch=body.stretch)

        return evaluator().kept(element, body.frame, body.level, [names, body.stretch], make)
    picture = evaluator().source(element, body.frame, body.level)
    if body.under is not None:
        back = cut(_other(request, body, body.under), picture.display_window)
        front = whole_frame(picture)
        picture = over(front, back)
    if body.against is not None:
        other = _other(request, body, body.against)
        return difference(picture, other, body.gain, alpha=body.look.channel == "alpha")
    return picture


@router.post("elements/{element_id}/picture", response={404: Problem, 422: Problem})
def element_picture(request: HttpRequest, element_id: int, body: ElementShown) -> HttpResponse:
    """The element by itself: JPEG, or raw RGBA bytes where exact."""
    row = element_for(request, element_id)
    with drawing(body.viewer, body.sequence):
        picture = element_view(request, row, body)
        if body.against is not None:
            body.look = body.look.model_copy(update={"channel": "rgb"})
        return shown_response(body, picture)


@router.post("elements/{element_id}/values", response={200: SampleOut, 404: Problem, 422: Problem})
def element_values(request: HttpRequest, element_id: int, body: ElementPoint) -> SampleOut:
    """Values at one pixel of the element, full size: as stored and as read."""
    row = element_for(request, element_id)
    with drawing(body.viewer and f"{body.viewer}-values", body.sequence):
        if body.planes:
            return SampleOut.of(_plane_sample(row, body))
        return SampleOut.of(
            sample_element(evaluator(), _core(row, body), body.frame, body.x, body.y, body.look)
        )


def _plane_sample(row: Element, body: ElementPoint) -> Any:
    """Values of the shown channels under R, G and B."""
    stored = evaluator().stored(_core(row, body), body.frame, body.planes)
    box = stored.data_window
    inside = box.x0 <= body.x < box.x1 and box.y0 <= body.y < box.y1
    values = [
        float(stored[n][body.y - box.y0, body.x - box.x0]) if inside else 0.0 for n in body.planes or []
    ]
    r, g, b = (values * 3)[:3] if len(values) == 1 else [*values, 0.0][:3]
    return with_straight((r, g, b, 1.0), (r, g, b, 1.0))


@router.post("elements/{element_id}/profile", response={200: ProfileOut, 404: Problem, 422: Problem})
def element_profile(request: HttpRequest, element_id: int, body: ElementLine) -> ProfileOut:
    """Values along a line across the full-size frame."""
    row = element_for(request, element_id)
    element = _core(row, body)
    with drawing("", 0):
        stored = evaluator().stored(element, body.frame)
        read = evaluator().source(element, body.frame)
        return ProfileOut(stored=profile(stored, body.line), straight=straight_profile(read, body.line))


@router.post("elements/{element_id}/measure", response={200: MeasureOut, 404: Problem, 422: Problem})
def element_measure(request: HttpRequest, element_id: int, body: ElementBox) -> MeasureOut:
    """Mean, standard deviation, min, max and histogram of a box, or of the whole frame."""
    row = element_for(request, element_id)
    element = _core(row, body)
    box = Box(*body.within) if body.within else None
    with drawing("", 0):
        stored, read = evaluator().stored(element, body.frame), evaluator().source(element, body.frame)
        rows = [{n: SpreadOut.from_orm(s) for n, s in spreads(p, box).items()} for p in (stored, read)]
    return MeasureOut(stored=rows[0], light=rows[1])


class FlickerOut(Schema):
    """Mean and standard deviation of the light of one frame, by channel, measured on the halved picture."""

    mean: dict[str, float]
    spread: dict[str, float]


@router.get("elements/{element_id}/flicker", response={200: FlickerOut, 404: Problem, 422: Problem})
def element_flicker(request: HttpRequest, element_id: int, frame: int) -> FlickerOut:
    element = core_element(element_for(request, element_id))
    with drawing("", 0):
        got = spreads(whole_frame(evaluator().source(element, frame, 2)))
    return FlickerOut(mean={n: s.mean for n, s in got.items()}, spread={n: s.spread for n, s in got.items()})


@router.get("elements/{element_id}/files", response={404: Problem, 422: Problem})
def element_files(request: HttpRequest, element_id: int) -> HttpResponseBase:
    """Its file to be kept; the frames of a sequence as one archive, which is made while it is sent."""
    row = element_for(request, element_id)
    paths = [p for p in files_of(core_element(row)) if p.is_file()]
    if not paths:
        raise FileMissing(f"The files of {row.name} are not there.", where=row.name)
    return fetched(paths, paths[0].name.split(".")[0])


def files_of(element: CoreElement) -> list[Path]:
    """All files of an element's own, in order."""
    if not Pattern.is_pattern(element.file):
        return [Path(element.file)]
    pattern = Pattern.parse(element.file)
    return [pattern.path(f) for f in range(element.first, element.last + 1)]


@router.get("elements/{element_id}/card", response={404: Problem, 422: Problem})
def element_card(
    request: HttpRequest,
    element_id: int,
    part: Literal["colour", "alpha"] = "colour",
    frame: int | None = None,
) -> HttpResponse:
    """A small JPEG for cards, of the colour over grey checks or of the alpha."""
    row = element_for(request, element_id)
    element = core_element(row)
    number = (element.first + element.last) // 2 if frame is None else frame
    with drawing_card():
        return card_response(evaluator(), element, number, part, shown_planes(row))


class CoarseOut(Schema):
    """``block``: pixels of a row with one value, in the mean, where they are most; null where none have."""

    block: float | None


def _coarse(request: HttpRequest, element_id: int) -> CoarseUV | None:
    row = element_for(request, element_id)
    element, planes = core_element(row), shown_planes(row)
    if row.holds != "uv" or planes is None or len(planes) < 2:
        raise ValueRefused(f"{row.name} holds no UV.", advice="Say so on the Elements desk.", where=row.name)
    with drawing("", 0):
        stored = evaluator().stored(element, (element.first + element.last) // 2, planes[:2])
        return coarse_uv(stored, *planes[:2])


@router.get("elements/{element_id}/coarse-uv", response={200: CoarseOut, 404: Problem, 422: Problem})
def element_coarse_uv(request: HttpRequest, element_id: int) -> CoarseOut:
    """Whether a UV pass has so few bits that what lies on its surface falls into blocks."""
    found = _coarse(request, element_id)
    return CoarseOut(block=None if found is None else found.block)


@router.get("elements/{element_id}/coarse-uv/picture", response={404: Problem, 422: Problem})
def element_coarse_uv_picture(request: HttpRequest, element_id: int) -> HttpResponse:
    """A JPEG of the blocks, beside what smooth values would show."""
    found = _coarse(request, element_id)
    if found is None:
        raise ValueRefused("Its values change from every pixel to the next: there are no blocks.")
    return card_of(found.picture, "colour")
