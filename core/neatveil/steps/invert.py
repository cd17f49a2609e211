"""``1 - x``: a negative, or an alpha that keeps what it removed."""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np

from ..numeric.jit import kernel
from ..picture import Plane
from .value import ValueStep


@kernel
def _inverted(x, out):  # type: ignore[no-untyped-def]
    one = np.float32(1)
    for i in range(x.size):
        out[i] = one - x[i]


class InvertStep(ValueStep):
    """Turn values round: 1 becomes 0."""

    title: ClassVar[str] = "Invert"
    help: ClassVar[str] = "1 becomes 0 and 0 becomes 1."

    kind: Literal["invert"] = "invert"

    def value(self, x: Plane, out: Plane) -> None:
        _inverted(x, out)

    def words(self) -> str:
        return self.channels.upper()
