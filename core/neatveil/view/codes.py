"""Light to 8-bit sRGB codes by table: exact, and faster than computing the curve.

The curve only rises, so a code is the number of its thresholds (the light halfway between two
codes) that a value reaches. Float32 values that share sign, exponent and their first seven bits of
mantissa form a cell; no cell holds more than one threshold, so the code of a value is its cell's
code plus one comparison.

Source: IEC 61966-2-1:1999 [IEC61966-2-1].
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ..numeric.jit import kernel

_SHIFT = np.uint32(16)
#: Below this light the code is 0; from 1 on it is 255.
_LOWEST = np.float32(2.0**-13)
_ONE = np.float32(1)
_LOWEST_BITS = np.uint32(_LOWEST.view(np.uint32))


def srgb_light(code: NDArray[np.float64]) -> NDArray[np.float64]:
    """Code value 0..1 to light, in float64."""
    return np.where(code <= 0.04045, code / 12.92, ((code + 0.055) / 1.055) ** 2.4)


def _tables() -> tuple[NDArray[np.uint8], NDArray[np.float32]]:
    """For each cell: the code of its smallest value, and the value from which it is one more."""
    first, last = int(_LOWEST_BITS) >> 16, int(_ONE.view(np.uint32)) >> 16
    starts = (np.arange(first, last + 2, dtype=np.uint32) << _SHIFT).view(np.float32)
    # the smallest float32 that is not below each threshold
    exact = srgb_light((np.arange(1, 256) - 0.5) / 255)
    thresholds = exact.astype(np.float32)
    thresholds = np.where(thresholds < exact, np.nextafter(thresholds, np.float32(2)), thresholds)
    codes = np.searchsorted(thresholds, starts, side="right")
    if np.diff(codes).max() > 1:
        raise AssertionError("A cell of the display table holds two thresholds.")
    following = np.append(thresholds, np.float32(2))[codes[:-1]]
    return codes[:-1].astype(np.uint8), following.astype(np.float32)


CODES, NEXT = _tables()


# Two loops over a row: the first is vectorised, the second only looks up. In one loop the lookups
# would hold back the rest, which measured three times slower. Unsigned cells spare the check for
# indices from the end, and adding the comparison spares a branch that no processor can foresee.


@kernel
def codes_of_row(light, cells, codes, following, out):  # type: ignore[no-untyped-def]
    """One row of light (any value; NaN is 0; clamped in place) to its 8-bit codes.

    ``cells`` is scratch of the row's size, ``codes`` and ``following`` are the tables.
    """
    for i in range(light.size):
        v = light[i] if light[i] > _LOWEST else _LOWEST
        v = v if v < _ONE else _ONE
        light[i] = v
        cells[i] = np.uint16((np.float32(v).view(np.uint32) - _LOWEST_BITS) >> _SHIFT)
    for i in range(light.size):
        cell = cells[i]
        out[i] = np.uint8(codes[cell] + np.uint8(light[i] >= following[cell]))
