"""Movies: every codec that people bring, its alpha, its colours and its frames; written by FFmpeg itself."""

from fractions import Fraction

import av
import numpy as np
import pytest
from neatveil.io import LocalDecoder
from neatveil.io.codecs import limits_of

RATE = Fraction(24000, 1001)
WIDTH, HEIGHT = 256, 144

# encoder, container, pixel format, has alpha, largest honest error in 8-bit codes (colour mean, alpha most)
CODECS = [
    ("prores_ks", "mov", "yuva444p10le", True, 1.0, 0.5),
    ("prores_ks", "mov", "yuv422p10le", False, 2.5, 0),
    ("png", "mov", "rgba64be", True, 0.01, 0.01),
    ("png", "mov", "rgba", True, 0.3, 0.51),
    ("qtrle", "mov", "argb", True, 0.3, 0.51),
    ("ffv1", "mkv", "gbrap16le", True, 0.01, 0.01),
    ("ffv1", "mkv", "yuva444p10le", True, 1.0, 0.5),
    ("utvideo", "avi", "gbrap", True, 1.0, 1.0),
    ("jpeg2000", "mov", "rgba64le", True, 1.0, 1.0),
    ("dnxhd", "mov", "yuv422p", False, 2.0, 0),
    ("libx264", "mp4", "yuv420p", False, 3.0, 0),
    ("libx264", "mov", "yuv444p10le", False, 1.5, 0),
    ("libx265", "mp4", "yuv420p", False, 3.0, 0),
    ("libvpx-vp9", "webm", "yuva420p", True, 4.0, 12),
    ("libvpx-vp9", "webm", "yuv420p", False, 4.0, 0),
    ("mjpeg", "avi", "yuvj444p", False, 3.0, 0),
    ("rawvideo", "avi", "bgr24", False, 0.3, 0),
]
OPTIONS = {
    "prores_ks": {"alpha_bits": "16", "qscale": "4"}, "libx264": {"crf": "8"},
    "libx265": {"crf": "8", "x265-params": "log-level=none"},
    "libvpx-vp9": {"crf": "4", "b": "0", "auto-alt-ref": "0"}, "mjpeg": {"qscale": "2"},
    "dnxhd": {"profile": "dnxhr_hq"}, "jpeg2000": {"pred": "dwt53"},
}  # fmt: skip


def smooth(frame):
    """Straight RGBA in 0..1, smooth, so that subsampled colour loses little."""
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    u, v = x / WIDTH, y / HEIGHT
    planes = [0.2 + 0.6 * u, 0.3 + 0.4 * v, 0.8 - 0.5 * u * v, np.clip((u + v + frame * 0.05) / 2, 0, 1)]
    return np.stack(planes, -1)


def encode(path, codec, pixel_format, count=5, rate=RATE):
    """By FFmpeg's own converter with the BT.709 matrix, from 16 bits."""
    alpha = any(c.is_alpha for c in av.VideoFormat(pixel_format).components)
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=rate, options=OPTIONS.get(codec, {}))
        stream.width, stream.height, stream.pix_fmt = WIDTH, HEIGHT, pixel_format
        context = stream.codec_context
        rgb = av.VideoFormat(pixel_format).is_rgb
        full = rgb or pixel_format.startswith("yuvj")
        context.colorspace, context.color_range = (0 if rgb else 1), (2 if full else 1)
        context.color_primaries = context.color_trc = 1
        for index in range(count):
            # 8-bit formats from 8-bit codes: FFmpeg's way from 16 to 8 bits cuts off, which is not ours
            small = rgb and av.VideoFormat(pixel_format).components[0].bits == 8
            top, kind = (255, np.uint8) if small else (65535, np.uint16)
            codes = np.rint(smooth(index)[..., : 4 if alpha else 3] * top).astype(kind)
            given = ("rgba" if alpha else "rgb24") if small else ("rgba64le" if alpha else "rgb48le")
            frame = av.VideoFrame.from_ndarray(codes, format=given)
            # JFIF, section 5: JPEG is always BT.601 in full range
            matrix = 5 if codec == "mjpeg" else 1
            options = {} if rgb else {"dst_colorspace": matrix, "dst_color_range": 2 if full else 1}
            frame = frame.reformat(format=pixel_format, **options)
            frame.pts = index
            frame.time_base = 1 / rate
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))


@pytest.mark.parametrize(
    ("codec", "ending", "pixel_format", "alpha", "colour_off", "alpha_off"), CODECS,
    ids=lambda v: str(v) if isinstance(v, str) else "",
)  # fmt: skip
def test_every_codec_with_its_alpha_and_its_colours(
    tmp_path, codec, ending, pixel_format, alpha, colour_off, alpha_off
):
    path = tmp_path / f"kite.{ending}"
    try:
        encode(path, codec, pixel_format)
    except (av.error.FFmpegError, ValueError) as error:
        pytest.skip(f"this FFmpeg does not write {codec} {pixel_format} here: {error}")
    decoder = LocalDecoder()
    facts = decoder.probe(str(path))
    assert (facts.kind, facts.count, facts.alpha) == ("movie", 5, alpha)
    assert Fraction(facts.rate) == RATE
    assert limits_of(facts) == facts.limits
    if not alpha:
        assert any("alpha" in x for x in facts.limits) or codec == "rawvideo"
    for index in (0, 4, 2):
        got = decoder.read(str(path), index)
        for i, n in enumerate("RGBA" if alpha else "RGB"):
            off = np.abs(got[n] - smooth(index)[..., i]) * 255
            if n == "A":
                assert off.max() <= alpha_off, f"alpha of frame {index}"
            else:
                assert off.mean() <= colour_off, f"{n} of frame {index}"


