"""The loops of an incomplete factor: see `factor`."""

# mypy: disable-error-code="no-untyped-def,misc,call-arg,var-annotated,assignment"

from __future__ import annotations

import numpy as np

from ..numeric.jit import kernel

#: How the making of columns ended.
DONE, NOT_POSITIVE, FULL = 0, 1, 2


@kernel
def sort(places, count):
    """By insertion: a few dozen, most of them in order."""
    for n in range(1, count):
        here, m = places[n], n - 1
        while m >= 0 and places[m] > here:
            places[m + 1] = places[m]
            m -= 1
        places[m + 1] = here


@kernel
def columns(
    first, stop, data, indices, starts, values, rows, begin, end, following, at, room, diagonal, chain,
    threshold, state,
):  # fmt: skip
    """Columns ``first`` to ``stop`` of the factor, kept from ``at`` to ``room``; ``state``: how it went.

    ``chain``: at a row the first of the columns whose next value lies in it, at a column the next such; -1:
    none. ``following``: of a column, where that value is. ``diagonal``: what is on it so far.
    """
    size = len(begin)
    column, filled = np.zeros(size), np.zeros(size, np.bool_)
    places = np.empty(size, np.int32)
    for j in range(first, stop):
        count = 0
        for index in range(starts[j], starts[j + 1]):
            i = indices[index]
            if i == j:
                diagonal[j] += data[index]
            elif i > j:
                column[i] = data[index]
                filled[i] = True
                places[count] = i
                count += 1
        k = chain[j]
        while k != -1:
            index, stop_k, next_k = following[k], end[k], chain[k]
            share = np.float64(values[index])
            index += 1
            if index < stop_k:
                following[k] = index
                i = rows[index]
                chain[k] = chain[i]
                chain[i] = k
                for n in range(index, stop_k):
                    i = rows[n]
                    column[i] -= share * values[n]
                    if not filled[i]:
                        filled[i] = True
                        places[count] = i
                        count += 1
            k = next_k
        if not diagonal[j] > 0:
            state[0] = NOT_POSITIVE
            return
        if at + 1 + count > room:
            state[0] = FULL
            return
        root = np.sqrt(diagonal[j])
        begin[j] = at
        values[at], rows[at] = root, j
        at += 1
        sort(places, count)
        for n in range(count):
            i = places[n]
            value = column[i] / root
            diagonal[i] -= value * value  # what is left out counts there too
            if abs(value) > threshold:
                values[at], rows[at] = value, i
                at += 1
            column[i], filled[i] = 0.0, False
        end[j] = at
        if begin[j] + 1 < at:
            following[j] = begin[j] + 1
            i = rows[begin[j] + 1]
            chain[j] = chain[i]
            chain[i] = j
    state[0] = DONE


@kernel
def join(chain, other, first):
    """The chains of the rows from ``first`` on, another band's behind those of the bands before it."""
    for j in range(first):
        if other[j] != -1:
            chain[j] = other[j]
    for i in range(first, len(chain)):
        if other[i] == -1:
            continue
        if chain[i] == -1:
            chain[i] = other[i]
            continue
        k = chain[i]
        while chain[k] != -1:
            k = chain[k]
        chain[k] = other[i]


@kernel
def forth(first, stop, values, rows, begin, end, x, border, last):
    """L y = x for some columns; what they take from the rows from ``last`` on goes to ``border``."""
    for j in range(first, stop):
        at, until = begin[j], end[j]
        found = x[j] / values[at]
        x[j] = found
        while until > at + 1 and rows[until - 1] >= last:
            until -= 1
            border[rows[until] - last] -= values[until] * found
        for n in range(at + 1, until):
            x[rows[n]] -= values[n] * found


@kernel
def back(first, stop, values, rows, begin, end, x):
    """Lᵀ y = x for some columns."""
    for j in range(stop - 1, first - 1, -1):
        at = begin[j]
        found = x[j]
        for n in range(at + 1, end[j]):
            found -= values[n] * x[rows[n]]
        x[j] = found / values[at]
