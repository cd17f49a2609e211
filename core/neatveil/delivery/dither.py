"""Noise of one code's size before codes are rounded, so that a smooth gradient shows no bands.

Triangular noise makes both the mean and the variance of the error independent of the value: Lipshitz,
Wannamaker and Vanderkooy 1992 [Lipshitz1992].
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ..picture import Plane

#: As near to a whole code as float arithmetic leaves what was one.
_WHOLE = np.float32(2e-3)


def dithered(planes: Mapping[str, Plane], bits: int, seed: int) -> dict[str, Plane]:
    """Code values with triangular noise of two codes' width, the same in R, G and B.

    Parameters
    ----------
    planes : ``(H, W)`` each, code values 0..1; not changed.
    bits : of the samples that they are rounded to afterwards.
    seed : the same seed gives the same noise.

    Returns
    -------
    The planes. Whole codes stay what they are: so do black, white, and where the alpha is 0 or 1.

    Examples
    --------
    >>> import numpy as np
    >>> flat = np.full((200, 200), 100.3 / 255, np.float32)
    >>> codes = np.rint(dithered({"Y": flat}, 8, 1)["Y"] * 255)
    >>> abs(float(codes.mean()) - 100.3) < 0.02, sorted(set(codes.ravel().astype(int).tolist()))
    (True, [99, 100, 101])
    """
    top = np.float32((1 << bits) - 1)
    shape = next(iter(planes.values())).shape
    noises = {alpha: _triangular(shape, seed, alpha) for alpha in {name == "A" for name in planes}}
    out = {}
    for name, plane in planes.items():
        scaled = plane * top
        whole = np.abs(scaled - np.rint(scaled)) < _WHOLE
        out[name] = np.where(whole, plane, (scaled + noises[name == "A"]) / top)
    return out


def _triangular(shape: tuple[int, ...], seed: int, alpha: bool) -> Plane:
    """From -1 to 1, most often about 0."""
    one, two = np.random.Generator(np.random.SFC64((seed, int(alpha)))).random((2, *shape), np.float32)
    return np.asarray(one - two, np.float32)
