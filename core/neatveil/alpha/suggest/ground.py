"""What the RGB holds where the alpha is 0: one colour, light that fades out, or a picture."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from ...picture import RGB, StoredPicture

Values = NDArray[np.float32]
Kind = Literal["none", "plain", "smeared", "light", "varied"]

#: How far the RGB may lie from the one colour of a plain ground, in code value.
TOLERANCE = 3 / 255
SMEAR = 10 / 255
#: Least rise of a gradient from one side of the ground to the other.
SLOPE = 10 / 255
#: How far the ground colours of frames may lie apart and still be one.
SNAP_APART = 0.01
#: Most clear pixels looked at: more would tell nothing new.
MOST = 200_000
#: Fewer clear pixels than this tell nothing.
LEAST = 64


@dataclass(frozen=True, slots=True)
class Ground:
    """What the clear pixels hold.

    ``kind``: none (there are none), plain (one colour), smeared (one colour, with what a codec smeared
    over it), light (brighter near what is there, one colour far from it) or varied. ``colour``: the one
    colour, R, G, B in code value.
    """

    kind: Kind
    colour: tuple[float, float, float] | None
    pixels: int


def clear_where(alpha: Values, top: float) -> NDArray[np.bool_]:
    """Where the alpha is 0 within what its samples can tell; ``top``: their largest code."""
    return np.asarray(alpha <= 0.5 / top)


def ground_of(picture: StoredPicture, top: float) -> Ground:
    """The ground of a picture with R, G, B and A; ``top``: largest code of its samples."""
    clear = clear_where(picture["A"], top)
    count = int(clear.sum())
    if count < LEAST:
        return Ground("none", None, count)
    # far from everything that is there, no glow and no ringing of a codec reaches
    distance = cv2.distanceTransform(clear.astype(np.uint8), cv2.DIST_L2, 3)
    places = np.flatnonzero(clear)[:: max(1, count // MOST)]
    depths = distance.reshape(-1)[places]
    planes = [np.ascontiguousarray(picture[n]).reshape(-1)[places] for n in RGB]
    # the edge's own neighbours may hold what a codec smeared; thin ones are all there is between hairs
    settled = depths > min(4.0, float(np.quantile(depths, 0.7)))
    if settled.sum() < LEAST:
        settled[:] = True
    far = depths >= np.quantile(depths, 1 - max(1 / 6, LEAST / places.size))
    colour = tuple(float(np.median(v[far])) for v in planes)
    off = _off(planes, colour)
    if (off[settled] <= TOLERANCE).mean() > 0.97:
        return Ground("plain", _triple(colour), count)
    if _slopes(planes, places, clear.shape[1]):
        return Ground("varied", None, count)
    light = _light(planes, colour, off, far, count)
    if light is None and (off[settled] <= SMEAR).mean() > 0.6:
        # between hairs a codec's coarse colour smears everywhere: most pixels agree on the colour
        return Ground("smeared", _triple(colour), count)
    return light or Ground("varied", None, count)


def grounds_together(grounds: Sequence[Ground]) -> Ground:
    """The ground of several frames: one colour only where they agree on it."""
    found = [g for g in grounds if g.kind != "none"]
    if not found:
        return Ground("none", None, 0)
    pixels = sum(g.pixels for g in found)
    colours = np.array([g.colour for g in found if g.colour is not None])
    if len(colours) < len(found) or np.ptp(colours, axis=0).max() > 2 * SNAP_APART:
        return Ground("varied", None, pixels)
    kinds = {x.kind for x in found}
    order: tuple[Kind, ...] = ("light", "smeared", "plain")
    middle = [float(v) for v in np.median(colours, axis=0)]
    return Ground(next(k for k in order if k in kinds), _triple(tuple(middle)), pixels)


def nearest_ground(picture: StoredPicture, top: float, fades: bool) -> dict[str, Values] | None:
    """R, G, B of the clear ground nearest to each pixel, smoothed a little; None without clear pixels.

    ``fades``: the ground is light that fades with distance; it is then carried on inward as it rises.
    """
    clear = clear_where(picture["A"], top)
    if int(clear.sum()) < LEAST:
        return None
    height, width = clear.shape
    _, labels = cv2.distanceTransformWithLabels(
        (~clear).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
    )
    place = np.zeros(int(labels.max()) + 1, np.int64)
    place[labels[clear]] = np.flatnonzero(clear)
    nearest = place[labels]
    around = (3, 3) if fades else (5, 5)
    weight = np.maximum(cv2.blur(clear.astype(np.float32), around), np.float32(1e-6))
    smooth = {n: cv2.blur(np.where(clear, picture[n], np.float32(0)), around) / weight for n in RGB}
    out = {n: p.astype(np.float32).reshape(-1)[nearest] for n, p in smooth.items()}
    if fades:
        y, x = np.mgrid[:height, :width]
        # as far again beyond the nearest: what light rises by from there to here, it rises by again
        further_y = np.clip(2 * (nearest // width) - y, 0, height - 1)
        further_x = np.clip(2 * (nearest % width) - x, 0, width - 1)
        further = further_y * width + further_x
        sound = clear.reshape(-1)[further]
        for n, p in smooth.items():
            rise = out[n] - p.astype(np.float32).reshape(-1)[further]
            out[n] = out[n] + np.where(sound, rise, np.float32(0))
    return out


def _light(
    planes: list[Values], colour: tuple[float, ...], off: Values, far: NDArray[np.bool_], count: int
) -> Ground | None:
    """The ground as light over one colour, if that is what it is."""
    low = tuple(float(np.quantile(v, 0.02)) for v in planes)
    for ground, rest in ((colour, 0.35), (low, 0.15)):
        under = np.min([v - np.float32(c) for v, c in zip(planes, ground, strict=True)], axis=0)
        one_sided = (under >= -TOLERANCE).mean() > 0.985
        beyond = _off([v[far] for v in planes], ground)
        off_all = _off(planes, ground)
        fades = np.median(beyond) < rest * max(float(np.quantile(off_all, 0.95)), 1e-6)
        if one_sided and fades:
            return Ground("light", _triple(ground), count)
    return None


def _slopes(planes: list[Values], places: NDArray[np.int64], width: int) -> bool:
    """Whether the ground is a gradient: it changes evenly from one side to the other, in some channel."""
    y, x = places // width, places % width
    middle, size = (x.mean(), y.mean()), max(float(np.ptp(x)), float(np.ptp(y)), 1.0)
    rows = np.stack([np.ones(x.size), (x - middle[0]) / size, (y - middle[1]) / size], axis=1)
    for values in planes:
        plane, *_ = np.linalg.lstsq(rows, values.astype(float), rcond=None)
        even = rows @ plane
        rise = float(np.quantile(even, 0.98) - np.quantile(even, 0.02))
        left = float(np.quantile(np.abs(values - even), 0.9))
        if rise > SLOPE and left < rise / 5:
            return True
    return False


def _off(planes: list[Values], colour: tuple[float, ...]) -> Values:
    """The largest difference of the three channels from a colour."""
    off: Values = np.max([np.abs(v - np.float32(c)) for v, c in zip(planes, colour, strict=True)], axis=0)
    return off


def _triple(colour: tuple[float, ...]) -> tuple[float, float, float]:
    return (colour[0], colour[1], colour[2])
