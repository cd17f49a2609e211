"""Porter-Duff, against the table of the paper and two general-purpose libraries."""

import numpy as np
import OpenImageIO as oiio
import pytest
from core.pictures import premultiplied, rgba_arrays, soft_disc
from hypothesis import given
from neatveil import arrays
from neatveil.errors import NameUnknown, ValueRefused
from PIL import Image

# Porter & Duff 1984, table in section 4.3: Fa and Fb of each operator [PorterDuff1984].
TABLE = {
    "clear": (lambda a, b: 0, lambda a, b: 0),
    "copy": (lambda a, b: 1, lambda a, b: 0),
    "dest": (lambda a, b: 0, lambda a, b: 1),
    "over": (lambda a, b: 1, lambda a, b: 1 - a),
    "dest-over": (lambda a, b: 1 - b, lambda a, b: 1),
    "in": (lambda a, b: b, lambda a, b: 0),
    "dest-in": (lambda a, b: 0, lambda a, b: a),
    "out": (lambda a, b: 1 - b, lambda a, b: 0),
    "dest-out": (lambda a, b: 0, lambda a, b: 1 - a),
    "atop": (lambda a, b: b, lambda a, b: 1 - a),
    "dest-atop": (lambda a, b: 1 - b, lambda a, b: a),
    "xor": (lambda a, b: 1 - b, lambda a, b: 1 - a),
    "plus": (lambda a, b: 1, lambda a, b: 1),
}


def pair():
    front = premultiplied(soft_disc(colour=(0.9, 0.3, 0.2)))
    back = premultiplied(np.roll(soft_disc(colour=(0.1, 0.5, 0.8)), 9, axis=1))
    return front, back


@pytest.mark.parametrize("name", TABLE)
def test_operator_is_the_papers(name):
    front, back = pair()
    fa, fb = TABLE[name]
    a, b = front[..., 3:].astype(float), back[..., 3:].astype(float)
    expected = front * fa(a, b) + back * fb(a, b)
    expected[..., 3] = np.minimum(expected[..., 3], 1)  # coverage: only the sum passes it
    np.testing.assert_allclose(arrays.merge(name, front, back), expected, atol=1e-6)


def test_over_agrees_with_openimageio():
    front, back = pair()
    a, b = (oiio.ImageBuf(oiio.ImageSpec(p.shape[1], p.shape[0], 4, "float")) for p in (front, back))
    a.set_pixels(oiio.ROI.All, front)
    b.set_pixels(oiio.ROI.All, back)
    theirs = oiio.ImageBufAlgo.over(a, b).get_pixels(oiio.FLOAT)
    np.testing.assert_allclose(arrays.merge("over", front, back), theirs, atol=1e-6)


def test_over_agrees_with_pillow():
    """Pillow composes straight 8-bit pictures; within a code of rounding."""
    front, back = soft_disc(colour=(0.9, 0.3, 0.2)), np.roll(soft_disc(), 9, axis=1)
    images = [Image.fromarray(np.rint(p * 255).astype(np.uint8)) for p in (front, back)]
    theirs = np.asarray(Image.alpha_composite(images[1], images[0])).astype(float)
    eight = [np.asarray(i).astype(np.float32) / 255 for i in images]
    ours = arrays.unpremultiply(arrays.merge("over", *(arrays.premultiply(p) for p in eight))) * 255
    seen = theirs[..., 3] > 8
    assert np.abs(ours - theirs)[seen].max() < 1.01 * 255 / 8  # straight colour at alpha 8/255
    np.testing.assert_allclose(ours[..., 3], theirs[..., 3], atol=1)
    solid = theirs[..., 3] > 200
    assert np.abs(ours - theirs)[solid].max() < 1.5


@given(rgba_arrays())
def test_over_nothing_and_nothing_over(rgba):
    front = premultiplied(rgba)
    empty = np.zeros_like(front)
    np.testing.assert_array_equal(arrays.merge("over", front, empty), front)
    np.testing.assert_array_equal(arrays.merge("over", empty, front), front)


@given(rgba_arrays())
def test_light_at_alpha_0_is_added(rgba):
    glow = rgba.copy()
    glow[..., 3] = 0
    back = np.full_like(rgba, 0.25)
    np.testing.assert_allclose(arrays.merge("over", glow, back), back + glow, atol=1e-6)


def test_values_above_1_are_kept():
    bright = np.full((1, 1, 4), 3, np.float32)
    bright[..., 3] = 1
    assert arrays.merge("plus", bright, bright).tolist() == [[[6, 6, 6, 1]]]


def test_mix_is_the_fronts_opacity_for_over():
    front, back = pair()
    np.testing.assert_allclose(
        arrays.merge("over", front, back, 0.3), arrays.merge("over", front * np.float32(0.3), back), atol=1e-6
    )


def test_unknown_operator_is_named_with_the_valid_ones():
    with pytest.raises(NameUnknown, match=r"'ovr'.*over"):
        arrays.merge("ovr", *pair())


def test_shapes_must_agree_and_are_quoted():
    front, back = pair()
    with pytest.raises(ValueRefused, match=r"\(48, 64, 4\).*\(47, 64, 4\)"):
        arrays.merge("over", front, back[1:])
    with pytest.raises(ValueRefused, match="uint8"):
        arrays.merge("over", front.astype(np.uint8), back)
