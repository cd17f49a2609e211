"""Rewriting: every code and the alpha kept, in every form, or said otherwise."""

from fractions import Fraction

import numpy as np
import pytest
import tifffile
from core.pictures import save_png, soft_disc
from neatveil.alpha import Reading, read
from neatveil.codecs import CODECS, codec_named
from neatveil.comp import Element
from neatveil.errors import Cancelled, CannotHoldAlpha, ValueRefused
from neatveil.evaluate.stored import read_stored
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.picture import Box, StoredPicture
from neatveil.transcode import check, dropped, reading_after, transcode

RATE = Fraction(30000, 1001)
FRAMES = range(3, 6)


@pytest.fixture
def kite(tmp_path):
    """Three premultiplied PNG frames, whose codes are to be kept whatever they mean."""
    for n in FRAMES:
        save_png(tmp_path / "in" / f"kite.{n:04d}.png", np.roll(soft_disc(), n, axis=1))
    return Element(
        name="kite", file=str(tmp_path / "in" / "kite.####.png"), first=3, last=5,
        reading=Reading(alpha="premultiplied", matte=(0, 1, 0)), encoding="srgb",
    )  # fmt: skip


def target(codec, folder):
    return folder / (f"k{codec.ending}" if codec.kind == "movie" else f"k.####{codec.ending}")


@pytest.mark.parametrize("name", CODECS)
def test_every_form_keeps_the_codes_within_what_it_states(kite, tmp_path, name):
    codec, decoder = codec_named(name), LocalDecoder()
    if codec.least > (64, 48):
        for n in FRAMES:
            save_png(tmp_path / "in" / f"kite.{n:04d}.png", np.roll(soft_disc(120, 256), n, axis=1))
    path = target(codec, tmp_path / "out")
    transcode(kite, decoder, codec, path, FRAMES, rate=RATE, allow_loss=True)
    report = check(kite, decoder, codec, path, FRAMES)
    assert report.problems == []
    assert report.frames_after == 3
    facts = decoder.probe(str(path))
    assert facts.count == 3
    if codec.kind == "movie":
        assert abs(3 / Fraction(facts.rate) - 3 / RATE) <= (codec.clock or 0)
    assert facts.alpha == codec.alpha
    if codec.alpha and codec.bits == 16 and not codec.floating:
        for index, frame in enumerate(FRAMES):
            before = decoder.read(kite.file, frame)
            after = decoder.read(str(path), frame if codec.kind == "frames" else index)
            for n in "RGBA":
                np.testing.assert_allclose(after[n], before[n], atol=1e-6)


def test_png_frames_written_as_frames_are_read_by_another_library(kite, tmp_path):
    codec = codec_named("tiff16")
    path = target(codec, tmp_path / "out")
    transcode(kite, LocalDecoder(), codec, path, FRAMES, rate=RATE)
    codes = tifffile.imread(tmp_path / "out" / "k.0004.tif")
    before = LocalDecoder().read(kite.file, 4)
    np.testing.assert_array_equal(codes[..., 3], np.rint(before["A"] * 65535).astype(np.uint16))
    np.testing.assert_array_equal(codes[..., 0], np.rint(before["R"] * 65535).astype(np.uint16))


def test_a_form_without_alpha_is_refused_before_anything_is_written(kite, tmp_path):
    codec = codec_named("h264")
    with pytest.raises(CannotHoldAlpha, match="kite"):
        transcode(kite, LocalDecoder(), codec, target(codec, tmp_path / "out"), FRAMES, rate=RATE)
    assert not (tmp_path / "out").exists()


def test_light_that_becomes_integers_is_encoded_and_read_back_as_the_same_light(tmp_path):
    """Half floats of linear light: as straight sRGB codes, since linear codes would band."""
    rgba = soft_disc()
    light = rgba.copy()
    light[..., :3] = (0.6, 0.2, 0.02)
    light[..., :3] *= rgba[..., 3:]
    oiio_writing.write(
        tmp_path / "l.0001.exr", StoredPicture.from_rgba(light), sample="half", alpha_straight=False,
        encoding="linear",
    )  # fmt: skip
    element = Element(
        name="l", file=str(tmp_path / "l.####.exr"), first=1, last=1, encoding="linear",
        reading=Reading(alpha="premultiplied"),
    )  # fmt: skip
    codec, decoder = codec_named("png16"), LocalDecoder()
    reading, encoding = reading_after(element, codec, True)
    assert (reading.alpha, encoding) == ("straight", "srgb")
    path = target(codec, tmp_path / "out")
    transcode(element, decoder, codec, path, [1], rate=RATE)
    again = read(decoder.read(str(path), 1), reading, encoding)
    np.testing.assert_allclose(again.rgba(), light, atol=6e-4)


