"""Which channel tells best what stays from what goes: every candidate with its figures.

Contrast is the distance of the two regions' means, noise the root of the mean of their variances, overlap the
share that their histograms have in common. Blocks are what changes more from one 8 x 8 block of a codec to
the next than within a block. Noise, blocks and the step of an eight-bit code show as a ragged edge once the
channel is crushed, however well it parts the regions, so their share of the contrast weighs in the order.
Common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..channels.pick import PICKS, picked
from ..colour.codes import coded
from ..errors import ValueRefused
from ..picture import Box, Plane

#: Pixels of a region that are looked at, at most, and those that it must have.
MOST, FEWEST = 60000, 9
#: Side of a codec's blocks; so many boxes, so many pixels wide, are looked at for them.
BLOCK, CROPS, CROP = 8, 8, 256
#: Bins of the histograms, and the share of a region that proposed levels leave beyond their ends.
_BINS, _BEYOND = 64, 0.02
#: Codes within which colours are alike whatever their spread, and the share of a region that must be left.
_NEAR, _LEFT = 0.01, 0.1
#: Contrast in noises above which two regions are as far apart as they need be.
_FLAT = 1e-6
#: A step of an eight-bit code, which most blocky pictures are kept in.
_CODE = 1 / 255


@dataclass(frozen=True)
class Candidate:
    """A channel, what tells the regions apart in it, and the levels that crush it.

    ``grey``: ``(h, w)`` 0..1 of the whole picture, small, its range stretched. ``inverted``: what stays is
    dark.
    """

    channel: str
    contrast: float
    noise: float
    overlap: float
    low: float
    high: float
    inverted: bool
    grey: Plane
    blocks: float = 0.0

    @property
    def order(self) -> tuple[float, float]:
        """Sorts the best first: by overlap, then by the share of the contrast that is ragged."""
        ragged = (self.noise + self.blocks + _CODE) / (self.contrast + _FLAT)
        return round(self.overlap, 3), ragged


def board(
    planes: Mapping[str, Plane], small: Mapping[str, Plane], stay: Sequence[Box], go: Sequence[Box]
) -> list[Candidate]:
    """Every channel of a picture, the best first.

    Parameters
    ----------
    planes : R, G, B, A, premultiplied over black, and extra channels, ``(H, W)``.
    small : the same halved some times, for the grey pictures.
    stay, go : regions in pixels of ``planes``.

    Raises
    ------
    ValueRefused : a region is empty, or what stays and what goes is the same.
    """
    height, width = planes["A"].shape
    masks = [_mask(boxes, height, width) for boxes in (stay, go)]
    _check(masks)
    both = masks[0] & masks[1]
    regions = [_some(m & ~both) for m in masks]
    names = [n for n in PICKS if n != "alpha" or float(np.ptp(planes["A"])) > 0]
    extra = [n for n in planes if n not in {"R", "G", "B", "A"}]
    given = [{n: np.ascontiguousarray(p[where]) for n, p in planes.items()} for where in regions]
    given[0] = _unlike(given[0], given[1])
    given[1] = _unlike(given[1], given[0])
    crops = [_crop(planes, box) for box in [*stay[: CROPS // 2], *go[: CROPS // 2]]]
    found = [_candidate(n, given, small, [c for c in crops if c["R"].size]) for n in [*names, *extra]]
    return sorted(found, key=lambda c: c.order)


def _mask(boxes: Sequence[Box], height: int, width: int) -> NDArray[np.bool_]:
    mask = np.zeros((height, width), bool)
    for box in boxes:
        part = box.intersect(Box.sized(width, height))
        mask[part.y0 : part.y1, part.x0 : part.x1] = True
    return mask


def _check(masks: Sequence[NDArray[np.bool_]]) -> None:
    for mask, what in zip(masks, ("stays", "goes"), strict=True):
        if mask.sum() < FEWEST:
            raise ValueRefused(f"Nothing is marked of what {what}.", advice="Drag over some of it.")
        if mask.all():
            raise ValueRefused(
                f"The whole picture is marked as what {what}.", advice="Mark a piece of it that is typical."
            )
    both = masks[0] & masks[1]
    if any((m & ~both).sum() < FEWEST for m in masks):
        raise ValueRefused(
            "What stays and what goes is marked in the same place.", advice="Mark them apart from each other."
        )


def _some(mask: NDArray[np.bool_]) -> tuple[NDArray[np.intp], ...]:
    """Places within a mask, evenly thinned out."""
    flat = np.flatnonzero(mask)
    flat = flat[:: max(1, len(flat) // MOST)]
    return tuple(np.unravel_index(flat, mask.shape))


def _unlike(own: Mapping[str, Plane], other: Mapping[str, Plane]) -> dict[str, Plane]:
    """A region without the pixels that look like the other one: a box over a stalk holds some sky too."""
    alike = np.ones(own["R"].shape, bool)
    for n in "RGBA":
        mine, theirs = (r[n] if n == "A" else coded(r[n]) for r in (own, other))
        middle = np.nanmedian(theirs)
        spread = 1.4826 * np.nanmedian(np.abs(theirs - middle)) + _NEAR
        alike &= np.abs(mine - middle) < 3 * spread
    kept = ~alike
    if kept.sum() < max(FEWEST, _LEFT * kept.size):
        return dict(own)
    return {n: np.ascontiguousarray(p[kept]) for n, p in own.items()}


def _crop(planes: Mapping[str, Plane], box: Box) -> dict[str, Plane]:
    """A region's own pixels, on whole blocks of the picture, as many as are looked at."""
    height, width = planes["R"].shape
    x0, y0 = max(0, box.x0) // BLOCK * BLOCK, max(0, box.y0) // BLOCK * BLOCK
    x1, y1 = min(width, box.x1, x0 + CROP), min(height, box.y1, y0 + CROP)
    return {n: np.ascontiguousarray(p[y0:y1, x0:x1]) for n, p in planes.items()}


