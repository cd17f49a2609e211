"""Transfers that are no power near white: PQ and HLG of BT.2100, and the printing density of film scans.

Light of 1 is reference white: 203 cd/m2 in PQ and 75 % of the signal in HLG [BT2408], the code 685 of 10 bits
in printing density [Kennel1995]. HLG gives the light of the scene, before any display's rendering. In double
precision: near its end PQ multiplies what rounding errs by some hundreds.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import exp

import numpy as np

from ..numeric.blocks import new_array
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import Plane

#: BT.2100-2, table 4.
M1, M2 = 2610 / 16384, 2523 / 4096 * 128
C1, C2, C3 = 3424 / 4096, 2413 / 4096 * 32, 2392 / 4096 * 32
#: cd/m2 that PQ's signal of 1 stands for, of reference white.
_PQ_WHITE = 10000 / 203
#: BT.2100-2, table 5.
A = 0.17883277
B, C = 1 - 4 * A, 0.5 - A * np.log(4 * A)
#: Light of the scene at 75 % of HLG's signal.
_HLG_WHITE = float((exp((0.75 - C) / A) + B) / 12)
#: White and black in codes of 10 bits, and codes for each power of ten: 0.002 of density each, gamma 0.6.
_WHITE, _BLACK, _DECADE = 685.0, 95.0, 0.6 / 0.002
_FLARE = 10 ** ((_BLACK - _WHITE) / _DECADE)


@dataclass(frozen=True, slots=True)
class Curve:
    """``to_light``, ``to_codes``: loops over flat arrays, what goes in and what comes out."""

    title: str
    source: str
    to_light: Callable[..., None]
    to_codes: Callable[..., None]


# Below 0 each is continued by point symmetry; PQ ends at its largest signal, beyond which it has no light.


@kernel
def _pq_light(x, out):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        e = min(abs(float(x[i])), 1.0) ** (1 / M2)
        y = (max(e - C1, 0.0) / (C2 - C3 * e)) ** (1 / M1) * _PQ_WHITE
        out[i] = y if x[i] >= 0 else -y


@kernel
def _pq_codes(x, out):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        y = (abs(float(x[i])) / _PQ_WHITE) ** M1
        e = ((C1 + C2 * y) / (1 + C3 * y)) ** M2
        # the published curve has a trace of signal for no light
        out[i] = 0.0 if x[i] == 0 else e if x[i] > 0 else -e


@kernel
def _hlg_light(x, out):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        e = abs(float(x[i]))
        y = e * e / 3 if e <= 0.5 else (np.exp((e - C) / A) + B) / 12
        out[i] = y / _HLG_WHITE if x[i] >= 0 else -y / _HLG_WHITE


@kernel
def _hlg_codes(x, out):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        y = abs(float(x[i])) * _HLG_WHITE
        e = np.sqrt(3 * y) if y <= 1 / 12 else A * np.log(12 * y - B) + C
        out[i] = e if x[i] >= 0 else -e


@kernel
def _density_light(x, out):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        out[i] = (10.0 ** ((float(x[i]) * 1023 - _WHITE) / _DECADE) - _FLARE) / (1 - _FLARE)


@kernel
def _density_codes(x, out):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        # light below that of the lowest code has none
        y = max(float(x[i]) * (1 - _FLARE) + _FLARE, 10.0 ** (-_WHITE / _DECADE))
        out[i] = (_WHITE + _DECADE * np.log10(y)) / 1023


CURVES: dict[str, Curve] = {
    "pq": Curve("PQ", "ITU-R BT.2100-2, table 4 [BT2100]", _pq_light, _pq_codes),
    "hlg": Curve("HLG", "ITU-R BT.2100-2, table 5 [BT2100]", _hlg_light, _hlg_codes),
    "density": Curve("Printing density", "Kennel 1995 [Kennel1995]", _density_light, _density_codes),
}


def curve_light(plane: Plane, name: str) -> Plane:
    """Code values of a curve as light.

    Parameters
    ----------
    plane : ``(H, W)`` code values, of which 1 is the largest.
    name : as in `CURVES`.

    Returns
    -------
    ``(H, W)`` light, not clamped, of which 1 is reference white.

    Examples
    --------
    >>> float(curve_light(np.full((1, 1), 0.75, np.float32), "hlg")[0, 0])
    1.0
    """
    return _through(plane, CURVES[name].to_light)


def curve_codes(plane: Plane, name: str) -> Plane:
    """The way back from `curve_light`.

    Parameters
    ----------
    plane : ``(H, W)`` light, of which 1 is reference white.
    name : as in `CURVES`.

    Returns
    -------
    ``(H, W)`` code values, not clamped.

    Examples
    --------
    >>> round(float(curve_codes(np.ones((1, 1), np.float32), "pq")[0, 0]), 2)
    0.58
    """
    return _through(plane, CURVES[name].to_codes)


def _through(plane: Plane, loop: Callable[..., None]) -> Plane:
    out = new_array(plane.shape)
    for_strips(
        plane.shape[0], plane.shape[1] if plane.ndim > 1 else 1,
        lambda a, b: loop(np.ascontiguousarray(plane[a:b]).reshape(-1), out[a:b].reshape(-1)),
    )  # fmt: skip
    return out
