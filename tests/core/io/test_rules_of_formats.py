"""Our files read by other libraries and theirs by us: what each standard says of alpha."""

from fractions import Fraction

import av
import numpy as np
import OpenEXR
import pytest
import tifffile
from core.pictures import picture, premultiplied, save_png, soft_disc, stored
from neatveil.alpha import Reading, read
from neatveil.delivery import Target, format_named, write_movie
from neatveil.delivery.write import write_frame
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_stills, oiio_writing
from neatveil.io.backends.av_movies import MovieReader
from neatveil.io.backends.av_writing import MovieWriter
from PIL import Image

DECODER = LocalDecoder()


def straight16(path):
    """16-bit RGBA of a PNG through tifffile's companion codecs, which leave alpha alone."""
    import imagecodecs

    return imagecodecs.png_decode(path.read_bytes())


def test_png_we_write_is_straight_for_others(tmp_path):
    """PNG specification, 6.2: the alpha is not premultiplied [PNG]."""
    light = read(stored(soft_disc()), Reading(), "srgb")
    write_frame(light, format_named("png16-straight"), tmp_path / "a.png")
    theirs = straight16(tmp_path / "a.png")
    assert theirs.dtype == np.uint16
    edge = (theirs[..., 3] > 600) & (theirs[..., 3] < 65000)
    np.testing.assert_allclose(theirs[edge][:, 0] / 65535, 0.8, atol=2e-5)


def test_png_others_write_is_read_as_stored(tmp_path):
    rgba = soft_disc()
    got = DECODER.read(str(save_png(tmp_path / "a.png", rgba)), 0)
    np.testing.assert_array_equal(np.rint(got.rgba() * 255), np.rint(rgba * 255))
    assert DECODER.probe(str(tmp_path / "a.png")).alpha_claim == "straight"


def test_exr_we_write_is_premultiplied_half_for_others(tmp_path):
    """OpenEXR: colour is premultiplied by alpha; light at alpha 0 is allowed [OpenEXR]."""
    rgba = premultiplied(soft_disc())
    rgba[0, 0] = [0.5, 0.25, 0.125, 0]
    write_frame(picture(rgba), format_named("exr-half-premultiplied"), tmp_path / "a.exr")
    with OpenEXR.File(str(tmp_path / "a.exr"), separate_channels=True) as file:
        channels = file.channels()
        theirs = np.dstack([channels[n].pixels for n in "RGBA"])
    assert theirs.dtype == np.float16
    np.testing.assert_array_equal(theirs, rgba.astype(np.float16))


def test_exr_others_write_with_many_channels_and_a_data_window(tmp_path):
    rgba = premultiplied(soft_disc(24, 32))
    depth = np.full((24, 32), 7.5, np.float32)
    header = {
        "dataWindow": (np.array([10, 5], np.int32), np.array([41, 28], np.int32)),
        "displayWindow": (np.array([0, 0], np.int32), np.array([63, 47], np.int32)),
    }
    channels = {n: np.ascontiguousarray(rgba[..., i]) for i, n in enumerate("RGBA")}
    channels["depth.Z"] = depth
    with OpenEXR.File(header, channels) as file:
        file.write(str(tmp_path / "a.exr"))
    facts = DECODER.probe(str(tmp_path / "a.exr"))
    assert (facts.width, facts.height, facts.data_window) == (64, 48, [10, 5, 42, 29])
    assert facts.data_channels == ["depth.Z"]
    assert facts.encoding == "linear"
    assert facts.alpha_claim == "premultiplied"
    got = DECODER.read(str(tmp_path / "a.exr"), 0)
    np.testing.assert_array_equal(got.rgba(), rgba)
    assert DECODER.read(str(tmp_path / "a.exr"), 0, ["depth.Z"])["depth.Z"].max() == 7.5


@pytest.mark.parametrize(("extra", "claim"), [("unassalpha", "straight"), ("assocalpha", "premultiplied")])
def test_tiff_extra_samples_say_the_state(tmp_path, extra, claim):
    """TIFF 6.0, ExtraSamples: 1 is associated (premultiplied), 2 unassociated [TIFF6]."""
    rgba = soft_disc() if claim == "straight" else premultiplied(soft_disc())
    code = np.rint(rgba * 65535).astype(np.uint16)
    tifffile.imwrite(tmp_path / "a.tif", code, photometric="rgb", extrasamples=[extra])
    assert DECODER.probe(str(tmp_path / "a.tif")).alpha_claim == claim
    got = DECODER.read(str(tmp_path / "a.tif"), 0).rgba()
    np.testing.assert_array_equal(np.rint(got * 65535), code)


