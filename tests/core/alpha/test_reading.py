"""Readings: from stored code values to premultiplied light and back."""

import colour
import numpy as np
import pytest
from core.pictures import premultiplied, rgba_arrays, soft_disc, stored
from hypothesis import given
from hypothesis import strategies as st
from neatveil import arrays
from neatveil.alpha import Reading, premultiply, read, store, unpremultiply

GREEN = (0.0, 0.8, 0.2)


def test_unmatting_is_the_formula_of_pdf_soft_masks():
    """ISO 32000-1:2008, 11.6.5.3: c = m + (c' - m) / alpha [ISO32000]."""
    straight = soft_disc()
    a = straight[..., 3:]
    m = np.array(GREEN, np.float32)
    preblended = np.dstack([m + a * (straight[..., :3] - m), a])
    got = arrays.unpremultiply(preblended.astype(np.float32), GREEN)
    there = a[..., 0] > 0.02
    by_the_book = m + (preblended[..., :3] - m) / np.maximum(a, 1e-9)
    np.testing.assert_allclose(got[there][:, :3], by_the_book[there], atol=2e-5)
    np.testing.assert_allclose(got[there], straight[there], atol=2e-5)


@given(rgba_arrays(), st.tuples(*[st.sampled_from([0.0, 0.5, 1.0])] * 3))
def test_premultiply_over_a_matte_comes_back(rgba, matte):
    there = rgba[..., 3] > 0.01
    back = arrays.unpremultiply(arrays.premultiply(rgba, matte), matte)
    np.testing.assert_allclose(back[there], rgba[there], atol=5e-5)


READINGS = [
    Reading(alpha="straight"),
    Reading(alpha="straight", inverted=True),
    Reading(alpha="premultiplied"),
    Reading(alpha="premultiplied", matte=GREEN),
    Reading(alpha="premultiplied", matte=(1, 1, 1), multiplied="encoded"),
    Reading(alpha="premultiplied", matte=GREEN, multiplied="encoded", inverted=True),
]


@pytest.mark.parametrize("reading", READINGS, ids=lambda r: r.words())
@pytest.mark.parametrize("encoding", ["linear", "srgb", "rec709"])
def test_every_reading_reads_what_it_stores(reading, encoding):
    wanted = read(stored(soft_disc()), Reading(alpha="straight"), "srgb")
    again = read(store(wanted, reading, encoding), reading, encoding)
    np.testing.assert_allclose(again.rgba(), wanted.rgba(), atol=3e-6)


def test_multiplied_after_encoding_is_done_on_code_values():
    """Decoded by colour-science: F = decode((C - M(1-a)) / a), then times a."""
    code = soft_disc()
    a = code[..., 3:]
    m = np.array(GREEN)
    preblended = np.dstack([code[..., :3] * a + m * (1 - a), a]).astype(np.float32)
    reading = Reading(alpha="premultiplied", matte=GREEN, multiplied="encoded")
    got = read(stored(preblended), reading, "srgb").rgba()
    expected = colour.eotf(code[..., :3].astype(float), "sRGB") * a
    there = a[..., 0] > 0.02
    np.testing.assert_allclose(got[there][:, :3], expected[there], atol=2e-5)


def test_wrong_reading_leaves_the_halo_that_the_right_one_removes():
    """Premultiplied over black read as straight is darker at the edge by the factor alpha."""
    right = read(stored(premultiplied(soft_disc())), Reading(alpha="premultiplied"), "linear").rgba()
    wrong = read(stored(premultiplied(soft_disc())), Reading(alpha="straight"), "linear").rgba()
    edge = (right[..., 3] > 0.1) & (right[..., 3] < 0.9)
    np.testing.assert_allclose(wrong[edge][:, 0], right[edge][:, 0] * right[edge][:, 3], atol=1e-6)


def test_ignored_alpha_is_opaque():
    got = read(stored(soft_disc()), Reading(alpha="none", inverted=True), "linear")
    assert got["A"].min() == 1
    np.testing.assert_array_equal(got["R"], soft_disc()[..., 0])


def test_light_at_alpha_0_survives_premultiplied_but_not_straight():
    glow = np.zeros((2, 2, 4), np.float32)
    glow[..., :3] = 0.5
    assert read(stored(glow), Reading(alpha="premultiplied"), "linear")["R"].max() == 0.5
    assert read(stored(glow), Reading(alpha="straight"), "linear")["R"].max() == 0


def test_types_tell_the_state():
    picture = read(stored(soft_disc()), Reading(), "linear")
    straight = unpremultiply(picture)
    assert type(straight).__name__ == "StraightPicture"
    np.testing.assert_allclose(premultiply(straight).rgba(), picture.rgba(), atol=1e-6)


def test_words_of_a_reading():
    assert Reading(alpha="premultiplied", matte=(1, 1, 1), multiplied="encoded").words() == (
        "premultiplied over white in encoded values"
    )
