"""Small pictures of elements, for cards."""

from __future__ import annotations

from typing import Literal

import cv2
from django.http import HttpResponse
from neatveil.channels.data_kinds import shown_channels
from neatveil.comp import Element as CoreElement
from neatveil.evaluate import Evaluator
from neatveil.evaluate.halve import halve
from neatveil.picture import PremultipliedPicture, whole_frame
from neatveil.view import Look, channel_picture, display

from .models import Element

CARD_HEIGHT = 144


def card_response(
    evaluator: Evaluator,
    element: CoreElement,
    frame: int,
    part: Literal["colour", "alpha"],
    planes: list[str] | None = None,
) -> HttpResponse:
    """A JPEG of the colour over grey checks, or of the alpha; at most twice as high as a card.

    Data is shown by its own channels, stretched.
    """
    if planes and part == "colour":
        return card_of(_data_picture(evaluator, element, frame, planes), part)
    picture, level = evaluator.source(element, frame, 1), 1
    while picture.display_window.height > CARD_HEIGHT * 2:
        level += 1
        picture = evaluator.source(element, frame, level)
    return card_of(picture, part)


def shown_planes(row: Element) -> list[str] | None:
    """The channels that an element of data is shown by; None for colour."""
    if not row.holds or row.facts is None:
        return None
    return shown_channels(row.holds, [c["name"] for c in row.facts["channels"]])


def _data_picture(
    evaluator: Evaluator, element: CoreElement, frame: int, planes: list[str]
) -> PremultipliedPicture:
    picture = channel_picture(
        evaluator.stored(element, frame, planes), planes, element.encoding, stretch=True
    )
    while picture.display_window.height > CARD_HEIGHT * 2:
        picture = halve(picture)
    return picture


def card_of(picture: PremultipliedPicture, part: Literal["colour", "alpha"]) -> HttpResponse:
    """The same of a picture that is small already."""
    eight = display(whole_frame(picture), Look(channel=part))
    _, data = cv2.imencode(".jpg", cv2.cvtColor(eight, cv2.COLOR_RGBA2BGR), [cv2.IMWRITE_JPEG_QUALITY, 85])
    response = HttpResponse(data.tobytes(), content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=86400"
    return response
