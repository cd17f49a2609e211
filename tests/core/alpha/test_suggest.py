"""Suggesting a reading: right where the pixels decide, and open where they do not."""

import numpy as np
import pytest
from core.alpha.matrix import COLOURS, Case, element, encode
from neatveil.alpha import Reading
from neatveil.alpha.suggest import suggest
from neatveil.alpha.suggest.places import worst_places
from neatveil.arrays import suggest_reading
from neatveil.errors import ValueRefused
from neatveil.picture import StoredPicture
from neatveil.view import trial_sheet
from skimage.data import coffee

TOPS = {"8": 255.0, "1": 65535.0, "h": 2048.0}


def said(case: Case):
    return suggest([StoredPicture.from_rgba(element(case))], case.encoding, TOPS[case.storage[0]])


# The whole matrix is a benchmark (bench/run readings); these are one of each kind and storage.
SOME = [
    Case("soft", "8-bit", "straight", "black"),
    Case("soft", "8-bit lossy", "encoded", "white"),
    Case("soft", "half lossy", "linear", "black"),
    Case("hair", "8-bit", "linear", "navy"),
    Case("hair", "16-bit lossy", "straight", "drawn out"),
    Case("hair", "half", "linear", "green"),
    Case("motion", "16-bit", "encoded", "grey"),
    Case("motion", "8-bit lossy", "straight", "magenta"),
    Case("glow", "half", "linear", "black"),
    Case("glow", "16-bit", "straight", "soot"),
]


@pytest.mark.parametrize("case", SOME, ids=str)
def test_the_reading_that_made_it_is_suggested(case):
    got = said(case)
    if case.truth == "straight":
        assert got.verdict == "straight"
        return
    assert got.verdict == "premultiplied"
    if case.encoding != "linear":
        assert got.reading.multiplied == case.truth
    matte = np.array(COLOURS[case.colour], float)
    if case.encoding == "linear":
        matte = np.where(matte <= 0.04045, matte / 12.92, ((matte + 0.055) / 1.055) ** 2.4)
    np.testing.assert_allclose(got.reading.matte, matte, atol=0.02)


@pytest.mark.parametrize("kind", ["hard", "opaque"])
@pytest.mark.parametrize("truth", ["straight", "encoded"])
def test_where_the_pixels_cannot_tell_nothing_is_guessed(kind, truth):
    got = said(Case(kind, "8-bit", truth, "green"))
    assert (got.verdict, got.reading) == ("cannot-tell", None)
    assert ("hard" in got.reason) == (kind == "hard")
    assert len(got.candidates) >= 2, "they are still shown side by side"


def _edge(width=320, height=200, slope=12.0):
    y, x = np.mgrid[:height, :width]
    reach = 70 + 12 * np.sin(np.arctan2(y - height / 2, x - width / 2) * 5)
    return np.clip((reach - np.hypot(x - width / 2, y - height / 2)) / slope + 0.5, 0, 1)[..., None]


def _photo(dy=0, dx=0):
    return coffee()[dy : dy + 200, dx : dx + 320].astype(np.float64) / 255


def test_a_picture_mixed_into_the_colour_is_read_as_straight_with_the_reason():
    """A render with its environment visible: no single matte colour can take it out (common practice,
    no source)."""
    alpha = _edge()
    mixed = _photo() * alpha + _photo(150, 200) * (1 - alpha)
    rgba = np.dstack([np.rint(mixed * 255) / 255, np.rint(alpha * 255) / 255]).astype(np.float32)
    got = suggest([StoredPicture.from_rgba(rgba)], "srgb")
    assert got.verdict == "straight"
    assert "picture" in got.reason
    assert "no matte colour" in got.reason


def test_an_alpha_that_was_stored_the_other_way_round():
    alpha = _edge()
    rgba = np.dstack([_photo() * alpha + 0.2 * (1 - alpha), 1 - alpha])
    got = suggest([StoredPicture.from_rgba((np.rint(rgba * 255) / 255).astype(np.float32))], "srgb")
    assert got.reading.inverted
    assert got.reading.alpha == "premultiplied"
    assert "inverted" in got.reason


