"""The functions on arrays: each is the arithmetic of the application, and refuses what it cannot take."""

import colour as colour_science
import cv2
import numpy as np
import pytest
from neatveil import arrays
from neatveil.alpha import Reading
from neatveil.errors import FormatUnknown, NameUnknown, ValueRefused

RNG = np.random.default_rng(5)


def light(height=12, width=17):
    alpha = RNG.random((height, width, 1))
    return np.concatenate([RNG.random((height, width, 3)) * alpha, alpha], axis=2).astype(np.float32)


@pytest.mark.parametrize("encoding", ["srgb", "linear", "srgb@p3-d65", "gamma2.2"])
@pytest.mark.parametrize(
    "reading",
    [
        Reading(alpha="straight"),
        Reading(alpha="premultiplied", matte=(0.2, 0.4, 0.6)),
        Reading(alpha="premultiplied", matte=(1, 1, 1), multiplied="encoded"),
        Reading(alpha="straight", inverted=True),
    ],
    ids=lambda r: r.words(),
)
def test_what_is_stored_is_read_back(reading, encoding):
    rgba = light()
    back = arrays.read_as(arrays.store_as(rgba, reading, encoding), reading, encoding)
    np.testing.assert_allclose(back, rgba, atol=3e-5)


#: Steps that go by extra channels: an array has none.
BY_DATA = ["depth_blur", "fog", "motion_blur", "relight"]


@pytest.mark.parametrize("kind", BY_DATA)
def test_a_step_that_goes_by_data_says_what_is_missing(kind):
    with pytest.raises(NameUnknown, match="no channel named"):
        arrays.step(kind, light(12, 17))


@pytest.mark.parametrize("shape", [(12, 17), (1, 1), (1, 9), (0, 5)])
def test_blurs_by_data_take_any_size(shape):
    rgba, jumps = light(*shape), np.where(np.arange(shape[1]) % 3 == 1, 4.0, -3.0)
    by = np.broadcast_to(jumps, shape).astype(np.float32)
    for done in (arrays.motion_blurred(rgba, np.stack([by, by], -1)), arrays.depth_blurred(rgba, by)):
        assert done.shape == rgba.shape
        assert np.isfinite(done).all()
        assert not done.size or (done[..., 3].min() >= 0 and done[..., 3].max() <= 1 + 1e-6)


@pytest.mark.parametrize("kind", sorted(set(arrays.steps()) - set(BY_DATA)))
@pytest.mark.parametrize("shape", [(12, 17), (1, 1), (0, 5)])
def test_every_step_takes_any_size(kind, shape):
    rgba = light(*shape)
    second = light(*shape) if kind in {"patch", "combine"} else None
    done = arrays.step(kind, rgba, second)
    assert done.shape == rgba.shape
    assert done.dtype == np.float32
    assert not done.size or (done[..., 3].min() >= 0 and done[..., 3].max() <= 1)


@pytest.mark.parametrize(
    ("overflow", "want"), [("keep", 1.5), ("clip", 1.0), ("wrap", 1.5 - 256 / 255), ("rescale", 0.75)]
)
def test_combining_beyond_one_is_answered_as_stated(overflow, want):
    """1.5 of 0..1: kept, cut off, as 8-bit codes count on from 0, and by the range of a sum."""
    codes = arrays.decode(np.array([[[0.75, 0.75, 0.75]]], np.float32))
    rgba = np.concatenate([codes, np.ones((1, 1, 1), np.float32)], axis=2)
    done = arrays.step("combine", rgba, rgba, operation="add", overflow=overflow, space="codes")
    assert arrays.encode(done[..., :3])[0, 0, 0] == pytest.approx(want, abs=2e-3)


def test_a_patch_routes_channels_of_two_pictures():
    one, two = light(), light()
    done = arrays.step("patch", one, two, routes={"A": {"source": "second", "channel": "A"}})
    np.testing.assert_allclose(done[..., 3], two[..., 3], atol=1e-6)


@pytest.mark.parametrize("kind", arrays.matte_parts())
def test_every_matte_part_makes_a_share(kind):
    fields = {
        "key": {"screen_colour": (0.1, 0.6, 0.2)},
        "object": {"objects": ["kite"]},
        "shape": {"shape": "ellipse", "width": 8, "height": 6},
    }.get(kind, {})
    if kind == "object":
        with pytest.raises(ValueRefused):
            arrays.matte(light(), [{"kind": kind, **fields}])
        return
    kept = arrays.matte(light(), [{"kind": kind, **fields}])
    assert kept.shape == (12, 17)
    assert kept.min() >= 0
    assert kept.max() <= 1


