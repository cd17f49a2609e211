"""Encodings and primaries."""

from __future__ import annotations

import numpy as np

from ..colour import ENCODINGS, Encoding
from ..colour import decode as _decode
from ..colour import encode as _encode
from ..colour.primaries import PRIMARIES, Primaries, from_bt709, to_bt709
from ._given import Array, colour_of, floats


def encodings() -> dict[str, Encoding]:
    """Every encoding by its name, with its source; ``gamma`` and a number is one, too.

    Returns
    -------
    A new dictionary.

    Notes
    -----
    Each entry names its standard.

    Examples
    --------
    >>> "srgb" in encodings()
    True
    """
    return dict(ENCODINGS)


def decode(codes: Array, encoding: str = "srgb") -> Array:
    """Scene-linear light of code values.

    Parameters
    ----------
    codes : any shape; code values, of which 1 is white; straight, or premultiplied in encoded values.
    encoding : a name in `encodings`.

    Returns
    -------
    Light of the same shape, not clamped.

    Raises
    ------
    ValueRefused
        Not floating point.
    NameUnknown
        There is no such encoding.

    Notes
    -----
    Source: IEC 61966-2-1 for sRGB [IEC61966-2-1]; the others name theirs.

    Examples
    --------
    >>> round(float(decode(np.array([0.5], np.float32))[0]), 6)
    0.214041
    """
    return _flat(_decode, codes, "codes", encoding)


def encode(light: Array, encoding: str = "srgb") -> Array:
    """Code values of scene-linear light.

    Parameters
    ----------
    light : any shape; scene-linear, of which 1 is white; straight.
    encoding : a name in `encodings`.

    Returns
    -------
    Code values of the same shape, not clamped.

    Raises
    ------
    ValueRefused
        Not floating point.
    NameUnknown
        There is no such encoding.

    Notes
    -----
    Source: as for `decode`.

    Examples
    --------
    >>> round(float(encode(np.array([0.214041], np.float32))[0]), 4)
    0.5
    """
    return _flat(_encode, light, "light", encoding)


def primaries() -> dict[str, Primaries]:
    """Every set of primaries by its name, with its source.

    Returns
    -------
    A new dictionary.

    Notes
    -----
    Each entry names its standard.

    Examples
    --------
    >>> primaries()["bt2020"].red
    (0.708, 0.292)
    """
    return dict(PRIMARIES)


def convert_primaries(rgb: Array, source: str, target: str = "bt709") -> Array:
    """Light in some primaries as light in others; white stays white.

    Parameters
    ----------
    rgb : ``(H, W, 3 or 4)`` scene-linear; straight or premultiplied over black; an alpha stays as it is.
    source, target : names in `primaries`.

    Returns
    -------
    An array of the same shape and state; colours beyond the target's are below 0 and kept.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.
    NameUnknown
        There are no such primaries.

    Notes
    -----
    Source: SMPTE RP 177-1993 [RP177]; adaptation to another white: Bradford's, as in [ICC], annex E.

    Examples
    --------
    >>> white = np.ones((1, 1, 3), np.float32)
    >>> bool(np.allclose(convert_primaries(white, "ap0"), white, atol=1e-6))
    True
    """
    given = colour_of(rgb)
    planes = {n: np.ascontiguousarray(given[..., i]) for i, n in enumerate("RGB")}
    out = from_bt709(to_bt709(planes, source), target)
    made = given.copy()
    for i, n in enumerate("RGB"):
        made[..., i] = out[n]
    return made


def _flat(function: object, given: Array, name: str, encoding: str) -> Array:
    values = floats(given, name, "of any shape", lambda _: True)
    plane = values.reshape(1, -1)
    made: Array = function(plane, encoding) if plane.size else plane.copy()  # type: ignore[operator]
    return made.reshape(values.shape)
