"""Runs of point steps done together: what one step after another gives, and what light and NaN do in them."""

import numpy as np
import pytest
from core.pictures import premultiplied, soft_disc
from core.steps.stepping import done, opaque, step
from hypothesis import given
from hypothesis import strategies as st
from neatveil.steps.linear import Linear

DISC = premultiplied(soft_disc(colour=(0.7, 0.35, 0.2)))

#: Matrices, functions, codes, alpha and mixes, as a recipe mixes them.
KINDS = [
    step("exposure", stops=0.7),
    step("tone", gain=(1.2, 0.9, 1.0), contrast=1.1, saturation=0.6),
    step("hue", rotation=40, mix=0.4),
    step("invert", channels="g"),
    step("levels", in_black=0.1, in_white=0.8),
    step("levels", in_black=0.1, in_white=0.8, space="codes"),
    step("tone", contrast=1.3, space="codes"),
    step("tone", contrast=1.3, space="codes", channels="rgba"),
    step("curve", points=((0, 0.1), (0.5, 0.4), (1, 1)), space="codes"),
    step("levels", gamma=1.4, channels="rg"),
    step("clamp", low=0.1, high=0.9, channels="a"),
    step("exposure", stops=-1, channels="a"),
    step("curve", points=((0, 0), (1, 0.8)), space="codes", mix=0.5),
    step("exposure", stops=0.3, on_premultiplied=True),
    step("exposure", stops=0.8, through={"by": "channel", "channel": "luma"}),
    step("levels", gamma=1.4, space="codes", through={"by": "channel", "channel": "red", "inverted": True}),
    step("invert", through={"by": "ellipse", "width": 20, "height": 14, "soft": 18}),
]


@given(st.lists(st.sampled_from(range(len(KINDS))), min_size=2, max_size=6))
def test_a_run_is_its_steps_one_after_another(chosen):
    steps = [KINDS[i] for i in chosen]
    expected = DISC
    for one in steps:
        expected = done(expected, one)
    np.testing.assert_allclose(done(DISC, *steps), expected, atol=2e-5, rtol=2e-5)


@given(st.lists(st.sampled_from(range(len(KINDS))), min_size=1, max_size=6))
def test_the_picture_that_is_given_keeps_every_bit(chosen):
    given_bits = DISC.tobytes()
    done(DISC, *(KINDS[i] for i in chosen))
    assert DISC.tobytes() == given_bits


@pytest.mark.parametrize("alpha", [1.0, 0.5, 1e-6, 1e-30])
def test_a_matrix_is_that_of_the_surface_under_every_alpha(alpha):
    """NumPy's float64 product of the surface's colour, to a few last bits, however thin the alpha."""
    matrix = np.array([[0.5, 0.3, 0.1], [-0.2, 1.1, 0.4], [0.0, 0.7, 0.9]])
    colour, add = np.array([0.6, 0.2, 0.9]), np.array([0.1, 0.0, -0.05])
    pixel = [np.full(5, np.float32(v * alpha)) for v in colour] + [np.full(5, np.float32(alpha))]
    lifted = Linear.each("rgb", 1.0, [*add, 0])
    out = [np.empty(5, np.float32) for _ in range(4)]
    got = Linear.colour("rgb", matrix).then(lifted).direct(pixel, out)
    np.testing.assert_allclose([p[0] for p in got[:3]], (matrix @ colour + add) * alpha, rtol=1e-6)
    assert got[3] is pixel[3]


def test_light_of_one_channel_takes_another_hue():
    """A red flame at alpha 0 turned to green is as bright as the same red on a surface, turned."""
    flame = np.zeros((2, 2, 4), np.float32)
    flame[..., 0] = 0.8
    surface = flame.copy()
    surface[..., 3] = 1
    turned = done(flame, step("hue", rotation=120))
    np.testing.assert_array_equal(turned[..., :3], done(surface, step("hue", rotation=120))[..., :3])
    assert turned[0, 0, 1] > 0.1
    assert not turned[..., 3].any()


def test_an_alpha_lifted_from_nothing_holds_no_colour():
    """Whether alpha is lifted with the colour or after it: what was not there has no colour to lift."""
    empty = np.zeros((1, 1, 4), np.float32)
    together = done(empty, step("levels", out_black=0.2, channels="rgba"))
    after = done(empty, step("levels", out_black=0.2), step("levels", out_black=0.2, channels="a"))
    for got in (together, after):
        np.testing.assert_allclose(got[0, 0], [0, 0, 0, 0.2], atol=1e-7)


@pytest.mark.parametrize(
    "one",
    [step("exposure", stops=1), step("levels", in_black=0.1), step("invert"), step("curve"), step("clamp")],
    ids=lambda s: s.kind,
)
def test_nan_stays_in_its_channel(one):
    bad = opaque(np.full((3, 4, 3), 0.5))
    bad[1, 2, 0] = np.nan
    got = done(bad, one)
    assert np.isfinite(got[..., 1:]).all()
    assert np.isnan(got[..., 0]).sum() <= 1
    assert np.isfinite(got[..., 0]).sum() >= 11
