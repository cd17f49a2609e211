"""Colour-difference keys and spill against published formulas and mattes that are known; small regions."""

import numpy as np
import pytest
import scipy.ndimage as ndi
from core.pictures import soft_disc
from core.steps.stepping import done, opaque, step
from hypothesis import given
from hypothesis import strategies as st
from neatveil import arrays
from neatveil.errors import NameUnknown
from neatveil.mattes import Matte
from neatveil.mattes.regions import without_holes, without_specks

CARD = {"green": (0.1, 0.6, 0.2), "blue": (0.1, 0.2, 0.7)}


def before_card(screen, colour):
    """A soft disc of one colour over a card, and its true alpha."""
    alpha = soft_disc(60, 80)[..., 3:]
    return (alpha * np.array(colour) + (1 - alpha) * np.array(CARD[screen])).astype(np.float32), alpha[..., 0]


@pytest.mark.parametrize("screen", CARD)
@pytest.mark.parametrize("colour", [(0.4, 0.4, 0.4), (0.02, 0.02, 0.02), (0.9, 0.9, 0.9)])
def test_a_grey_things_alpha_is_found_exactly(screen, colour):
    """Vlahos 1971: where R, G and B of the thing are equal the difference is the card's share alone."""
    picture, alpha = before_card(screen, colour)
    strength = CARD[screen][["red", "green", "blue"].index(screen)] - max(
        v for v, n in zip(CARD[screen], ("red", "green", "blue"), strict=True) if n != screen
    )
    np.testing.assert_allclose(arrays.difference_key(picture, screen, strength), alpha, atol=2e-6)


@given(st.tuples(*[st.floats(0, 1, width=32)] * 3))
def test_the_key_is_the_formula_written_out(rgb):
    r, g, b = (float(v) for v in rgb)
    pixel = np.array([[rgb]], np.float32)
    expected = min(1, max(0, 1 - max(0, g - max(r, b)) / 0.5))
    assert arrays.difference_key(pixel, "green", 0.5)[0, 0] == pytest.approx(expected, abs=1e-6)


@pytest.mark.parametrize("screen", CARD)
def test_spill_is_held_down_to_the_greater_of_the_others(screen):
    picture = np.random.default_rng(1).random((20, 30, 3), np.float32)
    got = arrays.despill(picture, screen)
    at, others = (1, [0, 2]) if screen == "green" else (2, [0, 1])
    np.testing.assert_array_equal(got[..., at], np.minimum(picture[..., at], picture[..., others].max(-1)))
    np.testing.assert_array_equal(got[..., others], picture[..., others])


def test_the_spill_step_weighs_the_others_by_the_balance():
    picture = opaque(np.random.default_rng(2).random((12, 16, 3)))
    got = done(picture, step("despill", limit="mean", balance=0.25, amount=0.5))
    limit = 0.25 * picture[..., 0] + 0.75 * picture[..., 2]
    expected = picture[..., 1] - 0.5 * np.maximum(picture[..., 1] - limit, 0)
    np.testing.assert_allclose(got[..., 1], expected, atol=2e-6)


def test_an_unknown_card_is_refused():
    with pytest.raises(NameUnknown, match="green"):
        arrays.difference_key(np.zeros((1, 1, 3), np.float32), "red")


def blobs():
    rng = np.random.default_rng(7)
    return (ndi.gaussian_filter(rng.random((120, 160)), 1.5) > 0.53).astype(np.float32)


@pytest.mark.parametrize("area", [3, 20, 200])
def test_specks_are_scipys_labels_below_an_area(area):
    plane = blobs()
    labels, count = ndi.label(plane > 0, structure=np.ones((3, 3)))
    sizes = ndi.sum_labels(plane > 0, labels, range(1, count + 1))
    expected = np.where(np.isin(labels, np.flatnonzero(sizes < area) + 1), 0, plane)
    np.testing.assert_array_equal(without_specks(plane, area), expected)


def test_all_holes_filled_is_scipys_binary_fill_holes():
    plane = blobs()
    # SciPy takes a hole's neighbours over the sides, we over the corners too: so its structure is ours
    expected = ndi.binary_fill_holes(plane > 0, structure=np.ones((3, 3)))
    np.testing.assert_array_equal(without_holes(plane, 1e6) > 0, expected)


def test_the_soft_rim_of_a_speck_goes_with_it():
    plane = np.zeros((40, 40), np.float32)
    plane[4:8, 4:8] = 1
    plane = ndi.gaussian_filter(plane, 1).astype(np.float32)
    plane[20:, 20:] = 1
    got = Matte(specks=100).refined(plane, 0)
    assert got[:15, :15].max() <= 0.02, "no more than what was too faint to count"
    assert got[30, 30] == 1
