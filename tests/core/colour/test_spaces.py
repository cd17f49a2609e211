"""OpenColorIO's spaces and views: against the published curves of ACES, and the library by itself."""

import colour
import numpy as np
import PyOpenColorIO as ocio
import pytest
from core.pictures import picture, premultiplied, soft_disc, stored
from neatveil.alpha import Reading, read, store
from neatveil.colour import decode, encode, encoding_named
from neatveil.colour.configurations import BUILT_IN
from neatveil.colour.spaces import (
    is_linear_space,
    is_view,
    space_codes,
    space_light,
    spaces_of,
    views_of,
)
from neatveil.errors import NameUnknown
from neatveil.view import Look, display

GREY = np.linspace(0, 1, 33, dtype=np.float32).reshape(3, 11)


def test_acescct_is_the_published_curve():
    """S-2016-001, through colour-science; on grey, so that primaries play no part."""
    got = space_codes(dict.fromkeys("RGB", GREY), "cg/ACEScct")
    for n in "RGB":
        want = colour.models.log_encoding_ACEScct(np.maximum(GREY.astype(float), 1e-9))
        np.testing.assert_allclose(got[n], want, atol=1e-4)


def test_acescg_is_bt709_in_ap1():
    """The matrix of colour-science, with the adaptation that the configuration states (CAT02 or Bradford)."""
    rgb = np.random.default_rng(3).random((3, 40, 50), dtype=np.float32)
    light = space_light(dict(zip("RGB", rgb, strict=True)), "cg/ACEScg")
    matrix = colour.matrix_RGB_to_RGB("ACEScg", "sRGB", chromatic_adaptation_transform="Bradford")
    want = np.einsum("ij,jyx->iyx", matrix, rgb)
    for c, n in enumerate("RGB"):
        np.testing.assert_allclose(light[n], want[c], atol=2e-3)


@pytest.mark.parametrize("key", BUILT_IN)
def test_every_space_gives_back_what_it_was_given(key):
    """On light from 0.001 to 4, within what float32 and the library's own inverses allow."""
    rng = np.random.default_rng(1)
    light = dict(zip("RGB", (10 ** rng.uniform(-2, 0.5, (3, 20, 20))).astype(np.float32), strict=True))
    for space in spaces_of(key):
        if "ADX" in space.name:
            continue  # a film scan's density: defined from codes to light alone
        back = space_light(space_codes(light, space.name), space.name)
        for n in "RGB":
            np.testing.assert_allclose(back[n], light[n], rtol=5e-3, atol=2e-4, err_msg=space.name)
        assert is_linear_space(space.name) == space.linear


@pytest.mark.parametrize("key", BUILT_IN)
def test_every_view_is_the_librarys(key):
    rng = np.random.default_rng(2)
    rgb = (10 ** rng.uniform(-3, 1, (16, 16, 3))).astype(np.float32)
    config = ocio.Config.CreateFromBuiltinConfig(BUILT_IN[key])
    for view in views_of(key):
        want = rgb.copy()
        transform = ocio.DisplayViewTransform("Linear Rec.709 (sRGB)", view.display, view.title)
        config.getProcessor(transform).getOptimizedCPUProcessor(ocio.OPTIMIZATION_NONE).applyRGB(want)
        got = space_codes({n: np.ascontiguousarray(rgb[..., c]) for c, n in enumerate("RGB")}, view.name)
        # at black PQ and plain powers are so steep that float32's last bits of light are a thousandth in code
        shown = np.dstack([got[n] for n in "RGB"])
        np.testing.assert_allclose(np.maximum(shown, 3e-3), np.maximum(want, 3e-3), atol=1e-4)


READINGS = [
    Reading(alpha="straight"), Reading(alpha="premultiplied"), Reading(alpha="none"),
    Reading(alpha="premultiplied", multiplied="encoded", matte=(0.5, 0.25, 0)),
    Reading(alpha="premultiplied", multiplied="linear", matte=(0.5, 0.25, 0.1)),
    Reading(alpha="straight", inverted=True),
]  # fmt: skip


@pytest.mark.parametrize("reading", READINGS, ids=lambda r: r.words())
@pytest.mark.parametrize("space", ["cg/ACEScct", "cg/ACEScg", "studio/ARRI LogC4", "cg/sRGB Encoded P3-D65"])
def test_what_is_stored_in_a_space_is_read_back(space, reading):
    light = picture(premultiplied(soft_disc()))
    back = read(store(light, reading, space), reading, space)
    if reading.alpha == "none":
        np.testing.assert_allclose(back["R"], light["R"], atol=1e-4)
        return
    for n in "RGBA":
        np.testing.assert_allclose(back[n], light[n], atol=2e-4)


def test_the_same_curve_as_a_space_reads_as_the_plain_encoding():
    """sRGB by the configuration beside our own kernels, in every state of alpha."""
    codes = stored(soft_disc())
    for reading in READINGS:
        plain, space = read(codes, reading, "srgb"), read(codes, reading, "cg/sRGB Encoded Rec.709 (sRGB)")
        for n in "RGBA":
            np.testing.assert_allclose(space[n], plain[n], rtol=4e-6, atol=2e-6)


def test_single_planes_are_taken_as_grey():
    np.testing.assert_allclose(decode(encode(GREY, "cg/ACEScct"), "cg/ACEScct"), GREY, atol=1e-5)
    assert encoding_named("cg/ACEScct").title == "ACEScct"


@pytest.mark.parametrize("name", ["cg/Nowhere", "cg/sRGB - Display|Sepia", "own/ACEScg", "cg/"])
def test_names_that_are_none_are_refused(name):
    with pytest.raises(NameUnknown):
        space_codes(dict.fromkeys("RGB", GREY), name)


def test_no_light_is_read_of_a_view():
    name = views_of("cg")[0].name
    assert is_view(name)
    with pytest.raises(NameUnknown):
        read(stored(soft_disc()), Reading(alpha="straight"), name)


@pytest.mark.parametrize("channel", ["colour", "rgb", "straight", "red", "luma", "band", "tint"])
def test_a_picture_is_shown_brighter_and_through_a_view(channel):
    disc = picture(premultiplied(soft_disc()))
    plain = display(disc, Look(channel=channel))
    one = display(disc, Look(channel=channel, exposure=1e-9))
    assert np.abs(plain.astype(int) - one).max() <= 1, "the long way shows the same"
    gamma = display(disc, Look(channel=channel, gamma=2.2))
    np.testing.assert_allclose(gamma, np.rint((plain / 255) ** (1 / 2.2) * 255), atol=8)
    name = views_of("cg")[0].name
    shown = display(disc, Look(channel=channel, background="black", exposure=1, through=name))
    if channel == "rgb":
        want = space_codes({n: disc[n] * 2 for n in "RGB"}, name)["G"]
        np.testing.assert_array_equal(shown[..., 1], np.rint(np.clip(want, 0, 1) * 255))
    assert shown.std() > 0
    with pytest.raises(ValueError, match="no view"):
        Look(through="cg/ACEScg")
