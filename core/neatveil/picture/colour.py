"""The three colour planes of a picture, whatever it holds them as."""

from __future__ import annotations

import numpy as np

from .picture import RGB, Picture, Plane


def rgb_planes(picture: Picture) -> dict[str, Plane] | None:
    """R, G and B, or the one grey plane Y for all three.

    Parameters
    ----------
    picture : of any alpha state.

    Returns
    -------
    The planes ``(H, W)`` by name, in the picture's state; None where there is neither.

    Examples
    --------
    >>> from neatveil.picture import StoredPicture
    >>> sorted(rgb_planes(StoredPicture({"Y": np.ones((1, 1), np.float32)})))
    ['B', 'G', 'R']
    """
    grey = picture.planes.get("Y")
    found = {n: p for n in RGB if (p := picture.planes.get(n, grey)) is not None}
    return found if len(found) == len(RGB) else None


def seen_planes(picture: Picture) -> tuple[dict[str, Plane], frozenset[str]] | None:
    """What is seen as R, G and B, and which of them are data.

    Parameters
    ----------
    picture : of any alpha state.

    Returns
    -------
    The planes ``(H, W)`` of `rgb_planes`; of a picture of data alone one plane as grey, two as red and green,
    or its first three; with the names of those that are data. None where there is neither.

    Examples
    --------
    >>> from neatveil.picture import StoredPicture
    >>> one = np.ones((1, 1), np.float32)
    >>> uv = StoredPicture({"uv.U": one, "uv.V": one}, data_planes=["uv.U", "uv.V"])
    >>> planes, data = seen_planes(uv)
    >>> planes["B"].tolist(), sorted(data)
    ([[0.0]], ['B', 'G', 'R'])
    """
    colour = rgb_planes(picture)
    if colour is not None:
        grey = "Y" in picture.data_planes
        data = [n for n in RGB if (n in picture.data_planes if n in picture.planes else grey)]
        return colour, frozenset(data)
    own = [n for n in picture.planes if n != "A"]
    if not own or not picture.data_planes >= set(own):
        return None
    laid = [picture.planes[n] for n in own[:3]]
    laid = laid * 3 if len(laid) == 1 else [*laid, np.zeros_like(laid[0])]
    return dict(zip(RGB, laid, strict=False)), frozenset(RGB)
