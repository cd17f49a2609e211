"""A step that is not known here: of a newer version, or misspelt. It is kept as it came, and not done."""

from __future__ import annotations

from typing import Any, ClassVar

from pydantic import ConfigDict

from ..errors import StepUnknown
from .base import Step


class ForeignStep(Step):
    """Whatever its parameters are, they are kept. It has no title, so that the table leaves it out."""

    #: Kinds that are known; filled in by the table.
    known: ClassVar[list[str]] = []

    model_config = ConfigDict(extra="allow", frozen=True)

    kind: str
    # whatever it means by these
    mix: Any = 1.0
    through: Any = None
    keys: dict[str, Any] = {}

    def words(self) -> str:
        return "not known here"

    def at(self, frame: float) -> ForeignStep:
        return self

    def refused(self) -> StepUnknown:
        return StepUnknown(
            f"The step {self.kind!r} is not known here, or its numbers are not.",
            advice=f"Switch it off, or use a version that knows it. Known: {', '.join(self.known)}.",
        )
