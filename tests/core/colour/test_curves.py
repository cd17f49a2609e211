"""PQ, HLG and printing density against colour-science, and against OpenColorIO's own curves."""

from fractions import Fraction

import av
import colour
import numpy as np
import PyOpenColorIO as ocio
import pytest
from hypothesis import given
from hypothesis import strategies as st
from neatveil.alpha import Reading, read, store
from neatveil.codecs import codec_named
from neatveil.colour import decode, encode
from neatveil.colour.spaces import space_codes, space_light
from neatveil.io import LocalDecoder
from neatveil.io.backends.av_writing import movie_file
from neatveil.picture import StoredPicture

CODES = np.linspace(0, 1, 1024)
#: By colour-science, with reference white at 1: 203 cd/m2, and 75 % of HLG's signal (BT.2408).
PUBLISHED = {
    "pq": lambda v: colour.models.eotf_ST2084(v) / 203,
    "hlg": lambda v: colour.models.oetf_inverse_BT2100_HLG(v) / colour.models.oetf_inverse_BT2100_HLG(0.75),
    "density": colour.models.log_decoding_Cineon,
}


def row(values):
    return np.asarray(values, np.float32).reshape(1, -1)


@pytest.mark.parametrize("name", PUBLISHED)
def test_a_curve_is_the_published_one_there_and_back(name):
    light = decode(row(CODES), name)
    expected = PUBLISHED[name](np.float64(row(CODES)))
    np.testing.assert_allclose(light, expected, rtol=2e-6, atol=1e-9)
    # where the codes are told apart by light that float32 holds
    np.testing.assert_allclose(encode(light, name)[0, 8:], CODES[8:], atol=4e-6)


def test_pq_and_hlg_are_those_of_opencolorio():
    """Its built-in transforms have 100 cd/m2 at 1, and the scene's light of HLG as BT.2100 has it."""
    config = ocio.Config.CreateRaw()
    for name, style, scale in (
        ("pq", "CURVE - ST-2084_to_LINEAR", 100 / 203),
        ("hlg", "CURVE - HLG-OETF-INVERSE", 1 / colour.models.oetf_inverse_BT2100_HLG(0.75)),
    ):
        processor = config.getProcessor(ocio.BuiltinTransform(style)).getDefaultCPUProcessor()
        for code in (0.1, 0.35, 0.58, 0.75, 0.95):
            (light, *_) = processor.applyRGB([code, code, code])
            got = float(decode(row([code]), name)[0, 0])
            # HLG there has a white of its own: only the ratio to its light at 75 % is the standard's
            white = processor.applyRGB([0.75] * 3)[0] if name == "hlg" else 1 / scale
            assert got == pytest.approx(light / white, rel=2e-4)


def test_reference_white_and_the_largest_signal():
    """BT.2408, table 1: 58 % of PQ and 75 % of HLG; BT.2100: PQ's largest signal is 10,000 cd/m2."""
    assert float(encode(row([1.0]), "pq")[0, 0]) == pytest.approx(0.58, abs=0.002)
    assert float(encode(row([1.0]), "hlg")[0, 0]) == pytest.approx(0.75, abs=1e-6)
    assert float(decode(row([1.0]), "pq")[0, 0]) == pytest.approx(10000 / 203, rel=1e-6)
    assert float(decode(row([1.4]), "pq")[0, 0]) == pytest.approx(10000 / 203, rel=1e-6)
    assert float(decode(row([685 / 1023]), "density")[0, 0]) == pytest.approx(1, abs=1e-6)
    assert float(decode(row([95 / 1023]), "density")[0, 0]) == pytest.approx(0, abs=1e-7)


def test_primaries_come_with_it():
    green = {n: row([0.58 if n == "G" else 0.0]) for n in "RGB"}
    light = space_light(green, "pq@bt2020")
    matrix = colour.matrix_RGB_to_RGB("ITU-R BT.2020", "ITU-R BT.709", chromatic_adaptation_transform=None)
    expected = matrix @ [0, float(decode(row([0.58]), "pq")[0, 0]), 0]
    np.testing.assert_allclose([float(light[n][0, 0]) for n in "RGB"], expected, rtol=1e-5)
    back = space_codes(light, "pq@bt2020")
    assert float(back["G"][0, 0]) == pytest.approx(0.58, abs=1e-5)


@given(
    st.sampled_from(["pq", "hlg@bt2020", "density"]),
    st.sampled_from([
        Reading(alpha="straight"), Reading(alpha="none"),
        Reading(alpha="premultiplied", matte=(0.2, 0.5, 0.1)),
        Reading(alpha="premultiplied", multiplied="encoded", matte=(0, 0.4, 0)),
    ]),
    st.integers(0, 2**32 - 1),
)  # fmt: skip
def test_every_reading_comes_back(name, reading, seed):
    rng = np.random.default_rng(seed)
    light = {n: rng.uniform(0.02, 3, (5, 7)).astype(np.float32) for n in "RGB"}
    light["A"] = (
        rng.uniform(0.2, 1, (5, 7)).astype(np.float32) if reading.alpha != "none" else row([1] * 7)[[0] * 5]
    )
    for n in "RGB":
        light[n] *= light["A"]
    stored = StoredPicture(light)
    first = read(store(read(stored, Reading(alpha="premultiplied"), "linear"), reading, name), reading, name)
    for n in "RGBA":
        np.testing.assert_allclose(first[n], light[n], rtol=2e-3, atol=2e-4)


@pytest.mark.parametrize(("name", "numbers"), [("pq@bt2020", (16, 9)), ("hlg@bt2020", (18, 9))])
def test_a_movie_in_it_says_so_and_is_read_back_as_it(tmp_path, name, numbers):
    """ITU-T H.273, tables 2 and 3: in the stream, by FFmpeg, and by our own reading of it."""
    light = np.linspace(0.05, 4, 64 * 64, dtype=np.float32).reshape(64, 64)
    codes = {n: encode(light * share, name) for n, share in zip("RGB", (1, 0.5, 0.3), strict=True)}
    path = tmp_path / "k.mov"
    with movie_file(path, Fraction(25), codec=codec_named("prores4444"), encoding=name) as put:
        put(StoredPicture(codes))
    with av.open(str(path)) as movie:
        context = movie.streams.video[0].codec_context
        assert (int(context.color_trc), int(context.color_primaries)) == numbers
    decoder = LocalDecoder()
    assert decoder.probe(str(path)).encoding == name
    back = decoder.read(str(path), 0)
    assert np.abs(back["G"] - codes["G"]).mean() < 0.004
