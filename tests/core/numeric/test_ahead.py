"""Results come in order, as far ahead as there are threads, and nothing goes on once nobody wants them."""

import threading
import time

import pytest
from neatveil.errors import Cancelled
from neatveil.numeric.ahead import ahead, unless


def test_results_come_in_order_however_long_each_takes():
    def work(n):
        time.sleep(0.02 if n % 3 == 0 else 0)
        return n * n

    assert list(ahead(work, range(20), 4)) == [n * n for n in range(20)]


def test_no_more_is_begun_than_threads_ahead_of_the_taker():
    begun = []
    rows = ahead(lambda n: begun.append(n) or n, range(100), 2)
    assert next(rows) == 0
    time.sleep(0.1)
    assert len(begun) <= 4, "memory for a few frames, however long the range"
    rows.close()


def test_an_error_comes_where_its_result_would_and_ends_the_rest():
    seen = []

    def work(n):
        seen.append(n)
        if n == 3:
            raise ValueError("frame 3")
        return n

    rows = ahead(work, range(1000), 2)
    assert [next(rows) for _ in range(3)] == [0, 1, 2]
    with pytest.raises(ValueError, match="frame 3"):
        next(rows)
    assert len(seen) < 10


def test_whoever_stops_taking_waits_for_what_runs_and_for_nothing_else():
    running, done = threading.Event(), []

    def work(n):
        running.set()
        time.sleep(0.05)
        done.append(n)
        return n

    rows = ahead(work, range(50), 2)
    next(rows)
    rows.close()
    count = len(done)
    assert count < 8
    time.sleep(0.15)
    assert len(done) == count, "no thread is left behind"


def test_cancelled_is_asked_before_each():
    asked = []

    def cancelled():
        asked.append(None)
        return len(asked) > 3

    rows = unless(cancelled, range(10), "given up")
    assert [next(rows) for _ in range(3)] == [0, 1, 2]
    with pytest.raises(Cancelled, match="given up"):
        next(rows)
    assert list(unless(None, range(3), "")) == [0, 1, 2]
