"""Files that other projects use to test their own readers; where they are from stands in tests/data."""

import struct
from pathlib import Path

import imagecodecs
import numpy as np
import OpenEXR
import pytest
import tifffile
from neatveil.errors import NeatVeilError
from neatveil.io import LocalDecoder
from neatveil.io.isolated import IsolatedDecoder
from PIL import Image, ImageOps

DATA = Path(__file__).parents[2] / "data"
DECODER = LocalDecoder()


def files(folder):
    return sorted(p for p in (DATA / folder).iterdir() if p.suffix != ".md")


def rgba(picture):
    alpha = picture.planes.get("A", np.ones_like(next(iter(picture.planes.values()))))
    return np.dstack([*(picture.planes.get(n, picture.planes.get("Y")) for n in "RGB"), alpha])


def _chunk(path, name):
    """The data of a PNG's chunk; None without it. PNG specification, 5.3 [PNG]."""
    data, at = path.read_bytes(), 8
    while at < len(data):
        length, kind = struct.unpack(">I4s", data[at : at + 8])
        if kind == name:
            return data[at + 8 : at + 8 + length]
        at += 12 + length
    return None


@pytest.mark.parametrize("path", files("png"), ids=lambda p: p.stem)
def test_the_png_suites(path):
    """Palettes, grey of 1 to 16 bits, grey and alpha, tRNS, interlaced. Codes as imagecodecs (libpng) gives
    them; sample depth scaling and tRNS by the PNG specification, 13.12 and 11.3.2.1 [PNG]."""
    header = _chunk(path, b"IHDR")
    bits, kind = header[8], header[9]
    codes = imagecodecs.png_decode(path.read_bytes())
    codes = codes[..., None] if codes.ndim == 2 else codes
    top = np.float32(np.iinfo(codes.dtype).max)
    colours = 1 if codes.shape[2] <= 2 else 3
    shares = codes.astype(np.float32) / top
    if kind == 0 and bits < 8 and codes.max() < 1 << bits:
        shares = codes.astype(np.float32) / np.float32((1 << bits) - 1)
    got = rgba(DECODER.read(str(path), 0))
    for i in range(3):
        np.testing.assert_array_equal(got[..., i], shares[..., min(i, colours - 1)])
    clear = _chunk(path, b"tRNS")
    if kind in {4, 6}:
        np.testing.assert_array_equal(got[..., 3], shares[..., -1])
    elif clear is None:
        assert (got[..., 3] == 1).all()
    elif kind in {0, 2}:
        key = np.array(struct.unpack(f">{len(clear) // 2}H", clear)) / ((1 << bits) - 1)
        hit = (np.abs(got[..., :colours] - key) < 0.5 / ((1 << bits) - 1)).all(axis=-1)
        np.testing.assert_array_equal(got[..., 3], np.where(hit, 0, 1))
    else:
        assert set(np.rint(np.unique(got[..., 3]) * 255)) <= {*clear, 255}


@pytest.mark.parametrize(
    ("name", "encoding"),
    [("rgb-8-linear.png", "linear"), ("rgb-8-sRGB.png", "srgb"), ("gray-8-1.8.png", "gamma1.517")],
)
def test_the_gamma_that_a_png_states_is_kept(name, encoding):
    """PNG specification, 11.3.3.2 gAMA; the testpngs' "1.8" states 65909, that is 1 / 1.517 [PNG]."""
    facts = DECODER.probe(str(DATA / "png" / name))
    assert (facts.encoding, facts.encoding_by) == (encoding, "the file")


def test_a_stated_gamma_is_a_power():
    from neatveil.colour import decode, encode

    codes = np.linspace(0, 1, 33, dtype=np.float32).reshape(1, -1)
    np.testing.assert_allclose(decode(codes, "gamma1.8"), codes.astype(float) ** 1.8, atol=2e-6)
    np.testing.assert_allclose(encode(decode(codes, "gamma2.2"), "gamma2.2"), codes, atol=2e-6)


@pytest.mark.parametrize("turn", range(1, 9))
def test_all_orientations_show_the_same_upright_picture(turn):
    """TIFF 6.0, Orientation (274); turned by Pillow, and alike but for how the writing was drawn."""
    first = DECODER.read(str(DATA / "tiff" / "g4_orientation_1.tif"), 0)["Y"]
    path = DATA / "tiff" / f"g4_orientation_{turn}.tif"
    got = DECODER.read(str(path), 0)["Y"]
    np.testing.assert_array_equal(
        got, np.asarray(ImageOps.exif_transpose(Image.open(path))).astype(np.float32)
    )
    assert (got != first).mean() < 0.01
    facts = DECODER.probe(str(path))
    assert (facts.width, facts.height) == first.shape[::-1]
    assert any("upright" in n for n in facts.notes) == (turn != 1)


