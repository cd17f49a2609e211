"""What makes a layer look as if shot with its plate: tone and grain, measured in two regions, as steps.

Common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable
from math import sqrt

import numpy as np
from numpy.typing import NDArray

from ..channels.luma import LUMA_WEIGHTS
from ..comp import Comp
from ..errors import ValueRefused
from ..evaluate import Evaluator
from ..numeric.gaussian import gaussian
from ..picture import Box, plane_over
from ..steps.base import Triple
from ..steps.grain import GrainStep
from ..steps.tone import ToneStep
from .boards import box_into

Numbers = NDArray[np.float64]

#: Black and white of a region: so many percent of its values lie below, so that no spark or speck counts.
DARK, BRIGHT = 2.0, 98.0
#: A spread of no more than this is one tone.
_ONE_TONE = 1e-4
#: Of a region about so many pixels tell its tone.
_ENOUGH = 5000
#: Steps toward the least misses, and the nudge by which their slopes are found.
_STEPS, _NUDGE = 60, 1e-4
#: How far grain is looked at from a pixel to its neighbours.
_LAGS = 4
#: Grain is measured in pieces of at least so many pixels a side.
LEAST = 16


def match_tone(
    evaluator: Evaluator, comp: Comp, frame: int, layer: str, own: Box, plate: str, there: Box
) -> ToneStep:
    """The step that gives a layer the black, white and saturation of a region of another.

    Parameters
    ----------
    layer, plate : ids. The layer counts after its steps and before its matte, the plate after both.
    own, there : pixels of the comp.

    Returns
    -------
    A step on light, to be put behind the layer's other steps.

    Raises
    ------
    ValueRefused : a region holds nothing, or one tone only.
    """
    mine, _ = _region(evaluator, comp, frame, layer, "", own)
    other, _ = _region(evaluator, comp, frame, layer, f"layer:{plate}", there)
    return tone_between(_solid(mine, "layer"), _solid(other, "plate"))


def match_grain(
    evaluator: Evaluator, comp: Comp, frame: int, layer: str, own: Box, plate: str, there: Box
) -> GrainStep:
    """The step that adds what a layer lacks of the grain of a region of another.

    Both regions should be flat: what changes slowly in them is taken out, detail counts as grain.

    Parameters
    ----------
    As of `match_tone`.

    Returns
    -------
    A step to be put behind the layer's other steps; sizes in pixels of the layer, as far as it is scaled.

    Raises
    ------
    ValueRefused : a region is too small, not all covered, or has as much grain as the plate already.
    """
    mine, my_scale = _region(evaluator, comp, frame, layer, "", own)
    other, plate_scale = _region(evaluator, comp, frame, layer, f"layer:{plate}", there)
    have, _ = grain_of(_covered(mine, "layer"))
    want, size = grain_of(_covered(other, "plate"))
    lack = [sqrt(max(0.0, w * w - h * h)) for w, h in zip(want, have, strict=True)]
    if max(lack) < 1e-6:
        raise ValueRefused(
            "The layer has as much grain there as the plate already.", advice="Take its grain out first."
        )
    r, g, b = (round(v, 6) for v in lack)
    return GrainStep(amount=(r, g, b), size=min(20.0, round(size * my_scale / plate_scale, 3)), tone=0.0)


def tone_between(own: Numbers, target: Numbers) -> ToneStep:
    """The step that takes colours to others of the same black, white and saturation.

    Parameters
    ----------
    own, target : ``(N, 3)`` and ``(M, 3)`` R, G, B, straight, scene-linear: the pixels of two regions.

    Returns
    -------
    A step on light.

    Raises
    ------
    ValueRefused : either has one tone only.
    """
    if min(np.ptp(_ends(own), axis=0).max(), np.ptp(_ends(target), axis=0).max()) < _ONE_TONE:
        raise ValueRefused(
            "A region holds one tone only: it has no black and white.",
            advice="Mark a larger one, with dark and bright parts.",
        )
    mine, other = (x[:: max(1, len(x) // _ENOUGH)] for x in (own, target))
    ends, grey = _ends(other), min(_chroma(own), _chroma(target)) < _ONE_TONE
    spread = np.maximum(ends[1] - ends[0], _ONE_TONE)

    def misses(values: Numbers) -> Numbers:
        """How far black, white and the mean amount of colour are from the target's."""
        toned = _toned(mine, np.append(values[:6], 1.0) if grey else values)
        colour = 0.0 if grey else np.log(max(_chroma(toned), 1e-9) / _chroma(other))
        return np.append(((_ends(toned) - ends) / spread).ravel(), colour)

    gain, offset, saturation = _unpacked(_solved(misses, _first_guess(mine, ends)))
    return ToneStep(
        gain=_three(gain),
        offset=_three(offset),
        saturation=1.0 if grey else round(saturation, 4),
        space="light",
    )


def _first_guess(own: Numbers, ends: Numbers) -> Numbers:
    """Gains and offsets that give black and white where saturation stays, and that."""
    mine = _ends(own)
    spread = mine[1] - mine[0]
    gain = np.where(spread > _ONE_TONE, (ends[1] - ends[0]) / np.maximum(spread, _ONE_TONE), 1.0)
    return np.concatenate([gain, ends[0] - gain * mine[0], [1.0]])


def _solved(misses: Callable[[Numbers], Numbers], values: Numbers) -> Numbers:
    """Values of the least misses near the given ones: damped steps of least squares.

    Source: Marquardt 1963 [Marquardt1963], with the damping by each number's own scale.
    """
    damping, now = 1e-2, misses(values)
    for _ in range(_STEPS):
        slopes = np.stack([(misses(values + d) - now) / _NUDGE for d in _NUDGE * np.eye(values.size)], axis=1)
        square = slopes.T @ slopes
        step = np.linalg.solve(
            square + damping * (np.diag(np.diag(square)) + 1e-9 * np.eye(values.size)), -slopes.T @ now
        )
        tried = _limited(values + step)
        then = misses(tried)
        if (then**2).sum() < (now**2).sum():
            values, now, damping = tried, then, damping / 4
        else:
            damping *= 6
    return values


