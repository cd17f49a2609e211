"""Steps on light or on code values, and those that are one function of a channel's value."""

from __future__ import annotations

from abc import abstractmethod
from typing import Literal

from pydantic import Field

from ..colour.codes import coded, light_of
from ..picture import Plane
from .base import Flat, PointStep
from .linear import Linear


class CodedStep(PointStep):
    """A step on light or on sRGB codes; alpha is a plain number in both."""

    space: Literal["light", "codes"] = Field(
        "light", title="works on",
        description="Linear light, or the sRGB code values that the eye and old recipes go by.",
        json_schema_extra={"labels": {"light": "Light", "codes": "sRGB codes"}},
    )  # fmt: skip

    mixed: Literal["light", "codes"] = Field(
        "light", title="mixed in",
        description="A mix or a soft edge of a step on sRGB codes: between the light before and after it, or "
        "between the codes.",
        json_schema_extra={"labels": {"light": "Light", "codes": "sRGB codes"}, "unit": "mixed"},
    )  # fmt: skip

    @property
    def mixes_codes(self) -> bool:
        return self.space == "codes" and self.mixed == "codes"

    @abstractmethod
    def coded(self, given: Flat, scratch: Flat) -> Flat:
        """As `PointStep.values`, on values of the chosen space."""

    def linear(self) -> Linear | None:
        """The step in full as a matrix of values of the chosen space, where it is one."""
        return None

    def values(self, given: Flat, scratch: Flat) -> Flat:
        if self.space == "light":
            return self.coded(given, scratch)
        codes = [coded(p) for p in given[:3]]
        found = self.coded([*codes, given[3]], scratch)
        done = list(given)
        for i in range(3):
            if found[i] is not codes[i]:
                codes[i][:] = found[i]
                light_of(codes[i], scratch[i])
                done[i] = scratch[i]
        done[3] = found[3]
        return done


class LinearStep(CodedStep):
    """A step that is one matrix always."""

    @abstractmethod
    def linear(self) -> Linear:
        """The step in full as a matrix of values of the chosen space."""

    def coded(self, given: Flat, scratch: Flat) -> Flat:
        return self.linear().values(given, scratch)


class ValueStep(CodedStep):
    """One function for all chosen channels."""

    @abstractmethod
    def value(self, x: Plane, out: Plane) -> None:
        """The function on flat values; ``out`` is another array."""

    def coded(self, given: Flat, scratch: Flat) -> Flat:
        done = list(given)
        for i, letter in enumerate("rgba"):
            if letter in self.channels:
                self.value(given[i], scratch[i])
                done[i] = scratch[i]
        return done
