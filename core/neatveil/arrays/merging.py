"""Two pictures put together by an operator."""

from __future__ import annotations

import numpy as np

from ..errors import ValueRefused
from ..merge.coverage import over_interleaved
from ..merge.operators import OPERATORS, Operator, merge_values, operator_named
from ..numeric.pool import for_strips
from ._given import Array, rgba_of


def operators() -> dict[str, Operator]:
    """Every operator by its name, with its family and a line on what it does.

    Returns
    -------
    A new dictionary.

    Notes
    -----
    Source: Porter & Duff 1984 [PorterDuff1984]; W3C Compositing and Blending Level 1 [W3CCompositing].

    Examples
    --------
    >>> operators()["over"].family
    'coverage'
    """
    return dict(OPERATORS)


def merge(operator: str, front: Array, back: Array, mix: float = 1.0, *, out: Array | None = None) -> Array:
    """Let the front meet the back by an operator.

    Parameters
    ----------
    operator : a name in `operators`.
    front, back : ``(H, W, 4)`` R, G, B, A, premultiplied over black; alpha 0..1.
    mix : 0 returns the back, 1 the operator in full; linear between, which for ``over`` and the blend modes
        is the same as the front's opacity.
    out : contiguous float32 of the same shape that takes the result, so that no memory is asked for.

    Returns
    -------
    ``(H, W, 4)``, premultiplied over black; colour not clamped, alpha 0..1.

    Raises
    ------
    ValueRefused
        Not floating point, or of shapes that differ.
    NameUnknown
        There is no such operator.

    Notes
    -----
    Source: Porter & Duff 1984 [PorterDuff1984]; W3C Compositing and Blending Level 1 [W3CCompositing].

    Examples
    --------
    >>> f = np.array([[[0.5, 0, 0, 0.5]]], np.float32); b = np.ones((1, 1, 4), np.float32)
    >>> merge("over", f, b).ravel().tolist()
    [1.0, 0.5, 0.5, 1.0]
    """
    operator_named(operator)
    f, b = rgba_of(front, "front"), rgba_of(back, "back")
    if f.shape != b.shape:
        raise ValueRefused(f"front is {f.shape} and back is {b.shape}; expected the same shape.")
    if out is None:
        out = np.empty_like(f)
    elif out.shape != f.shape or out.dtype != np.float32 or not out.flags.c_contiguous:
        raise ValueRefused(f"out is {out.dtype} {out.shape}; expected contiguous float32 {f.shape}.")
    if not f.size:
        return out
    target = out

    def strip(y0: int, y1: int) -> None:
        if operator == "over":
            over_interleaved(
                f[y0:y1].reshape(-1), b[y0:y1].reshape(-1), target[y0:y1].reshape(-1), np.float32(mix)
            )
        else:
            target[y0:y1] = merge_values(operator, f[y0:y1], b[y0:y1], mix)

    # `over` is bound by the memory, not the cache: few large strips cost the least beside it
    share = 0.25 if operator == "over" else 4
    for_strips(f.shape[0], max(1, int(f.shape[1] * share)), strip)
    return out
