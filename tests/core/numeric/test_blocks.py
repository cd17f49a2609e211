"""Memory that is handed out again: never to two at once, zero where zero is asked for."""

import gc
import threading

import numpy as np
from neatveil.numeric.blocks import SMALL, Blocks, new_array

SHAPE = (4, 300, 400)


def address(array):
    return array.__array_interface__["data"][0]


def test_used_memory_comes_again():
    blocks = Blocks()
    first = blocks.array(SHAPE)
    at = address(first)
    del first
    assert address(blocks.array(SHAPE)) == at


def test_a_view_keeps_its_memory():
    blocks = Blocks()
    view = blocks.array(SHAPE)[2, 5:9].T
    view[:] = 3
    gc.collect()
    others = [blocks.array(SHAPE) for _ in range(4)]
    for other in others:
        other[:] = 9
    assert (view == 3).all()


def test_zero_is_zero_in_used_memory():
    blocks = Blocks()
    blocks.array(SHAPE)[:] = 5
    assert not blocks.array(SHAPE, zero=True).any()


def test_nearly_equal_sizes_share_and_the_rest_is_kept_within_bounds():
    blocks = Blocks(keep=4 << 20)
    for size in range(300, 340):
        blocks.array((4, size, size))
    assert len(blocks._free) + len(blocks._returned) < 10
    for _ in range(3):
        held = [blocks.array((1 << 20,)) for _ in range(5)]
        del held
    blocks.array(SHAPE)
    assert sum(len(b) for b in blocks._free) <= 4 << 20


def test_small_and_empty_arrays():
    assert new_array((3, 0)).shape == (3, 0)
    assert new_array((SMALL,), np.uint8, zero=True).sum() == 0
    assert new_array((2, 5), np.uint16).dtype == np.uint16


def test_many_threads_never_share():
    blocks, wrong = Blocks(), []

    def work(number):
        for _ in range(60):
            mine = blocks.array(SHAPE)
            mine[:] = number
            if not (mine == number).all():
                wrong.append(number)

    threads = [threading.Thread(target=work, args=(n,)) for n in range(6)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    assert wrong == []
