"""A view by its table beside the configuration's own transforms: CIE Delta E 2000 by scikit-image."""

import numpy as np
import pytest
from neatveil.colour.baked import PLACES, baked_view, bytes_of_steps, places, show_baked
from neatveil.colour.primaries import matrix_to_bt709
from neatveil.colour.spaces import space_codes
from neatveil.picture import Box, PremultipliedPicture
from neatveil.view import CHANNELS, Look, Screen, show
from skimage.color import deltaE_ciede2000, rgb2lab

#: A curve with a shoulder, plain codes, and one for other primaries.
VIEWS = ["cg/sRGB - Display|ACES 1.0 - SDR Video", "cg/sRGB - Display|Un-tone-mapped",
         "cg/Display P3 - Display|Un-tone-mapped"]  # fmt: skip


def planes_of(rgb):
    return [np.ascontiguousarray(rgb[..., i], np.float32) for i in range(3)]


def baked(rgb, view, gain=1.0, gamma=1.0):
    out = np.empty((*rgb.shape[:2], 3), np.uint8)
    table = baked_view(view).table
    show_baked(*planes_of(rgb), np.float32(gain), table, bytes_of_steps(gamma), *np.moveaxis(out, -1, 0))
    return out


def exact(rgb, view):
    codes = space_codes(dict(zip("RGB", planes_of(rgb), strict=True)), view)
    return np.rint(np.clip(np.stack([codes[n] for n in "RGB"], -1), 0, 1) * 255).astype(np.uint8)


def colours(seed=1):
    """Ten thousand: seven decades of light, from greys to a single primary."""
    rng = np.random.default_rng(seed)
    light, strength = 10 ** rng.uniform(-3, 1.2, (100, 100, 1)), rng.uniform(0, 1, (100, 100, 1))
    return (light * (1 - strength + strength * rng.random((100, 100, 3)) ** 2)).astype(np.float32)


def distance(a, b):
    return deltaE_ciede2000(rgb2lab(a), rgb2lab(b))


@pytest.mark.parametrize("view", VIEWS)
def test_nobody_sees_a_difference(view):
    """One code beside another is up to 1 apart here; 2.3 is just noticeable (common practice, no source)."""
    off = distance(baked(colours(), view), exact(colours(), view))
    assert off.mean() < 0.1
    assert np.percentile(off, 99.9) < 1.2
    assert off.max() < 2.3


@pytest.mark.parametrize("view", VIEWS)
def test_colours_beyond_the_primaries_are_near(view):
    """Of BT.2020: light below 0, where places are far apart."""
    rng = np.random.default_rng(3)
    wide = 10 ** rng.uniform(-3, 1.2, (100, 100, 1)) * rng.random((100, 100, 3)) ** 4
    wide = wide @ matrix_to_bt709("bt2020").T
    assert (wide < -0.001).any(axis=-1).mean() > 0.1
    off = distance(baked(wide, view), exact(wide, view))
    assert off.mean() < 0.15
    assert np.percentile(off, 99) < 2.3


@pytest.mark.parametrize("view", VIEWS)
def test_at_its_places_it_is_the_view(view):
    light = places()
    assert (np.diff(light) > 0).all()
    assert 0.0 in light
    chosen = np.random.default_rng(2).integers(0, PLACES - 1, (40, 40, 3))
    rgb = light[chosen].astype(np.float32)
    assert np.abs(baked(rgb, view).astype(int) - exact(rgb, view)).max() <= 1


def test_greys_stay_grey_and_rise():
    grey = np.repeat(np.linspace(-0.1, 20, 4000, dtype=np.float32)[None, :, None], 3, axis=2)
    shown = baked(grey, VIEWS[1]).astype(int)
    assert np.ptp(shown, axis=-1).max() <= 1
    assert (np.diff(shown[0, :, 1]) >= 0).all()


def test_what_is_no_number_or_beyond_the_table_is_shown_all_the_same():
    odd = np.array([[[np.nan] * 3, [np.inf] * 3, [-np.inf] * 3, [1e30, 0, 0], [-5, -5, -5]]], np.float32)
    shown = baked(odd, VIEWS[1])[0].tolist()
    assert shown == [[0, 0, 0], [255] * 3, [0, 0, 0], [255, 0, 0], [0, 0, 0]]


@pytest.mark.parametrize("channel", CHANNELS)
@pytest.mark.parametrize(("exposure", "gamma"), [(0, 1), (2, 1), (-1, 2.2)])
@pytest.mark.parametrize("through", ["", VIEWS[0]])
def test_what_passes_is_shown_as_what_stands(channel, exposure, gamma, through):
    """Every look, fast beside exact; without a view they are the same."""
    rng = np.random.default_rng(5)
    alpha = np.clip(rng.normal(0.6, 0.5, (30, 40, 1)), 0, 1)
    rgba = np.concatenate([rng.uniform(0.02, 0.9, (30, 40, 3)) * alpha, alpha], -1).astype(np.float32)
    picture = PremultipliedPicture.from_rgba(rgba)
    look = Look(channel=channel, exposure=exposure, gamma=gamma, through=through)
    screens = [Screen(look, Box.sized(40, 30), layout) for layout in ("bgr", "rgbx")]
    for screen in screens:
        show(picture, screen)
    fast, still = screens[0].out[..., ::-1], screens[1].out[..., :3]
    off = distance(fast, still)
    assert off.max() <= (2.3 if through else 0)
    assert off.mean() < 0.25
