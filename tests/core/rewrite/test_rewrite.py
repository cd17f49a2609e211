"""Rewriting: every code and the alpha kept, in every form, or said otherwise."""

from fractions import Fraction

import numpy as np
import pytest
import tifffile
from core.pictures import save_png, soft_disc
from neatveil.alpha import Reading, read
from neatveil.comp import Element
from neatveil.errors import Cancelled, CannotHoldAlpha
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.picture import StoredPicture
from neatveil.rewrite import REWRITE_FORMS, check, reading_after, rewrite, rewrite_form_named

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


def target(form, folder):
    return folder / (f"k{form.ending}" if form.kind == "movie" else f"k.####{form.ending}")


@pytest.mark.parametrize("name", REWRITE_FORMS)
def test_every_form_keeps_the_codes_within_what_it_states(kite, tmp_path, name):
    form, decoder = rewrite_form_named(name), LocalDecoder()
    path = target(form, tmp_path / "out")
    rewrite(kite, decoder, form, path, FRAMES, rate=RATE, allow_loss=True)
    report = check(kite, decoder, form, path, FRAMES)
    assert report.problems == []
    assert report.frames_after == 3
    facts = decoder.probe(str(path))
    assert facts.count == 3
    if form.kind == "movie":
        assert Fraction(facts.rate) == RATE
    assert facts.alpha == form.alpha
    if form.alpha and form.bits == 16 and not form.floating:
        for index, frame in enumerate(FRAMES):
            before = decoder.read(kite.file, frame)
            after = decoder.read(str(path), frame if form.kind == "frames" else index)
            for n in "RGBA":
                np.testing.assert_allclose(after[n], before[n], atol=1e-6)


def test_png_frames_written_as_frames_are_read_by_another_library(kite, tmp_path):
    form = rewrite_form_named("tiff16")
    path = target(form, tmp_path / "out")
    rewrite(kite, LocalDecoder(), form, path, FRAMES, rate=RATE)
    codes = tifffile.imread(tmp_path / "out" / "k.0004.tif")
    before = LocalDecoder().read(kite.file, 4)
    np.testing.assert_array_equal(codes[..., 3], np.rint(before["A"] * 65535).astype(np.uint16))
    np.testing.assert_array_equal(codes[..., 0], np.rint(before["R"] * 65535).astype(np.uint16))


def test_a_form_without_alpha_is_refused_before_anything_is_written(kite, tmp_path):
    form = rewrite_form_named("h264")
    with pytest.raises(CannotHoldAlpha, match="kite"):
        rewrite(kite, LocalDecoder(), form, target(form, tmp_path / "out"), FRAMES, rate=RATE)
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
    form, decoder = rewrite_form_named("png16"), LocalDecoder()
    reading, encoding = reading_after(element, form, True)
    assert (reading.alpha, encoding) == ("straight", "srgb")
    path = target(form, tmp_path / "out")
    rewrite(element, decoder, form, path, [1], rate=RATE)
    again = read(decoder.read(str(path), 1), reading, encoding)
    np.testing.assert_allclose(again.rgba(), light, atol=6e-4)


def test_a_damaged_result_is_found_by_the_check(kite, tmp_path):
    form, decoder = rewrite_form_named("png16"), LocalDecoder()
    path = target(form, tmp_path / "out")
    rewrite(kite, decoder, form, path, FRAMES, rate=RATE)
    save_png(tmp_path / "out" / "k.0004.png", soft_disc())
    (tmp_path / "out" / "k.0005.png").write_bytes(b"\x89PNG")
    report = check(kite, decoder, form, path, FRAMES)
    assert any("Frame 4 differs" in p for p in report.problems)
    assert any("k.0005.png" in p for p in report.problems)
    assert any("3 frames went in, 2 came out" in p for p in report.problems)


def test_cancelling_leaves_no_half_movie(kite, tmp_path):
    form = rewrite_form_named("ffv1")
    path = target(form, tmp_path / "out")
    with pytest.raises(Cancelled):
        rewrite(kite, LocalDecoder(), form, path, FRAMES, rate=RATE, cancelled=iter([False, True]).__next__)
    assert list((tmp_path / "out").iterdir()) == []
