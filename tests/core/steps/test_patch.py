"""The patch: what it routes, what it leaves bit for bit, and what it says of itself."""

import numpy as np
import pytest
from core.pictures import premultiplied, soft_disc
from core.steps.stepping import done, opaque, step
from neatveil.picture import PremultipliedPicture
from neatveil.steps.apply import apply_steps
from pydantic import ValidationError

DISC = premultiplied(soft_disc(40, 50, colour=(0.8, 0.4, 0.1)))
NOISE = opaque(np.random.default_rng(3).random((20, 30, 3)))


def two(first, second, **parameters):
    """A patch of two sources; the second is whatever is fetched."""
    asked = []

    def fetch(name, planes):
        asked.append((name, planes))
        return PremultipliedPicture.from_rgba(second.astype(np.float32))

    picture = PremultipliedPicture.from_rgba(first)
    got = apply_steps(picture, [step("patch", second="e2", **parameters)], 0, 1, fetch)
    assert asked[0][0] == "e2"
    return got.rgba()


@pytest.mark.parametrize("space", ["light", "codes"])
def test_an_identity_changes_no_bit(space):
    same = {n: {"channel": n} for n in "RGBA"}
    assert done(DISC, step("patch", routes=same, space=space)).tobytes() == DISC.tobytes()
    # one output rerouted: the others keep every bit
    got = done(NOISE, step("patch", routes={"B": {"channel": "R"}}, space=space))
    np.testing.assert_array_equal(got[..., [0, 1, 3]], NOISE[..., [0, 1, 3]])


def test_blue_from_red_under_the_same_alpha():
    got = done(DISC, step("patch", routes={"B": {"channel": "R"}}))
    np.testing.assert_allclose(got[..., 2], DISC[..., 0], atol=1e-6)


def test_inversion_gain_and_offset():
    route = {"channel": "G", "inverted": True, "gain": 0.5, "offset": 0.1}
    got = done(NOISE, step("patch", routes={"R": route}))
    np.testing.assert_allclose(got[..., 0], 0.5 * (1 - NOISE[..., 1]) + 0.1, atol=1e-6)


def test_constants_and_a_solid_alpha():
    got = done(DISC, step("patch", routes={"A": {"source": "constant", "channel": "1"}}))
    assert (got[..., 3] == 1).all()
    inside = DISC[..., 3] > 0.01
    np.testing.assert_allclose(
        got[inside][:, :3], np.broadcast_to((0.8, 0.4, 0.1), (inside.sum(), 3)), atol=1e-5
    )
    none = done(DISC, step("patch", routes={"G": {"source": "constant", "channel": "0"}}))
    assert not none[..., 1].any()


@pytest.mark.parametrize(
    ("channel", "expected"),
    [
        ("luma", lambda p: p @ [0.2126, 0.7152, 0.0722]),
        ("min", lambda p: p.min(-1)),
        ("max", lambda p: p.max(-1)),
        ("lightness", lambda p: (p.max(-1) + p.min(-1)) / 2),
    ],
)
def test_alpha_from_what_is_made_of_the_colour(channel, expected):
    got = done(NOISE, step("patch", routes={"A": {"channel": channel}}))
    matte = expected(NOISE[..., :3].astype(float))
    np.testing.assert_allclose(got[..., 3], matte, atol=1e-6)
    np.testing.assert_allclose(got[..., :3], NOISE[..., :3] * matte[..., None], atol=1e-6)


@pytest.mark.parametrize("outputs", ["hls", "ycc"])
def test_through_a_model_and_back_is_what_it_was(outputs):
    got = done(NOISE, step("patch", outputs=outputs))
    np.testing.assert_allclose(got, NOISE, atol=2e-5)


def test_saturation_halved_in_its_model():
    got = done(NOISE, step("patch", outputs="hls", routes={"B": {"channel": "saturation", "gain": 0.5}}))
    spans = [p[..., :3].max(-1) - p[..., :3].min(-1) for p in (got, NOISE)]
    np.testing.assert_allclose(spans[0], spans[1] / 2, atol=1e-5)


