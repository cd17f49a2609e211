"""Exact Y'CbCr <-> R'G'B' for planar frames, which swscale does with rounding errors.

Source: ITU-R BT.601-7, 2.5.3 and BT.709-6, item 3 and 4 (matrix, quantisation) [BT601] [BT709].
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ...channels.luma import LUMA_WEIGHTS
from ...numeric.blocks import new_array
from ...numeric.jit import kernel
from ...numeric.pool import for_strips

Array = NDArray[np.float32]
Codes = NDArray[np.uint8] | NDArray[np.uint16] | Array


def _ranges(bits: int, full: bool) -> tuple[float, float, float, float]:
    """Offset and span of luma, offset and span of chroma, in code values."""
    top = float((1 << bits) - 1)
    unit = float(1 << (bits - 8))
    return (0.0, top, (top + 1) / 2, top) if full else (16 * unit, 219 * unit, 128 * unit, 224 * unit)


@kernel
def _row_to_rgb(y, cb0, cb1, cr0, cr1, down, step, shift, numbers, r, g, b):  # type: ignore[no-untyped-def]
    """One row: luma codes and the two nearest rows of chroma, of which the second counts ``down``.

    ``step``: pixels of luma for one of chroma; ``shift``: where the first chroma sample lies, in pixels.
    """
    y0, ys, c0, cs, r_cr, b_cb, g_cb, g_cr = numbers
    last = cb0.size - 1
    for i in range(y.size):
        at = (np.float32(i) - shift) / np.float32(step)
        left = min(max(int(at), 0), last)
        right = min(left + 1, last)
        across = min(max(at - np.float32(left), np.float32(0)), np.float32(1))
        near, far = np.float32(1) - across, across
        up = np.float32(1) - down
        cb = (np.float32(cb0[left]) * near + np.float32(cb0[right]) * far) * up
        cb += (np.float32(cb1[left]) * near + np.float32(cb1[right]) * far) * down
        cr = (np.float32(cr0[left]) * near + np.float32(cr0[right]) * far) * up
        cr += (np.float32(cr1[left]) * near + np.float32(cr1[right]) * far) * down
        luma = (np.float32(y[i]) - y0) * ys
        pb, pr = (cb - c0) * cs, (cr - c0) * cs
        r[i] = luma + r_cr * pr
        g[i] = luma - g_cb * pb - g_cr * pr
        b[i] = luma + b_cb * pb


@kernel
def _rows_to_rgb(y, cb, cr, first, step_x, step_y, shift, numbers, r, g, b):  # type: ignore[no-untyped-def]
    last = cb.shape[0] - 1
    for row in range(y.shape[0]):
        at = (np.float32(first + row) - np.float32(step_y - 1) * np.float32(0.5)) / np.float32(step_y)
        up = min(max(int(np.floor(at)), 0), last)
        low = min(up + 1, last)
        down = min(max(at - np.float32(up), np.float32(0)), np.float32(1))
        _row_to_rgb(
            y[row], cb[up], cb[low], cr[up], cr[low], down, step_x, shift, numbers, r[row], g[row], b[row]
        )


def to_rgb(
    y: Codes, cb: Codes, cr: Codes, bits: int, matrix: str, full: bool, *, centred: bool = False
) -> tuple[Array, Array, Array]:
    """Code values to R', G', B' in 0..1 (not clamped); chroma of half width or height is interpolated.

    ``centred``: chroma lies in the middle of its pixels, as in JPEG; else level with the left one
    (H.264, H.265, ProRes). Between rows it lies in the middle in either case.
    """
    kr, kg, kb = LUMA_WEIGHTS[matrix]
    y0, ys, c0, cs = _ranges(bits, full)
    numbers = tuple(
        np.float32(v)
        for v in (
            y0, 1 / ys, c0, 1 / cs, 2 * (1 - kr), 2 * (1 - kb),
            2 * (1 - kb) * kb / kg, 2 * (1 - kr) * kr / kg,
        )
    )  # fmt: skip
    height, width = y.shape
    step_x, step_y = -(-width // cb.shape[1]), -(-height // cb.shape[0])
    shift = np.float32((step_x - 1) / 2 if centred else 0)
    out = tuple(new_array((height, width)) for _ in range(3))

    def strip(a: int, b: int) -> None:
        _rows_to_rgb(y[a:b], cb, cr, a, step_x, step_y, shift, numbers, *(p[a:b] for p in out))

    for_strips(height, width, strip)
    return out[0], out[1], out[2]


@kernel
def _from_rgb(r, g, b, numbers, low, high, y, cb, cr):  # type: ignore[no-untyped-def]
    kr, kg, kb, y0, ys, c0, b_scale, r_scale = numbers
    for row in range(y.shape[0]):
        for x in range(y.shape[1]):
            luma = kr * r[row, x] + kg * g[row, x] + kb * b[row, x]
            y[row, x] = min(max(np.rint(luma * ys + y0), low), high)
            cb[row, x] = min(max(np.rint((b[row, x] - luma) * b_scale + c0), low), high)
            cr[row, x] = min(max(np.rint((r[row, x] - luma) * r_scale + c0), low), high)


@kernel
def _chroma_from_rgb(r, g, b, numbers, low, high, step_y, cb, cr):  # type: ignore[no-untyped-def]
    """Chroma of half the width, level with the left of its two pixels and between its rows: the mean of
    its rows, of three pixels weighted 1, 2, 1."""
    kr, kg, kb, _, _, c0, b_scale, r_scale = numbers
    last = r.shape[1] - 1
    for row in range(cb.shape[0]):
        first = row * step_y
        end = min(first + step_y, r.shape[0])
        share = np.float32(0.25) / np.float32(end - first)
        for x in range(cb.shape[1]):
            left, middle, right = max(2 * x - 1, 0), 2 * x, min(2 * x + 1, last)
            red, green, blue = np.float32(0), np.float32(0), np.float32(0)
            for at in range(first, end):
                red += r[at, left] + np.float32(2) * r[at, middle] + r[at, right]
                green += g[at, left] + np.float32(2) * g[at, middle] + g[at, right]
                blue += b[at, left] + np.float32(2) * b[at, middle] + b[at, right]
            luma = kr * red + kg * green + kb * blue
            cb[row, x] = min(max(np.rint((blue - luma) * (share * b_scale) + c0), low), high)
            cr[row, x] = min(max(np.rint((red - luma) * (share * r_scale) + c0), low), high)


@kernel
def _luma_from_rgb(r, g, b, numbers, low, high, y):  # type: ignore[no-untyped-def]
    kr, kg, kb, y0, ys, _, _, _ = numbers
    for row in range(y.shape[0]):
        for x in range(y.shape[1]):
            luma = kr * r[row, x] + kg * g[row, x] + kb * b[row, x]
            y[row, x] = min(max(np.rint(luma * ys + y0), low), high)


def from_rgb(
    r: Array, g: Array, b: Array, bits: int, matrix: str, full: bool, y: Codes, cb: Codes, cr: Codes
) -> None:
    """R', G', B' in 0..1 to rounded code values within what the range allows, written to ``y, cb, cr``.

    Chroma of half the width (4:2:2) or of half width and height (4:2:0) lies where `to_rgb` takes it
    from: level with the left pixel, in the middle between rows.
    """
    kr, kg, kb = LUMA_WEIGHTS[matrix]
    y0, ys, c0, cs = _ranges(bits, full)
    given = (kr, kg, kb, y0, ys, c0, cs / (2 * (1 - kb)), cs / (2 * (1 - kr)))
    numbers = tuple(np.float32(v) for v in given)
    top = (1 << bits) - 1
    unit = 1 << (bits - 8)
    bounds = [np.float32(v) for v in ((0, top) if full else (unit, top - unit))]
    height, width = y.shape
    whole = cb.shape == y.shape
    step_y = -(-height // cb.shape[0])

    def strip(first: int, end: int) -> None:
        rows = slice(first * step_y, end * step_y)
        given = [p[rows] for p in (r, g, b)]
        if whole:
            _from_rgb(*given, numbers, *bounds, y[rows], cb[rows], cr[rows])
        else:
            _luma_from_rgb(*given, numbers, *bounds, y[rows])
            _chroma_from_rgb(*given, numbers, *bounds, step_y, cb[first:end], cr[first:end])

    for_strips(cb.shape[0], width * step_y, strip)
