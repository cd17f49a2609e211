"""Data passes on plain arrays: a picture on the surface that a UV pass describes."""

from __future__ import annotations

from typing import Literal

import numpy as np

from ..errors import ValueRefused
from ..numeric.texture import LookUp, Map, looked_up, pyramid_of
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