@pytest.mark.parametrize(
    ("name", "claim"),
    [
        ("minisblack-2c-8b-alpha.tiff", "premultiplied"), ("tiff_16bit_RGBa.tiff", "premultiplied"),
        ("tiff_strip_planar_16bit_RGBa.tiff", "premultiplied"), ("tiff_16bit_RGB.tiff", None),
    ],
)  # fmt: skip
def test_what_tiffs_say_of_their_alpha_and_what_they_hold(name, claim):
    """TIFF 6.0, section 18, ExtraSamples: 1 is associated alpha. Codes as tifffile reads them."""
    path = DATA / "tiff" / name
    facts = DECODER.probe(str(path))
    assert facts.alpha_claim == claim
    codes = tifffile.imread(path)
    if codes.shape[0] in {2, 4}:
        codes = np.moveaxis(codes, 0, -1)
    top = np.float32(np.iinfo(codes.dtype).max)
    got = DECODER.read(str(path), 0)
    for i, n in enumerate(got.planes):
        np.testing.assert_array_equal(got[n], codes[..., i].astype(np.float32) / top)


@pytest.mark.parametrize("kind", [0, 1, 2])
def test_each_extra_sample_of_tiff(tmp_path, kind):
    name = {0: "unspecified", 1: "assocalpha", 2: "unassalpha"}[kind]
    pixels = np.random.default_rng(1).integers(0, 256, (9, 7, 4), np.uint8)
    tifffile.imwrite(tmp_path / "t.tif", pixels, photometric="rgb", extrasamples=[name])
    facts = DECODER.probe(str(tmp_path / "t.tif"))
    assert facts.alpha_claim == {0: None, 1: "premultiplied", 2: "straight"}[kind]
    if facts.alpha:
        got = DECODER.read(str(tmp_path / "t.tif"), 0)
        np.testing.assert_array_equal(rgba(got), pixels.astype(np.float32) / 255)


@pytest.mark.parametrize("path", [p for p in files("tga") if p.suffix == ".tga"], ids=lambda p: p.stem)
def test_targa(path):
    """From the bottom and from the top, plain and run-length coded; as Pillow's PNGs of the same."""
    same = Image.open(path.with_name("_".join(path.stem.split("_")[:2]) + ".png"))
    np.testing.assert_array_equal(
        rgba(DECODER.read(str(path), 0)), np.asarray(same.convert("RGBA")).astype(np.float32) / 255
    )
    assert DECODER.probe(str(path)).alpha_claim is None, "these say nothing: no extension area"


def test_jpeg_2000_without_loss():
    path = DATA / "jpeg2000" / "test-card-lossless.jp2"
    got = rgba(DECODER.read(str(path), 0))[..., :3]
    np.testing.assert_array_equal(got, imagecodecs.jpeg2k_decode(path.read_bytes()).astype(np.float32) / 255)
    assert DECODER.probe(str(DATA / "jpeg2000" / "16bit.cropped.jp2")).bit_depth == 16


@pytest.mark.parametrize("path", files("exr"), ids=lambda p: p.stem)
def test_openexr_files(path):
    """As the OpenEXR library itself reads them."""
    with OpenEXR.File(str(path), separate_channels=True) as file:
        channels = {n: np.asarray(c.pixels, np.float32) for n, c in file.channels().items()}
        window = np.asarray(file.header()["dataWindow"]) - np.asarray(file.header()["displayWindow"])[:1]
    facts = DECODER.probe(str(path))
    assert {c.name for c in facts.channels} == set(channels)
    got = DECODER.read(str(path), 0, sorted(channels))
    assert got.data_window.as_list()[:2] == window[0].tolist()
    for name, plane in channels.items():
        np.testing.assert_array_equal(got[name], plane)


def damaged():
    return [p for f in ("damaged", "png_damaged", "exr_damaged") for p in files(f)]


