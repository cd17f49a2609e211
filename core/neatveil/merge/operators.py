"""The table of merge operators, and one way to call them all on planes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..errors import unknown_name
from ..numeric.scratch import scratch_planes
from ..picture import RGBA, Plane
from .arithmetic import ALPHA_TOO, ARITHMETIC
from .blend import SEPARABLE, WHOLE
from .coverage import COVERAGE, coverage_plane, limited, over_rows

Planes = Mapping[str, Plane]
Four = tuple[Plane, ...]


@dataclass(frozen=True, slots=True)
class Operator:
    """A way to merge. ``touches_outside`` tells whether the result can differ where the front is empty."""

    name: str
    family: Literal["coverage", "blend", "arithmetic"]
    help: str
    touches_outside: bool


def _coverage_touches(name: str) -> bool:
    keep = COVERAGE[name][2]
    # with front = 0 the result is back * (keep + 0): unchanged only if the constant is 1
    return keep != 1


OPERATORS: dict[str, Operator] = {
    **{n: Operator(n, "coverage", row[4], _coverage_touches(n)) for n, row in COVERAGE.items()},
    **{n: Operator(n, "blend", row[1], False) for n, row in {**SEPARABLE, **WHOLE}.items()},
    **{n: Operator(n, "arithmetic", row[1], True) for n, row in ARITHMETIC.items()},
}


def operator_named(name: str) -> Operator:
    """The operator of that name.

    Parameters
    ----------
    name : as in `OPERATORS`.

    Returns
    -------
    Its function, family and a line on what it does.

    Raises
    ------
    NameUnknown
        There is none; the error lists the names.

    Examples
    --------
    >>> operator_named("over").family
    'coverage'
    """
    try:
        return OPERATORS[name]
    except KeyError:
        raise unknown_name("blend mode", name, list(OPERATORS)) from None


def merge_planes(name: str, front: Planes, back: Planes, out: Planes, mix: float, x0: int = 0) -> None:
    """Merge R, G, B, A planes.

    Parameters
    ----------
    name : of an operator in `OPERATORS`.
    front, back : C-contiguous ``(H, W)`` float32, premultiplied over black. For ``over`` the front may be
        narrower: it lies on the columns from ``x0`` on, and the others of ``out`` are not written.
    out : takes the result; may be ``back``.
    mix : 0 leaves the back as it was, 1 is the operator in full, between them linear.
    x0 : first column of a narrower front.

    Raises
    ------
    NameUnknown
        There is no such operator.

    Notes
    -----
    Source: Porter & Duff 1984 [PorterDuff1984]; W3C Compositing and Blending Level 1 [W3CCompositing].

    Examples
    --------
    >>> half, one = ({n: np.full((1, 1), v, np.float32) for n in "RGBA"} for v in (0.5, 1.0))
    >>> out = {n: np.empty((1, 1), np.float32) for n in "RGBA"}
    >>> merge_planes("over", half, one, out, 1.0); out["A"].tolist()
    [[1.0]]
    """
    if name == "over":
        for n in RGBA:
            over_rows(front[n], front["A"], back[n], out[n], np.float32(mix), x0, back[n] is out[n])
        return
    f, b, o = (tuple(p[n].reshape(-1) for n in RGBA) for p in (front, back, out))
    part = np.float32(mix)
    if name not in ARITHMETIC and any(back[n] is out[n] for n in RGBA):
        # loops that write what they read do not vectorise: a copy costs a tenth of that
        copies = scratch_planes("back of a merge", b[0].size)
        for plane, copy in zip(b, copies, strict=True):
            np.copyto(copy, plane)
        b = tuple(copies)
    if name in COVERAGE:
        _by_coverage(name, f, b, o, part)
    elif name in ARITHMETIC:
        _by_arithmetic(name, f, b, o, part)
    else:
        operator_named(name)
        _blended(name, f, b, o, part)


def _by_coverage(name: str, f: Four, b: Four, out: Four, mix: np.float32) -> None:
    numbers = [np.float32(v) for v in COVERAGE[name][:4]]
    for i in range(4):
        coverage_plane(f[i], f[3], b[i], b[3], out[i], *numbers, mix)
    if name == "plus":
        limited(f[3], b[3], out[3], mix)


def _by_arithmetic(name: str, f: Four, b: Four, out: Four, mix: np.float32) -> None:
    for i in range(4 if name in ALPHA_TOO else 3):
        result = ARITHMETIC[name][0](f[i], b[i])
        out[i][:] = result if mix == 1 else mix * result + (np.float32(1) - mix) * b[i]
    if name not in ALPHA_TOO:
        over = [np.float32(v) for v in COVERAGE["over"][:4]]
        coverage_plane(f[3], f[3], b[3], b[3], out[3], *over, mix)


def _blended(name: str, f: Four, b: Four, out: Four, mix: np.float32) -> None:
    """Colour first: alpha, which it needs, may be overwritten by its result."""
    if name in SEPARABLE:
        loop = SEPARABLE[name][0]
        for i in range(3):
            loop(f[i], f[3], b[i], b[3], out[i], mix)
    else:
        WHOLE[name][0](f, b, out[:3], mix)
    over = [np.float32(v) for v in COVERAGE["over"][:4]]
    coverage_plane(f[3], f[3], b[3], b[3], out[3], *over, mix)


def merge_values(
    name: str, front: NDArray[np.float32], back: NDArray[np.float32], mix: float = 1.0
) -> NDArray[np.float32]:
    """One operator on premultiplied ``(H, W, 4)`` arrays."""
    # copied even where a plane is contiguous already, as of a single pixel: the back is written to
    f, b = ({n: np.array(p[..., i], order="C") for i, n in enumerate(RGBA)} for p in (front, back))
    merge_planes(name, f, b, b, mix)
    return np.stack([b[n] for n in RGBA], axis=-1)
