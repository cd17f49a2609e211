"""Moving pixels, and the colour beyond the edge."""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..alpha.extend import extended_colour
from ..errors import ValueRefused
from ..steps.transform import TransformStep
from ..steps.warp import Filter, warped
from ._given import Array, model_of, rgba_of
from .stepping import stepped


def transform(
    rgba: Array, x: float = 0.0, y: float = 0.0, scale: float = 1.0, rotation: float = 0.0,
    filter: Filter = "cubic",
) -> Array:  # fmt: skip
    """Move, scale and turn a picture about its centre, within its frame.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1.
    x, y : pixels to the right and down.
    scale : 1 leaves the size.
    rotation : degrees, clockwise.
    filter : ``nearest``, ``linear``, ``cubic`` (Catmull-Rom) or ``lanczos`` (three lobes).

    Returns
    -------
    ``(H, W, 4)`` in the state of ``rgba``; 0 where nothing came from.

    Raises
    ------
    ValueRefused
        Not floating point, of another shape, or a number out of its range.

    Notes
    -----
    Source: Keys 1981 for the cubic [Keys1981].

    Examples
    --------
    >>> dot = np.zeros((1, 3, 4), np.float32); dot[0, 0] = 1
    >>> transform(dot, x=1)[0, :, 3].tolist()
    [0.0, 1.0, 0.0]
    """
    fields = {"x": x, "y": y, "scale": scale, "rotation": rotation, "filter": filter}
    return stepped(rgba, model_of(TransformStep, "Transform", fields))


def warp(
    rgba: Array, back: NDArray[np.float64], size: tuple[int, int] | None = None, filter: Filter = "cubic"
) -> Array:
    """Fetch every pixel from where a matrix says.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1.
    back : ``(3, 3)`` from a pixel of the result to a place in ``rgba``; both measured from the centre of
        the first pixel, x before y. The last row may hold a perspective.
    size : width and height of the result; that of ``rgba`` where it is left out.
    filter : as for `transform`.

    Returns
    -------
    ``(height, width, 4)`` in the state of ``rgba``; 0 where nothing is.

    Raises
    ------
    ValueRefused
        Not floating point, of another shape, or no ``(3, 3)`` matrix.

    Notes
    -----
    Source: Heckbert 1989 [Heckbert1989]; Keys 1981 for the cubic [Keys1981].

    Examples
    --------
    >>> dot = np.zeros((1, 3, 4), np.float32); dot[0, 0] = 1
    >>> warp(dot, np.array([[1, 0, -2], [0, 1, 0], [0, 0, 1.0]]))[0, :, 3].tolist()
    [0.0, 0.0, 1.0]
    """
    given, matrix = rgba_of(rgba), np.asarray(back, np.float64)
    if matrix.shape != (3, 3):
        raise ValueRefused(f"back is {matrix.shape}; expected (3, 3).")
    width, height = size or (given.shape[1], given.shape[0])
    if not given.size or not width * height:
        return np.zeros((height, width, 4), np.float32)
    return warped(given, matrix, (width, height), filter)


def extend_edge(
    rgba: Array, least: float = 0.0, result: Literal["straight", "premultiplied"] = "straight"
) -> Array:
    """Carry the colour of what is there over what is clear, so that no matte colour is left at the edge.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1.
    least : alpha above which a pixel's own colour is trusted.
    result : the state of what is returned.

    Returns
    -------
    ``(H, W, 4)``; the alpha is that of ``rgba``. Straight, its colour goes on beyond the edge.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.

    Notes
    -----
    Source: Burt & Adelson 1983 [BurtAdelson1983]; Gortler and others 1996 [Gortler1996].

    Examples
    --------
    >>> edge = np.array([[[0.5, 0.25, 0, 0.5], [0, 0, 0, 0]]], np.float32)
    >>> extend_edge(edge)[0, 1].tolist()
    [1.0, 0.5, 0.0, 0.0]
    """
    given = rgba_of(rgba)
    out = given.copy()
    if not given.size:
        return out
    planes = {n: np.ascontiguousarray(given[..., i]) for i, n in enumerate("RGBA")}
    for i, plane in enumerate(extended_colour(planes, least).values()):
        out[..., i] = plane if result == "straight" else plane * given[..., 3]
    return out
