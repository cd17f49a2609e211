"""W3C blend modes, against the formulas of the recommendation written out one value at a time,
and against OpenCV-free arithmetic of a second library (colour blends of Pillow's ImageChops)."""

import math

import numpy as np
import pytest
from core.pictures import premultiplied
from neatveil import arrays
from PIL import Image, ImageChops


# W3C Compositing and Blending Level 1, section 10.1 [W3CCompositing], on scalars.
def hard_light(cb, cs):
    return cb * 2 * cs if cs <= 0.5 else cb + (2 * cs - 1) - cb * (2 * cs - 1)


def soft_light(cb, cs):
    if cs <= 0.5:
        return cb - (1 - 2 * cs) * cb * (1 - cb)
    d = ((16 * cb - 12) * cb + 4) * cb if cb <= 0.25 else math.sqrt(cb)
    return cb + (2 * cs - 1) * (d - cb)


FORMULAS = {
    "multiply": lambda cb, cs: cb * cs,
    "screen": lambda cb, cs: cb + cs - cb * cs,
    "overlay": lambda cb, cs: hard_light(cs, cb),
    "darken": min,
    "lighten": max,
    "color-dodge": lambda cb, cs: 0 if cb == 0 else 1 if cs == 1 else min(1, cb / (1 - cs)),
    "color-burn": lambda cb, cs: 1 if cb == 1 else 0 if cs == 0 else 1 - min(1, (1 - cb) / cs),
    "hard-light": hard_light,
    "soft-light": soft_light,
    "difference": lambda cb, cs: abs(cb - cs),
    "exclusion": lambda cb, cs: cb + cs - 2 * cb * cs,
}


def lum(c):
    return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]


def clip_color(c):
    light, low, high = lum(c), min(c), max(c)
    if low < 0:
        c = [light + (v - light) * light / (light - low) for v in c]
    if high > 1:
        c = [light + (v - light) * (1 - light) / (high - light) for v in c]
    return c


def set_lum(c, light):
    d = light - lum(c)
    return clip_color([v + d for v in c])


def sat(c):
    return max(c) - min(c)


def set_sat(c, s):
    """The recommendation's pseudo-code: sorted, the middle in proportion, the least 0."""
    low, mid, high = sorted(range(3), key=lambda i: c[i])
    out = [0.0, 0.0, 0.0]
    if c[high] > c[low]:
        out[mid] = (c[mid] - c[low]) * s / (c[high] - c[low])
        out[high] = s
    return out


WHOLE = {
    "hue": lambda cb, cs: set_lum(set_sat(cs, sat(cb)), lum(cb)),
    "saturation": lambda cb, cs: set_lum(set_sat(cb, sat(cs)), lum(cb)),
    "color": lambda cb, cs: set_lum(cs, lum(cb)),
    "luminosity": lambda cb, cs: set_lum(cb, lum(cs)),
}


def straight_pairs():
    steps = [0, 0.2, 0.25, 0.5, 0.7, 1]
    front = np.array([[[a, b, 0.3, 0.6] for a in steps] for b in steps], np.float32)
    back = np.array([[[b, 0.1, a, 0.9] for a in steps] for b in steps], np.float32)
    return front, back


def expected(front, back, blend):
    """Section 5.1 and 9.1.4: composite of the blended colour by source over."""
    out = np.empty(front.shape)
    for i in np.ndindex(front.shape[:2]):
        cs, ca, cb, ba = front[i][:3], float(front[i][3]), back[i][:3], float(back[i][3])
        mixed = [float(v) for v in blend([float(v) for v in cb], [float(v) for v in cs])]
        for k in range(3):
            source = (1 - ba) * float(cs[k]) + ba * mixed[k]
            out[i][k] = source * ca + float(cb[k]) * ba * (1 - ca)
        out[i][3] = ca + ba * (1 - ca)
    return out


@pytest.mark.parametrize("name", FORMULAS)
def test_separable_mode_is_the_recommendations(name):
    front, back = straight_pairs()
    whole = lambda cb, cs: [FORMULAS[name](b, s) for b, s in zip(cb, cs, strict=True)]  # noqa: E731
    result = arrays.merge(name, premultiplied(front), premultiplied(back))
    np.testing.assert_allclose(result, expected(front, back, whole), atol=3e-6)


@pytest.mark.parametrize("name", WHOLE)
def test_whole_colour_mode_is_the_recommendations(name):
    front, back = straight_pairs()
    result = arrays.merge(name, premultiplied(front), premultiplied(back))
    np.testing.assert_allclose(result, expected(front, back, WHOLE[name]), atol=3e-6)


@pytest.mark.parametrize(
    ("name", "theirs"),
    [
        ("multiply", ImageChops.multiply), ("screen", ImageChops.screen),
        ("darken", ImageChops.darker), ("lighten", ImageChops.lighter),
        ("difference", ImageChops.difference), ("overlay", ImageChops.overlay),
        ("hard-light", ImageChops.hard_light),
    ],
)  # fmt: skip
def test_opaque_pictures_agree_with_pillow(name, theirs):
    rng = np.random.default_rng(5)
    front, back = (rng.integers(0, 256, (16, 16, 3)).astype(np.uint8) for _ in range(2))
    result = np.asarray(theirs(Image.fromarray(back), Image.fromarray(front))).astype(float)
    solid = [np.dstack([p.astype(np.float32) / 255, np.ones(p.shape[:2], np.float32)]) for p in (front, back)]
    ours = arrays.merge(name, *solid)[..., :3] * 255
    assert np.abs(ours - result).max() <= 1.5, "within rounding of 8 bits"


def test_a_back_of_millions_takes_no_digits_from_the_front():
    """As a division leaves it: the recommendation in double precision, whose sums lose nothing there."""
    back, front = np.array([5e6, 1.3e7, 9e5, 1]), np.array([0.12, 0.55, 0.16, 1])
    expected = WHOLE["luminosity"](list(back[:3]), list(front[:3]))
    got = arrays.merge("luminosity", np.float32([[front]]), np.float32([[back]]))[0, 0, :3]
    np.testing.assert_allclose(got, expected, rtol=1e-5)


def test_multiply_over_a_clear_pixel_leaves_no_white():
    """Where the front is clear, a multiply changes nothing."""
    front, back = np.zeros((1, 1, 4), np.float32), np.full((1, 1, 4), 0.5, np.float32)
    np.testing.assert_array_equal(arrays.merge("multiply", front, back), back)
