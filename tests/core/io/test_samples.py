"""Every sample type: what is stored, read exactly, whichever library wrote it."""

import cv2
import numpy as np
import OpenEXR
import pytest
import tifffile
from neatveil.io import LocalDecoder
from PIL import Image


def read(path):
    return LocalDecoder().read(str(path), 0)


@pytest.mark.parametrize("top", [255, 65535])
def test_every_integer_code_is_its_share_of_the_largest(tmp_path, top):
    """PNG specification, 13.12: sample depth scaling; written by OpenCV."""
    codes = np.arange(top + 1, dtype=np.uint8 if top == 255 else np.uint16).reshape(-1, 16)
    cv2.imwrite(str(tmp_path / "grey.png"), codes)
    expected = (codes.astype(np.float64) / top).astype(np.float32)
    np.testing.assert_array_equal(read(tmp_path / "grey.png")["Y"], expected)


@pytest.mark.parametrize("kind", [np.uint8, np.uint16, np.float32])
def test_channels_come_in_their_places(tmp_path, kind):
    """TIFF 6.0, section 22, chunky RGBA with unassociated alpha (ExtraSamples 2); written by tifffile."""
    rng = np.random.default_rng(3)
    top = 1 if kind is np.float32 else np.iinfo(kind).max
    pixels = (rng.random((19, 23, 4)) * top).astype(kind)
    tifffile.imwrite(tmp_path / "p.tif", pixels, photometric="rgb", extrasamples=["unassalpha"])
    got = read(tmp_path / "p.tif")
    for i, name in enumerate("RGBA"):
        np.testing.assert_array_equal(got[name], pixels[..., i].astype(np.float32) / np.float32(top))


def test_all_finite_half_numbers(tmp_path):
    """OpenEXR technical introduction, the half type; written by the OpenEXR bindings."""
    bits = np.arange(65536, dtype=np.uint16)
    half = bits.view(np.float16)
    half = np.where(np.isfinite(half), half, np.float16(0)).reshape(256, 256)
    with OpenEXR.File({"compression": OpenEXR.ZIP_COMPRESSION}, dict.fromkeys("RGB", half)) as file:
        file.write(str(tmp_path / "h.exr"))
    np.testing.assert_array_equal(read(tmp_path / "h.exr")["G"], half.astype(np.float32))


def test_channels_of_two_types_in_one_file(tmp_path):
    """OpenEXR allows a type for each channel: colour in half, depth in float keeps its precision."""
    colour = np.full((8, 9), 0.25, np.float16)
    depth = np.linspace(1, 1000.0001, 72, dtype=np.float32).reshape(8, 9)
    channels = {"R": colour, "G": colour, "B": colour, "Z": depth}
    with OpenEXR.File({"compression": OpenEXR.ZIP_COMPRESSION}, channels) as file:
        file.write(str(tmp_path / "two.exr"))
    got = LocalDecoder().read(str(tmp_path / "two.exr"), 0, ["R", "Z"])
    np.testing.assert_array_equal(got["Z"], depth)
    np.testing.assert_array_equal(got["R"], colour.astype(np.float32))


def test_a_palette_is_its_colours(tmp_path):
    image = Image.new("P", (4, 3))
    image.putpalette([0, 0, 0, 250, 100, 50])
    image.putpixel((2, 1), 1)
    image.save(tmp_path / "palette.png")
    got = read(tmp_path / "palette.png")
    assert [round(float(got[n][1, 2]) * 255) for n in "RGB"] == [250, 100, 50]
    assert got["R"][0, 0] == 0
