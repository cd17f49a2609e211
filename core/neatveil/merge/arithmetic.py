"""Plain arithmetic on premultiplied colour; colour is not clamped.

Each operator states its alpha, which is coverage and stays within 0..1: that of ``over`` for sums,
differences and quotients, which say nothing of coverage; the same arithmetic for the lesser, the greater and
the mean, which of two coverages give a coverage. Common practice, no source; ``divide`` by 0 gives 0.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..picture import Plane


def _divide(front: Plane, back: Plane) -> Plane:
    return np.divide(back, front, out=np.zeros_like(back), where=front != 0)


#: name -> (function of a plane of front and back, what it does)
ARITHMETIC: dict[str, tuple[Callable[[Plane, Plane], Plane], str]] = {
    "add": (lambda f, b: f + b, "front plus back; alpha as over"),
    "subtract": (lambda f, b: b - f, "back minus front; alpha as over"),
    "divide": (_divide, "back divided by front; alpha as over"),
    "min": (np.minimum, "the lesser of both, alpha too"),
    "max": (np.maximum, "the greater of both, alpha too"),
    "average": (lambda f, b: (f + b) * np.float32(0.5), "the mean of both, alpha too"),
}

#: Those whose arithmetic is done on alpha as well; the others have the alpha of ``over``.
ALPHA_TOO = frozenset({"min", "max", "average"})