def test_straight_to_premultiplied_and_back():
    wrong = done(DISC, step("patch", input_alpha="straight", output_alpha="premultiplied"))
    edge = DISC[..., 3] > 0.02
    np.testing.assert_allclose(wrong[edge][:, 0], 0.8, atol=1e-5)
    back = done(wrong, step("patch", input_alpha="premultiplied", output_alpha="straight"))
    np.testing.assert_allclose(back[edge], DISC[edge], atol=1e-6)


def test_alpha_of_another_picture():
    matte = np.zeros((40, 50, 4), np.float32)
    matte[10:20, 10:40, 0] = 0.75
    matte[..., 3] = 1
    got = two(DISC, matte, routes={"A": {"source": "second", "channel": "R", "inverted": True}})
    np.testing.assert_allclose(got[..., 3], 1 - matte[..., 0])
    inside = DISC[..., 3] > 0.5
    np.testing.assert_allclose(got[inside][:, 0] / got[inside][:, 3], 0.8, atol=1e-5)


def test_a_second_of_another_size_is_stretched_or_centred():
    small = opaque(np.ones((20, 25, 3)))
    route = {"A": {"source": "second", "channel": "A"}}
    assert (two(NOISE[:20, :30], small, routes=route)[..., 3] == 1).all()
    centred = two(DISC, small, routes=route, fit="centre")[..., 3]
    assert centred.sum() == 20 * 25
    assert centred[10:30, 12:37].all()


@pytest.mark.parametrize(("channel", "expected"), [("R", 0), ("luma", 0), ("cb", 0.5), ("cr", 0.5)])
def test_a_second_source_that_is_not_chosen_is_a_clear_picture(channel, expected):
    """ITU-R BT.709-6: no colour is 0.5 in both differences, full range."""
    got = done(NOISE, step("patch", routes={"R": {"source": "second", "channel": channel}}))
    np.testing.assert_allclose(got[..., 0], expected, atol=1e-7)


def test_light_at_alpha_0_survives_a_rerouted_colour():
    glow = np.zeros((2, 2, 4), np.float32)
    glow[..., :3] = (0.6, 0.3, 0.1)
    got = done(glow, step("patch", routes={"B": {"channel": "R"}}))
    np.testing.assert_allclose(got[0, 0], [0.6, 0.3, 0.6, 0])


def test_light_of_another_source_stays_light():
    """A glow in the second source, where its own alpha is 0, is not filled in under the first one's alpha."""
    glow = np.zeros((40, 50, 4), np.float32)
    glow[..., :3] = (0.2, 0.1, 0.05)
    colours = {n: {"source": "second", "channel": n} for n in "RGB"}
    np.testing.assert_array_equal(two(DISC, glow, routes=colours)[..., :3], glow[..., :3])
    both = two(DISC, glow, routes={**colours, "A": {"source": "second", "channel": "A"}})
    np.testing.assert_array_equal(both, glow)


def test_a_surface_of_another_source_is_cut_by_the_alpha_that_stays():
    got = two(
        DISC, opaque(np.full((40, 50, 3), 0.5)), routes={n: {"source": "second", "channel": n} for n in "RGB"}
    )
    np.testing.assert_allclose(got[..., :3], 0.5 * DISC[..., 3:] * np.ones(3), atol=1e-7)


def test_all_of_another_source_is_that_source():
    other = premultiplied(soft_disc(40, 50, colour=(0.1, 0.9, 0.3)))
    got = two(DISC, other, routes={n: {"source": "second", "channel": n} for n in "RGBA"})
    np.testing.assert_allclose(got, other, atol=1e-7)


def test_a_constant_fills_what_the_new_alpha_covers():
    """Solid white in the shape of another picture: outside the layer's own old alpha too."""
    other = opaque(np.random.default_rng(2).random((40, 50, 3)))
    white = {n: {"source": "constant", "channel": "1"} for n in "RGB"}
    got = two(DISC, other, routes={**white, "A": {"source": "second", "channel": "R"}})
    np.testing.assert_allclose(got, np.repeat(other[..., :1], 4, axis=2), atol=1e-7)


@pytest.mark.parametrize("space", ["light", "codes"])
def test_the_alpha_seen_as_grey(space):
    """Alpha into R, G, B under a solid alpha: white where it covers, black where it does not, or inverted."""
    for inverted in (False, True):
        grey = {n: {"channel": "A", "inverted": inverted} for n in "RGB"}
        got = done(
            DISC, step("patch", space=space, routes={**grey, "A": {"source": "constant", "channel": "1"}})
        )
        flat = DISC[..., 3] == 0
        assert (got[flat][:, :3] == float(inverted)).all()
        assert (got[..., 3] == 1).all()


