"""How every kernel is compiled: once, without the interpreter lock, kept on disk.

Reassociation stays off, so that results do not depend on the vector width; contraction to fused
multiply-add is allowed.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import ParamSpec, TypeVar, cast

from numba import njit

P = ParamSpec("P")
R = TypeVar("R")


def kernel(function: Callable[..., None]) -> Callable[..., None]:
    """Compile a loop over 1-D float32 arrays; called from strips on the pool's threads."""
    return cast(
        Callable[..., None],
        njit(nogil=True, cache=True, error_model="numpy", fastmath={"contract", "nsz"})(function),
    )


def inline(function: Callable[P, R]) -> Callable[P, R]:
    """Compile a scalar function that is inlined into kernels."""
    return cast(Callable[P, R], njit(inline="always", nogil=True, error_model="numpy")(function))
