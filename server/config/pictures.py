"""From a picture to an answer: JPEG while things move, raw bytes when exact."""

from __future__ import annotations

from typing import Annotated, Literal

import cv2
from django.http import HttpResponse
from neatveil.errors import ValueRefused
from neatveil.picture import Box, PremultipliedPicture, cut
from neatveil.view import Look, Sample, Screen, show
from ninja import Field, Schema

JPEG_QUALITY = 85
#: Pixels of one answer: an 8K frame.
MOST_PIXELS = 7680 * 4320
#: A place in a frame, or not too far beside it, in pixels.
Place = Annotated[float, Field(ge=-1e6, le=1e6)]


class Shown(Schema):
    """What is asked to be shown. ``level`` halves the size each time; the region is in its pixels."""

    frame: int = 1
    level: int = Field(0, ge=0, le=8)
    region: tuple[int, int, int, int] | None = None
    look: Look = Field(default_factory=Look)
    quality: Literal["fast", "exact"] = "exact"
    viewer: str = Field("", max_length=64, description="Who looks.")
    sequence: int = Field(
        0, description="Number of the viewer's request: a larger one ends what was asked before it."
    )

    def box(self) -> Box | None:
        return Box(*self.region) if self.region else None

    def area(self, frame: Box) -> Box:
        """What is shown of a frame; `ValueRefused` for more pixels than one answer holds."""
        box = self.box()
        area = frame if box is None else box.intersect(frame)
        if area.width * area.height > MOST_PIXELS:
            raise ValueRefused(
                f"{area.width} x {area.height} pixels were asked at once; at most {MOST_PIXELS:,} are shown.",
                advice="Ask for a region, or for a smaller level.", where="region",
            )  # fmt: skip
        return area


class SampleOut(Schema):
    """Values at one pixel: R, G, B, A each."""

    result: tuple[float, float, float, float]
    straight: tuple[float, float, float, float] | None
    code: tuple[float, float, float, float]
    stored: tuple[float, float, float, float] | None

    @classmethod
    def of(cls, got: Sample) -> SampleOut:
        return cls(result=got.result, straight=got.straight, code=got.code, stored=got.stored)


def screen_for(asked: Shown, area: Box) -> Screen:
    """What the asked answer is encoded from."""
    return Screen(asked.look, area, "bgr" if asked.quality == "fast" else "rgbx")


def shown_response(asked: Shown, picture: PremultipliedPicture) -> HttpResponse:
    """A picture as asked."""
    frame = picture.display_window
    picture = cut(picture, asked.area(frame))
    screen = screen_for(asked, picture.data_window)
    show(picture, screen)
    return screen_response(asked, screen, frame)


def jpeg_of(screen: Screen) -> bytes:
    """What a screen of the layout ``bgr`` holds, as JPEG."""
    _, data = cv2.imencode(".jpg", screen.out, [cv2.IMWRITE_JPEG_QUALITY, JPEG_QUALITY])
    return data.tobytes()


def screen_response(asked: Shown, screen: Screen, frame: Box) -> HttpResponse:
    """``image/jpeg``, or ``application/octet-stream`` of R, G, B, 255 bytes.

    The headers X-Region and X-Frame-Size tell where it lies, in pixels of its level.
    """
    if asked.quality == "fast":
        response = HttpResponse(jpeg_of(screen), content_type="image/jpeg")
    else:
        response = HttpResponse(screen.out.tobytes(), content_type="application/octet-stream")
    response["X-Region"] = ",".join(map(str, screen.box.as_list()))
    response["X-Frame-Size"] = f"{frame.width},{frame.height}"
    response["Cache-Control"] = "no-store"
    return response
