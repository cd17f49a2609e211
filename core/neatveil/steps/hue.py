"""Hue turned round the grey axis, luma kept: linear, so that values above 1 and below 0 keep their meaning.

Source: W3C Filter Effects Module Level 1, feColorMatrix, type hueRotate [W3CFilters].
"""

from __future__ import annotations

from math import cos, radians, sin
from typing import ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from .linear import Linear
from .value import LinearStep

_LUMA = np.array([0.213, 0.715, 0.072])
_COS = np.eye(3) - _LUMA
_SIN = np.array([[-0.213, -0.715, 0.928], [0.143, 0.140, -0.283], [-0.787, 0.715, 0.072]])


class HueStep(LinearStep):
    """Rotate the hue."""

    title: ClassVar[str] = "Hue"
    help: ClassVar[str] = "Rotates all hues; greys stay."

    kind: Literal["hue"] = "hue"
    rotation: float = Field(
        0.0, ge=-36000, le=36000, title="rotation", description="120 takes red to green.",
        json_schema_extra={"unit": "deg", "slider": [-180, 180]},
    )  # fmt: skip

    def matrix(self) -> NDArray[np.float64]:
        """``(3, 3)``: R, G, B to R, G, B."""
        angle = radians(self.rotation)
        return np.asarray(_LUMA + cos(angle) * _COS + sin(angle) * _SIN)

    def linear(self) -> Linear:
        return Linear.colour(self.channels, self.matrix())

    def words(self) -> str:
        return f"{self.rotation:+.0f} degrees"
