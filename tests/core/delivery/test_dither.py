"""Dither: what the theory of triangular noise says of mean, variance and spectrum [Lipshitz1992]."""

from fractions import Fraction

import numpy as np
import pytest
from core.pictures import picture
from neatveil.delivery import DeliveryForm, Target, format_of, prove, write_frames
from neatveil.delivery.dither import dithered
from neatveil.io import LocalDecoder
from PIL import Image

SHAPE = (400, 500)


def codes_of(value, bits=8, seed=1):
    top = (1 << bits) - 1
    planes = {"Y": np.full(SHAPE, value / top, np.float32)}
    return np.rint(dithered(planes, bits, seed)["Y"] * top)


@pytest.mark.parametrize("bits", [8, 10])
@pytest.mark.parametrize("part", [0.05, 0.25, 0.5, 0.75, 0.95])
def test_mean_and_variance_do_not_depend_on_the_value(part, bits):
    """The mean is the value, the error's variance a quarter of a code's square, whatever the value."""
    codes = codes_of(100 + part, bits)
    assert codes.mean() == pytest.approx(100 + part, abs=4 * 0.5 / np.sqrt(codes.size))
    assert ((codes - 100 - part) ** 2).mean() == pytest.approx(0.25, rel=0.02)


def test_the_noise_is_white():
    error = codes_of(100.3) - 100.3
    power = np.abs(np.fft.rfft2(error)) ** 2 / error.size
    power[0, 0] = 0.25
    rings = [power[:, a : a + 50].mean() for a in range(0, 250, 50)]
    np.testing.assert_allclose(rings, 0.25, rtol=0.04)


def test_whole_codes_stay_and_grey_stays_grey():
    ramp = np.tile(np.linspace(0, 1, 256, dtype=np.float32), (20, 1))
    got = dithered({"R": ramp, "G": ramp, "B": ramp, "A": ramp}, 8, 3)
    np.testing.assert_array_equal(np.rint(got["A"] * 255), np.rint(ramp * 255))
    fine = np.tile(np.linspace(0, 1, 1000, dtype=np.float32), (20, 1))
    grey = dithered({"R": fine, "G": fine, "B": fine}, 8, 3)
    np.testing.assert_array_equal(grey["R"], grey["B"])


@pytest.mark.parametrize(("dither", "alike"), [("none", True), ("stable", True), ("moving", False)])
def test_a_dithered_delivery_is_proved_and_shows_no_bands(dither, alike, tmp_path):
    """A gradient over five codes, smoothed as the eye does: nearer to the truth than rounded codes."""
    light = np.empty((64, 512, 4), np.float32)
    light[..., :3] = np.linspace(0.030, 0.036, 512, dtype=np.float32)[None, :, None]
    light[..., 3] = 1
    made = format_of(DeliveryForm(codec="png8", dither=dither))
    target = Target(tmp_path / "g.####.png")
    write_frames(lambda n: picture(light), made, target, [1, 2])
    proof = prove(lambda n: picture(light), LocalDecoder(), made, target, [1, 2], Fraction(25))
    assert proof.good, proof.problems
    first, second = (np.asarray(Image.open(target.frame_path(n)), float) for n in (1, 2))
    assert np.array_equal(first, second) is alike
    assert (first[..., 3] == 255).all()
    truth = 255 * (1.055 * light[0, :, 0] ** (1 / 2.4) - 0.055)  # IEC 61966-2-1
    seen = np.convolve(first[..., 0].mean(axis=0), np.ones(9) / 9, "valid")
    off = np.sqrt(((seen - truth[4:-4]) ** 2).mean())
    assert off > 0.2 if dither == "none" else off < 0.06
