"""Some rows of arrays taken out and put back without the interpreter lock.

NumPy's indexing by arrays keeps the lock, so that threads would wait for each other.
"""

from __future__ import annotations

from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from .blocks import new_array
from .jit import kernel

Kind = TypeVar("Kind", bound=np.generic)


def taken(values: NDArray[Kind], rows: NDArray[np.integer[Any]]) -> NDArray[Kind]:
    """``values[rows]``: the rows of a first axis, by their numbers from 0."""
    out = new_array((len(rows), *values.shape[1:]), values.dtype)
    # "clip" is the one mode that writes to ``out`` directly; numbers are in range by contract
    np.take(values, rows, axis=0, out=out, mode="clip")
    return out


def spread_out(values: NDArray[np.float32], rows: NDArray[np.int64], count: int) -> NDArray[np.float32]:
    """An array of ``count`` rows, 0 but for the given ones."""
    whole = new_array((count, *values.shape[1:]), zero=True)
    if len(rows):
        put_rows(whole.reshape(count, -1), rows, values.reshape(len(rows), -1))
    return whole


@kernel
def put_rows(whole, rows, values):  # type: ignore[no-untyped-def]
    """``whole[rows] = values`` for two axes."""
    for i in range(rows.size):
        for k in range(values.shape[1]):
            whole[rows[i], k] = values[i, k]


@kernel
def add_rows(whole, rows, values):  # type: ignore[no-untyped-def]
    """``whole[rows] += values`` for two axes; no row comes twice."""
    for i in range(rows.size):
        for k in range(values.shape[1]):
            whole[rows[i], k] += values[i, k]