def test_a_key_against_a_clean_plate_keeps_what_differs():
    plate = np.full((8, 8, 4), (0.1, 0.6, 0.2, 1), np.float32)
    shot = plate.copy()
    shot[2:5, 2:5, :3] = (0.7, 0.3, 0.2)
    kept = arrays.matte(shot, [{"kind": "key", "by": "plate", "plate": "second"}], plate)
    assert kept[3, 3] == pytest.approx(0.505, abs=1e-3), "of the codes of 0.7 and 0.1"
    assert kept[7, 7] == 0


def test_to_cut_out_is_the_operator_in():
    """Porter & Duff 1984 [PorterDuff1984]."""
    rgba, kept = light(), RNG.random((12, 17), np.float32)
    white = np.repeat(kept[..., None], 4, axis=2)
    np.testing.assert_allclose(arrays.cut_out(rgba, kept), arrays.merge("in", rgba, white), atol=1e-6)


@pytest.mark.parametrize(
    ("name", "theirs"), [("bt2020", "ITU-R BT.2020"), ("p3-d65", "P3-D65"), ("ap0", "ACES2065-1")]
)
def test_primaries_against_a_colour_library(name, theirs):
    spaces = colour_science.RGB_COLOURSPACES
    rgb = light()[..., :3]
    want = colour_science.RGB_to_RGB(
        rgb, spaces[theirs], spaces["ITU-R BT.709"], chromatic_adaptation_transform="Bradford"
    )
    np.testing.assert_allclose(arrays.convert_primaries(rgb, name), want, atol=3e-4)


def test_a_transform_is_a_warp_by_its_matrix():
    rgba = cv2.GaussianBlur(light(31, 44), (0, 0), 2)
    angle, scale, x, y = np.radians(20), 0.9, 3.25, -2.5
    centre = np.array([[1, 0, 21.5], [0, 1, 15], [0, 0, 1]])
    c, s = np.cos(angle) * scale, np.sin(angle) * scale
    there = centre @ np.array([[c, -s, x], [s, c, y], [0, 0, 1]]) @ np.linalg.inv(centre)
    done = arrays.transform(rgba, x=x, y=y, scale=scale, rotation=20)
    warped = arrays.warp(rgba, np.linalg.inv(there))
    # at the rim a transform limits what its filter overshoots
    assert np.abs(done - warped)[8:23, 12:32].max() < 1e-5


def test_files_of_every_ending_come_back(tmp_path):
    rgba = light()
    for ending, tolerance in ((".png", 1e-5), (".tif", 1e-5), (".exr", 5e-4)):
        arrays.write_picture(tmp_path / f"a{ending}", rgba)
        np.testing.assert_allclose(arrays.read_picture(tmp_path / f"a{ending}"), rgba, atol=tolerance)
    with pytest.raises(FormatUnknown, match="no picture of this ending"):
        arrays.write_picture(tmp_path / "a.txt", rgba)
    assert {p.name for p in tmp_path.iterdir()} == {"a.png", "a.tif", "a.exr"}


@pytest.mark.parametrize(
    ("call", "error"),
    [
        (lambda: arrays.step("sharpen", np.zeros((2, 2, 3), np.float32)), ValueRefused),
        (lambda: arrays.step("levels", light(), gama=2), ValueRefused),
        (lambda: arrays.step("dissolve", light()), NameUnknown),
        (lambda: arrays.matte(light(), [{"kind": "channel", "chanel": "alpha"}]), ValueRefused),
        (lambda: arrays.cut_out(light(), np.ones((2, 2), np.float32)), ValueRefused),
        (lambda: arrays.warp(light(), np.eye(2)), ValueRefused),
        (lambda: arrays.convert_primaries(light(), "bt1"), NameUnknown),
        (lambda: arrays.decode(light(), "srbg"), NameUnknown),
        (lambda: arrays.read_as(np.zeros((2, 2, 4), np.uint8), Reading()), ValueRefused),
    ],
)
def test_what_cannot_be_taken_is_refused_in_words(call, error):
    with pytest.raises(error) as found:
        call()
    assert len(str(found.value)) > 20
