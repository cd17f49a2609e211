"""Every codec with every contents and alpha: written, proved, and read back by other libraries."""

from fractions import Fraction

import av
import cv2
import imagecodecs
import numpy as np
import OpenEXR
import pytest
import tifffile
from core.pictures import picture, premultiplied, soft_disc
from hypothesis import given, settings
from hypothesis import strategies as st
from neatveil.alpha.past_edge import past_edge
from neatveil.codecs import CODECS
from neatveil.delivery import (
    DeliveryForm,
    Target,
    count_losses,
    form_of,
    format_of,
    prove,
    write_frames,
    write_movie,
)
from neatveil.errors import CannotHoldAlpha, NameUnknown, ValueRefused
from neatveil.io import LocalDecoder
from PIL import Image

RATE = Fraction(30000, 1001)
SIZE = (128, 256)


def source(frame):
    return picture(premultiplied(np.roll(soft_disc(*SIZE), 5 * frame, axis=1)))


def delivered(form, folder, frames=(1, 2), source=source):
    made = format_of(form)
    target = Target(folder / (f"k{made.ending}" if made.kind == "movie" else f"k.####{made.ending}"))
    if made.kind == "movie":
        write_movie(source, made, target, frames, RATE)
    else:
        write_frames(source, made, target, frames)
    return made, target, prove(source, LocalDecoder(), made, target, list(frames), RATE)


FORMS = [
    DeliveryForm(codec=name, contents=contents, alpha=alpha, matte=matte, multiplied=multiplied,
                 encoding="linear" if codec.floating else "rec709" if codec.kind == "movie" else "srgb")
    for name, codec in CODECS.items()
    for contents, alpha, matte, multiplied in [
        ("rgba", "straight", (0, 0, 0), "linear"), ("rgba", "premultiplied", (0, 0, 0), "linear"),
        ("rgba", "premultiplied", (0, 0.5, 0), "encoded"), ("rgb", "straight", (0, 0, 0), "linear"),
        ("rgb", "premultiplied", (1, 1, 1), "linear"), ("alpha", "straight", (0, 0, 0), "linear"),
    ]
    if codec.alpha or contents != "rgba"
]  # fmt: skip


@pytest.mark.parametrize("form", FORMS, ids=lambda f: f"{f.codec}-{f.contents}-{f.alpha}-{f.multiplied}")
def test_every_form_is_written_and_proved(form, tmp_path):
    proof = delivered(form, tmp_path)[2]
    assert proof.good, proof.problems
    assert (proof.frames_found, proof.width, proof.height) == (2, SIZE[1], SIZE[0])
    if form.contents != "rgb":
        # a lossy codec's alpha alone swings over at its edge
        slack = 0.06 if form.contents == "alpha" and not CODECS[form.codec].lossless else 0.02
        assert proof.alpha_low == pytest.approx(0, abs=slack)
        assert proof.alpha_high == pytest.approx(1, abs=slack)


def read_otherwise(target, made):
    """R, G, B(, A) of the first frame, 0..1, by a library that has no part in our writing."""
    if made.kind == "movie":
        with av.open(str(target.path)) as movie:
            return next(movie.decode(video=0)).to_ndarray(format="rgba64le") / 65535
    path = target.frame_path(1)
    if made.ending == ".exr":
        with OpenEXR.File(str(path), separate_channels=True) as file:
            return np.dstack([file.channels()[n].pixels for n in "RGBA"]).astype(np.float32)
    if made.ending == ".jp2":
        return imagecodecs.jpeg2k_decode(path.read_bytes()) / 65535
    if made.ending == ".tif":
        data = tifffile.imread(path)
    elif made.codec.bits == 16:
        data = cv2.cvtColor(cv2.imread(str(path), cv2.IMREAD_UNCHANGED), cv2.COLOR_BGRA2RGBA)
    else:
        data = np.asarray(Image.open(path))
    return data / (np.iinfo(data.dtype).max if data.dtype.kind == "u" else 1)