def test_tiff_we_write_says_unassociated(tmp_path):
    light = read(stored(soft_disc()), Reading(), "srgb")
    write_frame(light, format_named("tiff16-straight"), tmp_path / "a.tif")
    with tifffile.TiffFile(tmp_path / "a.tif") as file:
        page = file.pages[0]
        assert page.tags["ExtraSamples"].value in {2, (2,)}
        edge = page.asarray()
    edge = edge[(edge[..., 3] > 600) & (edge[..., 3] < 65000)]
    np.testing.assert_allclose(edge[:, 0] / 65535, 0.8, atol=2e-5)


def test_png_round_trip_of_16_bits_is_exact(tmp_path):
    code = np.random.default_rng(3).integers(0, 65536, (20, 30, 4)).astype(np.uint16)
    values = stored(code.astype(np.float32) / np.float32(65535))
    oiio_writing.write(tmp_path / "a.png", values, sample="uint16", alpha_straight=True, encoding="srgb")
    np.testing.assert_array_equal(straight16(tmp_path / "a.png"), code)
    back = oiio_stills.read(tmp_path / "a.png").rgba()
    np.testing.assert_array_equal(np.rint(back * 65535).astype(np.uint16), code)


def test_ffv1_round_trip_is_exact(tmp_path):
    code = np.random.default_rng(4).integers(0, 65536, (16, 24, 4)).astype(np.uint16)
    writer = MovieWriter(
        tmp_path / "a.mkv", 24, 16, Fraction(25), codec="ffv1", pixel_format="gbrap16le",
        options={}, encoding="srgb", container="matroska",
    )  # fmt: skip
    writer.write(stored(code.astype(np.float32) / np.float32(65535)))
    writer.close()
    back = DECODER.read(str(tmp_path / "a.mkv"), 0).rgba()
    np.testing.assert_array_equal(np.rint(back * 65535).astype(np.uint16), code)


def movie(path, frames=6, rate=Fraction(24000, 1001)):
    light = read(stored(soft_disc(48, 64)), Reading(), "rec709")
    write_movie(lambda _: light, format_named("prores4444-straight"), Target(path), range(frames), rate)
    return path


def test_rate_is_kept_exactly_through_a_movie(tmp_path):
    facts = DECODER.probe(str(movie(tmp_path / "a.mov")))
    assert facts.rate == "24000/1001"
    assert (facts.count, facts.codec, facts.alpha_use) == (6, "prores", "used")
    with av.open(str(tmp_path / "a.mov")) as theirs:
        assert theirs.streams.video[0].average_rate == Fraction(24000, 1001)


def test_movie_frames_are_found_in_any_order(tmp_path):
    def light(n):
        return read(stored(soft_disc(48, 64, (0.1 * n, 0.2, 0.3))), Reading(), "rec709")

    path = tmp_path / "a.mov"
    write_movie(light, format_named("prores4444-straight"), Target(path), range(1, 9), Fraction(25))
    reader = MovieReader(path)
    for index in (0, 7, 3, 4, 1):
        red = reader.read(index)["R"][24, 32]
        assert red == pytest.approx(0.1 * (index + 1), abs=0.01)


def test_prores_is_within_two_codes(tmp_path):
    """A smooth picture, as a decoder of the library itself sees it through exact matrices."""
    y, x = np.mgrid[:96, :128].astype(np.float32)
    rgba = np.dstack([x / 127, y / 95, (x + y) / 222, np.clip(x / 100, 0, 1)])
    light = read(stored(rgba), Reading(), "rec709")
    write_movie(
        lambda _: light,
        format_named("prores4444-straight"),
        Target(tmp_path / "a.mov"),
        [1],
        Fraction(25),
    )
    back = DECODER.read(str(tmp_path / "a.mov"), 0).rgba()
    difference = np.abs(back - rgba) * 255
    assert difference[..., 3].max() < 0.3
    assert (difference[..., :3] * rgba[..., 3:]).max() < 2


def test_grey_with_alpha_is_grey(tmp_path):
    Image.fromarray(np.full((4, 4, 2), 128, np.uint8), "LA").save(tmp_path / "g.png")
    got = read(DECODER.read(str(tmp_path / "g.png"), 0), Reading(), "linear")
    assert got["B"][0, 0] == pytest.approx((128 / 255) ** 2, abs=1e-6)