def test_damaged_files_get_an_error_or_a_picture_never_a_crash_or_a_hang():
    """Files that crashed, hung or exhausted the readers of libpng, OpenEXR, libtiff and Pillow."""
    decoder = IsolatedDecoder(2, memory_limit=3 << 30, probe_seconds=20, read_seconds=20)
    outcomes, told = {}, {}
    try:
        for path in damaged():
            try:
                facts = decoder.probe(str(path))
                picture = decoder.read(str(path), facts.first)
                outcomes[path.name] = "picture"
                assert (picture.display_window.width, picture.display_window.height) == (
                    facts.width, facts.height,
                )  # fmt: skip
            except NeatVeilError as error:
                outcomes[path.name], told[path] = error.code, str(error)
    finally:
        decoder.close()
    assert all(p.name in text for p, text in told.items()), "the message names the file"
    assert not any(str(p.parent) in text for p, text in told.items()), "and not where it lies"
    assert set(outcomes.values()) <= {"picture", "file-damaged", "picture-too-large"}, outcomes
    assert outcomes["invalid.exr"] == "file-damaged"
    assert outcomes["badcrc.png"] == "file-damaged"


def _parts(tmp_path, parts):
    made = [OpenEXR.Part({**header, "name": name}, dict(channels)) for name, header, channels in parts]
    with OpenEXR.File(made) as file:
        file.write(str(tmp_path / "parts.exr"))
    return str(tmp_path / "parts.exr")


def test_parts_of_one_file_are_all_there_each_in_its_window(tmp_path):
    """OpenEXR, multi-part files: a beauty and a depth whose data window is smaller; written by OpenEXR."""
    rng = np.random.default_rng(2)
    colour = {n: rng.random((12, 20)).astype(np.float16) for n in "RGBA"}
    depth = rng.random((5, 7)).astype(np.float32) * 100
    frame = (np.array([0, 0], np.int32), np.array([19, 11], np.int32))
    small = (np.array([6, 3], np.int32), np.array([12, 7], np.int32))
    base = {"type": OpenEXR.scanlineimage, "displayWindow": frame, "compression": OpenEXR.ZIP_COMPRESSION}
    path = _parts(
        tmp_path,
        [
            ("beauty", {**base, "dataWindow": frame}, colour),
            ("depth", {**base, "dataWindow": small}, {"Z": depth}),
        ],
    )
    facts = DECODER.probe(path)
    assert [c.name for c in facts.channels][-1] == "Z"
    assert next(c for c in facts.channels if c.name == "Z").data
    got = DECODER.read(path, 0, ["R", "Z"])
    np.testing.assert_array_equal(got["R"], colour["R"].astype(np.float32))
    expected = np.zeros((12, 20), np.float32)
    expected[3:8, 6:13] = depth
    np.testing.assert_array_equal(got["Z"], expected)


def test_two_parts_with_the_same_channels_are_told_apart(tmp_path):
    frame = (np.array([0, 0], np.int32), np.array([3, 2], np.int32))
    base = {"type": OpenEXR.scanlineimage, "displayWindow": frame, "dataWindow": frame,
            "compression": OpenEXR.ZIP_COMPRESSION}  # fmt: skip
    planes = [{n: np.full((3, 4), v, np.float16) for n in "RGB"} for v in (0.25, 0.5)]
    path = _parts(tmp_path, [("left", base, planes[0]), ("right", base, planes[1])])
    names = [c.name for c in DECODER.probe(path).channels]
    assert sorted(names) == ["B", "G", "R", "right.B", "right.G", "right.R"]
    assert DECODER.read(path, 0, ["right.G"])["right.G"][0, 0] == 0.5
    assert DECODER.read(path, 0)["G"][0, 0] == 0.25


def test_a_data_window_unlike_the_display_window(tmp_path):
    window = (np.array([-3, 4], np.int32), np.array([6, 10], np.int32))
    frame = (np.array([0, 0], np.int32), np.array([9, 8], np.int32))
    plane = np.arange(70, dtype=np.float32).reshape(7, 10) / 64
    header = {"dataWindow": window, "displayWindow": frame, "compression": OpenEXR.ZIP_COMPRESSION,
              "type": OpenEXR.scanlineimage}  # fmt: skip
    with OpenEXR.File(header, {n: plane.copy() for n in "RGB"}) as file:
        file.write(str(tmp_path / "w.exr"))
    facts = DECODER.probe(str(tmp_path / "w.exr"))
    assert (facts.width, facts.height, facts.data_window) == (10, 9, [-3, 4, 7, 11])
    got = DECODER.read(str(tmp_path / "w.exr"), 0)
    assert got.data_window.as_list() == [-3, 4, 7, 11]
    np.testing.assert_array_equal(got["R"], plane)


