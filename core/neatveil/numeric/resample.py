"""Resampling with cubic and Lanczos kernels whose weights keep a ramp a ramp.

Cubic is Catmull-Rom, the cubic convolution with a = -1/2: of that family the one that is exact for parabolas.
Lanczos has three lobes; its weights are brought to a sum of 1 and to the first moment of the place that is
asked for, which the plain windowed sinc misses. Places are computed in double precision.

Source: Keys 1981, cubic convolution [Keys1981]; Duchon 1979, the Lanczos window [Duchon1979].
"""

from __future__ import annotations

from functools import cache
from math import floor

import numpy as np
from numpy.typing import NDArray

from .jit import inline, kernel

#: Steps between two pixels in which weights are tabled. Weights between two of them are interpolated, which
#: keeps their sum and first moment exact and is within 2e-7 of the kernel itself.
_PHASES = 2048

#: Samples that one value is made of, in each direction.
TAPS = {"cubic": 4, "lanczos": 6}


@cache
def weight_table(name: str) -> NDArray[np.float32]:
    """``(phases + 1, taps)`` weights of the pixels around a place, by how far it lies beyond a pixel."""
    share = np.arange(_PHASES + 1)[:, None] / _PHASES
    taps = TAPS[name]
    # how far each pixel lies from the place, in pixels
    away = np.arange(taps)[None, :] - (taps // 2 - 1) - share
    if name == "cubic":
        return _catmull_rom(away).astype(np.float32)
    weights = np.sinc(away) * np.sinc(away / 3) * (np.abs(away) < 3)
    weights /= weights.sum(1, keepdims=True)
    spread = away - away.mean(1, keepdims=True)
    missed = (weights * away).sum(1, keepdims=True)
    weights -= missed * spread / (spread**2).sum(1, keepdims=True)
    weights[np.abs(weights) < 1e-12] = 0  # on a pixel itself the others weigh nothing at all
    return np.asarray(weights, np.float32)


def _catmull_rom(away: NDArray[np.float64]) -> NDArray[np.float64]:
    t = np.abs(away)
    near = (1.5 * t - 2.5) * t * t + 1
    far = ((-0.5 * t + 2.5) * t - 4) * t + 2
    return np.asarray(np.where(t <= 1, near, np.where(t < 2, far, 0)))


@inline
def _place(back, perspective, x, y):  # type: ignore[no-untyped-def]
    """Where a pixel comes from; far beyond every border where that is behind the eye."""
    u = back[0, 0] * x + back[0, 1] * y + back[0, 2]
    v = back[1, 0] * x + back[1, 1] * y + back[1, 2]
    if perspective:
        w = back[2, 0] * x + back[2, 1] * y + back[2, 2]
        return (u / w, v / w) if w > 1e-12 else (-1e9, -1e9)
    return u, v


@inline
def cubic_weights(f):  # type: ignore[no-untyped-def]
    half, one, two = np.float32(0.5), np.float32(1), np.float32(2)
    g = one - f
    far, near = -half * f * g * g, -half * f * f * g
    return (
        far,
        (np.float32(1.5) * f - np.float32(2.5)) * f * f + one,
        ((two - np.float32(1.5) * f) * f + half) * f,
        near,
    )


@kernel
def _at_border(rows, channels, x0, y0, a, b, target):  # type: ignore[no-untyped-def]
    """One pixel from those of its neighbours that are there: beyond the border is nothing."""
    height, width = rows.shape[0], rows.shape[1] // channels
    for c in range(channels):
        total = np.float32(0)
        for j in range(b.size):
            if 0 <= y0 + j < height:
                for i in range(a.size):
                    if 0 <= x0 + i < width:
                        total += b[j] * a[i] * rows[y0 + j, (x0 + i) * channels + c]
        target[c] = total


@inline
def _cubic(rows, channels, back, perspective, out):  # type: ignore[no-untyped-def]
    """As `_tabled`, unrolled: three times as fast where the compiler knows the number of channels."""
    height, width, span = rows.shape[0], rows.shape[1] // channels, 4 * channels
    acc, a, b = np.empty(span, np.float32), np.empty(4, np.float32), np.empty(4, np.float32)
    for y in range(out.shape[0]):
        for x in range(out.shape[1] // channels):
            u, v = _place(back, perspective, x, y)
            target = out[y, x * channels : (x + 1) * channels]
            if not (-4 < u < width + 4 and -4 < v < height + 4):
                target[:] = np.float32(0)
                continue
            left, top = floor(u), floor(v)
            x0, y0 = int(left) - 1, int(top) - 1
            a0, a1, a2, a3 = cubic_weights(np.float32(u - left))
            b0, b1, b2, b3 = cubic_weights(np.float32(v - top))
            if x0 >= 0 and y0 >= 0 and x0 + 4 <= width and y0 + 4 <= height:
                k = x0 * channels
                r0, r1 = rows[y0, k : k + span], rows[y0 + 1, k : k + span]
                r2, r3 = rows[y0 + 2, k : k + span], rows[y0 + 3, k : k + span]
                for i in range(span):
                    acc[i] = b0 * r0[i] + b1 * r1[i] + b2 * r2[i] + b3 * r3[i]
                for c in range(channels):
                    near = a0 * acc[c] + a1 * acc[channels + c]
                    target[c] = near + a2 * acc[2 * channels + c] + a3 * acc[3 * channels + c]
            else:
                a[0], a[1], a[2], a[3] = a0, a1, a2, a3
                b[0], b[1], b[2], b[3] = b0, b1, b2, b3
                _at_border(rows, channels, x0, y0, a, b, target)


@kernel
def _cubic_plane(rows, back, perspective, out):  # type: ignore[no-untyped-def]
    _cubic(rows, 1, back, perspective, out)


@kernel
def _cubic_pixels(rows, back, perspective, out):  # type: ignore[no-untyped-def]
    _cubic(rows, 4, back, perspective, out)


@kernel
def _tabled(rows, channels, back, perspective, table, out):  # type: ignore[no-untyped-def]
    """``rows``: ``(H, W * channels)``; ``table``: as `weight_table`."""
    height, width = rows.shape[0], rows.shape[1] // channels
    taps, phases = table.shape[1], table.shape[0] - 1
    span = taps * channels
    acc, a, b = np.empty(span, np.float32), np.empty(taps, np.float32), np.empty(taps, np.float32)
    for y in range(out.shape[0]):
        for x in range(out.shape[1] // channels):
            u, v = _place(back, perspective, x, y)
            target = out[y, x * channels : (x + 1) * channels]
            if not (-taps < u < width + taps and -taps < v < height + taps):
                target[:] = np.float32(0)
                continue
            left, top = floor(u), floor(v)
            pu, pv = (u - left) * phases, (v - top) * phases
            iu, iv = min(int(pu), phases - 1), min(int(pv), phases - 1)
            fu, fv = np.float32(pu - iu), np.float32(pv - iv)
            for k in range(taps):
                a[k] = table[iu, k] + fu * (table[iu + 1, k] - table[iu, k])
                b[k] = table[iv, k] + fv * (table[iv + 1, k] - table[iv, k])
            x0, y0 = int(left) - taps // 2 + 1, int(top) - taps // 2 + 1
            if not (x0 >= 0 and y0 >= 0 and x0 + taps <= width and y0 + taps <= height):
                _at_border(rows, channels, x0, y0, a, b, target)
                continue
            acc[:] = np.float32(0)
            for j in range(taps):
                weight, row = b[j], rows[y0 + j, x0 * channels : x0 * channels + span]
                for i in range(span):
                    acc[i] += weight * row[i]
            for c in range(channels):
                total = np.float32(0)
                for k in range(taps):
                    total += a[k] * acc[k * channels + c]
                target[c] = total


def is_perspective(matrix: NDArray[np.float64]) -> bool:
    """Whether a ``(3, 3)`` matrix is more than affine."""
    return bool(np.abs(matrix[2, :2]).max() > 1e-12 * abs(matrix[2, 2]))


def resample(
    pixels: NDArray[np.float32], back: NDArray[np.float64], out: NDArray[np.float32], name: str
) -> None:
    """Fill ``out`` from ``pixels``, 0 beyond their border.

    Parameters
    ----------
    pixels, out : contiguous ``(H, W)`` or ``(H, W, C)``; no NaN or infinity, which would spread.
    back : ``(3, 3)``, from pixel centres of ``out`` to pixel centres of ``pixels``, both counted from 0.
    name : ``cubic`` or ``lanczos``.
    """
    channels = pixels.shape[2] if pixels.ndim == 3 else 1
    # a perspective keeps its sign, which tells what is behind the eye
    perspective = is_perspective(back)
    scaled = np.asarray(back / (np.abs(back[2]).max() if perspective else back[2, 2]), np.float64)
    rows, into = (p.reshape(p.shape[0], -1) for p in (pixels, out))
    if name == "cubic" and channels in {1, 4}:
        (_cubic_plane if channels == 1 else _cubic_pixels)(rows, scaled, perspective, into)
    else:
        _tabled(rows, channels, scaled, perspective, weight_table(name), into)
