"""``1 - x``: a negative, or an alpha that keeps what it removed."""

from __future__ import annotations

from typing import ClassVar, Literal

from .linear import Linear
from .value import LinearStep


class InvertStep(LinearStep):
    """Turn values round: 1 becomes 0."""

    title: ClassVar[str] = "Invert"
    help: ClassVar[str] = "1 becomes 0 and 0 becomes 1."

    kind: Literal["invert"] = "invert"

    def linear(self) -> Linear:
        return Linear.each(self.channels, -1, 1)

    def words(self) -> str:
        return self.channels.upper()
