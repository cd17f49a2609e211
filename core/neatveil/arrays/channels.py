"""Channels made of colour, other colour models, and names as numbers."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..channels.identity import hash_as_float, name_hash
from ..channels.luma import luma as _luma
from ..channels.models import Range, Weights
from ..channels.models import from_hls as _from_hls
from ..channels.models import from_ycc as _from_ycc
from ..channels.models import to_hls as _to_hls
from ..channels.models import to_ycc as _to_ycc
from ._given import Array, triples_of


def luma(rgb: Array, weights: str = "bt709") -> Array:
    """The weighted sum of R, G and B.

    Parameters
    ----------
    rgb : ``(..., 3 or more)`` R, G, B first; light or code values.
    weights : ``bt601``, ``bt709`` or ``bt2020``.

    Returns
    -------
    ``(...)`` in the values of ``rgb``.

    Raises
    ------
    NameUnknown
        There are no such weights.

    Notes
    -----
    Source: ITU-R BT.601-7, BT.709-6, BT.2020-2 [BT601] [BT709] [BT2020].

    Examples
    --------
    >>> [round(float(v), 4) for v in luma(np.eye(3, dtype=np.float32))]
    [0.2126, 0.7152, 0.0722]
    """
    return _luma(rgb, weights)


def to_hls(rgb: Array) -> Array:
    """Hue, lightness and saturation.

    Parameters
    ----------
    rgb : ``(..., 3)`` R, G, B; light or code values, straight.

    Returns
    -------
    ``(..., 3)`` hue 0..1 from red by green and blue, lightness, saturation.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.

    Notes
    -----
    Source: the double hexcone of Joblove & Greenberg 1978 [JobloveGreenberg1978].

    Examples
    --------
    >>> to_hls(np.array([0.0, 1.0, 1.0], np.float32)).tolist()
    [0.5, 0.5, 1.0]
    """
    return _by_three(_to_hls, rgb, "rgb")


def from_hls(hls: Array) -> Array:
    """R, G, B of hue, lightness and saturation.

    Parameters
    ----------
    hls : ``(..., 3)`` as `to_hls` gives.

    Returns
    -------
    ``(..., 3)`` R, G, B, not clamped.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.

    Notes
    -----
    Source: as for `to_hls`.

    Examples
    --------
    >>> from_hls(np.array([0.0, 0.5, 1.0], np.float32)).round(6).tolist()
    [1.0, 0.0, 0.0]
    """
    return _by_three(_from_hls, hls, "hls")


def to_ycc(rgb: Array, weights: Weights = "bt709", extent: Range = "full") -> Array:
    """Luma and two colour differences.

    Parameters
    ----------
    rgb : ``(..., 3)`` R, G, B code values, straight.
    weights : ``bt601``, ``bt709`` or ``bt2020``.
    extent : ``full``: 0..1, with 0.5 for no colour; ``narrow``: 16..235 and 16..240 of 255.

    Returns
    -------
    ``(..., 3)`` luma, Cb, Cr, not clamped.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.

    Notes
    -----
    Source: ITU-R BT.601-7, BT.709-6, BT.2020-2 [BT601] [BT709] [BT2020].

    Examples
    --------
    >>> [round(float(v), 6) for v in to_ycc(np.array([1.0, 1.0, 1.0], np.float32))]
    [1.0, 0.5, 0.5]
    """
    return _by_three(_to_ycc, rgb, "rgb", weights, extent)


def from_ycc(ycc: Array, weights: Weights = "bt709", extent: Range = "full") -> Array:
    """R, G, B of luma and two colour differences.

    Parameters
    ----------
    ycc : ``(..., 3)`` as `to_ycc` gives.
    weights, extent : as for `to_ycc`.

    Returns
    -------
    ``(..., 3)`` R, G, B, not clamped.

    Raises
    ------
    ValueRefused
        Not floating point, or of another shape.

    Notes
    -----
    Source: as for `to_ycc`.

    Examples
    --------
    >>> from_ycc(np.array([0.5, 0.5, 0.5], np.float32)).tolist()
    [0.5, 0.5, 0.5]
    """
    return _by_three(_from_ycc, ycc, "ycc", weights, extent)


def object_id(name: str) -> np.float32:
    """The number by which an ID channel names an object or a material.

    Parameters
    ----------
    name : as the ID manifest has it.

    Returns
    -------
    The 32 bits of the name's hash as a float32, to be compared bit by bit.

    Notes
    -----
    Source: Friedman & Jones 2015 [FriedmanJones2015]; MurmurHash3 [Appleby2011].

    Examples
    --------
    >>> f"{object_id('hello').view(np.uint32):08x}"
    '248bfa47'
    """
    return hash_as_float(name_hash(name))


def _by_three(function: Any, given: Any, name: str, *more: Any) -> Array:
    values = triples_of(given, name)
    flat = [np.ascontiguousarray(values[..., i]).reshape(-1) for i in range(3)]
    return np.stack([v.reshape(values.shape[:-1]) for v in function(*flat, *more)], axis=-1)