def _blocks(values: Plane) -> float:
    """How much more neighbours of two blocks differ than those within one; 0 where too little is seen."""
    step = np.abs(np.diff(np.nan_to_num(values), axis=1))
    if step.shape[1] < BLOCK:
        return 0.0
    between = np.zeros(step.shape[1], bool)
    between[BLOCK - 1 :: BLOCK] = True
    return max(0.0, float(step[:, between].mean()) - float(step[:, ~between].mean()))


def _candidate(
    name: str, given: Sequence[Mapping[str, Plane]], small: Mapping[str, Plane],
    crops: Sequence[Mapping[str, Plane]],
) -> Candidate:  # fmt: skip
    code: Callable[[Plane], Plane] = coded
    stay, go = (_sound(picked(g, name, code=code)) for g in given)
    means = float(stay.mean()), float(go.mean())
    noise = float(np.sqrt((stay.var() + go.var()) / 2))
    low, high, inverted = _levels(stay, go)
    blocks = float(np.mean([_blocks(picked(c, name, code=code)) for c in crops])) if crops else 0.0
    return Candidate(
        name, abs(means[0] - means[1]), noise, _overlap(stay, go), low, high, inverted,
        _stretched(picked(small, name, code=code)), blocks,
    )  # fmt: skip


def _sound(values: Plane) -> NDArray[np.float64]:
    found = values[np.isfinite(values)].astype(np.float64)
    return found if found.size else np.zeros(1)


def _overlap(stay: NDArray[np.float64], go: NDArray[np.float64]) -> float:
    low, high = min(stay.min(), go.min()), max(stay.max(), go.max())
    if high <= low:
        return 1.0
    shares = [np.histogram(v, _BINS, (low, high))[0] / v.size for v in (stay, go)]
    return float(np.minimum(*shares).sum())


def _levels(stay: NDArray[np.float64], go: NDArray[np.float64]) -> tuple[float, float, bool]:
    """Low, high and whether they are inverted: nearly all of what goes below, nearly all that stays above."""
    inverted = bool(stay.mean() < go.mean())
    dark, light = (stay, go) if inverted else (go, stay)
    low, high = float(np.quantile(dark, 1 - _BEYOND)), float(np.quantile(light, _BEYOND))
    if high - low < 1e-4:  # they overlap: between the quarters of the way from one to the other
        a, b = float(dark.mean()), float(light.mean())
        low, high = a + (b - a) * 0.25, a + (b - a) * 0.75
    return (low, high, inverted) if high - low >= 1e-4 else (low, low + 1e-4, inverted)


def _stretched(values: Plane) -> Plane:
    sound = _sound(values)
    low, high = np.quantile(sound, (0.005, 0.995))
    scale = 1 / (high - low) if high > low else 0.0
    return np.asarray(np.clip((np.nan_to_num(values) - low) * scale, 0, 1), np.float32)
