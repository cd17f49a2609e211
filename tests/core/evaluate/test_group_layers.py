"""Groups as layers: their alpha, their own work, their names and times; isolated groups by two libraries.

Source: W3C Compositing and Blending Level 1, section 9.4.2 (isolated groups) [W3CCompositing].
"""

import cairocffi as cairo
import numpy as np
import pytest
import skia
from core.merge.test_against_drawing_libraries import CAIRO, SKIA
from core.pictures import premultiplied
from core.reference.pictures import Arrays
from hypothesis import given, settings
from hypothesis import strategies as st
from neatveil.comp.loading import parse_comp
from neatveil.errors import DocumentRefused, FrameMissing, NeatVeilError
from neatveil.evaluate import Evaluator
from neatveil.merge.inside import inside_alpha, with_alpha

SIZE = 24, 32


def even(r, g, b, a):
    """The same premultiplied value everywhere."""
    return [np.tile(np.array([r, g, b, a], np.float32), (*SIZE, 1))]


def soft(seed):
    straight = np.random.default_rng(seed).random((*SIZE, 4), np.float32)
    straight[:6, :, 3], straight[6:12, :, 3] = 1, 0.5
    return premultiplied(straight)


FILES = {
    "plate": even(0.6, 0.6, 0.6, 1), "diffuse": even(0.2, 0.1, 0.05, 0.5), "shine": even(0.1, 0.1, 0.1, 0.5),
    "occlusion": even(0.35, 0.35, 0.35, 0.5), "glare": even(0.3, 0.2, 0.1, 0),
    "one": [soft(1)], "two": [soft(2)], "three": [soft(3)],
    "moving": [np.tile(np.float32([n / 10] * 3 + [1]), (*SIZE, 1)) for n in range(1, 9)],
}  # fmt: skip


def comp(*layers, **fields):
    reading = {"reading": {"alpha": "premultiplied"}, "encoding": "linear"}
    elements = {
        n: {"file": n, "still": len(f) == 1, "first": 1, "last": len(f), **reading} for n, f in FILES.items()
    }
    size = {"width": SIZE[1], "height": SIZE[0], "first": 1, "last": 8}
    return parse_comp({"neatveil": 3, **size, "elements": elements, "layers": list(layers), **fields})


def layer(element, name=None, **fields):
    return {"id": name or element, "name": name or element, "element": element, **fields}


def group(*layers, name="g", **fields):
    return {"kind": "group", "id": name, "name": name, "layers": list(layers), **fields}


def drawn(document, frame=1, **how):
    return Evaluator(Arrays(FILES)).picture(document, frame, **how).rgba()


def pixel(document, frame=1, **how):
    return drawn(document, frame, **how)[5, 5]


def by_member(name):
    return {"by": "member", "member": name}


def test_passes_with_one_alpha_compound_when_merged_and_do_not_when_one_gives_it():
    """``1 - (1 - a)^n``: three times 0.5 is 0.875."""
    passes = [layer("diffuse"), layer("shine"), layer("diffuse", "third")]
    assert pixel(comp(group(*passes)))[3] == pytest.approx(1 - (1 - 0.5) ** 3)
    given_by_one = pixel(comp(group(*passes, alpha=by_member("shine"))))
    assert given_by_one[3] == 0.5


def test_lighting_passes_add_up_inside_the_alpha_of_one():
    passes = [layer("diffuse"), layer("shine", operator="plus"), layer("glare", operator="plus")]
    got = pixel(comp(group(*passes, alpha=by_member("diffuse"))))
    np.testing.assert_allclose(got, [0.6, 0.4, 0.25, 0.5], atol=1e-6)


def test_a_multiply_inside_the_alpha_leaves_no_light_line():
    """Over the plate ``C * occlusion + plate * (1 - a)``, where merging leaves the product half undone."""
    passes = [layer("diffuse"), layer("occlusion", operator="multiply")]
    got = pixel(comp(layer("plate"), group(*passes, alpha=by_member("diffuse"))))
    expected = np.array([0.2, 0.1, 0.05]) * 0.7 + 0.6 * 0.5
    np.testing.assert_allclose(got[:3], expected, atol=1e-6)
    naive = pixel(comp(layer("plate"), group(*passes)))
    assert (naive[:3] - expected > 0.03).all(), "the light line that the naive way leaves"


