"""What is made here: closed forms, published bars, another library's shapes, and what it does in a comp."""

import numpy as np
import pytest
import skia
from neatveil.colour import encode
from neatveil.comp.loading import parse_comp
from neatveil.errors import DocumentRefused, NeatVeilError
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.made import MADE, Canvas
from neatveil.picture import Box, whole_frame

WIDE, HIGH = 96, 54


def drawn(kind, level=0, canvas=(WIDE, HIGH), **fields):
    made = MADE[kind].model_validate({"kind": kind, **fields})
    return whole_frame(made.drawn(Canvas(*canvas, level))).rgba()


def skia_shape(draw, over=8):
    """Alpha of what Skia draws, at eight times the size, averaged."""
    surface = skia.Surface(WIDE * over, HIGH * over)
    with surface as canvas:
        canvas.scale(over, over)
        canvas.translate(WIDE / 2, HIGH / 2)
        draw(canvas)
    return (surface.toarray()[..., 3] / 255.0).reshape(HIGH, over, WIDE, over).mean((1, 3))


WHITE = skia.Paint(AntiAlias=True, Color=skia.ColorWHITE)
LINE = skia.Paint(
    AntiAlias=True, Color=skia.ColorWHITE, Style=skia.Paint.kStroke_Style, StrokeWidth=5,
    StrokeJoin=skia.Paint.kRound_Join,
)  # fmt: skip
SHAPES = {
    "ellipse": (
        {"shape": "ellipse", "x": 3.3, "y": -2.1, "width": 51, "height": 30},
        lambda c, p: (c.translate(3.3, -2.1), c.drawOval(skia.Rect(-25.5, -15, 25.5, 15), p)),
    ),
    "turned": (
        {"shape": "rectangle", "width": 40, "height": 21, "rotation": 30},
        lambda c, p: (c.rotate(30), c.drawRect(skia.Rect(-20, -10.5, 20, 10.5), p)),
    ),
    "rounded": (
        {"shape": "rectangle", "width": 60, "height": 30, "corner": 9, "rotation": -12},
        lambda c, p: (c.rotate(-12), c.drawRoundRect(skia.Rect(-30, -15, 30, 15), 9, 9, p)),
    ),
    "free": (
        {"shape": "free", "points": (-30, 10, 0, 0, 5, -30, 30, 10, -5, -30, 0, 0, 0, 20, 0, 0, 0, 0)},
        lambda c, p: c.drawPath(free_path(), p),
    ),
}  # fmt: skip


def free_path():
    path = skia.Path()
    path.moveTo(-30, 10)
    path.cubicTo(-25, -20, 25, -20, 30, 10)
    path.lineTo(0, 20)
    path.close()
    return path


@pytest.mark.parametrize("name", SHAPES)
def test_fills_and_outlines_are_those_of_a_vector_library(name):
    fields, draw = SHAPES[name]
    got, theirs = drawn("shape", **fields)[..., 3], skia_shape(lambda c: draw(c, WHITE))
    assert np.abs(got - theirs).mean() < 0.003
    line = drawn("shape", **fields, alpha=0, outline=5, outline_colour=(0, 1, 0))
    theirs = skia_shape(lambda c: draw(c, LINE))
    assert np.abs(line[..., 3] - theirs).mean() < 0.006
    assert np.array_equal(line[..., 1], line[..., 3])
    assert line[..., 0].max() == 0


