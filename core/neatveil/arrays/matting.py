"""Mattes from pictures and shapes, and what is done to them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from ..channels.pick import picked
from ..channels.screens import SCREENS
from ..errors import ValueRefused, unknown_name
from ..evaluate.matting import PartInput, combine_parts, found_in
from ..mattes import PARTS, DrawnPart, Matte, ObjectPart, Part, PicturePart
from ..mattes.morphology import grown
from ..mattes.objects import shares_of
from ..mattes.scores import MatteErrors
from ..mattes.scores import matte_errors as _matte_errors
from ..picture import PremultipliedPicture
from ..steps.despill import despilled
from ._given import Array, colour_of, model_of, picture_of, plane_of, rgba_of


def matte_parts() -> dict[str, type[Part]]:
    """Every kind of matte part by its name: a model whose fields are its parameters.

    Returns
    -------
    A new dictionary.

    Notes
    -----
    Each model's module states its source.

    Examples
    --------
    >>> sorted(matte_parts())
    ['channel', 'key', 'object', 'paint', 'shape']
    """
    return dict(PARTS)


def matte(
    rgba: Array, parts: Sequence[Mapping[str, Any]], second: Array | None = None, **refinement: Any
) -> Array:
    """Make a matte of parts, put together in order.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1.
    parts : each with a ``kind`` of `matte_parts` and its parameters; lengths in pixels.
    second : the clean plate of keys that take one, in the state of ``rgba``.
    **refinement : what is done to the whole matte: ``edge`` (``natural``: found in the picture), ``band``,
        ``trust``, ``specks``, ``holes``, ``grow``, ``soften``, ``inverted``.

    Returns
    -------
    ``(H, W)`` kept share, 0..1.

    Raises
    ------
    ValueRefused
        Not floating point, of another shape, a parameter out of its range, or a part that takes extra
        channels.

    Notes
    -----
    Source: stated by the module of each part, ``neatveil.mattes``.

    Examples
    --------
    >>> rgba = np.array([[[0.5, 0.25, 0, 0.5]]], np.float32)
    >>> matte(rgba, [{"kind": "channel", "channel": "alpha"}]).tolist()
    [[0.5]]
    """
    given = rgba_of(rgba)
    if not given.size:
        return np.empty(given.shape[:2], np.float32)
    whole: Matte = model_of(Matte, "Matte", {"parts": list(parts), **refinement})
    picture = picture_of(given)
    other = None if second is None else picture_of(second, "second")
    height, width = given.shape[:2]
    rows = [
        part.drawn(height, width, 0) if isinstance(part, DrawnPart) else _part_input(part, picture, other)
        for part in whole.parts
        if part.on
    ]
    made = combine_parts(whole, picture, 0, rows)
    return whole.refined(found_in(picture, whole, made, 0) if whole.edge == "natural" else made, 0)


def object_share(ranks: Array, names: Sequence[str]) -> Array:
    """The share of every pixel that named objects cover, of ID channels.

    Parameters
    ----------
    ranks : ``(H, W, 2 * N)`` of N ranks: an identity, bit for bit as the file has it, and the share that it
        covers, 0..1.
    names : of objects; their hashes are looked for.

    Returns
    -------
    ``(H, W)`` share, 0..1.

    Raises
    ------
    ValueRefused
        Not float32, or of another shape.

    Notes
    -----
    Source: Friedman & Jones 2015 [FriedmanJones2015].

    Examples
    --------
    >>> from neatveil.arrays import object_id
    >>> ranks = np.array([[[object_id("kite"), 0.75, object_id("sky"), 0.25]]], np.float32)
    >>> object_share(ranks, ["sky"]).tolist()
    [[0.25]]
    """
    given = np.asarray(ranks)
    if given.dtype != np.float32 or given.ndim != 3 or given.shape[2] % 2 or not given.shape[2]:
        raise ValueRefused(f"ranks is {given.dtype} {given.shape}; expected float32 (H, W, 2 * N).")
    planes = {str(i): np.ascontiguousarray(given[..., i]) for i in range(given.shape[2])}
    return shares_of(names, planes, [(str(i), str(i + 1)) for i in range(0, given.shape[2], 2)])


def cut_out(rgba: Array, kept: Array) -> Array:
    """Keep a share of every pixel: colour and alpha are multiplied by it.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1.
    kept : ``(H, W)`` share, 0..1.

    Returns
    -------
    ``(H, W, 4)`` in the state of ``rgba``.

    Raises
    ------
    ValueRefused
        Not floating point, or of shapes that do not fit.

    Notes
    -----
    Source: Porter & Duff 1984, operator ``in`` [PorterDuff1984].

    Examples
    --------
    >>> cut_out(np.ones((1, 1, 4), np.float32), np.full((1, 1), 0.25, np.float32)).ravel().tolist()
    [0.25, 0.25, 0.25, 0.25]
    """
    given, share = rgba_of(rgba), plane_of(kept, "kept")
    if share.shape != given.shape[:2]:
        raise ValueRefused(f"kept is {share.shape} and rgba is {given.shape}; expected the same H and W.")
    return np.asarray(given * share[..., None])


def grow_shrink(alpha: Array, radius: float) -> Array:
    """Grow a matte by a disc, or shrink it.

    Parameters
    ----------
    alpha : ``(H, W)`` of an alpha or a matte, 0..1.
    radius : of the disc, in pixels; below 0 shrinks. Between two whole ones it is the weighted mean of both.

    Returns
    -------
    ``(H, W)``, 0..1.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.

    Notes
    -----
    Grey-scale dilation and erosion; common practice, no source.

    Examples
    --------
    >>> grow_shrink(np.array([[0, 0, 1, 0, 0]], np.float32), 1).tolist()
    [[0.0, 1.0, 1.0, 1.0, 0.0]]
    """
    plane = plane_of(alpha, "alpha")
    return grown(plane, radius) if plane.size else plane.copy()


def difference_key(rgb: Array, screen: str = "green", strength: float = 1.0) -> Array:
    """The matte of what stands before a screen: ``1 - max(0, S - max(others)) / strength``.

    Parameters
    ----------
    rgb : ``(H, W, 3 or 4)`` linear light; an alpha is not looked at.
    screen : ``green``, ``blue`` or ``red``.
    strength : the difference of the clean screen, which becomes 0.

    Returns
    -------
    ``(H, W)`` kept share, 0..1.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.
    NameUnknown
        There is no such screen.

    Notes
    -----
    Source: Vlahos 1971 [Vlahos1971].

    Examples
    --------
    >>> screen = np.array([[[0.1, 0.6, 0.2], [0.5, 0.4, 0.3]]], np.float32)
    >>> difference_key(screen, strength=0.4).tolist()
    [[0.0, 1.0]]
    """
    if screen not in SCREENS:
        raise unknown_name("screen", screen, list(SCREENS))
    given = colour_of(rgb)
    if not given.size:
        return np.empty(given.shape[:2], np.float32)
    planes = {n: np.ascontiguousarray(given[..., i]) for i, n in enumerate("RGB")}
    difference = picked(planes, f"{screen}-difference", code=None)
    return np.asarray(np.clip(1 - difference / np.float32(strength), 0, 1), np.float32)


def despill(rgb: Array, screen: str = "green", amount: float = 1.0) -> Array:
    """Hold the screen's channel down to the greater of the two others.

    Parameters
    ----------
    rgb : ``(H, W, 3 or 4)`` linear light; an alpha stays as it is.
    screen : ``green``, ``blue`` or ``red``.
    amount : 0 leaves the picture as it was, 1 removes all of the excess.

    Returns
    -------
    An array of the same shape, in the state of ``rgb``.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.
    NameUnknown
        There is no such screen.

    Notes
    -----
    Source: Vlahos 1971 [Vlahos1971].

    Examples
    --------
    >>> despill(np.array([[[0.25, 1.0, 0.5]]], np.float32)).ravel().tolist()
    [0.25, 0.5, 0.5]
    """
    if screen not in SCREENS:
        raise unknown_name("screen", screen, list(SCREENS))
    out = colour_of(rgb).copy()
    if not out.size:
        return out
    at, one, two = SCREENS[screen]
    flat = [np.ascontiguousarray(out[..., i]).reshape(-1) for i in range(3)]
    result = np.empty_like(flat[0])
    despilled(flat[at], flat[one], flat[two], result, np.float32(amount), np.float32(0.5), True)
    out[..., at] = result.reshape(out.shape[:-1])
    return out


def matte_errors(found: Array, true: Array) -> MatteErrors:
    """How far a matte is from the true one.

    Parameters
    ----------
    found, true : ``(H, W)`` kept share, 0..1.

    Returns
    -------
    Sum of absolute differences / 1000, mean squared difference, gradient error / 1000, connectivity error
    / 1000.

    Raises
    ------
    ValueRefused
        Not floating point, or of shapes that differ.

    Notes
    -----
    Source: Rhemann and others 2009, section 5 [Rhemann2009].

    Examples
    --------
    >>> matte_errors(np.zeros((2, 2), np.float32), np.ones((2, 2), np.float32)).mse
    1.0
    """
    return _matte_errors(plane_of(found, "found"), plane_of(true, "true"))


def _part_input(part: Part, picture: PremultipliedPicture, second: PremultipliedPicture | None) -> PartInput:
    assert isinstance(part, PicturePart)
    if part.extra_channel or isinstance(part, ObjectPart):
        raise ValueRefused(
            f"{part.title} takes extra channels, and an array has R, G, B and A alone.",
            advice="`object_share` makes a matte of ID channels; a comp reads them from its elements.",
        )
    survey = part.survey(picture.planes) if part.surveys else None
    return PartInput(part, picture, second=second if part.second else None, survey=survey)
