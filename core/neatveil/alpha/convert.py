"""Between straight and premultiplied, and back to what a file should hold."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..colour import encode, encoding_named
from ..colour.encodings import encode_value
from ..colour.primaries import from_bt709
from ..colour.spaces import is_by_pixel
from ..numeric.blocks import new_array
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import RGB, Plane, PremultipliedPicture, StoredPicture, StraightPicture
from .reading import Reading
from .spaces import store_in_space


@kernel
def unpremultiply_plane(c, a, out, matte):  # type: ignore[no-untyped-def]
    """``F = (C - M(1-a)) / a``; where a is 0 the numerator is kept (light stays)."""
    one = np.float32(1)
    for i in range(c.size):
        alpha = a[i]
        x = c[i] - matte * (one - alpha)
        out[i] = x / (alpha if alpha != 0 else one)


@kernel
def premultiply_plane(c, a, out, matte):  # type: ignore[no-untyped-def]
    """``C = F*a + M(1-a)``."""
    one = np.float32(1)
    for i in range(c.size):
        out[i] = c[i] * a[i] + matte * (one - a[i])


@kernel
def store_straight_plane(c, a, out, slope, offset, exponent, b_lin, b_enc, linear):  # type: ignore[no-untyped-def]
    """Premultiplied light to encoded surface colour; 0 where there is no surface to hold any."""
    zero, one = np.float32(0), np.float32(1)
    for i in range(c.size):
        alpha = a[i]
        light = c[i] / (alpha if alpha != 0 else one)
        code = light if linear else encode_value(light, slope, offset, exponent, b_lin, b_enc)
        result = code if alpha != 0 else zero
        out[i] = result


def _each(c: Plane, a: Plane, function, *numbers: Any) -> Plane:  # type: ignore[no-untyped-def]
    out: Plane = new_array(c.shape)

    def strip(y0: int, y1: int) -> None:
        function(
            c[y0:y1].reshape(-1),
            a[y0:y1].reshape(-1),
            out[y0:y1].reshape(-1),
            *numbers,
        )

    for_strips(c.shape[0], c.shape[1], strip)
    return out


def unpremultiply(picture: PremultipliedPicture) -> StraightPicture:
    """Divide the colour by the alpha: ``F = C / a``.

    Where alpha is 0 there is no surface: the light there is kept as it is.

    Parameters
    ----------
    picture : scene-linear, premultiplied over black.

    Returns
    -------
    Scene-linear, straight.

    Notes
    -----
    Source: Porter & Duff 1984, section 3 [PorterDuff1984].

    Examples
    --------
    >>> light = PremultipliedPicture.from_rgba(np.array([[[0.5, 0.25, 0, 0.5]]], np.float32))
    >>> unpremultiply(light).rgba().ravel().tolist()
    [1.0, 0.5, 0.0, 0.5]
    """
    planes = dict(picture.planes)
    for n in RGB:
        planes[n] = _each(planes[n], picture["A"], unpremultiply_plane, np.float32(0))
    return StraightPicture(
        planes, picture.data_window, picture.display_window, data_planes=picture.data_planes
    )


def premultiply(picture: StraightPicture) -> PremultipliedPicture:
    """Multiply the colour by the alpha: ``C = F * a``.

    Light where alpha is 0 is lost, as in any straight picture.

    Parameters
    ----------
    picture : scene-linear, straight.

    Returns
    -------
    Scene-linear, premultiplied over black.

    Notes
    -----
    Source: Porter & Duff 1984, section 3 [PorterDuff1984].

    Examples
    --------
    >>> straight = StraightPicture.from_rgba(np.array([[[1, 0.5, 0, 0.5]]], np.float32))
    >>> premultiply(straight).rgba().ravel().tolist()
    [0.5, 0.25, 0.0, 0.5]
    """
    planes = dict(picture.planes)
    for n in RGB:
        planes[n] = _each(planes[n], picture["A"], premultiply_plane, np.float32(0))
    return PremultipliedPicture(
        planes, picture.data_window, picture.display_window, data_planes=picture.data_planes
    )


def store(picture: PremultipliedPicture, target: Reading, encoding: str) -> StoredPicture:
    """The code values a file should hold so that ``read(result, target, encoding)`` is ``picture``.

    Parameters
    ----------
    picture : scene-linear, premultiplied over black. Channels that are data are stored as they are.
    target : straight: RGB is unpremultiplied, and 0 where alpha is 0 (light there cannot be held);
        premultiplied: multiplied over the target's matte colour, in linear light or in encoded values as it
        says; none: the premultiplied colour, encoded, without alpha.
    encoding : name as in `neatveil.colour.encodings`.

    Returns
    -------
    Code values, not clamped, in the alpha state that ``target`` states.

    Raises
    ------
    NameUnknown
        There is no such encoding.

    Notes
    -----
    Source: Porter & Duff 1984 [PorterDuff1984]; ISO 32000-1:2008, 11.6.5.3 [ISO32000].

    Examples
    --------
    >>> light = PremultipliedPicture.from_rgba(np.array([[[0.5, 0.25, 0, 0.5]]], np.float32))
    >>> store(light, Reading(alpha="straight"), "linear").rgba().ravel().tolist()
    [1.0, 0.5, 0.0, 0.5]
    """
    e = encoding_named(encoding)
    name = e.name
    alpha = picture["A"]
    data = picture.data_planes & set(RGB)
    if is_by_pixel(encoding) and not data:
        planes = store_in_space(picture.planes, alpha, target, encoding)
    else:
        plain = e.primaries == "bt709" or data
        light = picture.planes if plain else from_bt709(picture.planes, e.primaries)
        planes = {
            n: picture[n] if n in data else _stored_plane(light[n], alpha, target, matte, name)
            for n, matte in zip(RGB, target.matte, strict=True)
        }
    if target.alpha != "none":
        planes["A"] = np.float32(1) - alpha if target.inverted else alpha
    return StoredPicture(planes, picture.data_window, picture.display_window, data_planes=picture.data_planes)


def _stored_plane(c: Plane, a: Plane, target: Reading, matte: float, encoding: str) -> Plane:
    if target.alpha == "none":
        return encode(c, encoding)
    if target.alpha == "premultiplied" and target.multiplied == "linear":
        if matte == 0:
            return encode(c, encoding)
        from ..colour import decode

        light = float(decode(np.full((1, 1), matte, np.float32), encoding)[0, 0])
        return encode(c + np.float32(light) * (np.float32(1) - a), encoding)
    if target.alpha == "straight":
        e = encoding_named(encoding)
        return _each(c, a, store_straight_plane, *e.numbers(), e.name == "linear")
    straight = encode(_each(c, a, unpremultiply_plane, np.float32(0)), encoding)
    out = _each(straight, a, premultiply_plane, np.float32(matte))
    empty = a == 0
    out[empty] = straight[empty] + np.float32(matte)
    return out