def test_a_soft_shape_fades_where_it_says():
    got = drawn("shape", width=40, height=40, soft_inside=4, soft_outside=10)[HIGH // 2, WIDE // 2 :, 3]
    assert got[:15].min() == 1
    assert 0 < got[25] < got[20] < got[17] < 1
    assert got[31:].max() == 0


def test_an_outline_lies_over_a_fill():
    got = drawn("shape", shape="rectangle", width=20, height=20, colour=(1, 0, 0), alpha=0.5, outline=4,
                outline_colour=(0, 0, 1), outline_alpha=0.5)  # fmt: skip
    middle = got[HIGH // 2]
    np.testing.assert_allclose(middle[WIDE // 2], [0.5, 0, 0, 0.5])
    np.testing.assert_allclose(middle[WIDE // 2 + 9], [0.25, 0, 0.5, 0.75])  # Porter-Duff over
    np.testing.assert_allclose(middle[WIDE // 2 + 11], [0, 0, 0.5, 0.5])


def test_a_gradient_mixes_colours_multiplied_by_their_alpha():
    """CSS Images 4, section 3.1: from opaque red to transparent blue only its share of blue comes in."""
    got = drawn("gradient", colour=(1, 0, 0), to_colour=(0, 0, 1), to_alpha=0, x=-48, y=0, to_x=48, to_y=0)
    np.testing.assert_allclose(got[0, 47], [1 - 47.5 / 96, 0, 0, 1 - 47.5 / 96], atol=1e-6)


def test_code_values_are_even_where_they_are_mixed():
    fields = {"colour": (0, 0, 0), "to_colour": (1, 1, 1), "x": -48, "y": 0, "to_x": 48, "to_y": 0}
    codes = encode(drawn("gradient", **fields, mixed_in="codes")[..., :3], "srgb")
    np.testing.assert_allclose(codes[3, :, 1], (np.arange(96) + 0.5) / 96, atol=1e-5)
    light = drawn("gradient", **fields)[3, :, 1]
    np.testing.assert_allclose(light, (np.arange(96) + 0.5) / 96, atol=1e-6)


def test_bars_have_the_published_code_values():
    """ITU-R BT.471-1: the order; 75 % of 8 bits is 191."""
    codes = np.rint(encode(drawn("bars", canvas=(96, 8))[..., :3], "rec709") * 255)
    expected = [
        (255,) * 3,
        (191, 191, 0),
        (0, 191, 191),
        (0, 191, 0),
        (191, 0, 191),
        (191, 0, 0),
        (0, 0, 191),
        (0,) * 3,
    ]
    np.testing.assert_array_equal(codes[4, 6::12], expected)


def test_a_zone_plate_reaches_its_finest_ring_at_the_edge():
    got = drawn("zone_plate", canvas=(256, 256), finest=4)[128, :, 0]
    assert got[128] == pytest.approx(1, abs=1e-3)
    # half turns of the phase from the middle to the edge: half its length by half a ring's mean length
    assert len(np.flatnonzero(np.diff(np.sign(got[128:] - 0.5)))) == 32
    # the last is half a ring long: where the cosine's argument, pi r^2 / (4 * 128), is whole and a half
    edge = np.sqrt(4 * 128 * (np.array([30.5, 31.5])))
    assert np.diff(edge)[0] == pytest.approx(2, abs=0.04)


def test_squares_smaller_than_a_pixel_are_their_mean():
    np.testing.assert_allclose(
        drawn("checkerboard", square=0.5, colour=(1, 1, 1), other=(0, 0, 0))[..., 0], 0.5
    )
    whole = drawn("checkerboard", square=3, colour=(1, 1, 1), other=(0, 0, 0))[..., 0]
    assert whole[0, :7].round(6).tolist() == [1, 1, 1, 0, 0, 0, 1]
    assert whole[3, :4].round(6).tolist() == [0, 0, 0, 1]


CASES = {
    "solid": {}, "gradient": {"mixed_in": "codes"}, "shape": {"width": 40, "height": 23},
    "text": {"text": "Reed", "size": 30}, "bars": {}, "ramp": {}, "zone_plate": {"finest": 12},
    "checkerboard": {"square": 7}, "beneath": {},
}  # fmt: skip


@pytest.mark.parametrize("kind", sorted(MADE))
def test_everything_is_seen_smaller_as_the_mean_of_what_it_is(kind):
    """At every level, also enlarged, a pixel is what its four make."""
    for level in (-1, 0, 1):
        fine, coarse = drawn(kind, level, **CASES[kind]), drawn(kind, level + 1, **CASES[kind])
        h, w = fine.shape[0] // 2, fine.shape[1] // 2
        mean = fine[: 2 * h, : 2 * w].reshape(h, 2, w, 2, 4).mean((1, 3))
        assert np.abs(mean - coarse[:h, :w]).mean() < 0.004


def comp(*layers, **fields):
    rows = [{"id": f"m{i}", "name": f"m{i}", "kind": "made", **x} for i, x in enumerate(layers)]
    return parse_comp({"width": WIDE, "height": HIGH, "first": 1, "last": 9, "layers": rows, **fields})


def picture(document, frame=1, **how):
    return Evaluator(LocalDecoder()).picture(document, frame, **how).rgba()


def test_what_is_scaled_up_is_as_sharp_as_what_is_made_large():
    small = {"kind": "text", "text": "g&R", "size": 8}
    expected = picture(comp({"made": {**small, "size": 40}}))
    off = np.abs(picture(comp({"made": small, "transform": {"scale": 5}})) - expected).mean()
    # with a step that takes another layer it is drawn at its own size and enlarged
    taking = {"kind": "light_wrap", "second": "layer:m0", "mix": 0}
    off_enlarged = np.abs(
        picture(
            comp(
                {"made": {"kind": "solid"}, "shown": False},
                {"made": small, "transform": {"scale": 5}, "steps": [taking]},
            )
        )
        - expected
    ).mean()
    assert off < 0.25 * off_enlarged
    exact = picture(comp({"made": small, "transform": {"scale": 4}}))
    np.testing.assert_allclose(exact, picture(comp({"made": {**small, "size": 32}})), atol=0.02)


def test_a_small_text_of_a_large_comp_is_as_sharp_sixteen_times_as_large():
    """Its canvas is too large to be drawn so: it is drawn where the letters are."""

    def seen(size, scale):
        made = {"kind": "text", "text": "reed", "size": size}
        layer = {"id": "t", "name": "t", "kind": "made", "made": made, "transform": {"scale": scale}}
        document = comp(layer, width=1920, height=1080)
        return picture(document, region=Box(900, 480, 1100, 600))

    np.testing.assert_allclose(seen(20, 16), seen(320, 1), atol=0.02)


def test_steps_and_mattes_of_what_is_scaled_up_act_as_large():
    text = {"kind": "text", "text": "R", "size": 8}
    blur = {"kind": "blur", "size": 1}
    shape = {"kind": "shape", "shape": "rectangle", "x": 0, "y": 2, "width": 20, "height": 4}
    got = picture(
        comp({"made": text, "transform": {"scale": 4}, "steps": [blur], "matte": {"parts": [shape]}})
    )
    shape |= {"y": 8, "width": 80, "height": 16}
    large = {"made": {**text, "size": 32}, "steps": [{**blur, "size": 4}], "matte": {"parts": [shape]}}
    np.testing.assert_allclose(got, picture(comp(large)), atol=0.02)


def test_its_numbers_move_on_the_comps_frames():
    keys = {"x": {"keys": [{"frame": 1, "value": -20, "way": "linear"}, {"frame": 5, "value": 20}]}}
    moving = comp({"made": {"kind": "shape", "width": 10, "height": 10, "keys": keys}})
    for frame, x in ((1, -20), (3, 0), (9, 20)):
        alpha = picture(moving, frame)[..., 3]
        assert (alpha.sum(0) @ (np.arange(WIDE) + 0.5)) / alpha.sum() - WIDE / 2 == pytest.approx(x, abs=1e-3)


def test_it_serves_as_a_matte():
    part = {"kind": "channel", "source": "layer:m0", "channel": "alpha", "read": "placed"}
    shape = {"made": {"kind": "shape", "width": 30, "height": 30}, "shown": False, "transform": {"x": 9}}
    cut = {"made": {"kind": "solid", "colour": (0, 1, 0)}, "matte": {"parts": [part]}}
    got = picture(comp(shape, cut))
    expected = drawn("shape", x=9, width=30, height=30)[..., 3]
    np.testing.assert_allclose(got[..., 1], expected, atol=1e-4)


def test_a_canvas_of_its_own_moves_into_the_frame():
    tall = {"kind": "text", "text": "n\n" * 20, "size": 20, "canvas_height": 600}
    still, up = picture(comp({"made": tall})), picture(comp({"made": tall, "transform": {"y": -100}}))
    assert still[..., 3].sum() > 0
    assert up[..., 3].sum() > 0
    assert np.abs(still - up).max() > 0.5


def test_letters_that_are_missing_are_named_by_layer_and_the_rest_shows():
    failed = []
    document = comp(
        {"made": {"kind": "solid", "colour": (1, 0, 0)}}, {"made": {"kind": "text", "text": "沼"}}
    )
    got = Evaluator(LocalDecoder()).picture(document, 1, failed=failed).rgba()
    assert [f.message for f in failed] == ["Layer m1: The font Sans has no letters for 沼 (U+6CBC)."]
    np.testing.assert_allclose(got[0, 0], [1, 0, 0, 1])
    with pytest.raises(NeatVeilError, match="Layer m1"):
        picture(document)


@pytest.mark.parametrize(
    ("made", "why"),
    [
        ({"kind": "text", "text": "x" * 20001}, "20000"),
        ({"kind": "hexagon"}, "hexagon"),
        ({"kind": "solid", "canvas_width": 16000, "canvas_height": 16000}, "33,554,432"),
        ({"kind": "text", "size": 0}, "size"),
        ({"kind": "bars", "keys": {"canvas_width": {"keys": [{"frame": 1, "value": 9}]}}}, "no keys"),
        ({"kind": "shape", "points": (1, 2, 3)}, "6 numbers"),
    ],
)
def test_what_cannot_be_is_refused_by_name(made, why):
    with pytest.raises(DocumentRefused, match=why):
        comp({"made": made})


@pytest.mark.parametrize("outline", [0, 6])
@pytest.mark.parametrize(
    "made",
    [
        {"kind": "text", "text": "Over the marsh", "size": 30, "x": 20},
        {"kind": "shape", "shape": "ellipse", "width": 90, "height": 20, "x": -15, "soft_outside": 4},
        {"kind": "shape", "shape": "rectangle", "width": 30, "height": 90, "rotation": 30},
    ],
)
def test_on_the_canvas_that_it_fits_nothing_is_cut_and_nothing_moves(made, outline):
    kind = MADE[made["kind"]]
    cut = kind.model_validate({**made, "outline": outline})
    width, height = cut.whole_canvas_size((64, 48))
    assert (width - 64) % 2 == 0
    assert (height - 48) % 2 == 0
    assert (width, height) != (64, 48)
    whole = cut.model_copy(update={"canvas_width": width, "canvas_height": height})
    far = cut.model_copy(update={"canvas_width": width + 200, "canvas_height": height + 200})

    def alpha(one):
        size = one.canvas_size((64, 48))
        picture = one.drawn(Canvas(*size, 0))
        box, plane = picture.data_window, np.zeros(size[::-1], np.float32)
        plane[box.y0 : box.y1, box.x0 : box.x1] = picture["A"]
        return plane

    np.testing.assert_allclose(alpha(far)[100:-100, 100:-100], alpha(whole), atol=1e-6)
    assert alpha(far).sum() == pytest.approx(alpha(whole).sum(), rel=1e-3)
    inner = alpha(whole)[(height - 48) // 2 :][:48, (width - 64) // 2 :][:, :64]
    np.testing.assert_allclose(alpha(cut), inner, atol=1e-6)
    assert whole.whole_canvas_size((64, 48)) == (width, height)
