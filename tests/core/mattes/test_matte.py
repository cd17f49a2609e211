"""Parts of mattes and their combination: what keeps, what removes; Recommendations and properties."""

import colorsys

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.channels.pick import picked
from neatveil.errors import NameUnknown
from neatveil.mattes import ChannelPart, Drawn, Matte
from pydantic import ValidationError

values = st.lists(st.floats(0, 1, width=32), min_size=1, max_size=20).map(lambda v: np.array([v], np.float32))
PLANES = {n: np.array([[v]], np.float32) for n, v in zip("RGBA", (0.6, 0.3, 0.1, 1), strict=True)}


@pytest.mark.parametrize(("weights", "expected"), [
    # ITU-R BT.601-7 2.5.1, BT.709-6 item 3.2, BT.2020-2 table 4, on (0.6, 0.3, 0.1)
    ("bt601", 0.6 * 0.299 + 0.3 * 0.587 + 0.1 * 0.114), ("bt709", 0.6 * 0.2126 + 0.3 * 0.7152 + 0.1 * 0.0722),
    ("bt2020", 0.6 * 0.2627 + 0.3 * 0.6780 + 0.1 * 0.0593), ("mean", 1 / 3),
])  # fmt: skip
def test_luma_of_the_recommendations(weights, expected):
    assert picked(PLANES, "luma", weights=weights, code=None)[0, 0] == pytest.approx(expected, abs=1e-6)


def test_every_channel_of_a_picture():
    h, light, s = colorsys.rgb_to_hls(0.6, 0.3, 0.1)
    expected = {"alpha": 1, "red": 0.6, "green": 0.3, "blue": 0.1, "hue": h, "saturation": s,
                "lightness": light, "min": 0.1, "max": 0.6}  # fmt: skip
    for name, value in expected.items():
        assert picked(PLANES, name, code=None)[0, 0] == pytest.approx(value, abs=1e-6), name


def test_codes_are_those_of_srgb_and_alpha_has_none():
    """IEC 61966-2-1: light 0.214 is code 0.5."""
    from neatveil.colour.codes import coded

    planes = {**PLANES, "R": np.array([[0.21404114]], np.float32)}
    assert picked(planes, "red", code=coded)[0, 0] == pytest.approx(0.5, abs=1e-5)
    assert picked({**planes, "A": planes["R"]}, "alpha", code=coded)[0, 0] == pytest.approx(0.21404, abs=1e-5)


def test_a_channel_that_is_not_there_is_refused_with_those_that_are():
    with pytest.raises(NameUnknown, match=r"depth.*mask\.3"):
        picked({**PLANES, "mask.3": PLANES["A"]}, "depth", code=None)


def test_a_ramp_crushes_between_low_and_high():
    x = np.array([[-1, 0.2, 0.3, 0.5, 0.7, 2, np.nan]], np.float32)
    kept = ChannelPart(low=0.3, high=0.7).kept(x)[0]
    np.testing.assert_allclose(kept, [0, 0, 0, 0.5, 1, 1, 0], atol=1e-6)
    np.testing.assert_allclose(ChannelPart(low=0.7, high=0.3).kept(x)[0], [1, 1, 1, 0.5, 0, 0, 0], atol=1e-6)


def test_a_soft_range_keeps_a_slice_of_depth():
    depth = np.array([[1, 3, 4, 6, 8, 9, 10, np.inf]], np.float32)
    kept = ChannelPart(shape="range", low=4, high=8, soft=2).kept(depth)[0]
    np.testing.assert_allclose(kept, [0, 0.5, 1, 1, 1, 0.5, 0, 0], atol=1e-6)
    hard = ChannelPart(shape="range", low=4, high=8, soft=0).kept(depth)[0]
    np.testing.assert_array_equal(hard, [0, 0, 1, 1, 1, 0, 0, 0])


def test_a_ramp_without_height_is_refused():
    with pytest.raises(ValidationError, match="must differ"):
        ChannelPart(low=0.5, high=0.5)


@given(values)
def test_a_part_and_its_inverse_add_up_to_all(x):
    np.testing.assert_allclose(ChannelPart().kept(x) + ChannelPart(inverted=True).kept(x), 1, atol=1e-6)


@given(values)
def test_intersecting_with_itself_changes_nothing(x):
    for how, expected in (("intersect", x), ("exclude", 0 * x)):
        got = Matte(parts=(ChannelPart(), ChannelPart(combine=how))).joined([Drawn(x), Drawn(x)])
        np.testing.assert_array_equal(got, expected)


@given(st.lists(st.sampled_from(["add", "subtract", "intersect", "exclude"]), min_size=1, max_size=6))
def test_any_list_is_what_it_says_written_out(hows):
    planes = [np.random.default_rng(i).random((4, 5), np.float32) for i in range(len(hows))]
    total = planes[0] if hows[0] != "subtract" else 1 - planes[0]
    for how, plane in zip(hows[1:], planes[1:], strict=True):
        total = {"add": np.minimum(total + plane, 1), "subtract": np.maximum(total - plane, 0),
                 "intersect": np.minimum(total, plane), "exclude": np.abs(total - plane)}[how]  # fmt: skip
    got = Matte(parts=tuple(ChannelPart(combine=h) for h in hows)).joined([Drawn(p) for p in planes])
    np.testing.assert_allclose(got, total, atol=1e-6)


def test_object_masks_of_one_pixel_come_apart_again():
    """Board 1 minus frame 7 minus bolts 8: shares of a pixel that add up to 1."""
    rng = np.random.default_rng(2)
    shares = rng.dirichlet((1, 1, 1), 50).astype(np.float32).T[:, None]
    board = shares.sum(0)
    parts = (ChannelPart(), ChannelPart(combine="subtract"), ChannelPart(combine="subtract"))
    got = Matte(parts=parts).joined([Drawn(board), Drawn(shares[1]), Drawn(shares[2])])
    np.testing.assert_allclose(got, shares[0], atol=1e-6)


def test_the_first_part_may_be_what_is_taken_out():
    x = np.array([[0.25]], np.float32)
    assert Matte(parts=(ChannelPart(combine="subtract"),)).joined([Drawn(x)])[0, 0] == 0.75


def test_a_matte_without_parts_keeps_everything():
    assert not Matte().works
    assert not Matte(parts=(ChannelPart(on=False),)).works
    assert Matte(inverted=True).works


def test_growing_then_shrinking_a_disc_returns_it():
    y, x = np.mgrid[-40:41, -40:41]
    disc = np.clip(20.5 - np.hypot(x, y), 0, 1).astype(np.float32)
    back = Matte(grow=-6).refined(Matte(grow=6).refined(disc, 0), 0)
    assert np.abs(back - disc).mean() < 0.002
    assert back.sum() == pytest.approx(disc.sum(), rel=0.01)