@pytest.mark.parametrize(
    "codec",
    ["png16", "png8", "tiff16", "tiff32", "exr32", "utvideo", "png-movie", "apng", "jpeg2000", "webp"],
)
def test_straight_colour_runs_on_past_the_edge(codec, tmp_path):
    """The surface's own colour where the alpha is 0, as far as was said and no farther: read by others."""
    made, target, proof = delivered(DeliveryForm(codec=codec, past_edge=6), tmp_path)
    assert proof.good, proof.problems
    rgba = read_otherwise(target, made)
    alpha = source(1)["A"]
    away = cv2.distanceTransform((alpha == 0).astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    near, far = (away > 0) & (away <= 5), away > 9
    atol = 1.2 / 255 if made.codec.bits == 8 else 1e-3
    light = np.array([0.8, 0.4, 0.1])
    code = 1.055 * light ** (1 / 2.4) - 0.055  # IEC 61966-2-1
    np.testing.assert_allclose(rgba[near, :3], np.broadcast_to(code, (near.sum(), 3)), atol=atol)
    assert not rgba[far, :3].any()
    assert not rgba[alpha == 0, 3].any()


@given(
    seed=st.integers(0, 2**32 - 1), height=st.integers(1, 40), width=st.integers(1, 40),
    pixels=st.integers(0, 12), share=st.floats(0, 1),
)  # fmt: skip
@settings(max_examples=60, deadline=None)
def test_past_the_edge_is_the_nearest_surface(seed, height, width, pixels, share):
    """Beside a plain search through all covered pixels; OpenCV's distances are off by some hundredths."""
    rng = np.random.default_rng(seed)
    alpha = (rng.random((height, width)) < share * 0.3).astype(np.float32)
    planes = {n: (rng.random((height, width)) * alpha).astype(np.float32) for n in "RGB"} | {"A": alpha}
    got = past_edge(planes, pixels)
    surface = np.argwhere(alpha > 0)
    for y, x in np.ndindex(alpha.shape):
        if alpha[y, x] > 0:
            assert got["G"][y, x] == planes["G"][y, x]
            continue
        ways = np.hypot(*(surface - [y, x]).T) if len(surface) else np.array([np.inf])
        if ways.min() > pixels * 1.03 + 0.55:
            assert got["G"][y, x] == 0
        elif 0 < ways.min() <= pixels * 0.97 + 0.45 and pixels:
            near = surface[ways <= ways.min() * 1.06]
            assert got["G"][y, x] in [planes["G"][tuple(p)] for p in near]


def test_light_without_coverage_does_not_get_into_the_surface(tmp_path):
    """Glow at alpha 0 is lost in a straight file, and counted; it is no colour of the surface."""
    rgba = premultiplied(soft_disc(*SIZE))
    rgba[:10, :, 2] = 0.7
    lost = count_losses(lambda f: picture(rgba), [format_of(DeliveryForm())], [1])[0]
    assert lost.lost_light == 10 * SIZE[1]
    made, target, proof = delivered(DeliveryForm(), tmp_path, source=lambda f: picture(rgba))
    assert not proof.good
    assert read_otherwise(target, made)[:10].max() == 0


@pytest.mark.parametrize("codec", [n for n, c in CODECS.items() if not c.alpha])
def test_a_codec_without_alpha_is_refused_before_anything_is_written(codec):
    with pytest.raises(CannotHoldAlpha, match="cannot hold the alpha"):
        format_of(DeliveryForm(codec=codec))


def test_apart_and_premultiplied_holds_light_without_coverage():
    """The RGB has it, and the alpha by itself was never to hold light."""
    rgba = premultiplied(soft_disc(*SIZE))
    rgba[:10, :, 2] = 0.7
    for _, part in DeliveryForm(contents="apart", alpha="premultiplied").parts():
        assert count_losses(lambda f: picture(rgba), [format_of(part)], [1])[0].lost_light == 0


def test_rgb_over_a_colour_is_the_composite_over_it(tmp_path):
    form = DeliveryForm(
        codec="tiff32", contents="rgb", alpha="premultiplied", matte=(0, 0.25, 0), encoding="linear"
    )
    target = delivered(form, tmp_path)[1]
    whole = source(1)
    want = whole["G"] + np.float32(0.25) * (1 - whole["A"])
    np.testing.assert_allclose(tifffile.imread(target.frame_path(1))[..., 1], want, atol=1e-6)


def test_apart_is_two_files_that_give_the_one_back(tmp_path):
    form = DeliveryForm(codec="png16", contents="apart")
    names = dict(form.parts())
    assert list(names) == ["_rgb", "_alpha"]
    planes = {}
    for name, part in names.items():
        _, target, proof = delivered(part, tmp_path / name)
        assert proof.good
        planes[name] = cv2.imread(str(target.frame_path(1)), cv2.IMREAD_UNCHANGED)
    assert planes["_alpha"].shape == SIZE, "grey"
    np.testing.assert_allclose(planes["_alpha"] / 65535, source(1)["A"], atol=1e-5)
    assert planes["_rgb"].shape == (*SIZE, 3)


def test_an_animated_png_plays_without_end_at_its_rate(tmp_path):
    """By Pillow: every frame with its alpha, 0 loops for ever, and how long a frame stands."""
    target = delivered(DeliveryForm(codec="apng"), tmp_path, frames=(1, 2, 3))[1]
    with Image.open(target.path) as movie:
        assert (movie.n_frames, movie.info["loop"], movie.mode) == (3, 0, "RGBA")
        for frame in (3, 1):
            movie.seek(frame - 1)
            assert movie.info["duration"] == pytest.approx(float(1000 / RATE), abs=0.01)
            got = np.asarray(movie)[..., 3] / 255
            np.testing.assert_allclose(got, source(frame)["A"], atol=0.6 / 255)


@pytest.mark.parametrize(
    ("codec", "size", "words"),
    [("dnxhr-hqx", (100, 300), "begins at 256 x 120"), ("h264", (120, 255), "even width and height")],
)
def test_sizes_that_a_codec_refuses_are_named(codec, size, words, tmp_path):
    with pytest.raises(ValueRefused, match=words):
        delivered(
            DeliveryForm(codec=codec, contents="rgb"), tmp_path,
            source=lambda f: picture(premultiplied(soft_disc(*size))),
        )  # fmt: skip
    assert list(tmp_path.iterdir()) == []


@pytest.mark.parametrize(
    ("codec", "compression"),
    [(c.name, p.name) for c in CODECS.values() for p in c.compressions],
)
def test_every_compression_is_in_the_files_header_and_what_it_costs_is_proved(codec, compression, tmp_path):
    """The header as OpenEXR's own library tells it; what loses nothing is the same to the last bit."""
    form = DeliveryForm(codec=codec, alpha="premultiplied", encoding="linear", compression=compression)
    _, target, proof = delivered(form, tmp_path)
    assert proof.good, proof.problems
    with OpenEXR.File(str(target.path).replace("####", "0001")) as file:
        told = str(file.header()["compression"]).rpartition(".")[2].removesuffix("_COMPRESSION").lower()
        packed = file.parts[0].channels["RGBA"].pixels.astype(np.float32)
    assert told == {"none": "no"}.get(compression, compression)
    plain = delivered(form.model_copy(update={"compression": "none"}), tmp_path / "plain")[1]
    with OpenEXR.File(str(plain.path).replace("####", "0001")) as file:
        off = np.abs(file.parts[0].channels["RGBA"].pixels.astype(np.float32) - packed)
    lossy = compression.startswith("dwa")
    assert (off.max() > 0) == lossy
    assert off[..., :3].mean() < 0.005
    assert off[..., 3].max() == 0 or lossy


def test_a_compression_that_a_format_has_not_got_is_refused_by_name():
    with pytest.raises(NameUnknown, match="compression of PNG frames, 16 bits named 'piz'"):
        format_of(DeliveryForm(codec="png16", compression="piz"))
    form = DeliveryForm(codec="exr", compression="piz")
    assert form_of(format_of(form)) == form
    assert "PIZ" in format_of(form).title