def test_light_outside_the_alpha_is_kept_and_surfaces_outside_it_are_cut():
    clear = {"id": "clear", "name": "clear", "element": "glare", "steps": []}
    got = pixel(comp(group(clear, layer("shine"), layer("glare", operator="plus"), alpha=by_member("clear"))))
    np.testing.assert_allclose(got, [0.6, 0.4, 0.2, 0], atol=1e-6)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.floats(0, 1, width=32), min_size=4, max_size=4))
def test_a_picture_inside_its_own_alpha_is_opaque_and_comes_back(values):
    picture = premultiplied(np.array([[values]], np.float32))
    planes = {n: np.ascontiguousarray(picture[..., i]) for i, n in enumerate("RGBA")}
    share = {n: p.copy() for n, p in inside_alpha(planes, planes["A"]).items()}
    if not 0 < values[3] < 1e-37:
        assert share["A"][0, 0] == pytest.approx(1 if values[3] > 0 else 0)
    with_alpha(share, planes["A"])
    for i, n in enumerate("RGBA"):
        np.testing.assert_allclose(share[n], picture[..., i], atol=1e-6)


def test_the_alpha_of_a_matte():
    half = {"parts": [{"kind": "channel", "source": "layer:shine", "channel": "alpha", "read": "placed"}]}
    one = layer("plate", "solid")
    got = pixel(comp(group(one, layer("shine", shown=False), alpha={"by": "matte", "matte": half})))
    np.testing.assert_allclose(got, [0.3, 0.3, 0.3, 0.5], atol=1e-6)


def by_skia(front, middle, back, inner, outer, opacity):
    height, width = back.shape[:2]
    info = skia.ImageInfo.Make(width, height, skia.kRGBA_F32_ColorType, skia.kPremul_AlphaType)
    out = back.copy()
    canvas = skia.Surface.MakeRasterDirect(info, out, out.strides[0]).getCanvas()
    pictures = [
        skia.Image.fromarray(np.ascontiguousarray(p), skia.kRGBA_F32_ColorType, skia.kPremul_AlphaType)
        for p in (middle, front)
    ]
    canvas.saveLayer(None, skia.Paint(BlendMode=getattr(skia.BlendMode, SKIA[outer]), Alphaf=opacity))
    canvas.drawImage(pictures[0], 0, 0)
    canvas.drawImage(
        pictures[1], 0, 0, skia.SamplingOptions(), skia.Paint(BlendMode=getattr(skia.BlendMode, SKIA[inner]))
    )
    canvas.restore()
    return out


def by_cairo(front, middle, back, inner, outer):
    height, width = back.shape[:2]
    held = [
        np.ascontiguousarray((np.rint(p * 255).astype(np.uint8))[..., [2, 1, 0, 3]])
        for p in (front, middle, back)
    ]
    surfaces = [
        cairo.ImageSurface(cairo.FORMAT_ARGB32, width, height, memoryview(h).cast("B"), width * 4)
        for h in held
    ]
    context = cairo.Context(surfaces[2])
    context.push_group()
    context.set_source_surface(surfaces[1])
    context.paint()
    context.set_operator(getattr(cairo, f"OPERATOR_{CAIRO[inner]}"))
    context.set_source_surface(surfaces[0])
    context.paint()
    context.pop_group_to_source()
    context.set_operator(getattr(cairo, f"OPERATOR_{CAIRO[outer]}"))
    context.paint()
    surfaces[2].flush()
    return held[2][..., [2, 1, 0, 3]].astype(np.float32) / 255


#: Of the W3C's modes and Porter-Duff's operators: a few of each, within the group and for it.
MODES = [
    "over",
    "multiply",
    "screen",
    "overlay",
    "difference",
    "soft-light",
    "luminosity",
    "atop",
    "dest-out",
]


