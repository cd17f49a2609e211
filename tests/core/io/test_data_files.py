"""Files that hold data by themselves: found by their names, read as they stand, carried along unchanged."""

from fractions import Fraction

import numpy as np
import OpenEXR
import pytest
import tifffile
from core.pictures import save_png
from neatveil.alpha import Reading, read
from neatveil.channels.data_kinds import data_kind
from neatveil.codecs import CODECS, codec_named
from neatveil.comp import Element
from neatveil.comp.starting import element_of_facts, start_of
from neatveil.errors import WouldLose
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.picture import RGB, StoredPicture
from neatveil.transcode import check, transcode
from neatveil.view import channel_picture

DECODER = LocalDecoder()
COLOUR = [("R", False), ("G", False), ("B", False)]


@pytest.mark.parametrize(
    ("name", "kind"),
    [
        ("sh010_depth.####.exr", "depth"), ("SH010_Z_v003.%04d.exr", "depth"), ("rig.uv.0001.tif", "uv"),
        ("kite_motionVectors.exr", "motion"), ("kite_motion_vectors_v2.####.exr", "motion"),
        ("kite-normals.png", "normals"), ("kite_worldpos.exr", "position"),
        ("depth_of_field_plate.mov", ""), ("motion_title.mov", ""), ("z.a.png", ""), ("mvp.png", ""),
        ("uv_map_board.png", ""),
    ],
)  # fmt: skip
def test_the_last_word_of_a_name_says_what_data_it_is(name, kind):
    assert data_kind(name, COLOUR)[0] == kind


@pytest.mark.parametrize(
    ("name", "kind"),
    [("logo_vector.png", ""), ("letter_z.png", ""), ("logo_motion.mov", ""), ("kite_normals.png", "normals"),
     ("kite_motion_vectors.png", "motion"), ("kite_depth.mp4", "depth")],
)  # fmt: skip
def test_words_that_other_pictures_have_too_say_it_of_fine_samples_alone(name, kind):
    assert data_kind(name, COLOUR, fine=False)[0] == kind


def test_colour_with_data_beside_it_is_colour():
    assert data_kind("kite_depth.exr", [*COLOUR, ("depth.Z", True), ("diffuse.R", False)]) == ("", "")


def exr(path, **planes):
    with OpenEXR.File({}, {n.replace("_", "."): p for n, p in planes.items()}) as file:
        file.write(str(path))
    return str(path)


@pytest.fixture
def ramp():
    return np.linspace(-3, 900.5, 32 * 32, dtype=np.float32).reshape(32, 32)


def test_a_file_of_one_data_channel_is_a_picture_of_its_values(tmp_path, ramp):
    facts = DECODER.probe(exr(tmp_path / "a.exr", depth_Z=ramp))
    assert (facts.holds, facts.holds_by) == ("depth", "its channels")
    picture = Evaluator(DECODER).source(element_of_facts(facts, str(tmp_path / "a.exr")), 0)
    for name in RGB:
        np.testing.assert_array_equal(picture[name], ramp)
    np.testing.assert_array_equal(picture["A"], 1)


def test_two_data_channels_are_red_and_green_and_alpha_stays_coverage(tmp_path, ramp):
    share = np.linspace(0, 1, ramp.size, dtype=np.float32).reshape(ramp.shape)
    facts = DECODER.probe(exr(tmp_path / "a.exr", uv_U=ramp, uv_V=ramp * 2, A=share))
    assert (facts.holds, start_of(facts).reading) == ("uv", Reading(alpha="straight"))
    element = element_of_facts(facts, str(tmp_path / "a.exr"))
    stored = Evaluator(DECODER).stored(element, 0, ["uv.U", "uv.V", "A"])
    picture = read(stored, element.reading, element.encoding)
    np.testing.assert_array_equal(picture["R"], ramp)
    np.testing.assert_array_equal(picture["G"], ramp * 2)
    np.testing.assert_array_equal(picture["B"], 0)
    np.testing.assert_array_equal(picture["A"], share)


@pytest.mark.parametrize("encoding", ["linear", "srgb", "rec709", "srgb@bt2020"])
@pytest.mark.parametrize("planes", ["Y", "RGB"])
def test_data_is_never_decoded_nor_multiplied(ramp, planes, encoding):
    """Whatever encoding stands in the element, and whatever its alpha."""
    alpha = np.full_like(ramp, 0.25)
    stored = StoredPicture({**dict.fromkeys(planes, ramp), "A": alpha}, data_planes=planes)
    picture = read(stored, Reading(alpha="straight"), encoding)
    for name in RGB:
        np.testing.assert_array_equal(picture[name], ramp)


