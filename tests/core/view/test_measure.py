"""Numbers and views of elements: profiles, spreads, channels, differences."""

import cv2
import numpy as np
import pytest
from core.pictures import picture, premultiplied, soft_disc, stored
from neatveil.picture import Box, PremultipliedPicture, StoredPicture
from neatveil.view import Look, channel_picture, difference, display, in_codes, profile, spreads, waveform
from neatveil.view.values import with_straight


def test_a_profile_across_a_known_ramp():
    y, x = np.mgrid[:20, :40].astype(np.float32)
    ramp = StoredPicture({"R": x / 40, "G": y / 20, "B": x * 0, "A": x * 0 + 1})
    rows = profile(ramp, (5.5, 10.5, 25.5, 10.5))
    distance = np.array(rows["distance"])
    assert distance[-1] == 20
    np.testing.assert_allclose(rows["R"], (5 + distance) / 40, atol=1e-6)
    np.testing.assert_allclose(rows["G"], 0.5, atol=1e-6)
    luma = 0.2126 * np.array(rows["R"]) + 0.7152 * 0.5
    np.testing.assert_allclose(rows["luma"], luma, atol=1e-6)


def test_a_slanted_profile_as_opencv_samples_it():
    rgba = soft_disc()
    rows = profile(stored(rgba), (10.0, 8.0, 50.0, 40.0))
    share = np.array(rows["distance"]) / rows["distance"][-1]
    points = [(np.array([a + (b - a) * share]) - 0.5).astype(np.float32) for a, b in ((10, 50), (8, 40))]
    expected = cv2.remap(rgba, *points, cv2.INTER_LINEAR)[0]
    np.testing.assert_allclose(rows["A"], expected[:, 3], atol=2e-3)


def test_spreads_of_a_box_as_numpy_says():
    rng = np.random.default_rng(6)
    rgba = rng.random((30, 40, 4), np.float32)
    got = spreads(stored(rgba), Box(4, 5, 24, 15))
    part = rgba[5:15, 4:24]
    for i, n in enumerate("RGBA"):
        assert got[n].mean == pytest.approx(part[..., i].mean(), abs=1e-6)
        assert got[n].spread == pytest.approx(part[..., i].std(), abs=1e-6)
        assert (got[n].low, got[n].high) == (part[..., i].min(), part[..., i].max())
        counts, _ = np.histogram(np.rint(part[..., i] * 255), 256, (-0.5, 255.5))
        assert got[n].histogram == counts.tolist()


LOOKS = [
    Look(), Look(exposure=1.5), Look(gamma=2.2), Look(through="cg/sRGB - Display|ACES 1.0 - SDR Video"),
    Look(exposure=-1, gamma=1.4, through="cg/Display P3 - Display|Un-tone-mapped"),
]  # fmt: skip


@pytest.mark.parametrize("look", LOOKS, ids=repr)
def test_numbers_are_those_of_the_picture_that_is_shown(look):
    """Histogram, waveform and the values under the pointer tell the codes of the viewer's own pixels."""
    rng = np.random.default_rng(6)
    rgba = np.dstack([rng.random((12, 32, 3)) ** 2, np.ones((12, 32))]).astype(np.float32)
    whole = PremultipliedPicture.from_rgba(rgba)
    shown = display(whole, look.model_copy(update={"channel": "rgb"}))
    codes = in_codes(whole, look)
    found, wave = spreads(codes), waveform(codes, rows=256, columns=32)
    for i, n in enumerate("RGB"):
        counts = np.bincount(shown[..., i].reshape(-1), minlength=256)
        assert found[n].histogram == counts.tolist()
        assert np.sum(wave[n], axis=0).tolist() == [12] * 32
        middle = (np.array(wave[n]) * np.arange(255, -1, -1)[:, None]).sum() / (12 * 32)
        assert abs(middle - shown[..., i].mean()) < 0.6
    got = with_straight(tuple(rgba[3, 4].tolist()), None, look).code
    np.testing.assert_allclose(np.clip(got[:3], 0, 255), shown[3, 4, :3], atol=0.51)


def test_what_is_no_number_is_counted_and_spoils_nothing():
    rgba = np.full((4, 4, 4), 0.25, np.float32)
    rgba[0, 0, 1], rgba[1, 1, 1] = np.nan, np.inf
    got = spreads(stored(rgba))["G"]
    assert (got.not_numbers, got.mean) == (2, 0.25)


def test_data_is_shown_as_its_code_and_stretched_when_asked():
    depth = np.linspace(-2, 8, 12, dtype=np.float32).reshape(3, 4)
    source = StoredPicture({"depth.Z": depth}, data_planes=["depth.Z"])
    plain = display(channel_picture(source, ["depth.Z"], "srgb"), Look(channel="rgb"))[..., 0]
    np.testing.assert_array_equal(plain, np.rint(np.clip(depth, 0, 1) * 255))
    wide = display(channel_picture(source, ["depth.Z"], "srgb", stretch=True), Look(channel="rgb"))[..., 0]
    np.testing.assert_allclose(wide, (depth + 2) / 10 * 255, atol=0.51)


def test_two_channels_are_red_and_green():
    source = StoredPicture(
        {"uv.U": np.full((1, 1), 0.5, np.float32), "uv.V": np.ones((1, 1), np.float32)},
        data_planes=["uv.U", "uv.V"],
    )
    got = display(channel_picture(source, ["uv.U", "uv.V"], "linear"), Look(channel="rgb"))
    assert got[0, 0].tolist() == [128, 255, 0, 255]


def test_a_difference_is_in_codes_times_the_gain():
    one = picture(premultiplied(soft_disc()))
    other = picture(premultiplied(soft_disc(colour=(0.79, 0.4, 0.1))))
    assert not difference(one, one).planes["R"].any()
    look = Look(channel="rgb")
    a, b = (display(p, look)[..., 0].astype(int) for p in (one, other))
    shown = display(difference(one, other, 8), look)[..., 0].astype(int)
    np.testing.assert_allclose(shown, np.minimum(np.abs(a - b) * 8, 255), atol=9)
    assert not display(difference(one, other, 8, alpha=True), look)[..., 0].any()


def test_only_the_partly_covered_band_is_left():
    got = display(picture(premultiplied(soft_disc())), Look(channel="band"))
    alpha = soft_disc()[..., 3]
    flat = (alpha <= 0) | (alpha >= 1)
    assert len(np.unique(got[flat], axis=0)) == 1
    inside = (alpha > 0.05) & (alpha < 0.95)
    assert not (got[inside] == got[0, 0]).all(axis=1).any()


def test_luma_and_tint():
    """ITU-R BT.709-6 luma weights; the tint leaves what the alpha keeps as it is."""
    rgba = np.zeros((1, 2, 4), np.float32)
    rgba[..., :3], rgba[0, 0, 3] = (0.5, 0.25, 0.125), 1.0
    luma = display(picture(rgba), Look(channel="luma"))[0, 0, 0]
    light = 0.2126 * 0.5 + 0.7152 * 0.25 + 0.0722 * 0.125
    assert luma == round((1.055 * light ** (1 / 2.4) - 0.055) * 255)
    tint = display(picture(rgba), Look(channel="tint"))[0]
    assert tint[0].tolist() == display(picture(rgba), Look(channel="rgb"))[0, 0].tolist()
    assert tint[1].tolist() != tint[0].tolist()
