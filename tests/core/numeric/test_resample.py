"""Resampling: ramps stay ramps, places are exact, and the kernels are the published ones."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.numeric.resample import TAPS, resample, weight_table
from neatveil.steps.warp import warped

FILTERS = ["linear", "cubic", "lanczos"]


def shifted(dx, dy=0.0):
    return np.array([[1, 0, dx], [0, 1, dy], [0, 0, 1]], float)


@given(st.sampled_from(FILTERS), st.floats(0, 1), st.floats(0, 1), st.sampled_from([1, 3, 4]))
def test_a_ramp_stays_a_ramp_at_every_place(name, dx, dy, channels):
    y, x = np.mgrid[:24, :32].astype(np.float32)
    ramp = 0.25 * x - 0.125 * y + 3
    pixels = ramp if channels == 1 else np.dstack([ramp] * channels)
    got = warped(np.ascontiguousarray(pixels), shifted(dx, dy), (32, 24), name)
    expected = pixels + np.float32(0.25 * dx - 0.125 * dy)
    np.testing.assert_allclose(got[4:-4, 4:-4], expected[4:-4, 4:-4], atol=4e-6)


@pytest.mark.parametrize("name", ["cubic", "lanczos"])
def test_weights_have_a_sum_of_1_and_the_place_as_their_middle(name):
    table = weight_table(name).astype(float)
    share = np.arange(len(table)) / (len(table) - 1)
    places = np.arange(TAPS[name]) - (TAPS[name] // 2 - 1)
    np.testing.assert_allclose(table.sum(1), 1, atol=2e-7)
    np.testing.assert_allclose(table @ places, share, atol=4e-7)


def test_cubic_is_catmull_rom_which_is_exact_for_parabolas():
    """Keys 1981: of the cubic convolutions a = -1/2 alone reproduces second-order polynomials."""
    x = np.arange(40, dtype=np.float32)
    curve = np.tile(0.01 * (x - 17) ** 2, (6, 1))
    got = warped(curve, shifted(0.3125), (40, 6), "cubic")
    np.testing.assert_allclose(got[3, 3:-3], 0.01 * (x[3:-3] + 0.3125 - 17) ** 2, atol=2e-6)


def test_lanczos_is_near_the_windowed_sinc():
    """Duchon 1979; the plain weights, brought to a sum of 1, miss the place by up to 0.012 pixels."""
    share = np.arange(2049)[:, None] / 2048
    away = np.arange(6)[None, :] - 2 - share
    plain = np.sinc(away) * np.sinc(away / 3) * (np.abs(away) < 3)
    assert np.abs(weight_table("lanczos") - plain).max() < 0.008


def slow(pixels, back, size, name):
    """Every value by its own sum of weights, in double precision."""
    height, width = pixels.shape[:2]
    out = np.zeros((size[1], size[0], pixels.shape[2]))
    for y in range(size[1]):
        for x in range(size[0]):
            u, v, w = back @ (x, y, 1)
            if w <= 0:
                continue
            u, v = u / w, v / w
            for j in range(int(np.floor(v)) - 2, int(np.floor(v)) + 4):
                for i in range(int(np.floor(u)) - 2, int(np.floor(u)) + 4):
                    if 0 <= i < width and 0 <= j < height:
                        out[y, x] += keys(u - i) * keys(v - j) * pixels[j, i]
    return out


def keys(t):
    """The piecewise cubic of Keys 1981, equation 15."""
    t = abs(t)
    if t < 1:
        return 1.5 * t**3 - 2.5 * t**2 + 1
    return -0.5 * t**3 + 2.5 * t**2 - 4 * t + 2 if t < 2 else 0.0


@pytest.mark.parametrize("channels", [1, 4])
@given(
    st.floats(-180, 180), st.floats(0.3, 3), st.floats(-9, 9), st.floats(-9, 9),
    st.sampled_from([0.0, 0.004, -0.01]), st.integers(1, 12), st.integers(1, 12),
)  # fmt: skip
def test_any_place_against_a_plain_sum_borders_included(channels, turn, scale, dx, dy, tilt, width, height):
    angle = np.radians(turn)
    c, s = np.cos(angle) * scale, np.sin(angle) * scale
    back = np.array([[c, -s, dx], [s, c, dy], [tilt, 0, 1]])
    pixels = np.random.default_rng(3).random((height, width, channels)).astype(np.float32)
    out = np.empty((7, 9, channels), np.float32)
    resample(pixels, back, out, "cubic")
    np.testing.assert_allclose(out, slow(pixels, back, (9, 7), "cubic"), atol=2e-5)
