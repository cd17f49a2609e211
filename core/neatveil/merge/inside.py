"""Stacking pictures inside one alpha that they have in common.

Merged one after another, pictures that all carry the same alpha a get ``1 - (1 - a)^n``, and a multiply
leaves the part ``1 - a`` of what is behind it unmultiplied: a light line round the edge. Inside an alpha A
that is given, each picture counts by the share of A that it covers: colour ``C / max(a, A)``, coverage
``a / max(a, A)``. Where a = A it is opaque, so that a blend mode acts on it in full. The stack is then
multiplied by A. What lies beyond A is cut; light at alpha 0 is kept.
"""

# mypy: disable-error-code="no-untyped-def"

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import NamedTuple

import numpy as np

from ..numeric.jit import inline, kernel
from ..numeric.pool import for_strips
from ..numeric.scratch import scratch_planes
from ..picture import RGB, RGBA, Plane
from .blend import multiplied
from .coverage import laid_onto

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


class Rows(NamedTuple):
    """Part of a picture: whole contiguous planes R, G, B, A, and its first row and column in them."""

    planes: tuple[Plane, Plane, Plane, Plane]
    y: int
    x: int


def merge_inside(
    name: str, front: Rows, back: Rows, alpha: Plane, shape: tuple[int, int], mix: float
) -> None:
    """A picture as its share of an alpha, merged in place by an operator of `FUSED`.

    The same as `inside_alpha` and then `merge_planes`, in one loop: what passes are stacked with most.

    Parameters
    ----------
    front : not changed.
    back : changed.
    alpha : of the stack, over the planes of ``back``, shifted with it.
    shape : rows and columns.
    mix : as of `merge_planes`.
    """
    FUSED[name](*front.planes, alpha, *back.planes, front.y, front.x, back.y, back.x, *shape, np.float32(mix))


@inline
def _share(a, alpha):
    """By what a pixel's colour and coverage are multiplied."""
    zero, one, least = np.float32(0), np.float32(1), np.float32(_LEAST)
    whole = max(a, alpha)
    kept = zero if alpha <= zero and a > zero else one
    return kept / (max(whole, least) if whole > zero else one)


@kernel
def _share_of(a, alpha, share, covered):
    """By what a row's colour is multiplied, and its coverage then."""
    for i in range(a.size):
        share[i] = _share(a[i], alpha[i])
        covered[i] = a[i] * share[i]


@kernel
def _added(f, share, out, mix):
    for i in range(f.size):
        out[i] = mix * (f[i] * share[i] + out[i]) + (np.float32(1) - mix) * out[i]


@kernel
def _multiplied(f, share, covered, ba, out, mix):
    for i in range(f.size):
        out[i] = multiplied(f[i] * share[i], covered[i], out[i], ba[i], mix)


@kernel
def _added_alpha(covered, ba, mix):
    one = np.float32(1)
    for i in range(ba.size):
        ba[i] = mix * min(covered[i] + ba[i], one) + (one - mix) * ba[i]


@kernel
def _plus_inside(fr, fg, fb, fa, alpha, r, g, b, a, fy, fx, y0, x0, height, width, mix):
    share, covered = np.empty(width, np.float32), np.empty(width, np.float32)
    for y in range(height):
        part, own = slice(x0, x0 + width), slice(fx, fx + width)
        _share_of(fa[fy + y][own], alpha[y0 + y][part], share, covered)
        _added(fr[fy + y][own], share, r[y0 + y][part], mix)
        _added(fg[fy + y][own], share, g[y0 + y][part], mix)
        _added(fb[fy + y][own], share, b[y0 + y][part], mix)
        _added_alpha(covered, a[y0 + y][part], mix)


@kernel
def _multiply_inside(fr, fg, fb, fa, alpha, r, g, b, a, fy, fx, y0, x0, height, width, mix):
    share, covered = np.empty(width, np.float32), np.empty(width, np.float32)
    for y in range(height):
        part, own = slice(x0, x0 + width), slice(fx, fx + width)
        _share_of(fa[fy + y][own], alpha[y0 + y][part], share, covered)
        ba = a[y0 + y][part]
        _multiplied(fr[fy + y][own], share, covered, ba, r[y0 + y][part], mix)
        _multiplied(fg[fy + y][own], share, covered, ba, g[y0 + y][part], mix)
        _multiplied(fb[fy + y][own], share, covered, ba, b[y0 + y][part], mix)
        laid_onto(covered, covered, ba, mix)


#: Operators that passes are stacked with most, each with its loop.
FUSED: dict[str, Callable[..., None]] = {"plus": _plus_inside, "multiply": _multiply_inside}


@kernel
def _shares(r, g, b, a, alpha, out_r, out_g, out_b, out_a):
    for i in range(r.size):
        share = _share(a[i], alpha[i])
        out_r[i] = r[i] * share
        out_g[i] = g[i] * share
        out_b[i] = b[i] * share
        out_a[i] = a[i] * share
