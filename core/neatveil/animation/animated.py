"""What carries keys: a part of the document whose numbers may change from frame to frame."""

from __future__ import annotations

from typing import Any, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator
from pydantic.fields import FieldInfo

from .curve import Curve


class Animated(BaseModel):
    """Parameters, some of which have curves. ``keys`` goes by the parameter's name; of a colour or a point
    by name and place, such as ``colour.0``.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    keys: dict[str, Curve] = Field({}, title="Keys", description="Curves of what changes, by parameter.")

    @model_validator(mode="after")
    def _known(self) -> Self:
        for path in self.keys:
            name, _, place = path.partition(".")
            value = getattr(self, name, None) if name in type(self).model_fields else None
            if place:
                value = value[int(place)] if isinstance(value, tuple) and place in _places(value) else None
            if isinstance(value, bool) or not isinstance(value, int | float):
                raise ValueError(f"{path} is no number that can be animated")
        return self

    def at(self, frame: float) -> Self:
        """These parameters as they are at a frame; without curves the same object."""
        if not self.keys:
            return self
        changes: dict[str, Any] = {}
        for path, curve in self.keys.items():
            name, _, place = path.partition(".")
            info = type(self).model_fields[name]
            value = _within(curve.at(frame), info)
            if place:
                whole = list(changes.get(name, getattr(self, name)))
                whole[int(place)] = value
                changes[name] = tuple(whole)
            else:
                changes[name] = round(value) if isinstance(getattr(self, name), int) else value
        return self.model_copy(update={**changes, "keys": {}})


def _places(value: tuple[Any, ...]) -> list[str]:
    return [str(i) for i in range(len(value))]


def _within(value: float, info: FieldInfo) -> float:
    """The nearest value that the parameter allows: a smooth curve may pass its limits by a hair."""
    for limit in info.metadata:
        value = max(value, getattr(limit, "ge", value))
        value = min(value, getattr(limit, "le", value))
    return value
