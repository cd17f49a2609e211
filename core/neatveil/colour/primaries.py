"""Primaries: which red, green and blue the numbers are amounts of. All is laid over in those of BT.709.

A picture in other primaries is brought over after its reading: a matrix on scene-linear light, premultiplied
or not, never on data. Colours beyond BT.709 become light below 0 and are kept.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray

from ..errors import unknown_name
from ..numeric.pool import for_strips
from ..numeric.sums import weighed
from ..picture import RGB, Plane, new_planes

Matrix = NDArray[np.float64]

_D65, _D50, _ACES = (0.3127, 0.3290), (0.3457, 0.3585), (0.32168, 0.33767)
#: Bradford's matrix from XYZ to cone responses [ICC], annex E.
_BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])


@dataclass(frozen=True, slots=True)
class Primaries:
    """CIE 1931 x, y of red, green, blue and of the white that R = G = B = 1 stands for."""

    name: str
    title: str
    source: str
    red: tuple[float, float]
    green: tuple[float, float]
    blue: tuple[float, float]
    white: tuple[float, float]


PRIMARIES: dict[str, Primaries] = {
    p.name: p
    for p in (
        Primaries("bt709", "BT.709 / sRGB", "ITU-R BT.709-6, item 1.3 [BT709]",
                  (0.640, 0.330), (0.300, 0.600), (0.150, 0.060), _D65),
        Primaries("p3-d65", "P3, white D65", "SMPTE EG 432-1:2010 [EG432]",
                  (0.680, 0.320), (0.265, 0.690), (0.150, 0.060), _D65),
        Primaries("bt2020", "BT.2020", "ITU-R BT.2020-2, table 3 [BT2020]",
                  (0.708, 0.292), (0.170, 0.797), (0.131, 0.046), _D65),
        Primaries("oprgb", "opRGB", "IEC 61966-2-5:2007 [IEC61966-2-5]",
                  (0.640, 0.330), (0.210, 0.710), (0.150, 0.060), _D65),
        Primaries("romm", "ROMM RGB", "ISO 22028-2:2013 [ISO22028]",
                  (0.7347, 0.2653), (0.1596, 0.8404), (0.0366, 0.0001), _D50),
        Primaries("ap0", "AP0", "SMPTE ST 2065-1:2021 [ST2065]",
                  (0.7347, 0.2653), (0.0, 1.0), (0.0001, -0.0770), _ACES),
        Primaries("ap1", "AP1", "Academy S-2014-004 [S2014004]",
                  (0.713, 0.293), (0.165, 0.830), (0.128, 0.044), _ACES),
    )
}  # fmt: skip


def primaries_named(name: str) -> Primaries:
    """`NameUnknown` with the valid names where there is none of that name."""
    if name not in PRIMARIES:
        raise unknown_name("primaries", name, list(PRIMARIES))
    return PRIMARIES[name]


def _xyz_of(xy: tuple[float, float]) -> Matrix:
    x, y = xy
    return np.array([x / y, 1.0, (1 - x - y) / y])


def to_xyz(primaries: Primaries) -> Matrix:
    """``(3, 3)``: linear R, G, B to CIE XYZ with white at Y = 1. Source: SMPTE RP 177-1993 [RP177]."""
    columns = np.column_stack([
        np.array([x, y, 1 - x - y]) for x, y in (primaries.red, primaries.green, primaries.blue)
    ])  # fmt: skip
    return columns * np.linalg.solve(columns, _xyz_of(primaries.white))


def adapted(white: tuple[float, float], to: tuple[float, float]) -> Matrix:
    """``(3, 3)`` on XYZ: what looks white under one white looks so under the other (Bradford)."""
    scale = (_BRADFORD @ _xyz_of(to)) / (_BRADFORD @ _xyz_of(white))
    return np.asarray(np.linalg.solve(_BRADFORD, scale[:, None] * _BRADFORD))


@cache
def matrix_to_bt709(name: str) -> Matrix:
    """``(3, 3)``: linear R, G, B in these primaries to those of BT.709; white stays white."""
    given, target = primaries_named(name), PRIMARIES["bt709"]
    xyz = adapted(given.white, target.white) @ to_xyz(given)
    return np.asarray(np.linalg.solve(to_xyz(target), xyz))


def primaries_of_xyz_d50(columns: Matrix, tolerance: float = 0.004) -> str | None:
    """The primaries whose red, green and blue, adapted to D50, are these XYZ columns, as in a profile."""
    for name, one in PRIMARIES.items():
        if np.abs(adapted(one.white, _D50) @ to_xyz(one) - columns).max() < tolerance:
            return name
    return None


def primaries_of_xy(values: Sequence[float], tolerance: float = 0.004) -> str | None:
    """The primaries with these x, y of red, green, blue and white, as in an OpenEXR header."""
    for name, one in PRIMARIES.items():
        own = np.array([*one.red, *one.green, *one.blue, *one.white])
        if np.abs(own - np.asarray(values[:8], float)).max() < tolerance:
            return name
    return None


def to_bt709(planes: Mapping[str, Plane], name: str) -> dict[str, Plane]:
    """New planes R, G, B in BT.709's primaries from scene-linear ones ``(H, W)`` in these."""
    return through_matrix(planes, matrix_to_bt709(name))


def from_bt709(planes: Mapping[str, Plane], name: str) -> dict[str, Plane]:
    """The way back: new scene-linear planes R, G, B in these primaries."""
    return through_matrix(planes, np.asarray(np.linalg.inv(matrix_to_bt709(name))))


def through_matrix(planes: Mapping[str, Plane], matrix: Matrix) -> dict[str, Plane]:
    """New planes R, G, B, ``(H, W)`` each: those given, multiplied by ``(3, 3)``."""
    rows = matrix.astype(np.float32)
    given = [planes[n] for n in RGB]
    height, width = given[0].shape
    out = new_planes(RGB, height, width)

    def strip(a: int, b: int) -> None:
        flat = [p[a:b].reshape(-1) for p in given]
        for row, n in zip(rows, RGB, strict=True):
            weighed(*flat, out[n][a:b].reshape(-1), *row)

    for_strips(height, width, strip)
    return out
