"""Strips on the pool: every row once, errors come through, nesting does not wait for itself."""

import threading

import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.numeric.pool import for_strips


@given(st.integers(0, 5000), st.integers(0, 9000))
def test_every_row_is_done_once(height, width):
    lock, rows = threading.Lock(), []

    def work(first, end):
        with lock:
            rows.extend(range(first, end))

    for_strips(height, width, work)
    assert sorted(rows) == (list(range(height)) if width else [])


def test_the_first_error_comes_through_and_the_pool_lives_on():
    def broken(first, end):
        raise KeyError("strip")

    with pytest.raises(KeyError, match="strip"):
        for_strips(4000, 4000, broken)
    done = []
    for_strips(4000, 4000, lambda a, b: done.append(b - a))
    assert sum(done) == 4000


def test_strips_within_strips_end():
    lock, outer_rows, inner_rows = threading.Lock(), [], []

    def outer(first, end):
        counted = []
        for_strips(2000, 2000, lambda a, b: counted.append(b - a))
        with lock:
            outer_rows.append(end - first)
            inner_rows.append(sum(counted))

    for_strips(64, 200_000, outer)
    assert sum(outer_rows) == 64
    assert set(inner_rows) == {2000}
