"""The three colour planes of a picture, whatever it holds them as."""

from __future__ import annotations

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
