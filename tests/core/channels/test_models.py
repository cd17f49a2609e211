"""Colour models against Python's colorsys, the Recommendations' tables and colour-science."""

import colorsys

import colour
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.channels.models import from_hls, from_ycc, to_hls, to_ycc

values = st.floats(0, 1, width=32)


def flat(*numbers):
    return tuple(np.array([n], np.float32) for n in numbers)


@given(values, values, values)
def test_hue_lightness_saturation_are_colorsys(r, g, b):
    got = [float(v[0]) for v in to_hls(*flat(r, g, b))]
    h, l, s = colorsys.rgb_to_hls(float(np.float32(r)), float(np.float32(g)), float(np.float32(b)))  # noqa: E741
    if max(r, g, b) - min(r, g, b) > 1e-3:  # nearly grey: the hue is anything
        assert abs((got[0] - h + 0.5) % 1 - 0.5) < 2e-3
        assert got[2] == pytest.approx(s, abs=2e-3)
    assert got[1] == pytest.approx(l, abs=1e-6)


@given(values, values, values)
def test_hls_there_and_back(r, g, b):
    back = [float(v[0]) for v in from_hls(*to_hls(*flat(r, g, b)))]
    np.testing.assert_allclose(back, [r, g, b], atol=2e-5)


@given(values, values, values)
def test_back_from_hls_is_colorsys(h, lightness, s):
    got = [float(v[0]) for v in from_hls(*flat(h, lightness, s))]
    np.testing.assert_allclose(got, colorsys.hls_to_rgb(h, lightness, s), atol=2e-5)


@pytest.mark.parametrize(("weights", "name"), [("bt601", "ITU-R BT.601"), ("bt709", "ITU-R BT.709"),
                                               ("bt2020", "ITU-R BT.2020")])  # fmt: skip
@pytest.mark.parametrize("extent", ["full", "narrow"])
def test_luma_and_chroma_agree_with_colour_science(weights, name, extent):
    rgb = np.random.default_rng(1).random((50, 3))
    got = np.stack(
        to_ycc(*(np.ascontiguousarray(rgb[:, i], np.float32) for i in range(3)), weights, extent), -1
    )
    legal = extent == "narrow"
    theirs = colour.RGB_to_YCbCr(rgb, K=colour.WEIGHTS_YCBCR[name], out_legal=legal)
    expected = theirs if legal else np.add(theirs, [0, 0.5, 0.5])
    np.testing.assert_allclose(got, expected, atol=2e-3 if legal else 2e-6)


def test_the_codes_of_a_narrow_red():
    """ITU-R BT.709-6, 100 % red at 8 bits: Y' 63, Cb 102, Cr 240 (SMPTE RP 219)."""
    codes = [float(v[0]) * 255 for v in to_ycc(*flat(1, 0, 0), "bt709", "narrow")]
    assert [round(c) for c in codes] == [63, 102, 240]


@pytest.mark.parametrize("weights", ["bt601", "bt709", "bt2020"])
@pytest.mark.parametrize("extent", ["full", "narrow"])
def test_luma_and_chroma_there_and_back(weights, extent):
    rgb = [np.random.default_rng(i).normal(0.5, 1, 99).astype(np.float32) for i in range(3)]
    back = from_ycc(*to_ycc(*rgb, weights, extent), weights, extent)
    np.testing.assert_allclose(np.stack(back), np.stack(rgb), atol=3e-6)