def _luminance_chroma(tmp_path, rgb):
    """An uncompressed file laid out by hand after "OpenEXR File Layout": Y for each pixel, RY and BY for
    every second one of every second line, in half."""
    height, width, _ = rgb.shape
    luminance = rgb @ np.array([0.2126, 0.7152, 0.0722])
    chroma = {n: ((rgb[..., i] - luminance) / luminance)[::2, ::2] for n, i in (("BY", 2), ("RY", 0))}
    planes = {"BY": (2, chroma["BY"]), "RY": (2, chroma["RY"]), "Y": (1, luminance)}

    def attribute(name, kind, data):
        return f"{name}\0{kind}\0".encode() + struct.pack("<i", len(data)) + data

    channels = b"".join(
        f"{n}\0".encode() + struct.pack("<iB3xii", 1, 0, step, step) for n, (step, _) in planes.items()
    )
    window = struct.pack("<4i", 0, 0, width - 1, height - 1)
    header = struct.pack("<ii", 20000630, 2) + b"".join([
        attribute("channels", "chlist", channels + b"\0"), attribute("compression", "compression", b"\0"),
        attribute("dataWindow", "box2i", window), attribute("displayWindow", "box2i", window),
        attribute("lineOrder", "lineOrder", b"\0"),
        attribute("pixelAspectRatio", "float", struct.pack("<f", 1)),
        attribute("screenWindowCenter", "v2f", struct.pack("<2f", 0, 0)),
        attribute("screenWindowWidth", "float", struct.pack("<f", 1)), b"\0",
    ])  # fmt: skip
    lines = []
    for y in range(height):
        own = [p[y // s] for s, p in planes.values() if y % s == 0]
        data = b"".join(row.astype("<f2").tobytes() for row in own)
        lines.append(struct.pack("<ii", y, len(data)) + data)
    starts = np.cumsum([len(header) + 8 * height, *(len(line) for line in lines[:-1])])
    path = tmp_path / "yc.exr"
    path.write_bytes(header + starts.astype("<u8").tobytes() + b"".join(lines))
    return str(path)


def test_luminance_and_subsampled_chroma(tmp_path):
    """OpenEXR technical introduction, luminance/chroma images: smooth colour comes back."""
    y, x = np.mgrid[:32, :48] / 48
    rgb = np.stack([0.2 + 0.5 * x, 0.3 + 0.3 * y, 0.6 - 0.3 * x], -1)
    path = _luminance_chroma(tmp_path, rgb)
    facts = DECODER.probe(path)
    assert ([c.name for c in facts.channels], facts.width) == (["R", "G", "B"], 48)
    assert any("chroma" in n for n in facts.notes)
    got = DECODER.read(path, 0)
    for i, n in enumerate("RGB"):
        np.testing.assert_allclose(got[n][2:-3, 2:-3], rgb[2:-3, 2:-3, i], atol=2e-3)


def test_a_sequence_of_luminance_and_chroma(tmp_path):
    rgb = np.full((8, 12, 3), 0.25)
    path = _luminance_chroma(tmp_path, rgb)
    for n in (1, 2, 4):
        (tmp_path / f"shore.{n:03d}.exr").write_bytes(Path(path).read_bytes())
    pattern = str(tmp_path / "shore.###.exr")
    facts = DECODER.probe(pattern)
    assert (facts.width, facts.height, facts.count, facts.missing) == (12, 8, 3, [3])
    np.testing.assert_allclose(DECODER.read(pattern, 4)["G"], 0.25, atol=1e-3)


@pytest.mark.parametrize("bits", [8, 10, 12, 16])
def test_dpx_of_every_depth(tmp_path, bits):
    """SMPTE ST 268: code values as shares of the largest; written by OpenImageIO, 8 and 10 by FFmpeg."""
    import OpenImageIO as oiio

    codes = np.random.default_rng(bits).integers(0, 1 << bits, (8, 16, 3))
    spec = oiio.ImageSpec(16, 8, 3, "uint8" if bits == 8 else "uint16")
    spec.attribute("oiio:BitsPerSample", bits)
    out = oiio.ImageOutput.create(str(tmp_path / "d.dpx"))
    out.open(str(tmp_path / "d.dpx"), spec)
    wide = codes if bits in {8, 16} else codes * 65535 // ((1 << bits) - 1)
    out.write_image(wide.astype(np.uint8 if bits == 8 else np.uint16))
    out.close()
    facts = DECODER.probe(str(tmp_path / "d.dpx"))
    assert facts.bit_depth == bits
    got = rgba(DECODER.read(str(tmp_path / "d.dpx"), 0))[..., :3]
    np.testing.assert_allclose(got, codes / ((1 << bits) - 1), atol=1.01 / 65535)
