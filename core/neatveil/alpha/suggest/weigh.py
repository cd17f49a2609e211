"""How well a reading explains the stored colours of pairs, and which matte colour does best."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ...colour import decode, encode, encoding_named
from .pairs import Pairs

Values = NDArray[np.float32]
#: How far a colour may lie outside its range by a codec's doing.
RANGE_TOLERANCE = 6 / 255

#: A pair is within one surface when a reading predicts it so well, if that many and such a share are.
NEAR, ENOUGH, FEWEST = 0.06, 200, 0.03

Matte = tuple[float, float, float]
Multiplied = Literal["linear", "encoded"]


@dataclass(frozen=True, slots=True)
class Hypothesis:
    """``matte`` None: straight. Else premultiplied over it (code values), when ``multiplied`` says.

    ``local``: over what the clear ground holds nearby instead, be it light or a picture.
    """

    matte: Matte | None = None
    multiplied: Multiplied = "linear"
    local: bool = False


@dataclass(frozen=True, slots=True)
class Fit:
    """A matte colour in code values and its standard error, per channel."""

    matte: Matte
    spread: Matte


class Weighing:
    """Pairs under an encoding. ``noise``: standard error of one stored sample, in code value."""

    def __init__(self, pairs: Pairs, encoding: str, noise: float) -> None:
        self.pairs = pairs
        # whatever the primaries: a reading that is right in some is right in all
        self.encoding = encoding_named(encoding).name
        #: Pairs within one surface, once `costs` has found them.
        self.kept = np.ones(pairs.count, bool)
        self.noise = np.float32(noise)
        self._light = self._decoded(pairs.cp), self._decoded(pairs.cq)

    def residuals(self, reading: Hypothesis) -> Values:
        """What the clearer pixels hold less what is foretold, ``(N, 3)`` in code value."""
        p = self.pairs
        if reading.matte is None:
            return p.cq - p.cp
        share = (p.aq / p.ap)[:, None]
        matte = p.bq if reading.local else np.array(reading.matte, np.float32)[None]
        if reading.multiplied == "encoded" or self.encoding == "linear":
            return p.cq - self._held(matte + (p.cp - matte) * share)
        light = self._decoded(matte)
        foretold = light + (self._light[0] - light) * share
        return p.cq - self._held(self._encoded(np.maximum(foretold, 0)))

    def fit(self, multiplied: Multiplied) -> Fit | None:
        """The matte colour that predicts best; None where the pairs leave it open."""
        p = self.pairs
        before = multiplied == "linear" and self.encoding != "linear"
        cp, cq = self._light if before else (p.cp, p.cq)
        share = (p.aq / p.ap)[:, None]
        # cq - cp * share = M (1 - share): one equation for M from each pair
        weight, value = 1 - share, cq - cp * share
        matte, spread = np.zeros(3), np.zeros(3)
        for i in range(3):
            fitted = _line(weight[:, 0], value[:, i], p.tile)
            if fitted is None:
                return None
            matte[i], spread[i] = fitted
        if before:
            codes = self._encoded(np.clip(matte, 0, 4)[None].astype(np.float32))[0].astype(float)
            up = self._encoded(np.clip(matte + spread, 0, 4)[None].astype(np.float32))[0].astype(float)
            matte, spread = codes, np.maximum(up - codes, 0)
        r, g, b = (float(v) for v in matte)
        sr, sg, sb = (float(v) for v in spread)
        return Fit((r, g, b), (sr, sg, sb))

    def costs(self, readings: list[Hypothesis], judged: int) -> NDArray[np.float64]:
        """``(readings, N)``: how badly each pair is foretold, on a scale that outliers hardly move.

        A step's scale is what the best of the first ``judged`` ones leaves over there: the surface's
        own texture.
        """
        p = self.pairs
        sound = self._sound()
        count = np.maximum(sound.sum(axis=1), 1)
        off = np.stack([np.sqrt((self.residuals(r) ** 2 * sound).sum(axis=1) / count) for r in readings])
        share = p.aq / p.ap
        # what rounding alone does to a prediction: it grows where little alpha is left
        rounding = self.noise**2 * (1 + share**2 + (1 - share) ** 2 / p.ap**2)
        out = np.zeros(off.shape, np.float64)
        kept = self.kept = self._one_surface(off[:judged].min(axis=0))
        for group in np.unique(p.group[kept]):
            here = kept & (p.group == group)
            scale = np.median(off[:judged, here], axis=1).min() * 1.2
            out[:, here] = np.log1p(off[:, here] ** 2 / (scale**2 + rounding[here] + 1e-12))
        return out

    def _one_surface(self, least: Values) -> NDArray[np.bool_]:
        """Which pairs lie within one surface: those that some reading predicts at all.

        A pair across two surfaces (writing on a strap) says nothing of the alpha. Where hardly any pair is
        foretold, the picture is all texture, and every pair counts.
        """
        near = least <= NEAR
        enough = int(near.sum()) >= max(ENOUGH, FEWEST * near.size)
        kept: NDArray[np.bool_] = near if enough else np.ones_like(near)
        return kept

    @staticmethod
    def foretold(cost: NDArray[np.float64]) -> float:
        """Share of the pairs that a reading predicts within three times the texture."""
        return float((cost < np.log1p(9.0)).mean())

    def difference(self, reading: Hypothesis) -> float:
        """How far the results of straight and of this reading lie apart over the band, code value."""
        p = self.pairs
        matte = p.bq if reading.local else np.array(reading.matte, np.float32)
        apart = np.abs((1 - p.aq)[:, None] * (p.cq - matte))
        return float(apart[self.kept].mean())

    def out_of_range(self, reading: Hypothesis) -> float:
        """Share of the thin pixels whose surface colour would lie below 0, or above 1 in integers."""
        p = self.pairs
        thin = p.aq < 0.5
        if not thin.any():
            return 0.0
        a, matte = p.aq[thin][:, None], np.array(reading.matte, np.float32)[None]
        stored = p.cq[thin]
        if reading.multiplied == "linear" and self.encoding != "linear":
            stored, matte = self._light[1][thin], self._decoded(matte)
        part = stored - matte * (1 - a)
        bad = part < -RANGE_TOLERANCE
        if self.encoding != "linear":
            bad |= part > a + RANGE_TOLERANCE
        return float(bad.any(axis=1).mean())

    def _sound(self) -> NDArray[np.bool_]:
        """Which values predict something: not what was cut off at white, if there is enough else."""
        p, most = self.pairs, np.float32(1 - 1 / 255)
        if self.encoding == "linear":
            return np.ones(p.cp.shape, bool)
        below: NDArray[np.bool_] = p.cp < most
        sound = np.where(below.mean(axis=0) > 0.3, below, True)
        # light over a channel that is full already was cut off: its edge tells nothing
        cut_off = (p.bq >= most).mean(axis=0) > 0.5
        return sound if cut_off.all() else sound & ~cut_off

    def _held(self, codes: Values) -> Values:
        """What a file can hold of it: integer code values end at 0 and 1."""
        return codes if self.encoding == "linear" else np.clip(codes, 0, 1)

    def _decoded(self, codes: Values) -> Values:
        return decode(np.ascontiguousarray(codes, np.float32), self.encoding)

    def _encoded(self, light: Values) -> Values:
        return encode(np.ascontiguousarray(light, np.float32), self.encoding)


def _line(weight: Values, value: Values, tile: NDArray[np.int64]) -> tuple[float, float] | None:
    """Slope of ``value = slope * weight`` by reweighted least squares, and its error over tiles."""
    w, v = weight.astype(np.float64), value.astype(np.float64)
    if w.size < 8 or (w * w).sum() < 1e-6:
        return None
    slope = float(np.median(v / w))
    trust = np.ones_like(w)
    for _ in range(12):
        off = np.abs(v - slope * w)
        scale = 1.4826 * float(np.median(off)) + 1e-4
        trust = 1 / (1 + (off / (2 * scale)) ** 2) ** 2
        new = float((trust * w * v).sum() / max((trust * w * w).sum(), 1e-12))
        if abs(new - slope) < 1e-6:
            break
        slope = new
    # pairs of one tile share their surface: tiles, not pairs, are what is independent
    _, inverse = np.unique(tile, return_inverse=True)
    pull = np.bincount(inverse, trust * w * (v - slope * w))
    mass = (trust * w * w).sum()
    return slope, float(np.sqrt((pull**2).sum()) / max(mass, 1e-12))


def lead(
    first: NDArray[np.float64], second: NDArray[np.float64], tile: NDArray[np.int64]
) -> tuple[float, float]:
    """By how much the first cost lies above the second in the mean, and that in standard errors."""
    more = first - second
    _, inverse = np.unique(tile, return_inverse=True)
    total, size = np.bincount(inverse, more), np.bincount(inverse)
    mean = float(total.sum() / size.sum())
    error = float(np.sqrt(((total - mean * size) ** 2).sum()) / size.sum())
    return mean, mean / max(error, 1e-9)
