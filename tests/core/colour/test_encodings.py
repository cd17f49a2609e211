"""Transfer functions against the standards' constants and colour-science."""

import colour
import numpy as np
import pytest
from neatveil.colour import decode, encode
from neatveil.errors import NameUnknown
from neatveil.numeric.jit import kernel
from neatveil.numeric.power import power

X = np.linspace(0, 1, 4097, dtype=np.float32).reshape(1, -1)


def test_srgb_values_of_the_standard():
    """IEC 61966-2-1:1999 [IEC61966-2-1]: worked values."""
    assert decode(np.full((1, 1), 0.5, np.float32), "srgb")[0, 0] == pytest.approx(0.21404114, abs=1e-7)
    assert encode(np.full((1, 1), 0.18, np.float32), "srgb")[0, 0] == pytest.approx(0.46135613, abs=1e-7)


def test_srgb_agrees_with_colour_science():
    np.testing.assert_allclose(decode(X, "srgb"), colour.eotf(X.astype(float), "sRGB"), atol=3e-7)
    np.testing.assert_allclose(encode(X, "srgb"), colour.eotf_inverse(X.astype(float), "sRGB"), atol=3e-7)


def test_rec709_agrees_with_colour_science():
    theirs = colour.oetf(X.astype(float), "ITU-R BT.709")
    np.testing.assert_allclose(encode(X, "rec709"), theirs, atol=2e-6)


@pytest.mark.parametrize("name", ["linear", "srgb", "rec709"])
def test_there_and_back_beyond_0_and_1(name):
    wide = np.linspace(-2, 16, 1001, dtype=np.float32).reshape(1, -1)
    np.testing.assert_allclose(decode(encode(wide, name), name), wide, rtol=2e-6, atol=1e-6)


def test_unknown_encoding():
    with pytest.raises(NameUnknown, match=r"rec709, srgb"):
        decode(X, "s-rgb")


@kernel
def _powers(x, p, out):
    for i in range(x.size):
        out[i] = power(x[i], p)


@pytest.mark.parametrize("p", [1 / 2.4, 2.4, 0.45, 1 / 1.5, -1.3])
def test_power_is_within_a_millionth(p):
    x = np.geomspace(1e-6, 1e4, 200_001).astype(np.float32)
    out = np.empty_like(x)
    _powers(x, np.float32(p), out)
    exact = x.astype(np.float64) ** float(np.float32(p))
    assert np.abs(out / exact - 1).max() < 1e-6
