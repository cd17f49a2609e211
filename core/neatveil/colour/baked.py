"""A view as a table of three dimensions: for pictures that pass, as while something is dragged or played.

The configuration's own transforms take up to half a second for a frame of the viewer; a table takes a few
milliseconds. What stands still is shown by the transforms themselves.

The table's places lie evenly along the bits of a float32, which are its logarithm in straight pieces: between
two places the light itself runs straight. Between the places: tetrahedra, by Kasson, Nin, Plouffe & Hafner
1995 [Kasson1995], so that greys are mixed of greys alone.
"""

# mypy: disable-error-code="call-arg,var-annotated,no-untyped-call"

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..numeric.four import four_at, plus_scaled, put_four, scaled
from ..numeric.jit import inline, kernel
from ..picture import RGB
from .spaces import space_codes

#: Light is told apart from 2^-10 on, which is added to it, up to 2^6; four places to each doubling.
_LOW, _HIGH = np.float32(2.0**-10), np.float32(2.0**6)
_EACH = 1 << 21
_LOW_BITS = np.int32(_LOW.view(np.int32))
_ABOVE = (int(_HIGH.view(np.int32)) - int(_LOW_BITS)) // _EACH
#: Below 0, where colours lie that BT.709's primaries do not reach: one place to each doubling, down to -8.
_EACH_BELOW = 1 << 22
_BELOW = (int(np.float32(8).view(np.int32)) - int(_LOW_BITS)) // _EACH_BELOW
PLACES = _BELOW + 1 + _ABOVE
#: The view's codes are held so far beyond 0..1: between two places they may cross either.
_BEYOND = 0.5
#: Steps of a code before it is brought to 8 bits.
STEPS = 65535


class BakedView(NamedTuple):
    """``table``: flat float32 of ``(PLACES, PLACES, PLACES, 4)``: R, G, B of the view and 0, by R, G, B."""

    table: NDArray[np.float32]


def places() -> NDArray[np.float64]:
    """``(PLACES,)``: the light at each, rising."""
    above = (_LOW_BITS + np.arange(_ABOVE + 1, dtype=np.int32) * _EACH).astype(np.int32).view(np.float32)
    below = (_LOW_BITS + np.arange(1, _BELOW + 1, dtype=np.int32) * _EACH_BELOW).astype(np.int32)
    low = float(_LOW)
    return np.concatenate([low - below[::-1].view(np.float32).astype(np.float64), above - low])


@lru_cache(maxsize=6)
def baked_view(name: str) -> BakedView:
    """The table of a view; `NameUnknown` as of `space_codes`."""
    light = places().astype(np.float32)
    r, g, b = (
        np.ascontiguousarray(p.reshape(-1, PLACES)) for p in np.meshgrid(light, light, light, indexing="ij")
    )
    codes = space_codes({"R": r, "G": g, "B": b}, name)
    table = np.zeros((PLACES**3, 4), np.float32)
    for i, n in enumerate(RGB):
        np.clip(np.nan_to_num(codes[n].reshape(-1)), -_BEYOND, 1 + _BEYOND, out=table[:, i])
    return BakedView(table.reshape(-1))


@lru_cache(maxsize=16)
def bytes_of_steps(gamma: float) -> NDArray[np.uint8]:
    """8-bit codes by ``STEPS`` of 0..1, to the power of 1 / ``gamma``."""
    return np.rint(np.linspace(0, 1, STEPS + 1) ** (1 / gamma) * 255).astype(np.uint8)


@inline
def _place(bits, negative):  # type: ignore[no-untyped-def]
    """Where a light lies along the places. ``bits``: of its size with the lowest added, less the lowest's."""
    away = np.float32(bits) * (np.float32(-1 / _EACH_BELOW) if negative else np.float32(1 / _EACH))
    at = np.float32(_BELOW) + away
    most = np.float32(PLACES - 1) - np.float32(1e-3)
    at = at if at > np.float32(0) else np.float32(0)
    return at if at < most else most


