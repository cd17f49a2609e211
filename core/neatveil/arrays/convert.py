"""Straight and premultiplied, and between what files hold and what is computed with."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..alpha import Reading, read, store
from ..alpha.convert import premultiply_plane, unpremultiply_plane
from ..alpha.suggest import Suggestion, suggest
from ..errors import ValueRefused
from ..numeric.pool import for_strips
from ..picture import StoredPicture
from ._given import Array, picture_of, rgba_of


def premultiply(rgba: Array, matte: tuple[float, float, float] = (0, 0, 0)) -> Array:
    """Multiply the colour by the alpha over a matte colour: ``C = F*a + M*(1-a)``.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, straight; colour of any value, alpha 0..1.
    matte : R, G, B of the matte colour M, in the values of ``rgba``.

    Returns
    -------
    ``(H, W, 4)``, premultiplied over ``matte``, not clamped.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.

    Notes
    -----
    Source: Porter & Duff 1984 [PorterDuff1984]; ISO 32000-1:2008, 11.6.5.3 [ISO32000].

    Examples
    --------
    >>> premultiply(np.array([[[1, 0.5, 0, 0.5]]], np.float32)).ravel().tolist()
    [0.5, 0.25, 0.0, 0.5]
    """
    return _by_plane(rgba, matte, premultiply_plane)


def unpremultiply(rgba: Array, matte: tuple[float, float, float] = (0, 0, 0)) -> Array:
    """Divide the colour by the alpha: ``F = (C - M*(1-a)) / a``.

    Where alpha is 0 the colour of a surface is undefined; ``C - M`` is returned there, so that light over
    black stays what it was.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, premultiplied over ``matte``; alpha 0..1.
    matte : R, G, B of the matte colour M, in the values of ``rgba``.

    Returns
    -------
    ``(H, W, 4)``, straight, not clamped.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.

    Notes
    -----
    Source: Porter & Duff 1984 [PorterDuff1984]; ISO 32000-1:2008, 11.6.5.3 [ISO32000].

    Examples
    --------
    >>> unpremultiply(np.array([[[0.5, 0.25, 0, 0.5]]], np.float32)).ravel().tolist()
    [1.0, 0.5, 0.0, 0.5]
    """
    return _by_plane(rgba, matte, unpremultiply_plane)


def read_as(stored: Array, reading: Reading, encoding: str = "srgb") -> Array:
    """Code values as a file holds them, as linear light premultiplied over black.

    Parameters
    ----------
    stored : ``(H, W, 4)`` R, G, B, A as stored, integers scaled to 0..1; alpha in the state that ``reading``
        states.
    reading : `neatveil.alpha.Reading`: what the stored RGB and alpha mean.
    encoding : a name in `encodings`, with ``@`` and primaries of `primaries` after it where those are not of
        BT.709.

    Returns
    -------
    ``(H, W, 4)``, scene-linear in the primaries of BT.709, premultiplied over black, not clamped; alpha 0..1.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.
    NameUnknown
        There is no such encoding.

    Notes
    -----
    Source: ISO 32000-1:2008, 11.6.5.3 [ISO32000]; IEC 61966-2-1 [IEC61966-2-1] for sRGB.

    Examples
    --------
    >>> stored = np.array([[[1.0, 0.5, 0.5, 0.5]]], np.float32)
    >>> reading = Reading(alpha="premultiplied", matte=(1, 1, 1), multiplied="encoded")
    >>> read_as(stored, reading, "linear").ravel().tolist()
    [0.5, 0.0, 0.0, 0.5]
    """
    given = rgba_of(stored, "stored")
    return read(StoredPicture.from_rgba(given), reading, encoding).rgba() if given.size else given.copy()


def store_as(rgba: Array, reading: Reading, encoding: str = "srgb") -> Array:
    """Linear light premultiplied over black, as the code values that a file of this reading holds.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1.
    reading : `neatveil.alpha.Reading`: what the stored RGB and alpha are to mean.
    encoding : as for `read_as`.

    Returns
    -------
    ``(H, W, 4)`` code values, not clamped; `read_as` with the same reading is the way back.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.
    NameUnknown
        There is no such encoding.

    Notes
    -----
    Source: as for `read_as`.

    Examples
    --------
    >>> light = np.array([[[0.5, 0.25, 0, 0.5]]], np.float32)
    >>> store_as(light, Reading(alpha="straight"), "linear").ravel().tolist()
    [1.0, 0.5, 0.0, 0.5]
    """
    picture = picture_of(rgba)
    return store(picture, reading, encoding).rgba() if picture["A"].size else rgba_of(rgba).copy()


def suggest_reading(stored: Array, encoding: str = "srgb", top: float = 255.0) -> Suggestion:
    """What the pixels say of how stored code values are to be read.

    Parameters
    ----------
    stored : ``(H, W, 4)`` R, G, B, A as a file holds them, integers scaled to 0..1; the alpha's state is what
        is looked for.
    encoding : as for `read_as`.
    top : largest code of the file's samples: 255, 65535; 2048 for half.

    Returns
    -------
    The likely reading, or that the pixels cannot tell, with every plausible one.

    Raises
    ------
    ValueRefused
        Not floating point, of another shape, or without a pixel.
    NameUnknown
        There is no such encoding.

    Notes
    -----
    Source: the model is that of ISO 32000-1:2008, 11.6.5.3 [ISO32000]; the weighing is ours.

    Examples
    --------
    >>> ramp = np.broadcast_to(np.linspace(0, 1, 64, dtype=np.float32)[None, :, None], (64, 64, 1))
    >>> stored = np.concatenate([ramp, ramp, ramp, ramp], axis=2)
    >>> suggest_reading(stored, "linear").verdict
    'premultiplied'
    """
    given = rgba_of(stored, "stored")
    if not given.size:
        raise ValueRefused(f"stored is {given.shape}; expected at least one pixel.")
    return suggest([StoredPicture.from_rgba(given)], encoding, top)


def _by_plane(rgba: Array, matte: tuple[float, float, float], function: Callable[..., None]) -> Array:
    source = rgba_of(rgba)
    out = source.copy()
    height, width, _ = source.shape
    if not source.size:
        return out

    def strip(y0: int, y1: int) -> None:
        alpha = np.ascontiguousarray(source[y0:y1, :, 3]).reshape(-1)
        result = np.empty_like(alpha)
        for i in range(3):
            plane = np.ascontiguousarray(source[y0:y1, :, i]).reshape(-1)
            function(plane, alpha, result, np.float32(matte[i]))
            out[y0:y1, :, i] = result.reshape(y1 - y0, width)

    for_strips(height, width * 4, strip)
    return out
