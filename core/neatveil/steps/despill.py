"""Despill: removes the light that a green or blue screen throws on the subject.

``G' = G - amount * max(0, G - limit)`` with ``limit`` the greater of the other two, or their mean weighted by
the balance: the lower the limit the more is taken. Source: Vlahos 1971, US patent 3595987, for the greater
of the others [Vlahos1971].
"""

from __future__ import annotations

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..channels.screens import SCREENS
from ..numeric.jit import kernel
from ..picture import Plane
from .base import Flat, PointStep


@kernel
def despilled(screen, one, two, out, amount, share, greater):  # type: ignore[no-untyped-def]
    """``one``, ``two``: the other channels; ``share`` of the first in their mean."""
    zero = np.float32(0)
    for i in range(screen.size):
        mean = share * one[i] + (np.float32(1) - share) * two[i]
        limit = max(one[i], two[i]) if greater else mean
        out[i] = screen[i] - amount * max(zero, screen[i] - limit)


class DespillStep(PointStep):
    """Remove the screen's light."""

    title: ClassVar[str] = "Despill"
    help: ClassVar[str] = "Removes the light that a green or blue screen throws on the subject."

    kind: Literal["despill"] = "despill"
    channels: str = Field(
        "gb", pattern="^[gb]+$", title="channels", json_schema_extra={"unit": "channels"},
        description="Only the screen's own channel is ever changed.",
    )  # fmt: skip
    screen: Literal["green", "blue"] = Field(
        "green", title="screen", json_schema_extra={"labels": {"green": "Green", "blue": "Blue"}}
    )
    limit: Literal["greater", "mean"] = Field(
        "greater", title="down to", description="The greater of the other two channels, or their mean.",
        json_schema_extra={"labels": {"greater": "Greater of others", "mean": "Mean of others"}},
    )  # fmt: skip
    balance: float = Field(
        0.5, ge=0, le=1, title="balance", description="Share of red in the mean; the rest is the third.",
        json_schema_extra={"slider": [0, 1]},
    )  # fmt: skip
    amount: float = Field(1.0, ge=0, le=2, title="amount", json_schema_extra={"slider": [0, 1]})

    def values(self, given: Flat, scratch: Flat) -> Flat:
        done: list[Plane] = list(given)
        at, one, two = SCREENS[self.screen]
        if "rgb"[at] in self.channels:
            despilled(
                given[at], given[one], given[two], scratch[at], np.float32(self.amount),
                np.float32(self.balance), self.limit == "greater",
            )  # fmt: skip
            done[at] = scratch[at]
        return done

    def words(self) -> str:
        return f"{self.screen}, {self.amount:.0%}"
