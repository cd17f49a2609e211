"""Numbers of a matte: how much is kept, removed and between, its histogram, its flicker."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..comp import Comp
from ..comp.layers import MatteOwner
from ..errors import ValueRefused
from ..evaluate import Evaluator
from ..mattes import ChannelPart, Rows
from ..picture import Plane
from ..steps.extra_channels import whole_picture

#: From here on a value counts as kept in full, and up to one minus it as removed: half an 8-bit step.
FULL = 1 - 0.5 / 255
BINS = 64
#: Level at which mattes are measured, and values below a part's levels.
_LEVEL = 1
_MOST = 400_000


@dataclass(frozen=True)
class MatteFigures:
    """Shares of the picture, the mean, and counts of `BINS` even bins from 0 to 1.

    ``change``: the mean distance from the frame before.
    """

    kept: float
    between: float
    removed: float
    mean: float
    counts: list[int]
    change: float


def matte_figures(
    evaluator: Evaluator, comp: Comp, frame: int, layer: str, owner: MatteOwner, before: int | None
) -> MatteFigures:
    """Of a layer's matte or of one of its steps'; ``before``: the frame that the change is measured from."""
    plane = evaluator.matte(comp, frame, layer, owner, _LEVEL)
    kept, removed = float(np.mean(plane >= FULL)), float(np.mean(plane <= 1 - FULL))
    change = 0.0
    if before is not None:
        other = evaluator.matte(comp, before, layer, owner, _LEVEL)
        if other.shape != plane.shape:
            raise ValueRefused(f"Frames {before} and {frame} differ in size.")
        change = float(np.mean(np.abs(plane - other)))
    counts, _ = np.histogram(plane, BINS, (0, 1))
    return MatteFigures(
        kept, max(0.0, 1 - kept - removed), removed, float(plane.mean()), [int(c) for c in counts], change
    )


@dataclass(frozen=True)
class ValueCounts:
    """Counts of even bins from ``low`` to ``high``."""

    low: float
    high: float
    counts: list[int]


def part_values(evaluator: Evaluator, comp: Comp, frame: int, layer: str, part: ChannelPart) -> ValueCounts:
    """How often each value of a part's channel is there, before its levels; at least from 0 to 1."""
    extra_channels = (part.extra_channel,) if part.extra_channel else ()
    picture, _ = evaluator.named(comp, frame, layer, part.source, extra_channels)
    planes = whole_picture(picture).planes
    step = max(1, int(np.sqrt(planes["A"].size / _MOST)))
    small = {n: np.ascontiguousarray(p[::step, ::step]) for n, p in planes.items()}
    values = _sound(part, small)
    low, high = min(0.0, float(values.min())), max(1.0, float(values.max()))
    if part.extra_channel:
        low, high = float(values.min()), float(values.max())
    counts, _ = np.histogram(values, 4 * BINS, (low, high if high > low else low + 1))
    return ValueCounts(low, high, [int(c) for c in counts])


def _sound(part: ChannelPart, planes: dict[str, Plane]) -> Plane:
    values = part.values(Rows(planes))
    sound = values[np.isfinite(values)]
    if not sound.size:
        raise ValueRefused(f"{part.channel} holds no number here.", advice="Look at another frame.")
    return np.asarray(sound, np.float32)
