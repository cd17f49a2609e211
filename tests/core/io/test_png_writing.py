"""PNG frames by our own rows and chunks: by the specification, and read by OpenCV, Pillow and FFmpeg."""

import struct
import zlib

import av
import cv2
import numpy as np
import pytest
from core.pictures import stored
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing, png_writing
from PIL import Image


def chunks(path):
    """Kind and data of every chunk; the checksum of each is looked at."""
    data, at = path.read_bytes(), 8
    assert data[:8] == bytes.fromhex("89504e470d0a1a0a")
    while at < len(data):
        length, kind = struct.unpack(">I4s", data[at : at + 8])
        body = data[at + 8 : at + 8 + length]
        assert struct.unpack(">I", data[at + 8 + length : at + 12 + length])[0] == zlib.crc32(kind + body)
        yield kind, body
        at += 12 + length


def unfiltered(rows, step):
    """The PNG specification's 9.2, byte by byte."""
    out = np.zeros((len(rows), rows.shape[1] - 1), int)
    for y, (kind, *row) in enumerate(rows.tolist()):
        for x, value in enumerate(row):
            left = out[y, x - step] if x >= step else 0
            above = out[y - 1, x] if y else 0
            out[y, x] = (value + {0: 0, 1: left, 2: above}[kind]) % 256
    return out


def codes_of(kind, shape, seed=0):
    """Noise beside rows and columns that stay alike, so that every filter is chosen somewhere."""
    rng = np.random.default_rng(seed)
    codes = rng.integers(0, np.iinfo(kind).max + 1, shape).astype(kind)
    codes[: shape[0] // 3] = codes[:1]
    codes[shape[0] // 3 : 2 * shape[0] // 3] = codes[shape[0] // 3 : 2 * shape[0] // 3, :1]
    return codes


@pytest.mark.parametrize("kind", [np.uint8, np.uint16])
@pytest.mark.parametrize("count", [1, 2, 3, 4])
@pytest.mark.parametrize("size", [(1, 1), (1, 7), (5, 1), (13, 11), (64, 33)])
def test_rows_come_back_by_the_specification(tmp_path, kind, count, size):
    codes = codes_of(kind, (*size, count))
    png_writing.save(tmp_path / "a.png", codes, "srgb")
    found = list(chunks(tmp_path / "a.png"))
    width, height, bits, colour, *rest = struct.unpack(">IIBBBBB", found[0][1])
    assert (height, width, bits) == (*size, codes.itemsize * 8)
    assert (colour, rest) == ({1: 0, 2: 4, 3: 2, 4: 6}[count], [0, 0, 0])
    rows = zlib.decompress(b"".join(d for k, d in found if k == b"IDAT"))
    rows = np.frombuffer(rows, np.uint8).reshape(height, -1)
    big = codes.astype(codes.dtype.newbyteorder(">")).view(np.uint8).reshape(height, -1)
    np.testing.assert_array_equal(unfiltered(rows, count * codes.itemsize), big)
    if size == (64, 33):
        assert set(rows[:, 0].tolist()) == {1, 2}
    assert found[-1] == (b"IEND", b"")


@pytest.mark.parametrize("count", [1, 3, 4])
def test_other_libraries_read_every_code(tmp_path, count):
    codes = codes_of(np.uint16, (40, 50, count))
    png_writing.save(tmp_path / "a.png", codes, "srgb")
    order = {1: [0], 3: [2, 1, 0], 4: [2, 1, 0, 3]}[count]
    read = cv2.imread(str(tmp_path / "a.png"), cv2.IMREAD_UNCHANGED).reshape(codes.shape)
    np.testing.assert_array_equal(read[..., order], codes)
    form = {1: "gray16be", 3: "rgb48be", 4: "rgba64be"}[count]
    with av.open(str(tmp_path / "a.png")) as file:
        frame = next(file.decode(video=0))
        assert frame.format.name == form
        np.testing.assert_array_equal(frame.to_ndarray().reshape(codes.shape), codes)
    small = codes_of(np.uint8, (40, 50, count))
    png_writing.save(tmp_path / "b.png", small, "srgb")
    with Image.open(tmp_path / "b.png") as file:
        np.testing.assert_array_equal(np.asarray(file).reshape(small.shape), small)


@pytest.mark.parametrize(("encoding", "cicp"), [
    ("srgb", None), ("linear", (1, 8, 0, 1)), ("rec709", (1, 1, 0, 1)), ("srgb@p3-d65", (12, 13, 0, 1)),
    ("rec709@bt2020", (9, 1, 0, 1)), ("gamma2.4", None), ("linear@ap1", None),
])  # fmt: skip
def test_what_is_said_of_the_colour(tmp_path, encoding, cicp):
    """cICP: PNG, third edition, 11.3.2.6; its numbers: ITU-T H.273, tables 2 and 3."""
    path = tmp_path / "a.png"
    values = stored(np.full((4, 4, 4), 0.5, np.float32))
    oiio_writing.write(path, values, sample="uint16", alpha_straight=True, encoding=encoding)
    found = dict(chunks(path))
    assert tuple(found.get(b"cICP", ())) == (cicp or ())
    assert (b"sRGB" in found) == (encoding == "srgb")
    if cicp:
        with av.open(str(path)) as file:
            frame = next(file.decode(video=0))
            assert (int(frame.color_primaries), int(frame.color_trc)) == cicp[:2]
    facts = LocalDecoder().probe(str(path))
    if encoding != "linear@ap1":  # it has no number, and the reader takes no notice of cHRM
        assert (facts.encoding, facts.encoding_by) == (encoding, "the file")
    white, red = (struct.unpack(">8I", found[b"cHRM"])[i : i + 2] for i in (0, 2))
    expected = {"": (64000, 33000), "p3-d65": (68000, 32000), "bt2020": (70800, 29200), "ap1": (71300, 29300)}
    assert red == expected[encoding.partition("@")[2]]
    assert white == ((32168, 33767) if "ap1" in encoding else (31270, 32900))


def test_where_the_picture_lies_is_kept(tmp_path):
    png_writing.save(tmp_path / "a.png", np.zeros((3, 4, 4), np.uint8), "srgb", (-5, 7))
    assert dict(chunks(tmp_path / "a.png"))[b"oFFs"] == struct.pack(">iiB", -5, 7, 0)
