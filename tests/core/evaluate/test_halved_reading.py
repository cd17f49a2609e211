"""Half-float files at the viewer's size: halved while they are read, the same numbers as afterwards."""

import numpy as np
import OpenEXR
import pytest
from neatveil.alpha import Reading, read
from neatveil.comp import Element
from neatveil.evaluate import Evaluator
from neatveil.evaluate.halve import halve
from neatveil.io import LocalDecoder
from neatveil.io.isolated import IsolatedDecoder


def write(path, names="RGBA", size=(40, 62), kind=np.float16, origin=(0, 0), display=None, seed=0):
    """By the OpenEXR library; channels of noise with light above 1 and below 0."""
    rng = np.random.default_rng(seed)
    planes = {n: rng.normal(0.4, 0.6, size).astype(kind) for n in names}
    x, y = origin
    header = {
        "compression": OpenEXR.ZIP_COMPRESSION,
        "dataWindow": ((x, y), (x + size[1] - 1, y + size[0] - 1)),
        "displayWindow": ((0, 0), ((display or size)[1] - 1, (display or size)[0] - 1)),
    }
    with OpenEXR.File(header, planes) as file:
        file.write(str(path))
    return str(path)


def element(file, alpha="premultiplied", **more):
    fields = {"name": "kite", "file": file, "still": True, "encoding": "linear", **more}
    return Element(reading=Reading(alpha=alpha), **fields)


def slowly(one):
    stored = LocalDecoder().read(one.file, 0)
    return halve(read(stored, one.reading, one.encoding))


@pytest.mark.parametrize("decoder", [LocalDecoder(), IsolatedDecoder(1)])
@pytest.mark.parametrize(
    ("names", "alpha"),
    [("RGBA", "premultiplied"), ("RGB", "none"), ("RGBA", "none"), ("RGB", "premultiplied")],
)
def test_the_same_numbers_as_reading_and_then_halving(tmp_path, names, alpha, decoder):
    one = element(write(tmp_path / "a.exr", names), alpha)
    assert decoder.read_halved(one.file, 0) is not None
    got, expected = Evaluator(decoder).source(one, 0, 1), slowly(one)
    assert got.data_window == expected.data_window
    for n in "RGBA":
        np.testing.assert_array_equal(got[n], expected[n])


def test_a_data_window_unlike_the_frame(tmp_path):
    one = element(write(tmp_path / "a.exr", origin=(-4, 6), display=(64, 100)))
    got, expected = Evaluator(LocalDecoder()).source(one, 0, 1), slowly(one)
    assert (got.data_window, got.display_window) == (expected.data_window, expected.display_window)
    np.testing.assert_array_equal(got["G"], expected["G"])


@pytest.mark.parametrize(
    "how",
    [{"size": (41, 62)}, {"origin": (1, 0)}, {"kind": np.float32}, {"display": (41, 62)}, {"names": "RGZ"}],
)
def test_what_cannot_be_halved_while_it_is_read_is_read_first(tmp_path, how):
    """Odd edges are continued with nothing, floats may be denormal, further channels may be data."""
    one = element(write(tmp_path / "a.exr", **how))
    assert LocalDecoder().read_halved(one.file, 0) is None
    if how.get("names") != "RGZ":
        np.testing.assert_array_equal(Evaluator(LocalDecoder()).source(one, 0, 1)["R"], slowly(one)["R"])


@pytest.mark.parametrize(
    "reading",
    [Reading(alpha="straight"), Reading(alpha="premultiplied", matte=(0.5, 0.5, 0.5)),
     Reading(alpha="premultiplied", inverted=True)],
)  # fmt: skip
def test_a_reading_that_is_arithmetic_is_done_before_halving(tmp_path, reading):
    one = element(write(tmp_path / "a.exr")).model_copy(update={"reading": reading})
    got, expected = Evaluator(LocalDecoder()).source(one, 0, 1), slowly(one)
    for n in "RGBA":
        np.testing.assert_array_equal(got[n], expected[n])