def test_it_says_what_it_does():
    one = step("patch", second="layer:shore", routes={
        "A": {"source": "second", "channel": "R", "inverted": True},
        "R": {"source": "constant", "channel": "1"},
        "G": {"channel": "G"}, "B": {"channel": "luma", "gain": 2},
    })  # fmt: skip
    assert one.words() == "alpha from red of shore, inverted; red from 1; blue from luma, times 2"
    assert step("patch").words() == "as it was"


def test_a_constant_is_0_or_1():
    with pytest.raises(ValidationError, match="a constant is 0 or 1"):
        step("patch", routes={"R": {"source": "constant", "channel": "2"}})


# --- arithmetic of two -----------------------------------------------------------------------------

A, B = NOISE, opaque(np.random.default_rng(8).random((20, 30, 3)))


def combined(first, second, **parameters):
    picture = PremultipliedPicture.from_rgba(first)
    one = step("combine", second="e2", **parameters)
    return apply_steps(picture, [one], 0, 1, lambda *_: PremultipliedPicture.from_rgba(second)).rgba()


@pytest.mark.parametrize(
    ("operation", "expected"),
    [
        ("add", lambda a, b: a + b), ("subtract", lambda a, b: a - b), ("multiply", lambda a, b: a * b),
        ("divide", lambda a, b: a / b), ("screen", lambda a, b: 1 - (1 - a) * (1 - b)),
        ("lighten", np.maximum), ("darken", np.minimum), ("difference", lambda a, b: np.abs(a - b)),
        ("average", lambda a, b: (a + b) / 2),
    ],
)  # fmt: skip
def test_the_operators(operation, expected):
    got = combined(A, B, operation=operation)
    np.testing.assert_allclose(got[..., :3], expected(A[..., :3], B[..., :3]), rtol=2e-6, atol=2e-6)


def test_overlay_is_the_webs():
    """W3C Compositing and Blending Level 1, overlay: the second over the first."""
    from neatveil.merge.operators import merge_values

    got = combined(A, B, operation="overlay")
    np.testing.assert_allclose(got, merge_values("overlay", B, A), atol=2e-6)


@pytest.mark.parametrize(
    ("operation", "work"), [("and", np.bitwise_and), ("or", np.bitwise_or), ("xor", np.bitwise_xor)]
)
def test_bits_of_8_bit_codes(operation, work):
    one, other = (np.rint(p[..., :3] * 255).astype(np.uint8) for p in (A, B))
    got = combined(A, B, operation=operation)[..., :3] * 255
    np.testing.assert_allclose(got, work(one, other), atol=1e-4)


@pytest.mark.parametrize(
    ("overflow", "expected"),
    [("keep", 1.4), ("clip", 1.0), ("wrap", (round(1.4 * 255) - 256) / 255), ("rescale", 0.7)],
)
def test_the_four_answers_to_overflow(overflow, expected):
    flat = opaque(np.full((2, 2, 3), 0.7))
    assert combined(flat, flat, overflow=overflow)[0, 0, 0] == pytest.approx(expected, abs=1e-6)


def test_below_0_rescaled_is_the_middle():
    flat, more = opaque(np.full((2, 2, 3), 0.25)), opaque(np.full((2, 2, 3), 0.75))
    assert combined(flat, more, operation="subtract", overflow="rescale")[0, 0, 0] == pytest.approx(0.25)


def test_the_firsts_alpha_or_that_of_both():
    other = premultiplied(soft_disc(40, 50, colour=(0.1, 0.9, 0.2)))[:, ::-1]
    kept = combined(DISC, other)
    np.testing.assert_array_equal(kept[..., 3], DISC[..., 3])
    both = combined(DISC, other, transparency="both")
    a, b = DISC[..., 3], other[..., 3]
    np.testing.assert_allclose(both[..., 3], a + b - a * b, atol=1e-6)


def test_nothing_divided_by_nothing():
    zero = opaque(np.zeros((2, 2, 3)))
    got = combined(A[:2, :2], zero, operation="divide")
    np.testing.assert_array_equal(got, A[:2, :2])
