"""What every step is: a parameter model beside the function that does it."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Sequence
from typing import ClassVar, Literal, TypeAlias

from pydantic import BaseModel, ConfigDict, Field

from ..picture import Plane

#: R, G, B, A of one strip as flat arrays.
Flat: TypeAlias = Sequence[Plane]


class Step(BaseModel):
    """Parameters of a step. Each field has a title, range, unit and help for the recipe's controls.

    ``wants`` says what the step works on; the evaluator converts, once: ``straight`` steps are
    given premultiplied planes and work on ``C / a`` (light where alpha is 0 is changed as it
    stands).
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    title: ClassVar[str] = ""
    help: ClassVar[str] = ""
    wants: ClassVar[Literal["straight", "premultiplied", "alpha", "data"]] = "straight"

    kind: str
    on: bool = Field(True, title="On", description="Off leaves the picture as it was.")

    @abstractmethod
    def apply(self, given: Flat, scratch: Flat) -> Flat:
        """The step on one strip: flat, contiguous, premultiplied R, G, B, A.

        A plane that changes is written to its place in ``scratch`` and returned from there; one
        that does not is returned as it came. ``given`` is not changed. The two never overlap, so
        that loops over both vectorise.
        """

    @abstractmethod
    def words(self) -> str:
        """What it does to the picture, in a few words."""
