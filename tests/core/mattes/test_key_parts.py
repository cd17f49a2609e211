"""Keys by a screen's colour or a clean plate: mattes that are known, published formulas, FFmpeg's keyer."""

from fractions import Fraction

import av
import numpy as np
import pytest
import scipy.ndimage as ndi
from core.pictures import soft_disc
from hypothesis import given
from hypothesis import strategies as st
from neatveil.errors import ValueRefused
from neatveil.evaluate.matting import part_matte
from neatveil.mattes import KeyPart, Rows
from neatveil.mattes.key import black_point_of, white_point_of
from skimage.data import coffee

GREEN = (0.1, 0.6, 0.2)


def rows(picture, second=None, card=None):
    planes = [
        None if p is None else {n: np.ascontiguousarray(p[..., i]) for i, n in enumerate("RGB")}
        for p in (picture, second)
    ]
    return Rows(planes[0], planes[1], 0, picture.shape[0], card)


def over(front, alpha, card):
    return (front * alpha[..., None] + (1 - alpha[..., None]) * np.asarray(card)).astype(np.float32)


def uneven(height, width):
    """A card lit from the left, with a dark corner: 0.55 to 1.2 of its colour."""
    y, x = np.mgrid[:height, :width].astype(np.float32)
    light = 1.2 - 0.45 * x / width - 0.2 * (y / height) ** 2
    return light[..., None] * np.array(GREEN, np.float32)


@pytest.fixture
def disc():
    return soft_disc(120, 160)[..., 3]


def test_a_grey_thing_before_an_even_card(disc):
    picture = over(np.full((120, 160, 3), 0.4), disc, GREEN)
    np.testing.assert_allclose(part_matte(KeyPart(screen_colour=GREEN), rows(picture)), disc, atol=2e-6)


@given(st.tuples(*[st.floats(0, 1, width=32)] * 3), st.floats(0, 1))
def test_the_formula_written_out(rgb, balance):
    """Vlahos 1971: the screen's channel less the greater of the others; the balance leads to the lesser."""
    r, g, b = (float(v) for v in rgb)
    limit = max(r, b) + balance * (min(r, b) - max(r, b))
    whole = 0.6 - (0.2 + balance * (0.1 - 0.2))
    key = KeyPart(screen_colour=GREEN, balance=balance)
    got = key.kept(key.values(rows(np.array([[rgb]], np.float32))))
    assert got[0, 0] == pytest.approx(min(1, max(0, 1 - max(0, g - limit) / whole)), abs=2e-5)


def test_a_blue_card_is_keyed_by_its_blue(disc):
    card = (0.05, 0.15, 0.7)
    picture = over(np.full((120, 160, 3), 0.3), disc, card)
    np.testing.assert_allclose(part_matte(KeyPart(screen_colour=card), rows(picture)), disc, atol=2e-6)


def test_an_uneven_card_is_evened_out_by_a_fit(disc):
    card = uneven(120, 160)
    picture = over(np.full((120, 160, 3), 0.4), disc, card)
    key = KeyPart(screen_colour=GREEN, evenness="uneven")
    small = {n: picture[::4, ::4, i] for i, n in enumerate("RGB")}
    got = part_matte(key, rows(picture, card=key.survey(small)))
    flat = part_matte(KeyPart(screen_colour=GREEN), rows(picture))
    assert np.abs(got - disc).max() < 0.03
    assert np.abs(flat - disc).max() > 0.3


def test_a_clean_plate_evens_the_card_out_exactly(disc):
    card = uneven(120, 160)
    picture = over(np.full((120, 160, 3), 0.4), disc, card)
    key = KeyPart(screen_colour=GREEN, evenness="plate", plate="empty")
    np.testing.assert_allclose(part_matte(key, rows(picture, card)), disc, atol=1e-4)


def test_difference_from_a_clean_plate(disc):
    plate = coffee()[:120, :160].astype(np.float32) / 255
    picture = over(np.zeros((120, 160, 3)), disc, plate**2.2)
    got = part_matte(KeyPart(by="plate", plate="empty", black=0.02, white=0.1), rows(picture, plate**2.2))
    assert got[disc == 0].max() == 0
    assert got[ndi.binary_erosion(disc == 1, iterations=2)].mean() > 0.9


def test_the_ends_are_cleaned(disc):
    picture = over(np.full((120, 160, 3), 0.4), disc, GREEN)
    got = part_matte(KeyPart(screen_colour=GREEN, black=0.1, white=0.8), rows(picture))
    np.testing.assert_allclose(got, np.clip((disc - 0.1) / 0.7, 0, 1), atol=1e-5)
    turned = part_matte(KeyPart(screen_colour=GREEN, black=0.1, white=0.8, inverted=True), rows(picture))
    np.testing.assert_allclose(got + turned, 1, atol=1e-6)


