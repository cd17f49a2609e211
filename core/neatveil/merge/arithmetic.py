"""Plain arithmetic on the four premultiplied channels; nothing is clamped.

Common practice, no source; ``divide`` by 0 gives 0.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..picture import Plane


def _divide(front: Plane, back: Plane) -> Plane:
    return np.divide(back, front, out=np.zeros_like(back), where=front != 0)


#: name -> (function of a plane of front and back, what it does)
ARITHMETIC: dict[str, tuple[Callable[[Plane, Plane], Plane], str]] = {
    "add": (lambda f, b: f + b, "front plus back"),
    "subtract": (lambda f, b: b - f, "back minus front"),
    "divide": (_divide, "back divided by front"),
    "min": (np.minimum, "the lesser of both"),
    "max": (np.maximum, "the greater of both"),
    "average": (lambda f, b: (f + b) * np.float32(0.5), "the mean of both"),
}