@pytest.mark.parametrize("inner", MODES)
@pytest.mark.parametrize("outer", ["over", "multiply", "screen", "hard-light", "color", "in", "xor"])
def test_an_isolated_group_is_what_two_libraries_make_of_it(inner, outer):
    members = [layer("two"), layer("one", operator=inner)]
    got = drawn(comp(layer("three"), group(*members, operator=outer)))
    front, middle, back = (FILES[n][0] for n in ("one", "two", "three"))
    np.testing.assert_allclose(got, by_skia(front, middle, back, inner, outer, 1), atol=2e-3)
    # it works in 8 bits: each of its three roundings is half a code, and straight colour widens them
    cairo_codes = by_cairo(front, middle, back, inner, outer)
    assert np.abs(got - cairo_codes).mean() < 1.5 / 255


@pytest.mark.parametrize("inner", MODES)
def test_the_opacity_of_a_group_is_that_of_its_result(inner):
    members = [layer("two"), layer("one", operator=inner)]
    got = drawn(comp(layer("three"), group(*members, opacity=0.4)))
    front, middle, back = (FILES[n][0] for n in ("one", "two", "three"))
    np.testing.assert_allclose(got, by_skia(front, middle, back, inner, "over", 0.4), atol=3e-3)


def test_a_group_has_steps_a_matte_and_a_place_of_its_own():
    brighter = {"kind": "exposure", "stops": 1}
    matte = {"parts": [{"kind": "shape", "shape": "rectangle", "width": 16, "height": 100}]}
    made = group(layer("plate", "a"), steps=[brighter], matte=matte, transform={"x": 8})
    got = drawn(comp(made))
    np.testing.assert_allclose(got[12, 24], [1.2, 1.2, 1.2, 1], atol=1e-5)
    assert got[12, 10, 3] == 0
    assert got[12, 31, 3] == 1


def test_what_lies_beyond_the_frame_comes_in_when_a_group_with_steps_is_moved():
    """A member that reaches past the frame, moved by its group: as if it had been moved itself."""
    wide = layer("plate", "wide", transform={"x": -10})
    step = {"kind": "exposure", "stops": 1}
    grouped = drawn(comp(group(wide, steps=[step], transform={"x": 10})))
    itself = drawn(comp(layer("plate", "wide", steps=[step])))
    np.testing.assert_allclose(grouped, itself, atol=1e-6)


def test_nothing_is_as_large_as_the_frame_when_a_step_lifts_its_alpha():
    """A group that is empty, scaled: the alpha that a curve gives it ends where a solid's does."""
    lift = {"kind": "curve", "points": [[0, 0.25], [1, 1]], "channels": "a"}
    small = {"scale": 0.8, "rotation": 5.0}
    empty = group(layer("one"), alpha={"by": "matte", "matte": {"inverted": True}}, steps=[lift])
    solid = {"kind": "made", "id": "s", "name": "s", "made": {"kind": "solid", "alpha": 0.25}}
    got = drawn(comp({**empty, "transform": small}))[..., 3]
    np.testing.assert_allclose(got, drawn(comp({**solid, "transform": small}))[..., 3], atol=1e-6)


def test_members_are_seen_at_the_groups_own_time():
    members = layer("moving")
    assert pixel(comp(group(members, offset=2)), 5)[0] == pytest.approx(0.3)
    assert pixel(comp(group(members, reverse=True)), 2)[0] == pytest.approx(0.7)
    assert pixel(comp(group(members, speed=2.0, beyond="loop")), 6)[0] == pytest.approx(0.3)
    assert pixel(comp(group(members, offset=6, beyond="blank")), 3)[3] == 0


def test_a_member_named_from_outside_lies_and_is_timed_as_its_groups_show_it():
    inside = group(layer("moving", "inner"), name="late", offset=2)
    step = {"kind": "combine", "second": "layer:inner", "operation": "add"}
    document = comp(layer("plate", steps=[step]), inside)
    assert pixel(document, 5, only="plate")[0] == pytest.approx(0.6 + 0.3, abs=1e-5)


def test_one_member_alone_and_the_comp_up_to_one():
    made = group(layer("diffuse"), layer("shine"), alpha=by_member("shine"), opacity=0.5)
    document = comp(layer("plate"), made)
    np.testing.assert_allclose(pixel(document, only="shine"), FILES["shine"][0][0, 0], atol=1e-6)
    np.testing.assert_allclose(
        pixel(document, upto="diffuse")[:3], [0.6 * 0.75 + v / 2 for v in (0.2, 0.1, 0.05)], atol=1e-6
    )


