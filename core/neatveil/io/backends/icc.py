"""What an embedded colour profile says: its primaries and its transfer, where both are of a usual kind.

Only profiles of three colorants and three curves are understood; those of look-up tables (printing, cameras)
are named and left alone. Source: ICC.1:2022 [ICC], 7.2, 9.2, 10.6 (curveType), 10.18 (parametricCurveType).
"""

from __future__ import annotations

import struct
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...colour.encodings import decode, gamma_name
from ...colour.primaries import primaries_of_xyz_d50

#: Largest distance in light between a profile's curve and one of ours that is taken for the same.
_ALIKE = 0.004
_X = np.linspace(0, 1, 1025)
_GAMMAS = (1.8, 2.0, 2.2, 2.19921875, 2.4, 2.6)

Curve = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Profile:
    """``primaries`` and ``encoding`` are names of ours, or None where none is like the profile's."""

    primaries: str | None
    encoding: str | None


def profile_of(data: bytes) -> Profile | None:
    """What the bytes of a profile say; None where they are damaged or of another kind than RGB or grey."""
    try:
        space, tags = data[16:20], _tags(data)
        if data[36:40] != b"acsp":
            return None
        if space == b"GRAY":
            return Profile("bt709", _encoding(_curve(tags[b"kTRC"])))
        if space != b"RGB " or not {b"rXYZ", b"gXYZ", b"bXYZ", b"rTRC"} <= tags.keys():
            return None
        columns = np.column_stack([_xyz(tags[t]) for t in (b"rXYZ", b"gXYZ", b"bXYZ")])
        curves = [_curve(tags[t]) for t in (b"rTRC", b"gTRC", b"bTRC")]
    except (struct.error, KeyError, ValueError, IndexError):
        return None
    same = all(np.abs(c - curves[0]).max() < _ALIKE for c in curves)
    return Profile(primaries_of_xyz_d50(columns), _encoding(curves[0]) if same else None)


def _tags(data: bytes) -> dict[bytes, bytes]:
    (count,) = struct.unpack_from(">I", data, 128)
    found = {}
    for i in range(min(count, 200)):
        name, at, size = struct.unpack_from(">4sII", data, 132 + 12 * i)
        found[name] = data[at : at + size]
    return found


def _fixed(data: bytes, count: int, at: int) -> list[float]:
    return [v / 65536 for v in struct.unpack_from(f">{count}i", data, at)]


def _xyz(tag: bytes) -> list[float]:
    if tag[:4] != b"XYZ ":
        raise ValueError
    return _fixed(tag, 3, 8)


def _curve(tag: bytes) -> Curve:
    """Light for 1025 code values from 0 to 1."""
    if tag[:4] == b"curv":
        (count,) = struct.unpack_from(">I", tag, 8)
        if count == 0:
            return _X
        values = np.array(struct.unpack_from(f">{min(count, 65536)}H", tag, 12), float)
        if count == 1:
            return np.power(_X, values[0] / 256)
        return np.interp(_X, np.linspace(0, 1, len(values)), values / 65535)
    if tag[:4] != b"para":
        raise ValueError
    (kind,) = struct.unpack_from(">H", tag, 8)
    g, a, b, c, d, e, f = [*_fixed(tag, (1, 3, 4, 5, 7)[kind], 12), *[0.0] * 7][:7]
    if kind == 0:
        return np.power(_X, g)
    if kind in {1, 2}:  # below -b / a the curve is flat, at 0 or at c
        add = c if kind == 2 else 0.0
        return np.where(-b / a <= _X, np.power(np.maximum(a * _X + b, 0), g), 0) + add
    if kind == 3:
        e = f = 0.0
    return np.where(d <= _X, np.power(np.maximum(a * _X + b, 0), g) + e, c * _X + f)


def _encoding(curve: Curve) -> str | None:
    """The encoding that is nearest to the curve, if it is near enough."""
    codes = _X.astype(np.float32).reshape(1, -1)
    names = ["srgb", "linear", "rec709", *(gamma_name(g) for g in _GAMMAS)]
    errors = {n: float(np.abs(decode(codes, n)[0] - curve).max()) for n in names}
    best = min(errors, key=lambda n: errors[n])
    return best if errors[best] < _ALIKE else None
