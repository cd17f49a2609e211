"""Data passes on plain arrays: a picture put on a UV pass, blur by motion vectors and by depth."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ..errors import ValueRefused
from ..numeric.defocus import defocused
from ..numeric.pyramid import pyramid_of
from ..numeric.texture import LookUp, Map, looked_up
from ..numeric.vector_blur import moments_of, vector_blurred
from ..steps.blur import disc
from ..steps.depth_blur import polygon
from ._given import Array, rgba_of


def uv_mapped(
    rgba: Array,
    uv: Array,
    coverage: Array | None = None,
    *,
    filtered: bool = True,
    between: Literal["linear", "cubic"] = "cubic",
    beyond: Literal["wrap", "mirror", "clamp", "clear"] = "wrap",
) -> Array:
    """Put a picture on a surface.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1. The picture.
    uv : ``(h, w, 2)``, where each pixel lies on the picture: 0..1 to the right and down.
    coverage : ``(h, w)`` 0..1, how much of each pixel the surface covers; all of it where it is left out.
        Where it covers in part the place is continued from pixels that it covers whole.
    filtered : by how fast the map runs over the picture; not, it is one sample a pixel.
    between : what lies between the picture's pixels where it is enlarged; cubic is Catmull-Rom.
    beyond : what the picture is outside of 0..1.

    Returns
    -------
    ``(h, w, 4)`` in the state of ``rgba``, times the coverage; 0 where ``uv`` is no number.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.

    Notes
    -----
    Source: Williams 1983 [Williams1983]; McCormack and others 1999 [McCormack1999].

    Examples
    --------
    >>> two = np.ones((1, 2, 4), np.float32); two[0, 1, :3] = 0.5
    >>> map_ = np.array([[[0.75, 0.5], [0.25, 0.5]]], np.float32)
    >>> uv_mapped(two, map_, filtered=False, between="linear")[0, :, 0].tolist()
    [0.5, 1.0]
    """
    art = rgba_of(rgba)
    places = np.asarray(uv, np.float32)
    if places.ndim != 3 or places.shape[2] != 2:
        raise ValueRefused(f"uv is {places.shape}; expected (height, width, 2).")
    height, width = places.shape[:2]
    share = np.ones((height, width), np.float32) if coverage is None else np.asarray(coverage, np.float32)
    if share.shape != (height, width):
        raise ValueRefused(f"coverage is {share.shape}; expected {(height, width)}.")
    if not art.size or not share.size:
        return np.zeros((height, width, 4), np.float32)
    pyramid = pyramid_of([np.ascontiguousarray(art[..., i]) for i in range(4)], filtered)
    how = LookUp(np.eye(2, 3, dtype=np.float32), filtered, between, beyond)
    return np.stack(looked_up(Map.of(places[..., 0], places[..., 1], share), pyramid, how), axis=-1)


def motion_blurred(
    rgba: Array,
    vectors: Array,
    depth: Array | None = None,
    *,
    shutter: float = 0.5,
    phase: float = 0.0,
    samples: int = 16,
    clear: bool = False,
) -> Array:
    """Blur a picture by how its pixels move.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1.
    vectors : ``(H, W, 2)``, how far each pixel moves in a frame: pixels to the right and down.
    depth : ``(H, W)``, smaller where something is nearer to the camera; left out, what moves more is in
        front.
    shutter : frames for which it is open.
    phase : frames from the picture to the middle of that time.
    samples : moments whose pictures are averaged.
    clear : nothing comes in over the border, instead of its last pixels again.

    Returns
    -------
    ``(H, W, 4)`` in the state of ``rgba``.

    Raises
    ------
    ValueRefused
        Not floating point, of another shape, or no sample.

    Notes
    -----
    Source: Yang and others 2011 [Yang2011]; McGuire and others 2012 [McGuire2012].

    Examples
    --------
    >>> spot = np.zeros((1, 5, 4), np.float32); spot[0, 2] = 1
    >>> right = np.full((1, 5, 2), (3, 0), np.float32)
    >>> [round(float(a), 3) for a in motion_blurred(spot, right, shutter=1.0, samples=3)[0, :, 3]]
    [0.0, 0.333, 0.333, 0.333, 0.0]
    """
    given = rgba_of(rgba)
    height, width = given.shape[:2]
    way = np.asarray(vectors, np.float32)
    if way.shape != (height, width, 2):
        raise ValueRefused(f"vectors is {way.shape}; expected {(height, width, 2)}.")
    if samples < 1:
        raise ValueRefused(f"samples is {samples}; expected 1 or more.")
    way = np.nan_to_num(way, nan=0.0, posinf=0.0, neginf=0.0)
    front = (way * way).sum(-1) if depth is None else -np.nan_to_num(np.asarray(depth, np.float32), nan=1e10)
    if front.shape != (height, width):
        raise ValueRefused(f"depth is {front.shape}; expected {(height, width)}.")
    if not given.size:
        return given.copy()
    planes = [np.ascontiguousarray(given[..., i]) for i in range(4)]
    x, y = (np.ascontiguousarray(way[..., i]) for i in range(2))
    moments = moments_of(samples, shutter, phase)
    return np.stack(vector_blurred(planes, x, y, front, moments, clear=clear), axis=-1)


def depth_blurred(
    rgba: Array,
    radius: Array,
    *,
    blades: int = 0,
    rotation: float = 0.0,
    clear: bool = False,
) -> Array:
    """Blur a picture by the circles of confusion of a lens.

    Parameters
    ----------
    rgba : ``(H, W, 4)`` R, G, B, A, scene-linear, premultiplied over black; alpha 0..1.
    radius : ``(H, W)``, of each pixel's circle in pixels: below 0 before the focus, above 0 behind it.
        Less is nearer to the camera. What is no number is sharp.
    blades : sides of the aperture; 0 is a disc.
    rotation : of the aperture, degrees clockwise.
    clear : nothing comes in over the border, instead of its last pixels again.

    Returns
    -------
    ``(H, W, 4)`` in the state of ``rgba``.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape; one or two blades.

    Notes
    -----
    Source: Barsky & Kosloff 2008 [Barsky2008].

    Examples
    --------
    >>> spot = np.zeros((5, 5, 4), np.float32); spot[2, 2] = 1
    >>> blurred = depth_blurred(spot, np.full((5, 5), 1.5, np.float32))
    >>> round(float(blurred[..., 3].sum()), 4), round(float(blurred[2, 2, 3]), 4)
    (1.0, 0.1415)
    """
    given = rgba_of(rgba)
    coc = np.nan_to_num(np.asarray(radius, np.float32), nan=0.0, posinf=0.0, neginf=0.0)
    if coc.shape != given.shape[:2]:
        raise ValueRefused(f"radius is {coc.shape}; expected {given.shape[:2]}.")
    if blades in (1, 2) or blades < 0:
        raise ValueRefused(f"blades is {blades}; expected 0, or 3 and more.")
    if not given.size:
        return given.copy()

    def aperture(r: float) -> Array:
        return polygon(r, blades, rotation) if blades else disc(r)

    planes = [np.ascontiguousarray(given[..., i]) for i in range(4)]
    return np.stack(defocused(planes, coc, aperture, clear=clear), axis=-1)