# SMPTE RP 219-1 / ITU-R BT.709-6, item 3: 75 % bars, Y', Cb, Cr in 8-bit limited range.
BARS_709 = {
    (0.75, 0.75, 0.75): (180, 128, 128), (0.75, 0.75, 0): (168, 44, 136), (0, 0.75, 0.75): (145, 147, 44),
    (0, 0.75, 0): (134, 63, 52), (0.75, 0, 0.75): (63, 193, 204), (0.75, 0, 0): (51, 109, 212),
    (0, 0, 0.75): (28, 212, 120),
}  # fmt: skip
# ITU-R BT.601-7, 2.5: the same bars by its matrix.
BARS_601 = {
    (0.75, 0.75, 0.75): (180, 128, 128), (0.75, 0.75, 0): (162, 44, 142), (0, 0.75, 0.75): (131, 156, 44),
    (0, 0.75, 0): (112, 72, 58), (0.75, 0, 0.75): (84, 184, 198), (0.75, 0, 0): (65, 100, 212),
    (0, 0, 0.75): (35, 212, 114),
}  # fmt: skip


def _bars(path, bars, colorspace, full):
    """A lossless movie that holds these codes, tagged."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream("ffv1", rate=25)
        stream.width, stream.height, stream.pix_fmt = 16 * len(bars), 16, "yuv420p"
        context = stream.codec_context
        context.colorspace, context.color_range = colorspace, 2 if full else 1
        frame = av.VideoFrame(stream.width, 16, "yuv420p")
        for i, plane in enumerate(frame.planes):
            row = np.repeat([c[i] for c in bars.values()], 16 if i == 0 else 8).astype(np.uint8)
            rows = np.zeros((plane.height, plane.line_size), np.uint8)
            rows[:, : row.size] = row
            plane.update(rows.tobytes())
        frame.pts, frame.colorspace, frame.color_range = 0, colorspace, 2 if full else 1
        container.mux(stream.encode(frame))
        container.mux(stream.encode(None))


def _full_range(codes):
    """ITU-R BT.709-6, item 3.4 with full range: Y' times 255, chroma about 128 times 255."""
    y, cb, cr = codes
    return (
        round((y - 16) * 255 / 219),
        round((cb - 128) * 255 / 224 + 128),
        round((cr - 128) * 255 / 224 + 128),
    )


@pytest.mark.parametrize("full", [False, True])
@pytest.mark.parametrize(("bars", "colorspace"), [(BARS_709, 1), (BARS_601, 5)])
def test_colour_bars_come_out_as_their_colours(tmp_path, bars, colorspace, full):
    """Matrix and range are those that the file states, whatever its size."""
    held = {rgb: _full_range(c) if full else c for rgb, c in bars.items()}
    _bars(tmp_path / "bars.mkv", held, colorspace, full)
    got = LocalDecoder().read(str(tmp_path / "bars.mkv"), 0)
    for i, rgb in enumerate(bars):
        middle = [float(got[n][8, i * 16 + 8]) for n in "RGB"]
        # half a code of each of Y', Cb and Cr, through the matrix; twice rounded in full range
        bound = (0.5 / 219 + 1.8556 * 0.5 / 224) * (1.5 if full else 1)
        np.testing.assert_allclose(middle, rgb, atol=bound, err_msg=f"bar {rgb}")


def test_frames_are_counted_since_the_header_may_lie(tmp_path):
    """ISO/IEC 14496-12, 8.6.1.2: the time-to-sample table claims more frames than lie in the file."""
    path = tmp_path / "m.mov"
    encode(path, "png", "rgba", count=6)
    data = bytearray(path.read_bytes())
    at = data.index(b"stts") + 12
    assert int.from_bytes(data[at : at + 4], "big") == 6
    data[at : at + 4] = (9).to_bytes(4, "big")
    path.write_bytes(data)
    facts = LocalDecoder().probe(str(path))
    assert (facts.count, facts.last) == (6, 5)
    LocalDecoder().read(str(path), 5)


def test_sound_and_timecode_tracks_do_no_harm(tmp_path):
    """A movie with an odd sound track and without one: the picture is the same."""
    path = tmp_path / "with sound.mov"
    with av.open(str(path), "w") as container:
        sound = container.add_stream("pcm_s16le", rate=48000, layout="mono")
        picture = container.add_stream("png", rate=RATE)
        picture.width, picture.height, picture.pix_fmt = WIDTH, HEIGHT, "rgb24"
        container.metadata["timecode"] = "10:00:00:00"
        samples = av.AudioFrame.from_ndarray(np.zeros((1, 4800), np.int16), format="s16", layout="mono")
        samples.sample_rate, samples.pts = 48000, 0
        container.mux(sound.encode(samples))
        for index in range(2):
            codes = np.rint(smooth(index)[..., :3] * 255).astype(np.uint8)
            frame = av.VideoFrame.from_ndarray(codes, format="rgb24")
            frame.pts, frame.time_base = index, 1 / RATE
            container.mux(picture.encode(frame))
        container.mux(sound.encode(None))
        container.mux(picture.encode(None))
    facts = LocalDecoder().probe(str(path))
    assert (facts.count, Fraction(facts.rate)) == (2, RATE)
    got = LocalDecoder().read(str(path), 1)
    np.testing.assert_allclose(got["R"], smooth(1)[..., 0], atol=0.51 / 255)