def _limited(values: Numbers) -> Numbers:
    """Gains and saturation that a picture can be given."""
    return np.concatenate(
        [np.clip(values[:3], 0, 100), np.clip(values[3:6], -10, 10), np.clip(values[6:], 0.05, 5)]
    )


def _unpacked(values: Numbers) -> tuple[Numbers, Numbers, float]:
    return values[:3], values[3:6], float(values[6])


def _toned(pixels: Numbers, values: Numbers) -> Numbers:
    gain, offset, saturation = _unpacked(values)
    pixels = pixels * gain + offset
    luma = (pixels @ LUMA_WEIGHTS["bt709"])[:, None]
    return np.asarray(luma + saturation * (pixels - luma))


def grain_of(planes: NDArray[np.float32]) -> tuple[Triple, float]:
    """Amount and size of the grain in a flat region.

    Parameters
    ----------
    planes : ``(H, W, 3)`` R, G, B, straight, scene-linear.

    Returns
    -------
    amount : standard deviation of R, G and B, in light.
    size : standard deviation of the Gaussian that white noise went through, in pixels.
    """
    noise = np.stack([_without_slopes(planes[..., i].astype(np.float64)) for i in range(3)])
    amount = noise.std(axis=(1, 2))
    spread = (noise**2).mean()
    if spread == 0:
        return (0.0, 0.0, 0.0), 0.0
    found = []
    for d in range(1, _LAGS + 1):
        across, down = noise[:, :, d:] * noise[:, :, :-d], noise[:, d:] * noise[:, :-d]
        found.append(float((across.mean() + down.mean()) / 2 / spread))
    sizes = np.arange(0.2, 6.0, 0.02)
    misses = [sum((_alike(s, d + 1) - v) ** 2 for d, v in enumerate(found)) for s in sizes]
    best = float(sizes[int(np.argmin(misses))])
    return _three(amount), best if best > 0.2 else 0.0


def _alike(size: float, distance: int) -> float:
    """How far white noise that went through a Gaussian is like itself at a distance: 1 is the same."""
    line = gaussian(size).astype(np.float64)
    return (
        float((line[distance:] * line[:-distance]).sum() / (line**2).sum()) if distance < line.size else 0.0
    )


def _without_slopes(plane: Numbers) -> Numbers:
    """A plane without the smooth surface of second degree that fits it best."""
    h, w = plane.shape
    y, x = (g.ravel() for g in np.mgrid[-1 : 1 : h * 1j, -1 : 1 : w * 1j])
    terms = np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=1)
    best, *_ = np.linalg.lstsq(terms, plane.ravel(), rcond=None)
    rest: Numbers = (plane.ravel() - terms @ best).reshape(h, w)
    return rest


def _ends(pixels: Numbers) -> Numbers:
    found: Numbers = np.percentile(pixels, [DARK, BRIGHT], axis=0)
    return found


def _chroma(pixels: Numbers) -> float:
    return float(np.abs(pixels - (pixels @ LUMA_WEIGHTS["bt709"])[:, None]).mean())


def _region(
    evaluator: Evaluator, comp: Comp, frame: int, layer: str, source: str, box: Box
) -> tuple[NDArray[np.float32], float]:
    """``(H, W, 4)`` premultiplied light of a region, and the picture's pixels in one of the comp."""
    picture, into = evaluator.named(comp, frame, layer, source)
    area = box_into(box, into).intersect(picture.display_window)
    if area.empty:
        what = "the plate" if source else "the layer"
        raise ValueRefused(f"Nothing of {what} is marked.", advice="Drag over a piece of it.")
    planes = [plane_over(picture[n], picture.data_window, area) for n in "RGBA"]
    # the area in the layer's pixels of one of the comp's, about the middle of the region
    middle = into[2] @ ((box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2, 1.0)
    area_of_one = abs(float(np.linalg.det(into))) / abs(float(middle)) ** 3
    return np.stack(planes, axis=-1), sqrt(area_of_one)


def _solid(rgba: NDArray[np.float32], what: str) -> Numbers:
    """``(N, 3)`` straight colour of the pixels that are covered, without what is no number."""
    sure = (rgba[..., 3] > 0.9) & np.isfinite(rgba).all(axis=-1)
    if sure.sum() < LEAST:
        raise ValueRefused(f"The {what} covers next to nothing of its region.", advice="Mark another piece.")
    return (rgba[sure][:, :3] / rgba[sure][:, 3:]).astype(np.float64)


def _covered(rgba: NDArray[np.float32], what: str) -> NDArray[np.float32]:
    """``(H, W, 3)`` straight colour of a region that is large enough and covered everywhere."""
    if min(rgba.shape[:2]) < LEAST:
        raise ValueRefused(
            f"The {what}'s region is {rgba.shape[1]} x {rgba.shape[0]} pixels: too small to tell grain.",
            advice=f"Mark at least {LEAST} x {LEAST} pixels.",
        )
    if not (np.isfinite(rgba).all() and (rgba[..., 3] > 0.9).all()):
        raise ValueRefused(
            f"The {what} does not cover all of its region.", advice="Mark a piece inside of it."
        )
    return np.asarray(rgba[..., :3] / rgba[..., 3:], np.float32)


def _three(values: Numbers) -> Triple:
    r, g, b = (round(float(v), 6) for v in values)
    return r, g, b
