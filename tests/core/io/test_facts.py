"""What files say that is not the plain case, and what a decoder would pass over, is in the facts."""

import struct
import zlib
from fractions import Fraction

import av
import numpy as np
import OpenEXR
import pytest
from core.pictures import save_png, soft_disc
from neatveil.io import LocalDecoder
from PIL import Image

DECODER = LocalDecoder()


def chunk(kind, body):
    return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))


def png(path, bits, kind=0, more=b"", rows=None, size=(5, 2)):
    """Written by hand from the PNG specification, 5 and 11."""
    width, height = size
    rows = rows or b"".join(b"\0" + bytes([0b10110100] * -(-width * bits // 8)) for _ in range(height))
    head = struct.pack(">IIBBBBB", width, height, bits, kind, 0, 0, 0)
    body = chunk(b"IHDR", head) + more + chunk(b"IDAT", zlib.compress(rows)) + chunk(b"IEND", b"")
    path.write_bytes(b"\x89PNG\r\n\x1a\n" + body)
    return str(path)


@pytest.mark.parametrize("bits", [1, 2, 4, 8, 16])
def test_a_grey_png_says_its_own_depth(tmp_path, bits):
    facts = DECODER.probe(png(tmp_path / "a.png", bits))
    assert facts.bit_depth == bits
    first = (0b1011010010110100 >> (16 - bits)) / ((1 << bits) - 1)
    assert DECODER.read(str(tmp_path / "a.png"), 0)["Y"][0, 0] == pytest.approx(first, abs=1e-6)


@pytest.mark.parametrize("values", [[0, 1, 7, 255], [65535, 16777215, 1, 2]])
def test_whole_numbers_of_openexr_are_identities(tmp_path, values):
    ids = np.array(values, np.uint32).reshape(2, 2)
    colour = {n: np.full((2, 2), 0.5, np.float16) for n in "RGB"}
    with OpenEXR.File({}, {**colour, "id": ids}) as file:
        file.write(str(tmp_path / "a.exr"))
    facts = DECODER.probe(str(tmp_path / "a.exr"))
    assert facts.data_channels == ["id"]
    picture = DECODER.read(str(tmp_path / "a.exr"), 0, ["R", "id"])
    np.testing.assert_array_equal(picture["id"], ids)
    assert picture.data_planes == {"id"}
    np.testing.assert_array_equal(picture["R"], 0.5)


@pytest.mark.parametrize("packed", [False, True])
@pytest.mark.parametrize("upper", [False, True])
def test_targa_of_16_bits_keeps_its_alpha_bit(tmp_path, packed, upper):
    """Truevision 2.0: A RRRRR GGGGG BBBBB, plain and in runs, from the bottom up or from the top down."""
    codes = np.array([[0x801F, 0x7FFF, 0x8000], [0x0000, 0x83E0, 0x7C00]], "<u2")
    head = struct.pack(
        "<BBBHHBHHHHBB", 2, 0, 10 if packed else 2, 0, 0, 0, 0, 0, 3, 2, 16, 0x21 if upper else 1
    )
    stored = codes if upper else codes[::-1]
    flat = stored.ravel().tolist()
    body = b"".join(b"\0" + struct.pack("<H", c) for c in flat) if packed else stored.tobytes()
    (tmp_path / "a.tga").write_bytes(head + b"id" + body)
    facts = DECODER.probe(str(tmp_path / "a.tga"))
    assert (facts.alpha, facts.alpha_use) == (True, "used")
    picture = DECODER.read(str(tmp_path / "a.tga"), 0)
    np.testing.assert_array_equal(picture["A"], codes >> 15)
    np.testing.assert_allclose(picture["R"], ((codes >> 10) & 31) / 31, atol=0.02)


def test_a_wrong_checksum_and_what_is_lost_by_it_are_named(tmp_path):
    save_png(tmp_path / "whole.png", soft_disc(8, 8))
    assert DECODER.probe(str(tmp_path / "whole.png")).notes == []
    image = Image.fromarray(np.arange(64, dtype=np.uint8).reshape(8, 8) % 4, "P")
    image.putpalette([0, 0, 0, 80, 80, 80, 160, 160, 160, 255, 255, 255])
    image.save(tmp_path / "palette.png", transparency=bytes([0, 90, 180, 255]))
    data = bytearray((tmp_path / "palette.png").read_bytes())
    data[data.index(b"tRNS") + 6] ^= 4
    (tmp_path / "palette.png").write_bytes(bytes(data))
    notes = DECODER.probe(str(tmp_path / "palette.png")).notes
    assert any("tRNS is damaged" in n and "transparency is dropped" in n for n in notes)


def test_a_colour_map_that_is_cut_short_is_named(tmp_path):
    image = Image.fromarray(np.arange(64, dtype=np.uint8).reshape(8, 8), "P")
    image.putpalette([v for i in range(256) for v in (i, 255 - i, 60)])
    image.save(tmp_path / "a.tif")
    assert not any("colour map" in n for n in DECODER.probe(str(tmp_path / "a.tif")).notes)
    data = bytearray((tmp_path / "a.tif").read_bytes())
    at = data.index(struct.pack("<HHI", 320, 3, 768))
    data[at + 4 : at + 8] = struct.pack("<I", 300)
    (tmp_path / "a.tif").write_bytes(bytes(data))
    assert any("colour map is cut short" in n for n in DECODER.probe(str(tmp_path / "a.tif")).notes)


def movie(path, *, transfer=1, aspect=None, times=(0, 1, 2, 3), codec="ffv1", base=Fraction(1, 25)):
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=25)
        stream.width, stream.height, stream.pix_fmt = 32, 16, "yuv420p"
        stream.time_base = stream.codec_context.time_base = base
        stream.codec_context.color_trc = transfer
        if aspect:
            stream.codec_context.sample_aspect_ratio = aspect
        for i, time in enumerate(times):
            frame = av.VideoFrame.from_ndarray(np.full((24, 32), 20 * i, np.uint8), "yuv420p")
            frame.pts, frame.time_base = time, base
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    return str(path)


@pytest.mark.parametrize(("transfer", "encoding"), [(16, "pq"), (18, "hlg")])
def test_high_dynamic_range_is_read_as_what_it_is(tmp_path, transfer, encoding):
    facts = DECODER.probe(movie(tmp_path / "a.mkv", transfer=transfer))
    assert (facts.encoding, facts.encoding_by, facts.notes) == (encoding, "the file", [])


def test_a_plain_movie_has_no_notes(tmp_path):
    assert DECODER.probe(movie(tmp_path / "a.mkv")).notes == []


def test_pixels_that_are_not_square_and_frames_of_unequal_length(tmp_path):
    notes = DECODER.probe(movie(tmp_path / "a.mp4", aspect=Fraction(16, 11), codec="mpeg4")).notes
    assert any("not square: 16:11" in n for n in notes)
    notes = DECODER.probe(movie(tmp_path / "b.mkv", times=(0, 1, 2, 6, 7))).notes
    assert any("do not last equally long: 1 of 4 differ, from 40.0 to 160.0 ms" in n for n in notes)
