"""The channel board: figures of regions that are known, order, proposed levels; bad regions."""

import numpy as np
import pytest
import scipy.stats
from core.mattes.shots import light_of
from neatveil.errors import ValueRefused
from neatveil.mattes.board import board
from neatveil.mattes.channel import ChannelPart
from neatveil.picture import Box

STAY, GO = Box(2, 2, 40, 58), Box(44, 2, 78, 58)


def planes(left, right, noise=0.01):
    """Codes of two halves, with noise."""
    rng = np.random.default_rng(4)
    codes = np.empty((60, 80, 3), np.float32)
    codes[:, :42], codes[:, 42:] = left, right
    codes = np.clip(codes + rng.normal(0, noise, codes.shape), 0, 1).astype(np.float32)
    return light_of(codes)


def found(given, stay=(STAY,), go=(GO,)):
    return {c.channel: c for c in board(given, given, stay, go)}


def test_contrast_and_noise_of_each_channel():
    got = found(planes((0.2, 0.5, 0.1), (0.3, 0.5, 0.8), noise=0.02))
    assert got["blue"].contrast == pytest.approx(0.7, abs=0.005)
    assert got["red"].contrast == pytest.approx(0.1, abs=0.005)
    assert got["green"].contrast == pytest.approx(0, abs=0.005)
    assert got["blue"].noise == pytest.approx(0.02, abs=0.002)
    assert got["red-blue"].noise == pytest.approx(0.02 * np.sqrt(2), abs=0.003)


def test_the_overlap_is_that_of_two_normal_curves():
    """Common share of two normal curves of one spread, d spreads apart: 2 Phi(-d / 2)."""
    got = found(planes((0.4, 0.4, 0.4), (0.45, 0.4, 0.4), noise=0.05))
    assert got["red"].overlap == pytest.approx(2 * scipy.stats.norm.cdf(-0.5), abs=0.06)
    assert got["green"].overlap > 0.8


def test_under_a_blue_sky_blue_is_best_and_the_reeds_are_kept_inverted():
    """With a blue sky the channel is often blue (common practice, no source)."""
    got = board(*[planes((0.25, 0.24, 0.12), (0.45, 0.55, 0.85), noise=0.03)] * 2, [STAY], [GO])
    assert got[0].channel in {"blue", "max", "lightness", "luma", "min", "red-blue", "green-blue"}
    rank = [c.channel for c in got]
    assert rank.index("blue") < rank.index("red")
    blue = found(planes((0.25, 0.24, 0.12), (0.45, 0.55, 0.85), noise=0.03))["blue"]
    assert blue.inverted


def test_the_proposed_levels_crush_to_black_and_white():
    given = planes((0.25, 0.24, 0.12), (0.45, 0.55, 0.85), noise=0.03)
    best = board(given, given, [STAY], [GO])[0]
    part = ChannelPart(channel=best.channel, low=best.low, high=best.high, inverted=best.inverted)
    from neatveil.evaluate.matting import part_matte
    from neatveil.mattes import Rows

    matte = part_matte(part, Rows(given))
    assert np.mean(matte[:, 2:40] == 1) > 0.95
    assert np.mean(matte[:, 44:] == 0) > 0.95


def test_a_box_over_a_stalk_may_hold_some_of_the_sky():
    """What looks like the other region is left out of this one."""
    given = planes((0.25, 0.24, 0.12), (0.45, 0.55, 0.85), noise=0.02)
    clean = board(given, given, [STAY], [GO])[0]
    mixed = board(given, given, [Box(30, 10, 60, 50)], [GO])[0]
    assert mixed.channel == clean.channel
    assert mixed.contrast == pytest.approx(clean.contrast, abs=0.01)
    assert (mixed.low, mixed.high) == pytest.approx((clean.low, clean.high), abs=0.02)


def test_further_channels_are_candidates():
    given = planes((0.3, 0.3, 0.3), (0.3, 0.3, 0.3))
    given["depth.Z"] = np.where(np.arange(80) < 42, 4.0, 90.0)[None].repeat(60, 0).astype(np.float32)
    assert board(given, given, [STAY], [GO])[0].channel == "depth.Z"


def test_numbers_that_are_none_are_left_out():
    given = planes((0.2, 0.5, 0.1), (0.3, 0.5, 0.8))
    given["depth.Z"] = np.full((60, 80), np.nan, np.float32)
    got = found(given)
    assert got["depth.Z"].overlap == 1
    assert np.isfinite([c.contrast for c in got.values()]).all()


@pytest.mark.parametrize(("stay", "go", "told"), [
    ([], [GO], "Nothing is marked of what stays"),
    ([STAY], [Box(0, 0, 1, 1)], "Nothing is marked of what goes"),
    ([Box(0, 0, 80, 60)], [GO], "whole picture is marked as what stays"), ([STAY], [STAY], "same place"),
    ([STAY], [Box(300, 300, 400, 400)], "Nothing is marked of what goes"),
])  # fmt: skip
def test_regions_that_tell_nothing_are_refused(stay, go, told):
    given = planes((0.2, 0.5, 0.1), (0.3, 0.5, 0.8))
    with pytest.raises(ValueRefused, match=told):
        board(given, given, stay, go)


@pytest.mark.parametrize("subsampling", [0, 2], ids=["4:4:4", "4:2:0"])
@pytest.mark.parametrize("quality", [30, 60, 85, 95])
def test_on_a_jpeg_the_noisy_and_blocky_hue_is_not_the_best(quality, subsampling):
    """A grey-blue thing before a grey-green wall: their hues lie apart, in blocks of a codec and noise."""
    import io

    from PIL import Image

    rng = np.random.default_rng(8)
    codes = np.empty((160, 240, 3))
    codes[:, :120], codes[:, 120:] = (0.30, 0.31, 0.34), (0.52, 0.56, 0.53)
    codes = np.clip(codes + rng.normal(0, 0.02, codes.shape), 0, 1)
    file = io.BytesIO()
    Image.fromarray(np.rint(codes * 255).astype(np.uint8)).save(
        file, "jpeg", quality=quality, subsampling=subsampling
    )
    got = np.asarray(Image.open(file)).astype(np.float32) / 255
    light = light_of(got)
    ranked = board(light, light, [Box(8, 8, 104, 152)], [Box(136, 8, 232, 152)])
    names = [c.channel for c in ranked]
    assert names[0] not in {"hue", "saturation"}
    assert names.index("luma") < names.index("hue")


def test_blocks_are_told_from_noise():
    """What changes only every eighth pixel, counted from the picture's corner, is a codec's doing."""
    rng = np.random.default_rng(2)
    steps = np.kron(rng.random((10, 10)).astype(np.float32), np.ones((8, 8), np.float32))
    codes = np.dstack([steps[:60, :80] * 0.1 + 0.3] * 3).astype(np.float32)
    codes[:, 42:] += 0.3
    blocky = found(light_of(codes))["red"]
    grainy = found(planes((0.3, 0.3, 0.3), (0.6, 0.6, 0.6), noise=0.03))["red"]
    assert blocky.blocks > 0.01
    assert grainy.blocks < 0.1 * grainy.noise
