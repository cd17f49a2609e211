"""What is shown: 8-bit sRGB of the picture over its background."""

import colour
import numpy as np
import pytest
from core.pictures import picture, premultiplied, soft_disc
from neatveil.view import Look, display
from neatveil.view.display import CHECK_DARK, CHECK_LIGHT, CHECK_SIZE
from skimage import data


def encoded(light):
    return np.rint(colour.eotf_inverse(np.clip(light, 0, 1).astype(float), "sRGB") * 255)


def test_a_photograph_comes_back_to_its_own_bytes():
    """An open picture (skimage.data.astronaut, public domain): decoded by colour-science, shown by us."""
    code = data.astronaut()[:64, :64]
    light = colour.eotf(code / 255.0, "sRGB")
    rgba = np.dstack([light, np.ones(code.shape[:2])])
    np.testing.assert_array_equal(display(picture(rgba), Look())[..., :3], code)


@pytest.mark.parametrize(("background", "light"), [("black", 0.0), ("white", 1.0)])
def test_over_black_and_white(background, light):
    rgba = premultiplied(soft_disc())
    got = display(picture(rgba), Look(background=background))
    expected = encoded(rgba[..., :3] + light * (1 - rgba[..., 3:]))
    assert np.abs(got[..., :3] - expected).max() <= 1


def test_checks_are_the_two_greys():
    got = display(picture(np.zeros((40, 40, 4))), Look())
    assert got[0, 0, 0] == round(CHECK_DARK * 255)
    assert got[0, CHECK_SIZE, 0] == round(CHECK_LIGHT * 255)
    assert got[CHECK_SIZE, CHECK_SIZE, 0] == round(CHECK_DARK * 255)


def test_a_colour_is_itself_where_nothing_lies():
    got = display(picture(np.zeros((4, 4, 4))), Look(background="colour", colour=(0.2, 0.4, 0.6)))
    assert got[0, 0].tolist() == [51, 102, 153, 255]


def test_single_channels_alpha_and_straight():
    rgba = premultiplied(soft_disc())
    shown = {c: display(picture(rgba), Look(channel=c))[..., :3] for c in ("alpha", "red", "straight", "rgb")}
    np.testing.assert_array_equal(shown["alpha"][..., 1], np.rint(rgba[..., 3] * 255))
    assert np.abs(shown["red"] - encoded(rgba[..., :1])).max() <= 1
    assert np.abs(shown["rgb"] - encoded(rgba[..., :3])).max() <= 1
    edge = (rgba[..., 3] > 0.05) & (rgba[..., 3] < 0.95)
    assert np.abs(shown["straight"][edge] - encoded(np.array([0.8, 0.4, 0.1]))).max() <= 1