def test_eight_bits_of_data_are_named(tmp_path):
    values = np.zeros((4, 4, 3), np.float32)
    facts = DECODER.probe(str(save_png(tmp_path / "board_uv.png", values)))
    assert facts.holds == "uv"
    assert "It holds UV in 8 bits; 16 or more are needed." in facts.notes
    assert DECODER.probe(str(save_png(tmp_path / "board.png", values))).holds == ""


def test_a_persons_word_goes_before_the_name(tmp_path):
    facts = DECODER.probe(str(save_png(tmp_path / "board_uv.png", np.zeros((4, 4, 3), np.float32))))
    colour = start_of(facts, "")
    assert (colour.encoding, set(colour.kinds.values()), colour.certain) == ("srgb", {"colour"}, False)
    assert start_of(facts, "depth").kinds == {"R": "data", "G": "data", "B": "data"}


def test_the_picture_is_stretched_over_what_is_something():
    """A renderer writes one huge number where a ray hits nothing; it is no part of the range."""
    depth = np.linspace(2, 6, 400, dtype=np.float32).reshape(20, 20)
    depth[:4] = 1e10
    shown = channel_picture(StoredPicture({"Z": depth}, data_planes=["Z"]), ["Z"], "linear", stretch=True)
    there = shown["R"][4:]
    assert there.min() == pytest.approx(0, abs=1e-6)
    assert there.max() == pytest.approx(1, abs=1e-6)
    assert (shown["R"][:4] >= 1).all()


def test_values_around_nothing_are_around_grey():
    motion = np.array([[-4.0, 0.0, 1.0]], np.float32)
    stored = StoredPicture({"X": motion, "Y": motion * 0}, data_planes=["X", "Y"])
    shown = channel_picture(stored, ["X", "Y"], "linear", stretch=True)
    grey = ((0.5 + 0.055) / 1.055) ** 2.4  # IEC 61966-2-1, of the code 0.5
    np.testing.assert_allclose(shown["G"], grey, rtol=1e-5)
    np.testing.assert_allclose(shown["R"][0, :2], [0, grey], rtol=1e-5, atol=1e-7)


def written(tmp_path, element, codec):
    single = tmp_path / f"out{codec.ending}"
    transcode(element, DECODER, codec, single, range(1), rate=Fraction(25), allow_loss=True)
    return single


@pytest.mark.parametrize("name", [n for n, c in CODECS.items() if c.kind == "frames" and c.lossless])
@pytest.mark.parametrize("kind", ["grey", "rgb"])
def test_transcoding_leaves_codes_of_data_alone(tmp_path, name, kind):
    """16-bit codes: light of the same samples would be encoded on its way into a format for display."""
    codes = np.arange(32 * 32, dtype=np.uint16).reshape(32, 32) * 64
    file = tmp_path / "board_depth.tif"
    tifffile.imwrite(file, codes if kind == "grey" else np.dstack([codes] * 3))
    facts = DECODER.probe(str(file))
    assert facts.holds == "depth"
    codec = codec_named(name)
    element = element_of_facts(facts, str(file))
    target = written(tmp_path, element, codec)
    found = DECODER.read(str(target), 0)
    atol = 0 if codec.bits >= 16 else 0.5 / 255
    np.testing.assert_allclose(found["R"], codes / np.float32(65535), atol=atol + 1e-7)
    assert check(element, DECODER, codec, target, range(1)).problems == []


def test_data_without_colour_goes_into_openexr_by_name_and_nowhere_else(tmp_path, ramp):
    file = exr(tmp_path / "a_depth.exr", depth_Z=ramp)
    element = element_of_facts(DECODER.probe(file), file)
    target = written(tmp_path, element, codec_named("exr"))
    with OpenEXR.File(str(target), separate_channels=True) as found:
        np.testing.assert_array_equal(found.channels()["depth.Z"].pixels, ramp)
    assert check(element, DECODER, codec_named("exr"), target, range(1)).problems == []
    with pytest.raises(WouldLose, match="has no colour"):
        written(tmp_path, element, codec_named("png16"))


def test_colour_of_the_same_samples_is_encoded(tmp_path, ramp):
    """The same file, said to be colour: it is not the samples that keep data from being converted."""
    file = tmp_path / "board_depth.tif"
    light = (ramp / 1000).clip(0, 1).astype(np.float32)
    tifffile.imwrite(file, np.dstack([light] * 3), photometric="rgb")
    element = Element(name="a", file=str(file), still=True, encoding="linear", reading=Reading(alpha="none"))
    found = DECODER.read(str(written(tmp_path, element, codec_named("png16"))), 0)
    assert found["R"][12, 16] > light[12, 16] * 1.3
