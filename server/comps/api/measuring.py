"""What is measured while a matte or a group is made: channels, a screen's colour, figures, differences."""

from __future__ import annotations

import base64
from typing import Annotated, Any, Literal

import cv2
import numpy as np
from config.engine import drawing, evaluator
from config.errors import Problem
from django.http import HttpRequest
from neatveil.comp import Comp as Document
from neatveil.errors import ValueRefused
from neatveil.mattes import ChannelPart, KeyPart
from neatveil.picture import Box
from neatveil.view.alternatives import difference_of_alternatives
from neatveil.view.boards import board_of, region_colour, screen_points
from neatveil.view.matching import match_grain, match_tone
from neatveil.view.mattes import matte_figures, part_values
from ninja import Field, Router, Schema

from comps.asking import document_for
from comps.drawing import with_part_alone

router = Router()

_Box = tuple[int, int, int, int]


class MatteAsk(Schema):
    """A comp, perhaps as a draft, at a frame, and the layer whose matte it is about."""

    document: Document | None = None
    frame: int = 1
    layer: str

    def drawn(self, request: HttpRequest, comp_id: int) -> Document:
        return document_for(request.user, comp_id, self.document, {})


class BoardIn(MatteAsk):
    """Boxes are pixels of the comp; ``extra_channels``: channels that are looked at besides."""

    source: str = Field("", max_length=80)
    stay: list[_Box] = Field(max_length=200)
    go: list[_Box] = Field(max_length=200)
    extra_channels: list[str] = Field([], max_length=60)


class CandidateOut(Schema):
    """``picture``: a grey PNG, base64."""

    channel: str
    contrast: float
    noise: float
    overlap: float
    low: float
    high: float
    inverted: bool
    picture: str


class ScreenIn(MatteAsk):
    """``part``: the key as it is; ``within``: a clean piece of its screen."""

    part: KeyPart = KeyPart()
    within: _Box


class ScreenOut(Schema):
    """The screen's light, linear, and which screen that is.

    ``black``, ``white``: the points that clear the screen and keep the core of the subject whole.
    """

    screen_colour: tuple[float, float, float]
    screen: str
    black: float
    white: float


class FiguresIn(MatteAsk):
    """``step``: the matte that this step acts through. ``before``: what the change is measured from."""

    step: Annotated[int, Field(ge=0)] | Literal["alpha"] | None = None
    part: int | None = Field(None, ge=0, description="This part of it alone, as it is looked at.")
    before: int | None = None


class FiguresOut(Schema):
    kept: float
    between: float
    removed: float
    mean: float
    counts: list[int]
    change: float


class ValuesIn(MatteAsk):
    part: ChannelPart


class AlternativesIn(MatteAsk):
    """Two members of the group that ``layer`` names."""

    one: str = Field(max_length=64)
    other: str = Field(max_length=64)


class DifferenceOut(Schema):
    mean: float
    most: float
    alpha: float


class MatchIn(MatteAsk):
    """A region of ``layer`` and one of the layer ``plate``, in pixels of the comp."""

    what: Literal["tone", "grain"]
    plate: str = Field(max_length=64)
    own: _Box
    there: _Box


class ValuesOut(Schema):
    low: float
    high: float
    counts: list[int]


@router.post("comps/{comp_id}/matte/board", response={200: list[CandidateOut], 404: Problem, 422: Problem})
def matte_board(request: HttpRequest, comp_id: int, body: BoardIn) -> list[CandidateOut]:
    """Every channel with its contrast, noise and overlap between what stays and what goes, the best first."""
    document = body.drawn(request, comp_id)
    with drawing("", 0):
        found = board_of(
            evaluator(), document, body.frame, body.layer, body.source,
            [Box(*b) for b in body.stay], [Box(*b) for b in body.go], body.extra_channels,
        )  # fmt: skip
    return [
        CandidateOut(
            channel=c.channel, contrast=c.contrast, noise=c.noise, overlap=c.overlap, low=c.low, high=c.high,
            inverted=c.inverted, picture=_png(c.grey),
        )
        for c in found
    ]  # fmt: skip


def _png(grey: np.ndarray) -> str:  # type: ignore[type-arg]
    codes = np.rint(grey * 255).astype(np.uint8)
    _, data = cv2.imencode(".png", codes, [cv2.IMWRITE_PNG_COMPRESSION, 1])
    return base64.b64encode(data.tobytes()).decode()


@router.post("comps/{comp_id}/matte/screen", response={200: ScreenOut, 404: Problem, 422: Problem})
def matte_screen(request: HttpRequest, comp_id: int, body: ScreenIn) -> ScreenOut:
    """The median light of a clean piece of the screen, and the key's black and white point.

    Refused where that is neither green nor blue.
    """
    document = body.drawn(request, comp_id)
    asked = (evaluator(), document, body.frame, body.layer)
    with drawing("", 0):
        r, g, b = region_colour(*asked, body.part.source, Box(*body.within))
        if not all(np.isfinite((r, g, b))):
            raise ValueRefused("What is marked holds no number.", advice="Mark another area of the screen.")
        part = body.part.model_copy(update={"screen_colour": (max(0.0, r), max(0.0, g), max(0.0, b))})
        part.whole()
        black, white = screen_points(*asked, part, Box(*body.within))
    return ScreenOut(
        screen_colour=part.screen_colour, screen="green" if g >= b else "blue", black=black, white=white
    )


@router.post("comps/{comp_id}/matte/figures", response={200: FiguresOut, 404: Problem, 422: Problem})
def matte_measured(request: HttpRequest, comp_id: int, body: FiguresIn) -> FiguresOut:
    """How much of the picture a matte keeps, removes and lets through in part."""
    document = body.drawn(request, comp_id)
    if body.part is not None:
        document = with_part_alone(document, body.layer, body.step, body.part)
    with drawing("", 0):
        got = matte_figures(evaluator(), document, body.frame, body.layer, body.step, body.before)
    return FiguresOut.from_orm(got)


@router.post("comps/{comp_id}/alternatives", response={200: DifferenceOut, 404: Problem, 422: Problem})
def alternatives_compared(request: HttpRequest, comp_id: int, body: AlternativesIn) -> DifferenceOut:
    """How far two members of a group that stand for the same picture lie apart, in light."""
    document = body.drawn(request, comp_id)
    with drawing("", 0):
        got = difference_of_alternatives(evaluator(), document, body.frame, body.layer, body.one, body.other)
    return DifferenceOut.from_orm(got)


@router.post("comps/{comp_id}/match", response={200: dict[str, Any], 404: Problem, 422: Problem})
def matched(request: HttpRequest, comp_id: int, body: MatchIn) -> dict[str, Any]:
    """The step that gives a layer the tone, or the grain, of its plate; to be put behind its other steps."""
    document = body.drawn(request, comp_id)
    match = {"tone": match_tone, "grain": match_grain}[body.what]
    boxes = Box(*body.own), Box(*body.there)
    with drawing("", 0):
        step = match(evaluator(), document, body.frame, body.layer, boxes[0], body.plate, boxes[1])
    return step.model_dump(mode="json")


@router.post("comps/{comp_id}/matte/values", response={200: ValuesOut, 404: Problem, 422: Problem})
def matte_values(request: HttpRequest, comp_id: int, body: ValuesIn) -> ValuesOut:
    """How often each value of a part's channel is there, before its levels."""
    document = body.drawn(request, comp_id)
    with drawing("", 0):
        return ValuesOut.from_orm(part_values(evaluator(), document, body.frame, body.layer, body.part))
