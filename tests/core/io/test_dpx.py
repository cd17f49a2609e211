"""DPX: files written by hand from SMPTE ST 268-1 and by FFmpeg, all depths, packings and narrow widths."""

import struct

import av
import numpy as np
import pytest
from neatveil.errors import FileDamaged
from neatveil.io import LocalDecoder

DECODER = LocalDecoder()
DESCRIPTORS = {1: 6, 3: 50, 4: 51}


def packed_row(codes, bits, packing, order):
    """One row of samples as the standard's annex packs them, without NumPy."""
    if bits == 8:
        data = bytes(codes)
    elif bits == 16:
        data = b"".join(struct.pack(order + "H", c) for c in codes)
    elif packing == 0:
        whole = sum(c << (bits * i) for i, c in enumerate(codes))
        count = -(-len(codes) * bits // 32)
        data = b"".join(struct.pack(order + "I", whole >> (32 * i) & 0xFFFFFFFF) for i in range(count))
    elif bits == 12:
        data = b"".join(struct.pack(order + "H", c << 4 if packing == 1 else c) for c in codes)
    else:
        words = []
        for i in range(0, len(codes), 3):
            three = [*codes[i : i + 3], 0, 0][:3]
            word = three[0] << 20 | three[1] << 10 | three[2]
            words.append(word << 2 if packing == 1 else word)
        data = b"".join(struct.pack(order + "I", w) for w in words)
    return data


def write(path, codes, bits, packing=0, order=">", *, padded=True, transfer=2, rate=None, turn=0, **more):
    """``codes``: ``(H, W, C)``."""
    height, width, count = codes.shape
    head = bytearray(b"\xff" * 2048)
    struct.pack_into(order + "II", head, 0, 0x53445058, 2048)
    head[8:16] = b"V2.0\0\0\0\0"
    struct.pack_into(order + "HHII", head, 768, turn, 1, width, height)
    struct.pack_into(order + "I", head, 780, 0)
    head[800:804] = bytes([more.get("descriptor", DESCRIPTORS[count]), transfer, transfer, bits])
    struct.pack_into(order + "HHII", head, 804, packing, more.get("run_length", 0), 2048, 0)
    if rate is not None:
        struct.pack_into(order + "f", head, more.get("at", 1724), rate)
    if "aspect" in more:
        struct.pack_into(order + "II", head, 1628, *more["aspect"])
    body = b""
    for row in codes.reshape(height, -1).tolist():
        data = packed_row(row, bits, packing, order)
        body += data + b"\0" * (-len(data) % 4 if padded else 0)
    path.write_bytes(bytes(head) + body)
    return str(path)


def codes_of(bits, width, count, height=3):
    codes = np.random.default_rng(bits * width).integers(0, 1 << bits, (height, width, count))
    codes[0, 0], codes[-1, -1] = (1 << bits) - 1, 0
    return codes


def values(path, count):
    picture = DECODER.read(path, 0)
    return np.stack([picture[n] for n in ("Y" if count == 1 else "RGBA"[:count])], -1)


@pytest.mark.parametrize("order", [">", "<"])
@pytest.mark.parametrize(
    ("bits", "packing"), [(8, 0), (10, 0), (10, 1), (10, 2), (12, 0), (12, 1), (12, 2), (16, 0)]
)
@pytest.mark.parametrize("width", range(1, 10))
@pytest.mark.parametrize("count", [3, 4])
def test_every_packing_and_width(tmp_path, bits, packing, order, width, count):
    codes = codes_of(bits, width, count)
    path = write(tmp_path / "a.dpx", codes, bits, packing, order)
    got = values(path, count)
    assert got.max() == 1, "the largest code is white"
    np.testing.assert_array_equal(np.rint(got.astype(float) * ((1 << bits) - 1)), codes)
    facts = DECODER.probe(path)
    assert (facts.width, facts.height, facts.bit_depth, facts.alpha) == (width, 3, bits, count == 4)


@pytest.mark.parametrize("bits", [8, 12, 16])
@pytest.mark.parametrize("width", [1, 3, 5, 7])
def test_rows_that_are_not_filled_up_are_told_by_the_files_length(tmp_path, bits, width):
    codes = codes_of(bits, width, 3)
    got = values(write(tmp_path / "a.dpx", codes, bits, 1, padded=False), 3)
    np.testing.assert_array_equal(np.rint(got.astype(float) * ((1 << bits) - 1)), codes)


@pytest.mark.parametrize("name", ["rgb24", "rgba", "gbrp10be", "gbrp12be", "rgb48be", "rgba64le", "gray"])
@pytest.mark.parametrize("width", range(1, 10))
def test_as_ffmpeg_writes_them(tmp_path, name, width):
    """The other library's own encoder; what it was given comes back to the code."""
    container = av.open(str(tmp_path / "a%01d.dpx"), "w", format="image2", options={"start_number": "0"})
    try:
        stream = container.add_stream("dpx", rate=25, options={})
        stream.width, stream.height, stream.pix_fmt = width, 3, name
        kind = av.VideoFormat(name)
        bits, count = max(c.bits for c in kind.components), len(kind.components)
        codes = codes_of(bits, width, count)
        container.mux(stream.encode(frame_of(codes, name, bits)))
        container.mux(stream.encode(None))
    finally:
        container.close()
    got = values(str(next(tmp_path.glob("*.dpx"))), count)
    np.testing.assert_array_equal(np.rint(got.astype(float) * ((1 << bits) - 1)), codes)


def frame_of(codes, name, bits):
    """A frame with exactly these codes, plane by plane."""
    height, width, count = codes.shape
    frame = av.VideoFrame(width, height, name)
    planar = name.startswith("gbr")
    kind = np.uint8 if bits == 8 else np.dtype("<u2" if name.endswith("le") else ">u2")
    rows = [codes[..., i : i + 1] for i in ((1, 2, 0, 3)[:count])] if planar else [codes]
    for plane, block in zip(frame.planes, rows, strict=True):
        line = np.zeros((height, plane.line_size), np.uint8)
        data = np.ascontiguousarray(block.reshape(height, -1).astype(kind)).view(np.uint8)
        line[:, : data.shape[1]] = data
        plane.update(line.tobytes())
    return frame


def test_what_the_header_says_is_in_the_facts(tmp_path):
    codes = codes_of(10, 4, 3)
    facts = DECODER.probe(write(tmp_path / "a.dpx", codes, 10, 1, transfer=6, rate=23.976))
    assert (facts.rate, facts.encoding, facts.encoding_by) == ("24000/1001", "rec709", "the file")
    facts = DECODER.probe(write(tmp_path / "b.dpx", codes, 10, 1, transfer=1, rate=25.0, at=1940))
    assert (facts.rate, facts.encoding, facts.notes) == ("25", "density", [])
    facts = DECODER.probe(write(tmp_path / "d.dpx", codes, 10, 1, transfer=3))
    assert any("logarithmic codes" in n and "colours are not right" in n for n in facts.notes)
    facts = DECODER.probe(write(tmp_path / "c.dpx", codes, 10, 1, transfer=0, aspect=(1, 2)))
    assert (facts.rate, facts.encoding, facts.encoding_by) == (None, "srgb", "usual for DPX")
    assert any("not square: 1:2" in n for n in facts.notes)


def test_a_picture_stored_from_the_bottom_up_is_shown_upright(tmp_path):
    codes = codes_of(8, 5, 3)
    got = values(write(tmp_path / "a.dpx", codes[::-1], 8, turn=2), 3)
    np.testing.assert_array_equal(np.rint(got * 255), codes)


@pytest.mark.parametrize(("more", "words"), [
    ({"descriptor": 102}, "kind 102"), ({"run_length": 1}, "run-length"), ({"packing": 9}, "10 bits"),
])  # fmt: skip
def test_what_is_not_read_is_refused_with_a_reason(tmp_path, more, words):
    path = write(tmp_path / "a.dpx", codes_of(10, 4, 3), 10, more.pop("packing", 1), **more)
    with pytest.raises(FileDamaged, match=words):
        DECODER.probe(path)


def test_a_file_that_ends_early_is_damaged(tmp_path):
    path = tmp_path / "a.dpx"
    write(path, codes_of(10, 8, 3), 10, 1)
    path.write_bytes(path.read_bytes()[:-40])
    with pytest.raises(FileDamaged, match="ends before its last row"):
        DECODER.read(str(path), 0)
