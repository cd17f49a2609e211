"""The Porter-Duff operators: what is kept of the front and of the back by their coverage.

``result = front * Fa + back * Fb`` on all four premultiplied channels, where the fractions are
linear in the other picture's alpha. ``plus`` is the sum: its colour may pass 1, its alpha, which is
coverage, ends at 1.

Source: Porter & Duff 1984, table in section 4 [PorterDuff1984]; the names follow W3C Compositing
and Blending Level 1, section 9 [W3CCompositing] (``dest-`` for its ``destination-``).
"""

from __future__ import annotations

import numpy as np

from ..numeric.jit import kernel

#: name -> (Fa constant, Fa times back alpha, Fb constant, Fb times front alpha, what it does)
COVERAGE: dict[str, tuple[int, int, int, int, str]] = {
    "clear": (0, 0, 0, 0, "nothing is kept"),
    "copy": (1, 0, 0, 0, "the front alone"),
    "dest": (0, 0, 1, 0, "the back alone"),
    "over": (1, 0, 1, -1, "the front laid over the back"),
    "dest-over": (1, -1, 1, 0, "the back laid over the front"),
    "in": (0, 1, 0, 0, "the front where the back is"),
    "dest-in": (0, 0, 0, 1, "the back where the front is"),
    "out": (1, -1, 0, 0, "the front where the back is not"),
    "dest-out": (0, 0, 1, -1, "the back where the front is not"),
    "atop": (0, 1, 1, -1, "the front over the back, only where the back is"),
    "dest-atop": (1, -1, 0, 1, "the back over the front, only where the front is"),
    "xor": (1, -1, 1, -1, "each where the other is not"),
    "plus": (1, 0, 1, 0, "the sum of both, alpha at most 1"),
}


@kernel
def coverage_plane(f, fa, b, ba, out, ca, cb, da, db, mix):  # type: ignore[no-untyped-def]
    """One channel: ``mix * (f*(ca + cb*ba) + b*(da + db*fa)) + (1-mix) * b``."""
    keep = np.float32(1) - mix
    for i in range(f.size):
        r = f[i] * (ca + cb * ba[i]) + b[i] * (da + db * fa[i])
        out[i] = mix * r + keep * b[i]


@kernel
def limited(fa, ba, out, mix):  # type: ignore[no-untyped-def]
    """The alpha of ``plus``: ``mix * min(fa + ba, 1) + (1 - mix) * ba``."""
    one = np.float32(1)
    for i in range(out.size):
        both = fa[i] + ba[i]
        out[i] = mix * (one if both > one else both) + (one - mix) * ba[i]


@kernel
def _over(f, fa, b, out, mix):  # type: ignore[no-untyped-def]
    for i in range(f.size):
        out[i] = f[i] * mix + b[i] * (np.float32(1) - fa[i] * mix)


@kernel
def laid_onto(f, fa, out, mix):  # type: ignore[no-untyped-def]
    """As `_over` where the back is what is written: said so, it vectorises."""
    for i in range(f.size):
        out[i] = f[i] * mix + out[i] * (np.float32(1) - fa[i] * mix)


@kernel
def over_rows(front, alpha, back, out, mix, x0, onto):  # type: ignore[no-untyped-def]
    """``over`` on one plane by rows, the front from column x0 on; ``onto``: ``out`` is ``back``."""
    for y in range(front.shape[0]):
        f = front[y]
        part = slice(x0, x0 + f.size)
        if onto:
            laid_onto(f, alpha[y], out[y, part], mix)
        else:
            _over(f, alpha[y], back[y, part], out[y, part], mix)


@kernel
def over_interleaved(front, back, out, mix):  # type: ignore[no-untyped-def]
    """``over`` on flat R, G, B, A, R, G, B, A ... arrays."""
    one = np.float32(1)
    for p in range(front.size // 4):
        i = p * 4
        k = one - front[i + 3] * mix
        out[i] = front[i] * mix + back[i] * k
        out[i + 1] = front[i + 1] * mix + back[i + 1] * k
        out[i + 2] = front[i + 2] * mix + back[i + 2] * k
        out[i + 3] = front[i + 3] * mix + back[i + 3] * k
