"""Moving WebP and GIF: bytes by RFC 9649, pixels by Pillow, times rounded to their clocks, and damage."""

import struct
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.codecs import codec_named
from neatveil.comp import Comp
from neatveil.delivery import count_losses
from neatveil.delivery.advice import advice_for
from neatveil.delivery.formats import DeliveryForm, format_of
from neatveil.delivery.take import Take, taken
from neatveil.errors import NeatVeilError
from neatveil.io import LocalDecoder
from neatveil.io.backends.av_writing import movie_file
from neatveil.io.backends.webp_moving import is_moving
from neatveil.io.rates import rate_of_times
from neatveil.picture import PremultipliedPicture, StoredPicture
from PIL import Image


def codes(seed, height=37, width=51):
    """Noise, with an alpha of 0 in places that have colour."""
    rgba = np.random.default_rng(seed).integers(0, 256, (height, width, 4), np.uint8)
    rgba[:9, :, 3] = 0
    return rgba


def written(path, name, frames, rate=Fraction(25)):
    with movie_file(path, rate, codec=codec_named(name), encoding="srgb") as put:
        for rgba in frames:
            put(
                StoredPicture(
                    {n: rgba[..., i] / np.float32(255) for i, n in enumerate("RGBA"[: rgba.shape[2]])}
                )
            )
    return path


def test_every_code_of_a_moving_webp_comes_back_by_another_library(tmp_path):
    frames = [codes(n) for n in range(5)]
    path = written(tmp_path / "k.webp", "webp-moving", frames)
    with Image.open(path) as image:
        assert (image.n_frames, image.info["loop"]) == (5, 0)
        for n, rgba in enumerate(frames):
            image.seek(n)
            np.testing.assert_array_equal(np.asarray(image), rgba)
    ours = LocalDecoder().read(str(path), 3)
    np.testing.assert_array_equal(np.rint(ours.rgba() * 255), frames[3])
    facts = LocalDecoder().probe(str(path))
    assert (facts.kind, facts.count, facts.rate, facts.alpha_claim) == ("movie", 5, "25", "straight")


def test_a_moving_webp_without_alpha_says_so(tmp_path):
    path = written(tmp_path / "k.webp", "webp-moving", [codes(n)[..., :3] for n in range(2)])
    facts = LocalDecoder().probe(str(path))
    assert ([c.name for c in facts.channels], facts.alpha) == (["R", "G", "B"], False)


def test_its_chunks_are_those_of_the_standard(tmp_path):
    """RFC 9649, 2.7: VP8X first, then ANIM, then a frame each; lengths even; durations add up."""
    path = written(tmp_path / "k.webp", "webp-moving", [codes(n) for n in range(7)], Fraction(24))
    data = path.read_bytes()
    assert (data[:4], struct.unpack("<I", data[4:8])[0], data[8:12]) == (b"RIFF", len(data) - 8, b"WEBP")
    at, kinds, lasts = 12, [], []
    while at < len(data):
        kind, length = data[at : at + 4], struct.unpack("<I", data[at + 4 : at + 8])[0]
        kinds.append(kind)
        if kind == b"ANMF":
            lasts.append(int.from_bytes(data[at + 20 : at + 23], "little"))
            assert data[at + 24 : at + 28] == b"VP8L"
        at += 8 + length + length % 2
    assert kinds == [b"VP8X", b"ANIM", *[b"ANMF"] * 7]
    assert lasts == [42, 41, 42, 42, 41, 42, 42], "the times of 24 fps in whole milliseconds"
    assert is_moving(path)


def test_a_still_webp_does_not_move(tmp_path):
    Image.fromarray(codes(1)).save(tmp_path / "s.webp", lossless=True)
    assert not is_moving(tmp_path / "s.webp")
    assert LocalDecoder().probe(str(tmp_path / "s.webp")).kind == "still"


def test_a_gif_is_covered_or_not_and_near_in_colour(tmp_path):
    y, x = np.mgrid[:48, :64]
    soft = np.dstack([x * 4, y * 5, 255 - x * 4, np.where(x < 20, 100, 156)]).astype(np.uint8)
    path = written(tmp_path / "k.gif", "gif", [soft, soft[:, ::-1]])
    with Image.open(path) as image:
        for n, rgba in enumerate((soft, soft[:, ::-1])):
            image.seek(n)
            got = np.asarray(image.convert("RGBA")).astype(int)
            np.testing.assert_array_equal(got[..., 3], np.where(rgba[..., 3] > 127, 255, 0))
            shown = rgba[..., 3] > 127
            assert np.abs(got[shown][:, :3] - rgba[shown][:, :3]).mean() < 8
    facts = LocalDecoder().probe(str(path))
    assert (facts.kind, facts.count, facts.rate, facts.alpha) == ("movie", 2, "25", True)


RATES = [Fraction(n) for n in (12, 24, 25, 30, 48)] + [Fraction(24000, 1001), Fraction(30000, 1001)]


@given(st.sampled_from(RATES), st.integers(1, 400), st.sampled_from([100, 1000]))
def test_a_rate_is_found_in_its_rounded_times(rate, count, ticks):
    """Exactly, once the clip is long enough to tell it from its neighbours."""
    times = [round(n / rate * ticks) for n in range(count + 1)]
    found = rate_of_times(times, Fraction(1, ticks))
    assert abs(count / found - count / rate) <= Fraction(1, ticks)
    if count > 300 and ticks == 1000:
        assert found == rate
    assert rate_of_times([0, 0], Fraction(1, ticks)) is None


def test_what_a_gif_cannot_hold_is_said_before_the_order():
    half = PremultipliedPicture.from_rgba(np.full((4, 4, 4), 0.5, np.float32))
    form = DeliveryForm(codec="gif")
    (losses,) = count_losses(lambda frame: half, [format_of(form)], [1])
    assert losses.soft == 16
    said = advice_for(form, taken(Take(), Comp(width=4, height=4, rate="24")), losses)
    soft = next(a for a in said if "covered in part" in a.message)
    assert (soft.weight, soft.repairs[0].form) == ("lost", {"codec": "apng"})
    assert any("Its times are whole 1/100 s" in a.message for a in said)


@pytest.mark.parametrize("kept", [0, 11, 21, 40, 300])
def test_a_moving_webp_cut_short_is_refused_by_name(tmp_path, kept):
    path = written(tmp_path / "k.webp", "webp-moving", [codes(n) for n in range(3)])
    path.write_bytes(path.read_bytes()[:kept])
    with pytest.raises(NeatVeilError) as caught:
        LocalDecoder().probe(str(path))
    assert "k.webp" in caught.value.message


@pytest.mark.parametrize("name", ["prores4444", "prores422hq", "png-movie", "animation"])
def test_a_quicktime_movie_says_that_it_has_no_fields(tmp_path, name):
    """QuickTime File Format, field handling: the extension ``fiel`` with one field a frame (from memory)."""
    path = tmp_path / "k.mov"
    with movie_file(path, Fraction(25), codec=codec_named(name), encoding="rec709") as put:
        put(StoredPicture({n: codes(1, 64, 64)[..., i] / np.float32(255) for i, n in enumerate("RGBA")}))
    data = path.read_bytes()
    at = data.index(b"fiel")
    assert data[at + 4] == 1