def test_a_damaged_result_is_found_by_the_check(kite, tmp_path):
    codec, decoder = codec_named("png16"), LocalDecoder()
    path = target(codec, tmp_path / "out")
    transcode(kite, decoder, codec, path, FRAMES, rate=RATE)
    save_png(tmp_path / "out" / "k.0004.png", soft_disc())
    (tmp_path / "out" / "k.0005.png").write_bytes(b"\x89PNG")
    report = check(kite, decoder, codec, path, FRAMES)
    assert any("Frame 4 differs" in p for p in report.problems)
    assert any("k.0005.png" in p for p in report.problems)
    assert any("3 frames went in, 2 came out" in p for p in report.problems)


def test_cancelling_leaves_no_half_movie(kite, tmp_path):
    codec = codec_named("ffv1")
    path = target(codec, tmp_path / "out")
    with pytest.raises(Cancelled):
        transcode(
            kite, LocalDecoder(), codec, path, FRAMES, rate=RATE, cancelled=iter([False, True]).__next__
        )
    assert list((tmp_path / "out").iterdir()) == []


def element_of(decoder, path, reading, encoding, kinds=None):
    facts = decoder.probe(str(path))
    return Element(
        name="kite", file=str(path), first=facts.first, last=facts.last, still=facts.kind == "still",
        reading=reading, encoding=encoding, kinds=kinds or {},
    )  # fmt: skip


#: One of each kind that differs in how it is written and read back.
KINDS = ("prores4444", "ffv1", "vp9", "h264", "dnxhr-444", "png16", "png8", "exr", "tiff32", "dpx10")
LOSSLESS = [n for n, f in CODECS.items() if f.bits == 16 and f.alpha]


@pytest.mark.parametrize("first", CODECS)
@pytest.mark.parametrize("then", KINDS)
def test_through_any_two_forms_it_is_the_same_light(tmp_path, first, then):
    """From straight sRGB PNG frames: what is read of the second form is what was read of the first file."""
    width, height = (
        max(a, b) for a, b in zip(codec_named(first).least, codec_named(then).least, strict=True)
    )
    rgba = soft_disc(max(height, 16), max(width, 24))
    for n in (1, 2):
        save_png(tmp_path / f"a.{n:04d}.png", np.roll(rgba, n, axis=1))
    decoder = LocalDecoder()
    element = element_of(decoder, tmp_path / "a.####.png", Reading(alpha="straight"), "srgb")
    before = read(decoder.read(element.file, 1), element.reading, element.encoding).rgba()
    tolerance = 2e-5
    for step, name in enumerate((first, then)):
        codec = codec_named(name)
        path = target(codec, tmp_path / str(step))
        frames = range(element.first, element.last + 1)
        transcode(element, decoder, codec, path, frames, rate=RATE, allow_loss=True)
        has_alpha = decoder.probe(element.file).alpha
        element = element_of(decoder, path, *reading_after(element, codec, has_alpha))
        tolerance += 3 * (codec.colour_tolerance + codec.alpha_tolerance)
    after = read(decoder.read(element.file, element.first), element.reading, element.encoding).rgba()
    codecs = [codec_named(n) for n in (first, then)]
    inside = before[..., 3] == 1 if all(f.alpha for f in codecs) else before[..., 3] > 2
    np.testing.assert_allclose(after[inside], before[inside], atol=max(tolerance, 2e-3))
    if {first, then} <= set(LOSSLESS):
        np.testing.assert_allclose(after, before, atol=2e-3)


def test_a_render_of_many_channels_keeps_them_all_as_openexr_and_says_what_png_drops(tmp_path):
    rng = np.random.default_rng(5)
    box = Box.sized(6, 4)
    colour = {n: rng.random((4, 6), np.float32) for n in "RGBA"}
    names = [f"mask.{i:02d}" for i in range(36)]
    further = {
        "depth.Z": rng.random((4, 6), np.float32) * 1e6,
        **{n: rng.random((4, 6), np.float32) for n in names},
    }
    oiio_writing.write(
        tmp_path / "many.exr", StoredPicture({**colour, **further}, box, box), sample="float",
        alpha_straight=False, encoding="linear",
    )  # fmt: skip
    decoder = LocalDecoder()
    element = element_of(decoder, tmp_path / "many.exr", Reading(alpha="premultiplied"), "linear")
    facts = decoder.probe(element.file)
    assert dropped(element, facts, codec_named("exr")) == []
    assert any("37 of its channels" in s for s in dropped(element, facts, codec_named("png16")))
    path = tmp_path / "out" / "many.exr"
    transcode(element, decoder, codec_named("exr"), path, [0], rate=RATE)
    assert check(element, decoder, codec_named("exr"), path, [0]).problems == []
    after = decoder.read(str(path), 0, list(further))
    for n, plane in further.items():
        np.testing.assert_array_equal(after[n], plane)
    assert set(decoder.probe(str(path)).data_channels) == set(facts.data_channels)
    assert decoder.probe(str(path)).kind == "still"


