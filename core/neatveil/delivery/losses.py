"""What a format of delivery cannot hold of a picture: counted before it is ordered, and in the proof."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field

from ..numeric.half import HALF_MOST
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import RGB, Plane, PremultipliedPicture, StoredPicture
from .file_layers import split
from .formats import DeliveryFormat
from .write import FrameSource, held, meant

#: Light of a pixel without coverage that counts as any.
SEEN = 1e-6


class Losses(BaseModel):
    """Counted over all the frames that were looked at."""

    model_config = ConfigDict(extra="forbid")

    frames: list[int]
    lost_light: int = Field(0, description="Pixels whose light without coverage the format cannot hold.")
    clipped: int = Field(0, description="Pixels with values outside what the format can hold.")
    soft: int = Field(0, description="Pixels covered in part, where the format knows all or nothing.")
    alpha_low: float = Field(1.0, description="Least alpha of the frames.")

    def words(self, delivery_format: DeliveryFormat) -> str:
        """What is lost, in a sentence; empty where nothing is."""
        found = []
        if self.lost_light:
            found.append(
                f"{self.lost_light:,} pixels of light where the alpha is 0, such as glow, come out black: "
                f"{delivery_format.title} has no place for them"
            )
        if self.clipped:
            found.append(f"{self.clipped:,} pixels hold values that are cut off at its range")
        if self.soft:
            found.append(f"{self.soft:,} pixels that are covered in part become covered, or not")
        looked = ", ".join(str(f) for f in self.frames)
        return f"{'; '.join(found)} (frames looked at: {looked})." if found else ""


def lost_in(
    picture: PremultipliedPicture, wanted: StoredPicture, delivery_format: DeliveryFormat
) -> tuple[int, int]:
    """What a format loses of one picture.

    Parameters
    ----------
    picture : scene-linear, premultiplied over black.
    wanted : the code values that the file should hold of it.
    delivery_format : of the delivery.

    Returns
    -------
    Pixels of lost light, and pixels that are clipped.

    Examples
    --------
    >>> from neatveil.delivery.formats import format_named
    >>> from neatveil.alpha import store
    >>> delivery_format = format_named("png16-straight")
    >>> light = PremultipliedPicture.from_rgba(np.full((1, 1, 4), (0.5, 0, 0, 0), np.float32))
    >>> lost_in(light, store(light, delivery_format.reading, delivery_format.encoding), delivery_format)
    (1, 0)
    """
    lost = 0
    no_light = delivery_format.reading.alpha == "straight" or delivery_format.codec.alpha_bits == 1
    if no_light and delivery_format.contents != "alpha":
        main, layers, _ = split(picture)
        for one in (main, *layers.values()):
            whole = held(one, delivery_format)
            lost += _count([whole[n] for n in (*RGB, "A")], _light_without_alpha)
    planes = [p for n, p in wanted.planes.items() if n not in wanted.data_planes]
    return lost, _count(planes, partial(_outside, delivery_format))


def range_of(delivery_format: DeliveryFormat) -> tuple[float, float]:
    """The least and the most that the format can hold, besides infinity where its samples are floats."""
    if not delivery_format.codec.floating:
        return 0.0, 1.0
    most = float(HALF_MOST) if delivery_format.codec.sample == "half" else np.inf
    return -most, most


Mask: TypeAlias = NDArray[np.bool_]


def _count(planes: Sequence[Plane], which: Callable[[Sequence[Plane]], Mask]) -> int:
    """Pixels that are so, by strips of rows."""
    counts: list[int] = []

    def strip(a: int, b: int) -> None:
        counts.append(int(np.count_nonzero(which([p[a:b] for p in planes]))))

    height, width = planes[0].shape
    for_strips(height, width, strip)
    return sum(counts)


def _light_without_alpha(planes: Sequence[Plane]) -> Mask:
    *rgb, alpha = planes
    empty: Mask = alpha == 0
    if empty.any():
        empty &= np.maximum.reduce([np.abs(p) for p in rgb]) > SEEN
    return empty


def _covered_in_part(planes: Sequence[Plane]) -> Mask:
    (alpha,) = planes
    found: Mask = (alpha > SEEN) & (alpha < 1 - SEEN)
    return found


def _outside(delivery_format: DeliveryFormat, planes: Sequence[Plane]) -> Mask:
    """Cut off, by more than a rounding error; floats hold infinity."""
    low, high = range_of(delivery_format)
    slack, most = (0.0, float(np.finfo(np.float32).max)) if delivery_format.codec.floating else (1e-6, np.inf)
    mask: Mask = np.zeros(planes[0].shape, np.bool_)
    for plane in planes:
        _mark_outside(plane, *(np.float32(v) for v in (low - slack, high + slack, most)), mask)
    return mask


@kernel
def _mark_outside(plane, low, high, most, mask):  # type: ignore[no-untyped-def]
    for y in range(plane.shape[0]):
        row, marks = plane[y], mask[y]
        for x in range(row.size):
            value = row[x]
            marks[x] |= (high < value <= most) | (-most <= value < low)


def count_losses(
    source: FrameSource, formats: Sequence[DeliveryFormat], frames: Sequence[int]
) -> list[Losses]:
    """What each of several formats would lose of a range's first, middle and last frame, which are evaluated
    once for all of them.

    Parameters
    ----------
    source : gives the picture of a frame number, scene-linear, premultiplied over black.
    formats : of the delivery.
    frames : the range.

    Returns
    -------
    For each format the pixels of lost light and those that are clipped, of the three frames together.

    Examples
    --------
    >>> from neatveil.delivery.formats import format_named
    >>> bright = PremultipliedPicture.from_rgba(np.full((1, 1, 4), (2, 0, 0, 1), np.float32))
    >>> formats = [format_named("png16-straight"), format_named("exr-half-premultiplied")]
    >>> [losses.clipped for losses in count_losses(lambda frame: bright, formats, [1])]
    [1, 0]
    """
    looked = sorted({frames[0], frames[len(frames) // 2], frames[-1]})
    found = [Losses(frames=looked) for _ in formats]
    for frame in looked:
        picture = source(frame)
        whole = picture.data_window == picture.display_window
        low = float(picture["A"].min(initial=1)) if whole else 0.0
        for losses, delivery_format in zip(found, formats, strict=True):
            light, outside = lost_in(picture, meant(picture, delivery_format), delivery_format)
            losses.lost_light += light
            losses.clipped += outside
            if delivery_format.codec.alpha_bits == 1 and delivery_format.holds_alpha:
                losses.soft += _count([picture["A"]], _covered_in_part)
            losses.alpha_low = min(losses.alpha_low, low)
    return found
