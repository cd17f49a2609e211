"""Light as sRGB code values and back, plane by plane: what the eye and old recipes go by."""

from __future__ import annotations

import numpy as np

from ..picture import Plane
from .encodings import decode_flat, encode_flat, encoding_named

_SRGB = encoding_named("srgb").numbers()


def coded(plane: Plane) -> Plane:
    """sRGB code values of flat light, in an array of their own."""
    return code_of(plane, np.empty_like(plane))


def code_of(plane: Plane, out: Plane) -> Plane:
    """sRGB code values of flat light, into another array."""
    encode_flat(plane, out, *_SRGB)
    return out


def lit(plane: Plane) -> Plane:
    """Light of flat sRGB code values, in an array of its own."""
    return light_of(plane, np.empty_like(plane))


def light_of(plane: Plane, out: Plane) -> Plane:
    """Light of flat sRGB code values, into another array."""
    decode_flat(plane, out, *_SRGB)
    return out