@pytest.mark.parametrize("name", LOSSLESS)
def test_a_channel_that_is_marked_as_data_goes_through_untouched(tmp_path, name):
    """A position pass in R, G and B of an OpenEXR file, said to be data, never encoded as colour."""
    width, height = (max(8, least) for least in codec_named(name).least)
    values = np.random.default_rng(3).random((height, width, 4)).astype(np.float16).astype(np.float32)
    values[..., 3] = 1
    oiio_writing.write(
        tmp_path / "p.exr",
        StoredPicture.from_rgba(values),
        sample="float",
        alpha_straight=False,
        encoding="linear",
    )
    decoder, codec = LocalDecoder(), codec_named(name)
    kinds = dict.fromkeys("RGB", "data")
    element = element_of(decoder, tmp_path / "p.exr", Reading(alpha="premultiplied"), "linear", kinds)
    path = target(codec, tmp_path / "out")
    transcode(element, decoder, codec, path, [0], rate=RATE, allow_loss=True)
    after = element_of(decoder, path, *reading_after(element, codec, True), kinds)
    stored = read_stored(decoder, after, after.first)
    assert stored.data_planes >= {*"RGB"}
    for i, n in enumerate("RGB"):
        np.testing.assert_allclose(stored[n], values[..., i], atol=1 / 65535)


@pytest.mark.parametrize(("name", "words"), [("jpeg2000", "32 x 32"), ("dnxhr-444", "256 x 120")])
def test_a_size_that_the_codec_cannot_hold_is_named_before_anything_is_written(tmp_path, name, words):
    save_png(tmp_path / "a.png", soft_disc(20, 24))
    element = element_of(LocalDecoder(), tmp_path / "a.png", Reading(alpha="straight"), "srgb")
    codec = codec_named(name)
    with pytest.raises(ValueRefused, match=words):
        transcode(
            element, LocalDecoder(), codec, target(codec, tmp_path / "out"), [0], rate=RATE, allow_loss=True
        )
    assert not (tmp_path / "out").exists()


def test_a_size_above_what_the_codec_holds_is_named():
    """RFC 9649, 3.4: 14 bits for width and height."""
    codec_named("webp").refuse_size(16384, 16384, "a")
    for size in ((16385, 10), (10, 16385)):
        with pytest.raises(ValueRefused, match="16384 x 16384"):
            codec_named("webp").refuse_size(*size, "a")


def test_png_to_openexr_is_linear_light_as_every_reader_takes_it(tmp_path):
    rgba = soft_disc(16, 16)
    save_png(tmp_path / "a.png", rgba)
    decoder, codec = LocalDecoder(), codec_named("exr")
    element = element_of(decoder, tmp_path / "a.png", Reading(alpha="straight"), "srgb")
    path = tmp_path / "out" / "a.exr"
    transcode(element, decoder, codec, path, [0], rate=RATE)
    facts = decoder.probe(str(path))
    assert (facts.kind, facts.encoding, facts.alpha_claim) == ("still", "linear", "premultiplied")
    got = read(decoder.read(str(path), 0), Reading(alpha="premultiplied"), "linear").rgba()
    expected = read(decoder.read(element.file, 0), element.reading, "srgb").rgba()
    np.testing.assert_allclose(got, expected, atol=6e-4)


def test_values_beyond_what_a_half_holds_are_its_largest_not_infinity(tmp_path):
    values = np.full((4, 4, 4), 1e6, np.float32)
    values[..., 3] = 1
    oiio_writing.write(
        tmp_path / "a.exr",
        StoredPicture.from_rgba(values),
        sample="half",
        alpha_straight=False,
        encoding="linear",
    )
    assert LocalDecoder().read(str(tmp_path / "a.exr"), 0)["R"].max() == 65504


@pytest.mark.parametrize("size", [(15, 16), (16, 15)])
def test_an_odd_size_is_refused_by_forms_of_half_size_colour(tmp_path, size):
    save_png(tmp_path / "a.0001.png", np.ones((*size, 3), np.float32))
    element = Element(
        name="a", file=str(tmp_path / "a.####.png"), first=1, last=1, reading=Reading(alpha="none")
    )
    codec = codec_named("h264")
    with pytest.raises(ValueRefused, match="even width and height"):
        transcode(element, LocalDecoder(), codec, target(codec, tmp_path / "out"), [1], rate=RATE)


def test_prores_frames_say_their_primaries_and_transfer(kite, tmp_path):
    """In the bitstream's own frame header: bytes 14 to 16 after 'icpf' (SMPTE RDD 36, 5.1.1, from memory)."""
    codec = codec_named("prores4444")
    path = target(codec, tmp_path / "out")
    element = kite.model_copy(update={"encoding": "rec709"})
    transcode(element, LocalDecoder(), codec, path, FRAMES, rate=RATE)
    data = path.read_bytes()
    at = data.index(b"icpf")
    primaries, transfer, matrix = data[at + 18 : at + 21]
    assert (primaries, transfer, matrix) == (1, 1, 1)