@kernel
def _placed(light, gain, sizes, bits, out):  # type: ignore[no-untyped-def]
    """One row; ``sizes`` and ``bits`` are the same scratch, as float32 and as int32. NaN is taken as 0."""
    for x in range(light.size):
        v = light[x] * gain
        v = v if v == v else np.float32(0)
        size = abs(v) + _LOW
        sizes[x] = size if size < _HIGH else _HIGH
        out[x] = v
    for x in range(light.size):
        out[x] = _place(bits[x] - _LOW_BITS, out[x] < np.float32(0))


@kernel
def show_baked(r, g, b, gain, table, bytes_of, out_r, out_g, out_b):  # type: ignore[no-untyped-def]
    """Light ``(H, W)`` times ``gain`` as 8-bit codes of a view; see `BakedView`, `bytes_of_steps`."""
    width = r.shape[1]
    sizes = np.empty(width, np.float32)
    bits = sizes.view(np.int32)
    at_r, at_g, at_b = np.empty(width, np.float32), np.empty(width, np.float32), np.empty(width, np.float32)
    corner, first, last = np.empty(width, np.int32), np.empty(width, np.int32), np.empty(width, np.int32)
    high, middle, low = np.empty(width, np.float32), np.empty(width, np.float32), np.empty(width, np.float32)
    found = np.empty(4 * width, np.float32)
    for y in range(r.shape[0]):
        _placed(r[y], gain, sizes, bits, at_r)
        _placed(g[y], gain, sizes, bits, at_g)
        _placed(b[y], gain, sizes, bits, at_b)
        _tetrahedra(at_r, at_g, at_b, corner, first, last, high, middle, low)
        _mixed(table, corner, first, last, high, middle, low, found)
        for x in range(width):
            out_r[y, x] = bytes_of[_step(found[4 * x])]
            out_g[y, x] = bytes_of[_step(found[4 * x + 1])]
            out_b[y, x] = bytes_of[_step(found[4 * x + 2])]


@inline
def _step(code):  # type: ignore[no-untyped-def]
    code = code if code > np.float32(0) else np.float32(0)
    code = code if code < np.float32(1) else np.float32(1)
    return np.uint64(np.int32(code * np.float32(STEPS) + np.float32(0.5)))


@kernel
def _tetrahedra(at_r, at_g, at_b, corner, first, last, high, middle, low):  # type: ignore[no-untyped-def]
    """The lowest corner of each cell, the way to the next one, to the last but one back, and the shares."""
    step_r, step_g, step_b = np.int32(4 * PLACES * PLACES), np.int32(4 * PLACES), np.int32(4)
    for x in range(corner.size):
        ir, ig, ib = np.int32(at_r[x]), np.int32(at_g[x]), np.int32(at_b[x])
        fr, fg, fb = at_r[x] - np.float32(ir), at_g[x] - np.float32(ig), at_b[x] - np.float32(ib)
        corner[x] = ir * step_r + ig * step_g + ib * step_b
        most = fr if fr > fg else fg
        least = fg if fr > fg else fr
        step_most = step_r if fr > fg else step_g
        step_least = step_g if fr > fg else step_r
        high[x] = most if most > fb else fb
        low[x] = least if least < fb else fb
        between = most if most < fb else fb
        middle[x] = between if between > least else least
        first[x] = step_most if most > fb else step_b
        # of two that are alike each is taken once
        last[x] = step_least if (least < fb) | (most <= fb) else step_b


@kernel
def _mixed(table, corner, first, last, high, middle, low, out):  # type: ignore[no-untyped-def]
    whole = np.int32(4 * PLACES * PLACES + 4 * PLACES + 4)
    for x in range(corner.size):
        c = corner[x]
        v = scaled(four_at(table, np.uint64(c)), np.float32(1) - high[x])
        v = plus_scaled(v, four_at(table, np.uint64(c + first[x])), high[x] - middle[x])
        v = plus_scaled(v, four_at(table, np.uint64(c + whole - last[x])), middle[x] - low[x])
        v = plus_scaled(v, four_at(table, np.uint64(c + whole)), low[x])
        put_four(out, np.uint64(4 * x), v)
