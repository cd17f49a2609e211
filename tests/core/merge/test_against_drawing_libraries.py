"""Porter-Duff operators and W3C blend modes against two drawing libraries: Skia (floats), Cairo (codes)."""

import cairocffi as cairo
import numpy as np
import pytest
import skia
from core.pictures import premultiplied
from neatveil import arrays
from neatveil.merge import OPERATORS

SKIA = {
    "clear": "kClear", "copy": "kSrc", "dest": "kDst", "over": "kSrcOver", "dest-over": "kDstOver",
    "in": "kSrcIn", "dest-in": "kDstIn", "out": "kSrcOut", "dest-out": "kDstOut", "atop": "kSrcATop",
    "dest-atop": "kDstATop", "xor": "kXor", "plus": "kPlus", "multiply": "kMultiply", "screen": "kScreen",
    "overlay": "kOverlay", "darken": "kDarken", "lighten": "kLighten", "color-dodge": "kColorDodge",
    "color-burn": "kColorBurn", "hard-light": "kHardLight", "soft-light": "kSoftLight",
    "difference": "kDifference", "exclusion": "kExclusion", "hue": "kHue", "saturation": "kSaturation",
    "color": "kColor", "luminosity": "kLuminosity",
}  # fmt: skip
CAIRO = {
    "clear": "CLEAR", "copy": "SOURCE", "dest": "DEST", "over": "OVER", "dest-over": "DEST_OVER", "in": "IN",
    "dest-in": "DEST_IN", "out": "OUT", "dest-out": "DEST_OUT", "atop": "ATOP", "dest-atop": "DEST_ATOP",
    "xor": "XOR", "plus": "ADD", "multiply": "MULTIPLY", "screen": "SCREEN", "overlay": "OVERLAY",
    "darken": "DARKEN", "lighten": "LIGHTEN", "color-dodge": "COLOR_DODGE", "color-burn": "COLOR_BURN",
    "hard-light": "HARD_LIGHT", "soft-light": "SOFT_LIGHT", "difference": "DIFFERENCE",
    "exclusion": "EXCLUSION", "hue": "HSL_HUE", "saturation": "HSL_SATURATION", "color": "HSL_COLOR",
    "luminosity": "HSL_LUMINOSITY",
}  # fmt: skip


def pair(seed=3, codes=False):
    """Premultiplied front and back with every kind of alpha, on codes where a library knows no more."""
    rng = np.random.default_rng(seed)
    found = []
    for _ in range(2):
        straight = rng.random((24, 32, 4), np.float32)
        straight[:6, :, 3], straight[6:12, :, 3] = 1, 0.5
        picture = premultiplied(straight)
        found.append(np.rint(picture * 255).astype(np.float32) / 255 if codes else picture)
    return found


def by_skia(name, front, back):
    height, width = back.shape[:2]
    info = skia.ImageInfo.Make(width, height, skia.kRGBA_F32_ColorType, skia.kPremul_AlphaType)
    out = np.ascontiguousarray(back)
    canvas = skia.Surface.MakeRasterDirect(info, out, out.strides[0]).getCanvas()
    source = skia.Image.fromarray(
        np.ascontiguousarray(front), skia.kRGBA_F32_ColorType, skia.kPremul_AlphaType
    )
    paint = skia.Paint(BlendMode=getattr(skia.BlendMode, SKIA[name]))
    canvas.drawImage(source, 0, 0, skia.SamplingOptions(), paint)
    return out


def by_cairo(name, front, back):
    height, width = back.shape[:2]
    held = [
        np.ascontiguousarray((np.rint(p * 255).astype(np.uint8))[..., [2, 1, 0, 3]]) for p in (front, back)
    ]
    surfaces = [
        cairo.ImageSurface(cairo.FORMAT_ARGB32, width, height, memoryview(h).cast("B"), width * 4)
        for h in held
    ]
    context = cairo.Context(surfaces[1])
    context.set_operator(getattr(cairo, f"OPERATOR_{CAIRO[name]}"))
    context.set_source_surface(surfaces[0])
    context.paint()
    surfaces[1].flush()
    return held[1][..., [2, 1, 0, 3]].astype(np.float32) / 255


def test_both_libraries_know_all_of_ours():
    ours = {n for n, o in OPERATORS.items() if o.family != "arithmetic"}
    assert ours == set(SKIA) == set(CAIRO)


@pytest.mark.parametrize("name", SKIA)
def test_skia_agrees(name):
    front, back = pair()
    ours, theirs = arrays.merge(name, front, back), by_skia(name, front, back)
    if name == "plus":
        ours = np.minimum(ours, 1)  # theirs ends at 1
    np.testing.assert_allclose(ours, theirs, atol=2e-4)


@pytest.mark.parametrize("name", CAIRO)
def test_cairo_agrees_within_its_codes(name):
    front, back = pair(codes=True)
    ours, theirs = arrays.merge(name, front, back), by_cairo(name, front, back)
    if name == "plus":
        ours = np.minimum(ours, 1)
    assert np.abs(ours - theirs).max() <= 3 / 255
    assert np.abs(ours - theirs).mean() <= 0.6 / 255


@pytest.mark.parametrize("name", ["over", "plus", "in", "screen"])
def test_three_layers_may_be_joined_in_either_order(name):
    """Porter & Duff 1984, section 4: over is associative; so are the others here."""
    (a, b), (c, _) = pair(1), pair(2)
    left = arrays.merge(name, a, arrays.merge(name, b, c))
    right = arrays.merge(name, arrays.merge(name, a, b), c)
    np.testing.assert_allclose(left, right, atol=1e-6)
