"""8-bit codes are exact: every float32 next to a threshold, against the standard's curve in float64."""

import colour
import numpy as np
from core.pictures import picture
from neatveil.picture import PremultipliedPicture
from neatveil.view import Look, Screen, display, show


def codes(light):
    """Our red bytes of these values of light."""
    plane = np.asarray(light, np.float32).reshape(1, -1)
    opaque = PremultipliedPicture({"R": plane, "G": plane, "B": plane, "A": np.ones_like(plane)})
    return display(opaque, Look(channel="red"))[0, :, 0]


def test_every_value_beside_a_threshold_is_rounded_to_the_nearest_code():
    """IEC 61966-2-1 by colour-science: light exactly between two codes, and its float32 neighbours."""
    between = colour.eotf((np.arange(255) + 0.5) / 255, "sRGB").astype(np.float32)
    near = [between]
    for way in (0, 1):
        step = between
        for _ in range(4):
            step = np.nextafter(step, np.float32(way))
            near.append(step)
    light = np.concatenate(near)
    exact = 255 * colour.eotf_inverse(light.astype(float), "sRGB")
    np.testing.assert_array_equal(codes(light), np.floor(exact + 0.5))


def test_all_of_0_to_1_is_monotone_and_exact():
    light = np.linspace(0, 1, 500_000, dtype=np.float32)
    got = codes(light).astype(int)
    assert np.diff(got).min() == 0
    assert np.diff(got).max() == 1
    np.testing.assert_array_equal(got, np.floor(255 * colour.eotf_inverse(light.astype(float), "sRGB") + 0.5))


def test_what_no_screen_shows_is_clipped():
    light = [-1, -0.0, 1e-40, 1.0000001, 7, np.inf, -np.inf, np.nan]
    assert codes(light).tolist() == [0, 0, 0, 255, 255, 255, 0, 0]


def test_blue_first_for_encoders_that_want_it_so():
    shown = picture(np.random.default_rng(1).random((40, 30, 4)))
    screen = Screen(Look(), shown.data_window, "bgr")
    show(shown, screen)
    np.testing.assert_array_equal(screen.out[..., ::-1], display(shown, Look())[..., :3])
