"""Weighted sums of three values, such as a row of a colour matrix or luma."""

from __future__ import annotations

from .jit import kernel


@kernel
def weighed(r, g, b, out, wr, wg, wb):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = wr * r[i] + wg * g[i] + wb * b[i]