def test_writing_on_a_strap_is_not_taken_for_an_edge():
    """Two flat surfaces of different alpha beside each other say nothing of how they were multiplied."""
    alpha = np.zeros((120, 200), np.float32)
    alpha[20:100, 20:180] = 0.8
    rgba = np.zeros((120, 200, 4), np.float32)
    rgba[..., :3] = (0.15, 0.3, 0.28)
    rgba[40:80:4, 40:160] = (0.95, 0.93, 0.86, 0)
    alpha[40:80:4, 40:160] = 1
    rgba[..., 3] = np.clip(alpha + 0, 0, 1)
    rgba[19, 20:180, 3] = 0.4
    rgba[100, 20:180, 3] = 0.3
    got = suggest([StoredPicture.from_rgba(rgba)], "srgb")
    assert got.verdict == "straight"


def test_the_uncertainty_of_the_matte_colour_grows_with_noise():
    alpha = _edge(slope=20)
    matte = np.array([0.3, 0.5, 0.2])
    rng = np.random.default_rng(4)
    spreads = []
    for noise in (0.0, 0.06):
        held = _photo() * alpha + matte * (1 - alpha)
        # everything partly covered: only the edges can tell the colour
        rgba = np.dstack([held + rng.normal(0, noise, held.shape), np.maximum(alpha, 0.04)])
        got = suggest([StoredPicture.from_rgba(rgba.astype(np.float32))], "srgb")
        (best,) = [c for c in got.candidates if c.reading == got.reading]
        spreads.append(max(best.matte_spread))
        off = np.abs(np.array(got.reading.matte) - matte).max()
        assert off < max(6 * spreads[-1], 0.02)
    assert spreads[1] > 2 * spreads[0]


def test_the_worst_places_lie_on_the_edge_apart_from_each_other_and_the_readings_differ_there():
    case = Case("soft", "8-bit", "encoded", "green")
    picture = StoredPicture.from_rgba(element(case))
    readings = [Reading(alpha="straight"), Reading(alpha="premultiplied", matte=(0, 1, 0))]
    spots = worst_places({3: picture, 8: picture}, readings, "srgb", count=4, size=(40, 30))
    assert {s.frame for s in spots} == {3, 8}
    for spot in spots:
        b = spot.box
        assert (b.width, b.height) == (40, 30)
        part = picture["A"][b.y0 : b.y1, b.x0 : b.x1]
        assert ((part > 0.05) & (part < 0.95)).any()
    one, other = (s.box for s in spots if s.frame == 3)
    assert one.intersect(other).empty
    sheet = trial_sheet(picture, readings, "srgb", one)
    assert sheet.shape == (60, 160, 4)
    assert np.abs(sheet[:30].astype(int) - sheet[30:]).max() > 20


def test_a_title_of_one_colour_reads_the_same_either_way():
    alpha = _edge()
    white = np.dstack([np.ones((200, 320, 3)), alpha]).astype(np.float32)
    got = suggest([StoredPicture.from_rgba(white)], "srgb")
    assert got.verdict == "straight"
    assert "same picture" in got.reason


def test_the_array_face():
    rgba = element(Case("soft", "16-bit", "linear", "black"))
    got = suggest_reading(rgba, encoding="srgb", top=65535)
    assert got.reading.words() == "premultiplied over black"
    with pytest.raises(ValueRefused):
        suggest_reading(rgba[..., :3])


def test_grey_with_alpha_is_judged_by_its_grey():
    alpha = _edge()[..., 0].astype(np.float32)
    grey = encode(np.full((200, 320), 0.2)).astype(np.float32)
    held = grey * alpha + 1 * (1 - alpha)
    got = suggest([StoredPicture({"Y": held, "A": alpha})], "srgb")
    assert got.reading.matte == (1, 1, 1)
    assert got.reading.multiplied == "encoded"
