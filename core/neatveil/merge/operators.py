"""The table of merge operators, and one way to call them all on planes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..errors import unknown_name
from ..picture import RGBA, Plane
from .arithmetic import ARITHMETIC
from .blend import BLENDS, blend
from .coverage import COVERAGE, coverage_plane, over_rows

Planes = Mapping[str, Plane]


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
    **{n: Operator(n, "blend", row[1], False) for n, row in BLENDS.items()},
    **{n: Operator(n, "arithmetic", row[1], True) for n, row in ARITHMETIC.items()},
}


def operator_named(name: str) -> Operator:
    """The operator of that name; `NameUnknown` with the valid names otherwise."""
    try:
        return OPERATORS[name]
    except KeyError:
        raise unknown_name("merge operator", name, list(OPERATORS)) from None


def merge_planes(name: str, front: Planes, back: Planes, out: Planes, mix: float, x0: int = 0) -> None:
    """Merge R, G, B, A planes into ``out`` (which may be ``back``).

    Planes are C-contiguous ``(H, W)`` float32, premultiplied over black. ``mix`` 0 leaves the back
    as it was, 1 is the operator in full, between them linear. For ``over`` the front may be
    narrower: it lies on the columns from ``x0`` on, and the others of ``out`` are not written.
    """
    if name == "over":
        over_rows(
            *(front[n] for n in RGBA), *(back[n] for n in RGBA), *(out[n] for n in RGBA),
            np.float32(mix), x0,
        )  # fmt: skip
        return
    if name in COVERAGE:
        numbers = [np.float32(v) for v in COVERAGE[name][:4]]
        f, b, o = ([p[n].reshape(-1) for n in RGBA] for p in (front, back, out))
        back_alpha = b[3].copy()
        for i in range(4):
            coverage_plane(f[i], f[3], b[i], back_alpha, o[i], *numbers, np.float32(mix))
        return
    fs = np.stack([front[n] for n in RGBA], axis=-1)
    bs = np.stack([back[n] for n in RGBA], axis=-1)
    result = merge_values(name, fs, bs)
    for i, n in enumerate(RGBA):
        out[n][:] = bs[..., i] + np.float32(mix) * (result[..., i] - bs[..., i])


def merge_values(name: str, front: NDArray[np.float32], back: NDArray[np.float32]) -> NDArray[np.float32]:
    """One operator at full mix on premultiplied ``(..., 4)`` arrays."""
    if name in COVERAGE:
        ca, cb, da, db = (np.float32(v) for v in COVERAGE[name][:4])
        aa, ab = front[..., 3:], back[..., 3:]
        return front * (ca + cb * ab) + back * (da + db * aa)
    if name in BLENDS:
        return blend(BLENDS[name][0], front, back)
    operator_named(name)
    return ARITHMETIC[name][0](front, back)
