"""Stacking pictures inside one alpha that they have in common.

Merged one after another, pictures that all carry the same alpha a get ``1 - (1 - a)^n``, and a multiply
leaves the part ``1 - a`` of what is behind it unmultiplied: a light line round the edge. Inside an alpha A
that is given, each picture counts by the share of A that it covers: colour ``C / max(a, A)``, coverage
``a / max(a, A)``. Where a = A it is opaque, so that a blend mode acts on it in full. The stack is then
multiplied by A. What lies beyond A is cut; light at alpha 0 is kept.
"""

# mypy: disable-error-code="no-untyped-def"

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..numeric.scratch import scratch_planes
from ..picture import RGB, RGBA, Plane

#: Coverage below this counts as this much: one over less of it is not a number of float32.
_LEAST = 1e-37


def inside_alpha(front: Mapping[str, Plane], alpha: Plane) -> dict[str, Plane]:
    """A picture as its share of an alpha.

    Parameters
    ----------
    front : R, G, B, A as ``(H, W)``, scene-linear, premultiplied over black; not changed.
    alpha : ``(H, W)``, the alpha of the stack.

    Returns
    -------
    R, G, B, A, premultiplied by the share; scratch planes of this thread.

    Examples
    --------
    >>> half = {n: np.full((1, 1), 0.5, np.float32) for n in "RGBA"}
    >>> inside_alpha(half, half["A"])["A"].tolist()
    [[1.0]]
    """
    shape = front["A"].shape
    planes = scratch_planes("inside an alpha", front["A"].size)
    flat = [np.ascontiguousarray(front[n]).reshape(-1) for n in RGBA]
    _shares(*flat, np.ascontiguousarray(alpha).reshape(-1), *planes)
    return {n: p.reshape(shape) for n, p in zip(RGBA, planes, strict=True)}


def with_alpha(planes: Mapping[str, Plane], alpha: Plane) -> None:
    """A stack of shares multiplied by their alpha, in place; A becomes the alpha itself."""
    height, width = alpha.shape

    def strip(y0: int, y1: int) -> None:
        a = alpha[y0:y1]
        times = np.where(a > 0, a, np.float32(1))
        for n in RGB:
            planes[n][y0:y1] *= times
        planes["A"][y0:y1] = a

    for_strips(height, width, strip)


@kernel
def _shares(r, g, b, a, alpha, out_r, out_g, out_b, out_a):
    zero, one, least = np.float32(0), np.float32(1), np.float32(_LEAST)
    for i in range(r.size):
        whole = max(a[i], alpha[i])
        kept = zero if alpha[i] <= zero and a[i] > zero else one
        share = kept / (max(whole, least) if whole > zero else one)
        out_r[i] = r[i] * share
        out_g[i] = g[i] * share
        out_b[i] = b[i] * share
        out_a[i] = a[i] * share
