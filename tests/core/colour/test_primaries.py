"""Primaries: matrices against colour-science, whole pictures against Little CMS by way of imagecodecs."""

from fractions import Fraction

import colour
import imagecodecs
import numpy as np
import OpenEXR
import pytest
from neatveil.alpha import Reading, read, store
from neatveil.colour import encoding_named
from neatveil.colour.primaries import PRIMARIES, from_bt709, matrix_to_bt709, to_bt709
from neatveil.errors import NameUnknown
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.io.backends.av_writing import MovieWriter
from neatveil.picture import StoredPicture
from PIL import Image

THEIRS = {
    "p3-d65": "P3-D65", "bt2020": "ITU-R BT.2020", "oprgb": "Adobe RGB (1998)", "romm": "ROMM RGB",
    "ap0": "ACES2065-1", "ap1": "ACEScg",
}  # fmt: skip


@pytest.mark.parametrize("name", THEIRS)
def test_matrices_agree_with_colour_science(name):
    """Bradford adaptation; opRGB has the primaries that colour-science lists under another name."""
    theirs = colour.matrix_RGB_to_RGB(
        colour.RGB_COLOURSPACES[THEIRS[name]], colour.RGB_COLOURSPACES["ITU-R BT.709"], "Bradford"
    )
    np.testing.assert_allclose(matrix_to_bt709(name), theirs, atol=1.5e-3)


@pytest.mark.parametrize("name", [n for n in PRIMARIES if n != "bt709"])
def test_white_stays_white_and_the_way_back_is_one(name):
    rng = np.random.default_rng(2)
    planes = {n: rng.random((5, 7), np.float32) * 3 for n in "RGB"}
    back = from_bt709(to_bt709(planes, name), name)
    for n in "RGB":
        np.testing.assert_allclose(back[n], planes[n], atol=1e-5)
    np.testing.assert_allclose(matrix_to_bt709(name).sum(1), 1, atol=2e-5)


def profile(name):
    """A profile made by Little CMS from the chromaticities and a power."""
    return made_profile(PRIMARIES[name], 2.2)


def made_profile(p, gamma):
    primaries = [v for xy in (p.red, p.green, p.blue) for v in (*xy, 1.0)]
    return imagecodecs.cms_profile("rgb", whitepoint=[*p.white, 1.0], primaries=primaries, gamma=gamma)


@pytest.mark.parametrize("name", ["p3-d65", "oprgb", "bt2020"])
@pytest.mark.parametrize("ending", ["png", "tif", "jpg"])
def test_a_picture_with_a_profile_is_converted_as_little_cms_converts_it(tmp_path, name, ending):
    codes = np.random.default_rng(3).integers(30, 226, (1, 1, 3)).astype(np.uint8).repeat(8, 0).repeat(8, 1)
    path = tmp_path / f"p.{ending}"
    Image.fromarray(codes).save(
        path, icc_profile=profile(name), **({"quality": 100} if ending == "jpg" else {})
    )
    facts = LocalDecoder().probe(str(path))
    assert (facts.encoding, facts.encoding_by) == (f"gamma2.2@{name}", "its profile")
    stored = LocalDecoder().read(str(path), 0)
    light = read(stored, Reading(alpha="none"), facts.encoding)
    shares = np.dstack([stored[n] for n in "RGB"]).astype(np.float64)
    expected = imagecodecs.cms_transform(
        shares, profile(name), made_profile(PRIMARIES["bt709"], 1.0), colorspace="rgb", outcolorspace="rgb",
        outdtype="float64", intent=1,
    )  # fmt: skip
    got = np.dstack([light[n] for n in "RGB"])
    np.testing.assert_allclose(got, expected, atol=2e-3)


def test_the_usual_profile_changes_nothing(tmp_path):
    from PIL import ImageCms

    srgb = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    Image.new("RGBA", (4, 4), (200, 100, 50, 128)).save(tmp_path / "s.png", icc_profile=srgb)
    facts = LocalDecoder().probe(str(tmp_path / "s.png"))
    assert (facts.encoding, facts.notes) == ("srgb", [])