def test_a_group_that_stays_as_it_was_is_not_drawn_again():
    decoder = Arrays(FILES)
    evaluator = Evaluator(decoder)
    made = group(layer("one"), layer("two", operator="multiply"), steps=[{"kind": "blur", "size": 2}])
    evaluator.picture(comp(made), 1)
    read = []
    decoder.read = lambda source, *_: read.append(source) or Arrays(FILES).read(source, 1)
    evaluator.picture(comp(made, layer("three")), 1)
    assert read == ["three"]


@pytest.mark.parametrize(
    ("layers", "words"),
    [
        ([group(layer("one", steps=[{"kind": "combine", "second": "layer:g"}]))], "g holds one takes g"),
        (
            [group(layer("one"), matte={"parts": [{"kind": "channel", "source": "layer:two"}]}),
             layer("two", steps=[{"kind": "combine", "second": "layer:one"}]),
             layer("three", steps=[{"kind": "combine", "second": "layer:g"}])],
            None,
        ),
        ([group(group(layer("one"), name="h", alpha={"by": "matte", "matte": {"parts": [
            {"kind": "channel", "source": "layer:g"}]}}))], "g holds h takes g"),
        ([group(layer("one"), layer("one"))], "used twice"),
        ([{"kind": "cloud", "id": "c", "name": "c"}], "kind of a layer"),
    ],
)  # fmt: skip
def test_what_is_no_tree_is_refused_with_the_loop_named(layers, words):
    if words is None:
        assert comp(*layers)
        return
    with pytest.raises(DocumentRefused, match=words):
        comp(*layers)


def test_groups_lie_in_one_another_sixteen_deep_and_no_deeper():
    def nested(depth):
        made = layer("one")
        for n in range(depth):
            made = group(made, name=f"g{n}")
        return comp(made)

    np.testing.assert_allclose(drawn(nested(16)), FILES["one"][0], atol=1e-6)
    with pytest.raises(DocumentRefused, match="more than 16 deep"):
        nested(17)


def test_a_member_that_cannot_be_read_is_named_every_time_and_never_kept_out_of_sight():
    """What a group without it became is not kept: neither the group nor what its steps made of it."""

    class OneGone(Arrays):
        def read(self, source, frame, planes=None):
            if source == "two":
                raise FrameMissing("It is not there.")
            return super().read(source, frame, planes)

    evaluator = Evaluator(OneGone(FILES))
    half = {"parts": [{"kind": "shape", "shape": "rectangle", "width": 16, "height": 100}]}
    made = group(layer("one"), layer("two"), steps=[{"kind": "blur", "size": 2}], matte=half)
    for document in (comp(made), comp(made), comp(made, layer("diffuse"))):
        failed: list[NeatVeilError] = []
        evaluator.picture(document, 1, failed=failed)
        assert [f.where for f in failed] == ["two"]


def test_a_hidden_member_that_is_gone_hurts_nobody():
    gone = {"id": "gone", "name": "lost pass", "element": "nowhere", "shown": False}
    failed: list[NeatVeilError] = []
    assert pixel(comp(group(layer("diffuse"), gone)), failed=failed)[3] == 0.5
    assert not failed


def test_what_is_missing_in_a_group_is_named_and_the_rest_shows():
    gone = {"id": "gone", "name": "lost pass", "element": "nowhere"}
    failed: list[NeatVeilError] = []
    got = pixel(comp(group(layer("diffuse"), gone), layer("shine")), failed=failed)
    assert [f.where for f in failed] == ["lost pass"]
    assert got[3] == pytest.approx(0.75)
    failed.clear()
    orphan = group(layer("diffuse"), alpha=by_member("left"), name="stack")
    assert pixel(comp(orphan, layer("shine")), failed=failed)[3] == 0.5
    assert "Layer stack" in failed[0].message
    assert "not in the group any more" in failed[0].message
    assert pixel(comp(group()))[3] == 0