@pytest.mark.parametrize("colour", [(0.4, 0.4, 0.4), (0.5, 0.1, 0.1), (0, 0, 0), (0.3, 0.31, 0.1)])
def test_a_colour_that_is_no_cards_is_refused(colour):
    with pytest.raises(ValueRefused, match="neither green nor blue"):
        KeyPart(screen_colour=colour).whole()


def test_a_key_without_its_plate_says_so(disc):
    picture = over(np.full((120, 160, 3), 0.4), disc, GREEN)
    with pytest.raises(ValueRefused, match="no clean plate"):
        part_matte(KeyPart(by="plate"), rows(picture))


def test_a_picture_without_a_card_cannot_be_evened_out():
    with pytest.raises(ValueRefused, match="too little of the screen"):
        KeyPart(screen_colour=GREEN, evenness="uneven").survey(
            {n: np.full((40, 40), 0.3, np.float32) for n in "RGB"}
        )


def test_as_a_general_keyer_finds_it(disc):
    """FFmpeg's colorkey (distance in RGB, from a similarity over a blend): the same inside and outside.

    They measure differently between: what lies half way for one does for the other within two pixels.
    """
    front = coffee()[:120, :160].astype(np.float32) / 255 * np.array([1, 0.4, 0.6])
    codes = np.rint(over(front, disc, GREEN) * 255).astype(np.uint8)
    graph = av.filter.Graph()
    source = graph.add_buffer(width=160, height=120, format="rgba", time_base=Fraction(1, 25))
    key = graph.add("colorkey", "color=0x1A9933:similarity=0.08:blend=0.2")
    sink = graph.add("buffersink")
    for a, b in ((source, key), (key, sink)):
        a.link_to(b)
    graph.configure()
    opaque = np.dstack([codes, np.full((120, 160), 255, np.uint8)])
    graph.push(av.VideoFrame.from_ndarray(opaque, "rgba"))
    theirs = graph.pull().to_ndarray(format="rgba")[..., 3].astype(np.float32) / 255
    ours = part_matte(KeyPart(screen_colour=GREEN), rows(codes.astype(np.float32) / 255))
    inside, outside = (ndi.binary_erosion(m, iterations=2) for m in (disc == 1, disc == 0))
    assert ours[inside].min() > 0.97
    assert theirs[inside].min() > 0.97
    assert max(ours[outside].max(), theirs[outside].max()) < 0.03
    half = ours > 0.5
    assert not (half & ~ndi.binary_dilation(theirs > 0.5, iterations=2)).any()
    assert not ((theirs > 0.5) & ~ndi.binary_dilation(half, iterations=2)).any()


def test_the_black_end_is_the_noise_of_a_clean_card():
    """Half a normal spread, as a key clips it: 99.5 in 100 of it lie below 2.576 times the spread."""
    noise = np.clip(np.random.default_rng(4).normal(0, 0.01, (400, 500)), 0, 1).astype(np.float32)
    found = black_point_of(noise)
    # NIST handbook, table of the normal distribution: 0.995 lies at 2.5758
    assert found == pytest.approx(0.0258, abs=1.5e-3)
    assert (noise > found).mean() <= 0.005
    assert black_point_of(np.zeros((4, 4), np.float32)) == 0
    assert black_point_of(np.full((4, 4), 0.9, np.float32)) == 0.25, "a piece that is kept is no clean card"
    assert black_point_of(np.full((4, 4), np.nan, np.float32)) == 0


def test_the_white_end_is_the_core_of_what_stands_before_the_card():
    """A soft round thing that a key keeps at 0.8, with a long ramp as of motion blur around it."""
    y, x = np.mgrid[:240, :320]
    away = np.hypot(x - 160, y - 120)
    kept = (0.8 * np.clip((100 - away) / 50, 0, 1)).astype(np.float32)
    assert 0.74 < white_point_of(kept, 0.03) <= 0.8
    assert white_point_of(np.zeros((240, 320), np.float32), 0.03) == 1, "nothing stands there"
    assert white_point_of(np.ones((240, 320), np.float32), 0.03) == 1, "whole already"
    assert white_point_of(np.full((240, 320), 0.55, np.float32), 0.5) == pytest.approx(0.6), (
        "above the black point"
    )
    assert white_point_of(np.full((240, 320), np.nan, np.float32), 0) == 1
    ramp = np.tile(np.linspace(0, 1, 320, dtype=np.float32), (240, 1))
    assert white_point_of(ramp, 0) >= 0.45
