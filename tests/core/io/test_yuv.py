"""Y'CbCr as it is written: the equations of ITU-R BT.709-6, items 3 and 4, in double precision."""

import numpy as np
import pytest
from neatveil.io.backends.yuv import from_rgb, to_rgb

KR, KG, KB = 0.2126, 0.7152, 0.0722


def halved_across(plane):
    """Level with the left pixel of two: ITU-T H.264, figure E-1, type 0."""
    wide = np.pad(plane, ((0, 0), (1, 1)), "edge")
    return ((wide[:, :-2] + 2 * wide[:, 1:-1] + wide[:, 2:]) / 4)[:, ::2]


def halved_down(plane):
    even = np.pad(plane, ((0, plane.shape[0] % 2), (0, 0)), "edge")
    return (even[::2] + even[1::2]) / 2


def expected(r, g, b, bits, step_x, step_y):
    unit = 1 << (bits - 8)
    y = KR * r + KG * g + KB * b
    chroma = [(b - y) / (2 * (1 - KB)), (r - y) / (2 * (1 - KR))]
    if step_x == 2:
        chroma = [halved_across(c) for c in chroma]
    if step_y == 2:
        chroma = [halved_down(c) for c in chroma]
    return [y * 219 * unit + 16 * unit, *(c * 224 * unit + 128 * unit for c in chroma)]


def written(planes, bits, step_x, step_y):
    height, width = planes[0].shape
    kind = np.uint8 if bits <= 8 else np.uint16
    small = (-(-height // step_y), -(-width // step_x))
    out = [np.zeros(shape, kind) for shape in ((height, width), small, small)]
    from_rgb(*planes, bits, "bt709", False, *out)
    return out


@pytest.mark.parametrize("bits", [8, 10, 12])
@pytest.mark.parametrize(("step_x", "step_y"), [(1, 1), (2, 1), (2, 2)], ids=["4:4:4", "4:2:2", "4:2:0"])
@pytest.mark.parametrize("size", [(1, 1), (2, 2), (31, 47), (96, 200)], ids=str)
def test_each_sample_is_rounded_once(bits, step_x, step_y, size):
    rng = np.random.default_rng(5)
    planes = [rng.random(size, np.float32) for _ in range(3)]
    truth = expected(*(p.astype(np.float64) for p in planes), bits, step_x, step_y)
    for got, wanted in zip(written(planes, bits, step_x, step_y), truth, strict=True):
        assert got.shape == wanted.shape
        assert np.abs(got - wanted).max() < 0.505


@pytest.mark.parametrize(("step_x", "step_y"), [(2, 1), (2, 2)], ids=["4:2:2", "4:2:0"])
def test_colour_comes_back_where_it_was(step_x, step_y):
    """A ramp across and down: chroma a quarter of a pixel off would shift it by a code of eight bits."""
    y, x = np.mgrid[:64, :96].astype(np.float32)
    planes = [np.float32(0.2) + x / 200, np.float32(0.7) - y / 200, np.float32(0.1) + (x + y) / 300]
    back = to_rgb(*written(planes, 10, step_x, step_y), 10, "bt709", False)
    inside = np.s_[2:-2, 2:-2]
    for got, given in zip(back, planes, strict=True):
        assert np.abs(got - given)[inside].max() < 1.6 / 876
