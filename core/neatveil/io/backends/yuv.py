"""Exact Y'CbCr <-> R'G'B' for planar frames, which swscale does with rounding errors.

Source: ITU-R BT.601-7, 2.5.3 and BT.709-6, item 3 and 4 (matrix, quantisation) [BT601] [BT709].
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ...channels.luma import LUMA_WEIGHTS

Array = NDArray[np.float32]


def _ranges(bits: int, full: bool) -> tuple[float, float, float, float]:
    """Offset and span of luma, offset and span of chroma, in code values."""
    top = float((1 << bits) - 1)
    unit = float(1 << (bits - 8))
    return (0.0, top, (top + 1) / 2, top) if full else (16 * unit, 219 * unit, 128 * unit, 224 * unit)


def to_rgb(y: Array, cb: Array, cr: Array, bits: int, matrix: str, full: bool) -> tuple[Array, Array, Array]:
    """Code values (as float) to R', G', B' in 0..1 (not clamped)."""
    kr, kg, kb = LUMA_WEIGHTS[matrix]
    y0, ys, c0, cs = _ranges(bits, full)
    luma = (y - np.float32(y0)) * np.float32(1 / ys)
    pb = (cb - np.float32(c0)) * np.float32(1 / cs)
    pr = (cr - np.float32(c0)) * np.float32(1 / cs)
    r = luma + np.float32(2 * (1 - kr)) * pr
    b = luma + np.float32(2 * (1 - kb)) * pb
    g = luma - np.float32(2 * (1 - kb) * kb / kg) * pb - np.float32(2 * (1 - kr) * kr / kg) * pr
    return r, g, b


def from_rgb(r: Array, g: Array, b: Array, bits: int, matrix: str, full: bool) -> tuple[Array, Array, Array]:
    """R', G', B' in 0..1 to rounded code values, within what the range allows."""
    kr, kg, kb = (np.float32(w) for w in LUMA_WEIGHTS[matrix])
    y0, ys, c0, cs = _ranges(bits, full)
    luma = kr * r + kg * g + kb * b
    y = luma * np.float32(ys) + np.float32(y0)
    cb = (b - luma) * np.float32(cs / (2 * (1 - float(kb)))) + np.float32(c0)
    cr = (r - luma) * np.float32(cs / (2 * (1 - float(kr)))) + np.float32(c0)
    top = (1 << bits) - 1
    low, high = (0, top) if full else (1 << (bits - 8), top - (1 << (bits - 8)))
    return tuple(np.clip(np.rint(p), low, high) for p in (y, cb, cr))  # type: ignore[return-value]
