"""Light as sRGB code values and back, plane by plane: what the eye and old recipes go by."""

from __future__ import annotations

import numpy as np

from ..numeric.jit import kernel
from ..picture import Plane
from .encodings import decode_value, encode_value, encoding_named

_SRGB = encoding_named("srgb").numbers()


@kernel
def _to_codes(x, out, slope, offset, exponent, b_lin, b_enc):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        out[i] = encode_value(x[i], slope, offset, exponent, b_lin, b_enc)


@kernel
def _to_light(x, out, slope, offset, exponent, b_lin, b_enc):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        out[i] = decode_value(x[i], slope, offset, exponent, b_lin, b_enc)


def coded(plane: Plane) -> Plane:
    """sRGB code values of flat light, in an array of their own."""
    out = np.empty_like(plane)
    _to_codes(plane, out, *_SRGB)
    return out


def lit(plane: Plane) -> Plane:
    """Light of flat sRGB code values, in an array of its own."""
    return light_of(plane, np.empty_like(plane))


def light_of(plane: Plane, out: Plane) -> Plane:
    """Light of flat sRGB code values, into another array."""
    _to_light(plane, out, *_SRGB)
    return out
