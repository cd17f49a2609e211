"""Fast powers against NumPy's in double precision; weights of the Gaussian against SciPy's."""

import numpy as np
import pytest
import scipy.ndimage as ndi
from hypothesis import given
from hypothesis import strategies as st
from neatveil.colour import decode, encode
from neatveil.numeric.gaussian import gaussian
from neatveil.numeric.scratch import scratch_planes
from neatveil.steps.levels import LevelsStep

#: Light over thirty stops, each value once.
LIGHT = np.exp2(np.linspace(-20, 10, 20001)).astype(np.float32)


@pytest.mark.parametrize("gamma", [0.05, 0.25, 0.45, 1 / 2.4, 0.9, 1.1, 1.5, 2.2, 2.4, 4.0, 20.0])
def test_a_gamma_is_within_two_millionths_of_its_value(gamma):
    """As levels use it; where the result neither overflows nor is too small for a normal float32."""
    out = np.empty_like(LIGHT)
    LevelsStep(gamma=gamma).value(LIGHT, out)
    expected = LIGHT.astype(float) ** float(np.float32(1 / gamma))
    sound = np.abs(np.log2(expected)) < 20
    np.testing.assert_allclose(out[sound], expected[sound], rtol=2e-6)


@pytest.mark.parametrize("encoding", ["srgb", "rec709", "gamma2.2", "gamma1.8"])
def test_light_to_codes_and_back_is_the_same_light(encoding):
    plane = LIGHT.reshape(1, -1)
    np.testing.assert_allclose(decode(encode(plane, encoding), encoding), plane, rtol=5e-6, atol=1e-7)


@pytest.mark.parametrize("encoding", ["srgb", "rec709", "gamma2.2"])
def test_below_0_the_curves_go_on_by_point_symmetry(encoding):
    plane = LIGHT.reshape(1, -1)
    np.testing.assert_array_equal(encode(-plane, encoding), -encode(plane, encoding))
    assert encode(np.zeros((1, 1), np.float32), encoding)[0, 0] == 0


@given(st.floats(0.3, 30))
def test_the_gaussians_weights_are_scipys(sigma):
    """SciPy samples at pixel centres too and cuts off where it is told."""
    weights = gaussian(sigma)
    reach = weights.size // 2
    impulse = np.zeros(2 * reach + 1)
    impulse[reach] = 1
    expected = ndi.gaussian_filter1d(impulse, sigma, mode="constant", radius=reach)
    np.testing.assert_allclose(weights, expected, atol=1e-6)
    assert weights.sum() == pytest.approx(1, abs=1e-5)
    np.testing.assert_array_equal(weights, weights[::-1])


def test_scratch_is_the_same_memory_under_a_name_and_other_memory_under_another():
    one, again, other = (scratch_planes(n, 100) for n in ("one", "one", "another"))
    assert all(np.shares_memory(a, b) for a, b in zip(one, again, strict=True))
    assert not any(np.shares_memory(a, b) for a in one for b in other)
    assert not any(np.shares_memory(one[i], one[j]) for i in range(4) for j in range(i))
    assert [p.size for p in scratch_planes("one", 7)] == [7] * 4