@pytest.mark.parametrize("bad", [b"x" * 128, b"\0" * 40, b"acsp" * 60])
def test_a_damaged_profile_is_said_and_left_alone(tmp_path, bad):
    Image.new("RGB", (4, 4), (9, 9, 9)).save(tmp_path / "d.tif", icc_profile=bad)
    facts = LocalDecoder().probe(str(tmp_path / "d.tif"))
    assert facts.encoding == "srgb"


def test_chromaticities_of_an_openexr_header(tmp_path):
    """OpenEXR technical introduction, attribute chromaticities; AP1 of Academy S-2014-004; by OpenEXR."""
    planes = {n: np.full((4, 6), v, np.float16) for n, v in zip("RGB", (0.5, 0.25, 0.125), strict=True)}
    xy = np.array([0.713, 0.293, 0.165, 0.830, 0.128, 0.044, 0.32168, 0.33767], np.float32)
    header = {"compression": OpenEXR.ZIP_COMPRESSION, "chromaticities": tuple(float(v) for v in xy)}
    with OpenEXR.File(header, planes) as file:
        file.write(str(tmp_path / "c.exr"))
    facts = LocalDecoder().probe(str(tmp_path / "c.exr"))
    assert facts.encoding == "linear@ap1"
    light = read(LocalDecoder().read(str(tmp_path / "c.exr"), 0), Reading(alpha="none"), facts.encoding)
    expected = colour.RGB_to_RGB(
        [0.5, 0.25, 0.125], "ACEScg", "ITU-R BT.709", chromatic_adaptation_transform="Bradford"
    )
    np.testing.assert_allclose([light[n][0, 0] for n in "RGB"], expected, atol=1e-3)


def test_written_chromaticities_are_read_again(tmp_path):
    planes = {n: np.full((4, 4), 0.5, np.float32) for n in "RGBA"}
    oiio_writing.write(
        tmp_path / "w.exr",
        StoredPicture(planes),
        sample="half",
        alpha_straight=False,
        encoding="linear@p3-d65",
    )
    assert LocalDecoder().probe(str(tmp_path / "w.exr")).encoding == "linear@p3-d65"


def test_data_is_never_converted():
    """A normal or position in R, G, B: not a bit of it changes whatever the encoding says."""
    planes = {
        n: np.random.default_rng(i).normal(0, 5, (4, 5)).astype(np.float32) for i, n in enumerate("RGB")
    }
    stored = StoredPicture(planes, data_planes="RGB")
    light = read(stored, Reading(alpha="none"), "srgb@p3-d65")
    for n in "RGB":
        assert light[n].tobytes() == planes[n].tobytes()


@pytest.mark.parametrize("alpha", ["straight", "premultiplied", "none"])
@pytest.mark.parametrize("encoding", ["srgb@p3-d65", "linear@ap1", "rec709@bt2020", "gamma2.199@oprgb"])
def test_reading_and_storing_are_each_others_way_back(alpha, encoding):
    rng = np.random.default_rng(4)
    rgba = rng.random((6, 7, 4), np.float32) * 0.8 + 0.1
    stored = StoredPicture.from_rgba(rgba)
    reading = Reading(alpha=alpha)
    again = store(read(stored, reading, encoding), reading, encoding)
    for n in "RGB":
        np.testing.assert_allclose(again[n], stored[n], atol=2e-5)


@pytest.mark.parametrize("name", ["srgb@p4", "srgb@bt709", "@ap1", "srgb@", "SRGB@ap1"])
def test_names_that_are_none(name):
    with pytest.raises(NameUnknown, match="with @p3-d65"):
        encoding_named(name)


@pytest.mark.parametrize("name", ["bt2020", "p3-d65"])
def test_a_movie_says_its_primaries(tmp_path, name):
    """ITU-T H.273, table 2; the movie's own numbers by PyAV."""
    import av

    path = tmp_path / "m.mov"
    writer = MovieWriter(
        path, 32, 16, Fraction(25), codec="prores_ks", pixel_format="yuva444p10le", options={},
        encoding=f"rec709@{name}", container="mov",
    )  # fmt: skip
    writer.write(StoredPicture({n: np.full((16, 32), 0.5, np.float32) for n in "RGBA"}))
    writer.close()
    with av.open(str(path)) as movie:
        assert movie.streams.video[0].codec_context.color_primaries == {"bt2020": 9, "p3-d65": 12}[name]
    assert LocalDecoder().probe(str(path)).encoding == f"rec709@{name}"
