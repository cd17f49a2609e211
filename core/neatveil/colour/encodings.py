"""Colour encodings: a transfer function, and the primaries where they are not those of BT.709 / sRGB.

A name is that of the transfer, such as ``srgb``, or with the primaries behind it: ``srgb@p3-d65``. The
functions here apply the transfer, to each of R, G, B as they stand; never to alpha or data. Values outside
0..1 are kept: below 0 the curves are continued by point symmetry, above 1 by their own formula.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from ..errors import NeatVeilError, unknown_name
from ..numeric.blocks import new_array
from ..numeric.jit import inline, kernel
from ..numeric.pool import for_strips
from ..numeric.power import power
from ..picture import Plane
from .curves import CURVES, curve_codes, curve_light
from .primaries import PRIMARIES
from .spaces import SPACE_PATTERN, is_space, is_view, known_space, space_codes, space_light


@dataclass(frozen=True, slots=True)
class Encoding:
    """A transfer of the form ``slope*x`` near black and ``(1+offset)*x^exponent - offset`` above.

    Attributes
    ----------
    name : of the transfer alone.
    break_linear, break_encoded : where the two parts meet, in light and in code value.
    primaries : name in `neatveil.colour.primaries.PRIMARIES`.
    """

    name: str
    title: str
    source: str
    slope: float
    offset: float
    exponent: float
    break_linear: float
    break_encoded: float
    primaries: str = "bt709"

    def numbers(self) -> tuple[np.float32, np.float32, np.float32, np.float32, np.float32]:
        """slope, offset, exponent, break_linear, break_encoded as the kernels take them."""
        return (
            np.float32(self.slope),
            np.float32(self.offset),
            np.float32(self.exponent),
            np.float32(self.break_linear),
            np.float32(self.break_encoded),
        )


ENCODINGS: dict[str, Encoding] = {
    e.name: e
    for e in (
        Encoding("linear", "Linear light", "identity", 1.0, 0.0, 1.0, 0.0, 0.0),
        Encoding(
            "srgb", "sRGB", "IEC 61966-2-1:1999 [IEC61966-2-1]",
            12.92, 0.055, 1 / 2.4, 0.0031308, 0.04045,
        ),
        Encoding(
            "rec709", "BT.709 camera curve", "ITU-R BT.709-6, item 1.2 [BT709]",
            4.5, 0.099, 0.45, 0.018, 0.081,
        ),
    )
}  # fmt: skip


#: What an encoding's name may be: a transfer of the table or a plain power such as gamma2.2, with primaries;
#: or a space or a view of an OpenColorIO configuration.
NAME_PATTERN = (
    r"^((linear|srgb|rec709|pq|hlg|density|gamma[1-4](\.[0-9]{1,3})?)"
    rf"(@({'|'.join(n for n in PRIMARIES if n != 'bt709')}))?|{SPACE_PATTERN})$"
)


def gamma_name(gamma: float) -> str:
    """The name of a plain power: code value to the power of ``gamma`` is light.

    >>> gamma_name(2.2), gamma_name(1.51724)
    ('gamma2.2', 'gamma1.517')
    """
    return "gamma" + f"{min(max(gamma, 1.0), 4.999):.3f}".rstrip("0").rstrip(".")


@lru_cache(maxsize=64)
def encoding_named(name: str) -> Encoding:
    """The encoding of that name.

    Parameters
    ----------
    name : of its transfer, with ``@`` and primaries where these are not of BT.709; ``gamma`` and a
        number is one.

    Returns
    -------
    Its numbers and its source.

    Raises
    ------
    NameUnknown
        There is none; the error lists the names.

    Examples
    --------
    >>> encoding_named("srgb").title
    'sRGB'
    """
    if not re.fullmatch(NAME_PATTERN, name):
        valid = [*ENCODINGS, *CURVES, "gamma2.2 or another gamma"]
        raise unknown_name("colour encoding", name, [*valid, "one of these with @p3-d65 or other primaries"])
    if is_space(name):
        known_space(name)
        return _without_numbers(name, name.partition("/")[2], "OpenColorIO [OpenColorIO]")
    transfer, _, primaries = name.partition("@")
    if transfer in ENCODINGS:
        found = ENCODINGS[transfer]
    elif transfer in CURVES:
        found = _without_numbers(transfer, CURVES[transfer].title, CURVES[transfer].source)
    else:
        gamma = float(transfer.removeprefix("gamma"))
        found = Encoding(transfer, f"Gamma {gamma:g}", "a plain power", 1.0, 0.0, 1 / gamma, 0.0, 0.0)
    return replace(found, primaries=primaries) if primaries else found


def _without_numbers(name: str, title: str, source: str) -> Encoding:
    """One that is no power with a line near black: whoever decodes it asks `spaces` or `curves`."""
    nan = float("nan")
    return Encoding(name, title, source, nan, nan, nan, nan, nan)


def to_read(name: str) -> str:
    """The name itself, of an encoding that light can be read of; ValueError for others, as models want it."""
    known = to_write(name)
    if is_view(known):
        raise ValueError(f"{name} is a view: it is shown, and no light can be read of it")
    return known


def to_write(name: str) -> str:
    """The name itself, of an encoding or a view that is known; ValueError for others, as models want it."""
    try:
        encoding_named(name)
    except NeatVeilError as error:
        raise ValueError(str(error)) from error
    return name


def encoding_name(transfer: str, primaries: str = "bt709") -> str:
    """The name of an encoding from those of its two parts.

    Parameters
    ----------
    transfer : a name as in `ENCODINGS`.
    primaries : a name as in `neatveil.colour.primaries`.

    Returns
    -------
    ``transfer``, with ``@`` and the primaries where these are not of BT.709.

    Examples
    --------
    >>> encoding_name("srgb"), encoding_name("linear", "ap1")
    ('srgb', 'linear@ap1')
    """
    return transfer if primaries == "bt709" else f"{transfer}@{primaries}"


# Both branches are always computed and one is chosen: that way the loops vectorise, which measured
# two and a half times faster than a branch.


@inline
def decode_value(x, slope, offset, exponent, b_lin, b_enc):  # type: ignore[no-untyped-def]
    """Code value to light, one float32."""
    a = abs(x)
    line = a / slope
    curve = power((a + offset) / (np.float32(1) + offset), np.float32(1) / exponent)
    y = line if a <= b_enc else curve
    return y if x >= 0 else -y


@inline
def encode_value(x, slope, offset, exponent, b_lin, b_enc):  # type: ignore[no-untyped-def]
    """Light to code value, one float32."""
    a = abs(x)
    line = a * slope
    curve = (np.float32(1) + offset) * power(a, exponent) - offset
    y = line if a <= b_lin else curve
    return y if x >= 0 else -y


@kernel
def decode_flat(x, out, slope, offset, exponent, b_lin, b_enc):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        out[i] = decode_value(x[i], slope, offset, exponent, b_lin, b_enc)


@kernel
def encode_flat(x, out, slope, offset, exponent, b_lin, b_enc):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        out[i] = encode_value(x[i], slope, offset, exponent, b_lin, b_enc)


def decode(plane: Plane, encoding: str) -> Plane:
    """Code values to scene-linear light; the input is unchanged.

    Parameters
    ----------
    plane : ``(H, W)`` code values, of which 1 is white.
    encoding : a name as in `ENCODINGS`; what follows an ``@`` names primaries and is not looked at.

    Returns
    -------
    ``(H, W)`` light, not clamped.

    Raises
    ------
    NameUnknown
        There is no such encoding.

    Examples
    --------
    >>> float(decode(np.full((1, 1), 0.5, np.float32), "srgb")[0, 0])  # doctest: +ELLIPSIS
    0.21404...
    """
    if is_space(encoding):
        return _as_grey(plane, encoding, space_light)
    if (transfer := encoding.partition("@")[0]) in CURVES:
        return curve_light(plane, transfer)
    return _through(plane, encoding, decode_flat)


def encode(plane: Plane, encoding: str) -> Plane:
    """Scene-linear light to code values; the input is unchanged.

    Parameters
    ----------
    plane : ``(H, W)`` light, of which 1 is white.
    encoding : as for `decode`.

    Returns
    -------
    ``(H, W)`` code values, not clamped.

    Raises
    ------
    NameUnknown
        There is no such encoding.

    Examples
    --------
    >>> float(encode(np.full((1, 1), 0.18, np.float32), "srgb")[0, 0])  # doctest: +ELLIPSIS
    0.46135...
    """
    if is_space(encoding):
        return _as_grey(plane, encoding, space_codes)
    if (transfer := encoding.partition("@")[0]) in CURVES:
        return curve_codes(plane, transfer)
    return _through(plane, encoding, encode_flat)


def _as_grey(plane: Plane, encoding: str, function) -> Plane:  # type: ignore[no-untyped-def]
    """A plane by itself, in a space that mixes R, G and B: as grey."""
    rows = np.ascontiguousarray(plane, np.float32).reshape(plane.shape[0], -1)
    found: Plane = function(dict.fromkeys("RGB", rows), encoding)["G"].reshape(plane.shape)
    return found


def _through(plane: Plane, encoding: str, function) -> Plane:  # type: ignore[no-untyped-def]
    e = encoding_named(encoding)
    if e.name == "linear":
        return plane.copy()
    out = new_array(plane.shape)
    numbers = e.numbers()

    def strip(a: int, b: int) -> None:
        function(plane[a:b].reshape(-1), out[a:b].reshape(-1), *numbers)

    for_strips(plane.shape[0], plane.shape[1], strip)
    return out
