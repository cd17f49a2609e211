"""Every kind of part in a comp: keys, shapes, paint, named objects, steadied and with the edge's colour."""

import numpy as np
import pytest
from core.evaluate.test_references import comp, files
from core.pictures import save_png, save_ranks, soft_disc
from neatveil.comp.loading import parse_comp
from neatveil.errors import DocumentRefused, NeatVeilError
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.picture import Box
from neatveil.view.boards import board_of, region_colour

__all__ = ["files"]


def cut(document, layer, **matte):
    data = document.model_dump(mode="json")
    next(x for x in data["layers"] if x["id"] == layer)["matte"] = matte
    return parse_comp(data)


def drawn(document, frame=1, only="back", **how):
    return Evaluator(LocalDecoder()).picture(document, frame, only=only, **how)


def square(**more):
    return {"kind": "shape", "shape": "rectangle", "width": 20, "height": 10, **more}


def test_a_shape_is_measured_from_the_pictures_centre(files):
    alpha = drawn(cut(comp(files), "back", parts=[square(x=4, y=-2)]))["A"]
    assert alpha[18, 27] > 0.99
    assert alpha[18, 24] < 0.01
    assert alpha.sum() == pytest.approx(200, rel=0.02)


@pytest.mark.parametrize(("how", "area"), [
    ("add", 100 + 100 - 50), ("subtract", 50), ("intersect", 50), ("exclude", 100),
])  # fmt: skip
def test_shapes_combine(files, how, area):
    parts = [square(width=10), square(width=10, x=5, combine=how)]
    alpha = drawn(cut(comp(files), "back", parts=parts))["A"]
    assert alpha.sum() == pytest.approx(area, abs=6)


def test_a_shape_is_animated_point_by_point(files):
    points = [v for x, y in ((-8, -8), (8, -8), (8, 8), (-8, 8)) for v in (x, y, 0, 0, 0, 0)]
    keys = {
        f"points.{i}": {"keys": [{"frame": 1, "value": points[i], "way": "linear"},
                                 {"frame": 3, "value": points[i] + 10}]}
        for i in (0, 6, 12, 18)
    }  # fmt: skip
    document = cut(
        comp(files), "back", parts=[{"kind": "shape", "shape": "free", "points": points, "keys": keys}]
    )
    columns = [np.flatnonzero(drawn(document, f)["A"].max(axis=0) > 0.5)[0] for f in (1, 2, 3)]
    assert columns == [24, 29, 34]


def test_paint_lies_over_what_is_there_and_keeps_to_its_frames(files):
    stroke = {"points": [-10, 0, 10, 0], "size": 8, "soft": 0, "value": 0, "first": 2, "last": 2}
    parts = [square(width=60, height=40), {"kind": "paint", "strokes": [stroke]}]
    document = cut(comp(files), "back", parts=parts)
    middles = [drawn(document, f)["A"][24, 32] for f in (1, 2, 3)]
    assert middles == [1, 0, 1]


def test_paint_alone_keeps_what_is_painted_white(files):
    stroke = {"points": [0, 0], "size": 10, "soft": 0}
    alpha = drawn(cut(comp(files), "back", parts=[{"kind": "paint", "strokes": [stroke]}]))["A"]
    assert alpha.sum() == pytest.approx(np.pi * 25, rel=0.03)


def test_an_area_of_half_the_size_is_the_same_area(files):
    parts = [
        square(width=40, height=20, soft_outside=4),
        {"kind": "paint", "strokes": [{"points": [0, 0], "size": 12}]},
    ]
    document = cut(comp(files), "back", parts=parts)
    whole, half = (drawn(document, level=n)["A"] for n in (0, 1))
    assert half.sum() * 4 == pytest.approx(whole.sum(), rel=0.03)


def test_steadying_takes_a_speck_of_one_frame_away(files):
    """The median of three frames: what is there in one of them is not there."""
    stroke = {"points": [0, 0], "size": 10, "soft": 0, "first": 2, "last": 2}
    for steady, expected in ((0, 1), (1, 0)):
        document = cut(comp(files), "back", parts=[{"kind": "paint", "strokes": [stroke]}], steady=steady)
        assert drawn(document, 2)["A"][24, 32] == expected


def test_steadying_is_the_median_of_what_moves(files):
    document = cut(comp(files), "back", parts=[{"source": "layer:front"}])
    frames = [drawn(document, f)["A"] for f in (1, 2, 3)]
    steadied = cut(comp(files), "back", parts=[{"source": "layer:front"}], steady=1)
    np.testing.assert_allclose(drawn(steadied, 2)["A"], np.median(frames, axis=0), atol=1e-6)


def test_a_steadied_matte_of_a_step(files):
    through = {"by": "matte", "matte": {"parts": [{"source": "layer:front"}], "steady": 1}}
    document = comp(files, plate=[{"kind": "exposure", "stops": 1, "through": through}])
    plain = drawn(comp(files))["G"]
    plane = np.median([drawn(comp(files), f, only="front")["A"] for f in (1, 2, 3)], axis=0)
    np.testing.assert_allclose(drawn(document, 2)["G"], plain * (1 + plane), rtol=1e-4, atol=1e-6)


@pytest.fixture
def card(tmp_path):
    """A grey disc before a green card, as light in 8 bits."""
    alpha = soft_disc(48, 64)[..., 3:]
    picture = alpha * 0.5 + (1 - alpha) * np.array([0.1, 0.6, 0.2])
    save_png(tmp_path / "card.png", picture.astype(np.float32))
    elements = {"p": {"file": str(tmp_path / "card.png"), "still": True, "encoding": "linear"}}
    layers = [{"id": "back", "name": "puppet", "element": "p"}]
    return parse_comp({"width": 64, "height": 48, "elements": elements, "layers": layers}), alpha[..., 0]


def test_the_edges_colour_comes_from_inside(card):
    document, alpha = card
    colour = region_colour(Evaluator(LocalDecoder()), document, 1, "back", "", Box(0, 0, 8, 8))
    np.testing.assert_allclose(colour, (0.1, 0.6, 0.2), atol=3e-3)
    key = {"kind": "key", "screen_colour": colour}
    plain, clean, out = (
        drawn(cut(document, "back", parts=[key], edge_colour=how)) for how in ("plain", "inside", "screen")
    )
    np.testing.assert_allclose(plain["A"], alpha, atol=0.01)
    edge = (alpha > 0.1) & (alpha < 0.9)
    straight = [p["G"][edge] / p["A"][edge] for p in (plain, clean, out)]
    assert straight[0].max() > 0.55  # the card shines through
    np.testing.assert_allclose(straight[1], 0.5, atol=0.01)
    np.testing.assert_allclose(straight[2], 0.5, atol=0.02)


@pytest.mark.parametrize("uneven", ["even", "uneven", "plate"])
def test_the_cards_light_is_taken_out_before_the_steps(card, uneven, tmp_path):
    """What stands before it comes out as it is (``C = a F + (1 - a) B``), and steps work on that."""
    document, alpha = card
    data = document.model_dump(mode="json")
    save_png(tmp_path / "empty.png", np.full((48, 64, 3), (0.1, 0.6, 0.2), np.float32))
    data["elements"]["e"] = {"file": str(tmp_path / "empty.png"), "still": True, "encoding": "linear"}
    data["layers"][0]["steps"] = [{"kind": "exposure", "stops": -1}]
    key = {
        "kind": "key",
        "screen_colour": [0.1, 0.6, 0.2],
        "evenness": uneven,
        "plate": "e",
        "read": "source",
    }
    got = drawn(cut(parse_comp(data), "back", parts=[key], edge_colour="screen"))
    edge = (alpha > 0.15) & (alpha < 0.85)
    np.testing.assert_allclose(got["A"], alpha, atol=0.02)
    for n in "RGB":
        np.testing.assert_allclose(got[n][edge] / got["A"][edge], 0.25, atol=0.02)


def test_a_key_on_a_colour_that_is_no_cards_leaves_the_rest_in_the_picture(files):
    document = cut(comp(files), "back", parts=[{"kind": "key", "screen_colour": [0.3, 0.3, 0.3]}])
    failed = []
    picture = Evaluator(LocalDecoder()).picture(document, 1, failed=failed)
    assert [e.where for e in failed] == ["plate"]
    assert "neither green nor blue" in failed[0].message
    assert picture["A"].max() > 0.9


def test_a_clean_plate_counts_as_taken(files):
    """So a circle through it is refused, and its absence is told."""
    with pytest.raises(DocumentRefused, match="circle"):
        cut(comp(files), "back", parts=[{"kind": "key", "by": "plate", "plate": "layer:back"}])
    with pytest.raises(NeatVeilError, match="which the project has not"):
        drawn(cut(comp(files), "back", parts=[{"kind": "key", "by": "plate", "plate": "gone"}]))


@pytest.fixture
def ranks(tmp_path):
    save_ranks(tmp_path / "ids.exr")
    elements = {"p": {"file": str(tmp_path / "ids.exr"), "still": True, "encoding": "linear"}}
    return parse_comp({"width": 64, "height": 48, "elements": elements,
                       "layers": [{"id": "back", "name": "sign", "element": "p"}]})  # fmt: skip


@pytest.mark.parametrize(("names", "share"), [(["post"], 0.25), (["post", "board"], 0.75), (["bolt"], 0)])
@pytest.mark.parametrize("level", [0, 1])
def test_objects_by_their_names(ranks, names, share, level):
    document = cut(ranks, "back", parts=[{"kind": "object", "objects": names}])
    np.testing.assert_allclose(drawn(document, level=level)["A"], share, atol=1e-6)


def test_ranks_that_are_not_there_are_told(files):
    with pytest.raises(NeatVeilError, match="no ID ranks called objects"):
        drawn(cut(comp(files), "back", parts=[{"kind": "object", "objects": ["post"]}]))


def test_the_board_reads_regions_where_the_layer_lies(files):
    """Marked in the comp over a layer that was moved and scaled."""
    data = comp(files).model_dump(mode="json")
    data["layers"][1]["transform"] = {"x": 16, "scale": 0.5}
    document = parse_comp(data)
    got = board_of(
        Evaluator(LocalDecoder()), document, 1, "front", "", [Box(46, 22, 50, 26)], [Box(33, 13, 36, 17)]
    )
    best = next(c for c in got if c.channel == "alpha")
    assert best.contrast == pytest.approx(1, abs=0.02)
    assert best.overlap == 0
    assert best.grey.shape[1] == 64


def test_an_edge_found_in_the_picture_sees_it_as_it_came_at_every_level(files):
    """A grade of the layer changes nothing of it; a draft is the same at half the size."""
    parts = [{"kind": "shape", "shape": "ellipse", "width": 30, "height": 24}]
    how = {"parts": parts, "edge": "natural", "band": 4, "trust": 0.01}
    found = drawn(cut(comp(files), "back", **how))["A"]
    assert np.abs(found - drawn(cut(comp(files), "back", parts=parts))["A"]).max() > 0.1
    graded = comp(files, plate=[{"kind": "exposure", "stops": 1.5}])
    np.testing.assert_array_equal(drawn(cut(graded, "back", **how))["A"], found)
    half = drawn(cut(comp(files), "back", **how), level=1)["A"]
    assert half.shape == (24, 32)
    assert np.abs(half - found.reshape(24, 2, 32, 2).mean((1, 3))).mean() < 0.15
    # what is done afterwards is done to what was found
    inverted = drawn(cut(comp(files), "back", **how, inverted=True))["A"]
    np.testing.assert_allclose(inverted, 1 - found, atol=1e-6)


def test_an_edge_found_in_the_picture_is_steadied_over_frames(files):
    parts = [{"kind": "shape", "shape": "ellipse", "width": 24, "height": 20}]
    how = {"parts": parts, "edge": "natural", "band": 3}
    frames = [drawn(cut(comp(files), "front", **how), f, "front")["A"] for f in (1, 2, 3)]
    steady = drawn(cut(comp(files), "front", **how, steady=1), 2, "front")["A"]
    whole = np.min([drawn(comp(files), f, "front")["A"] for f in (1, 2, 3)], axis=0) == 1
    assert np.ptp(frames, axis=0)[whole].max() > 0.01
    np.testing.assert_allclose(steady[whole], np.median(frames, axis=0)[whole], atol=1e-5)


@pytest.mark.parametrize(("width", "found"), [(12, True), (0.8, False)])
def test_what_has_no_core_left_is_as_it_was_drawn_and_named(files, width, found):
    """What walks out of the frame: its last frames are drawn, a delivery goes on, and the viewer says why."""
    parts = [{"kind": "shape", "shape": "ellipse", "width": width, "height": 40}]
    rough = drawn(cut(comp(files), "back", parts=parts))["A"]
    natural = cut(comp(files), "back", parts=parts, edge="natural", band=9)
    evaluator = Evaluator(LocalDecoder())
    got = evaluator.picture(natural, 1, only="back")["A"]
    assert (rough.max() >= 0.95) == found
    assert (np.abs(got - rough).max() > 0.02) == found
    for _ in range(2):  # what is kept by then is told again
        told = []
        again = evaluator.picture(natural, 1, only="back", failed=told)
        np.testing.assert_array_equal(again["A"], got)
        assert [(t.where, "nothing is kept" in t.message) for t in told] == (
            [] if found else [("plate", True)]
        )


def test_colour_freed_of_what_lay_behind_keeps_the_alpha(files):
    parts = [square(width=20, height=20, soft_inside=4, soft_outside=4)]
    plain = drawn(cut(comp(files), "back", parts=parts))
    freed = drawn(cut(comp(files), "back", parts=parts, edge_colour="front"))
    np.testing.assert_array_equal(freed["A"], plain["A"])
    edge = (plain["A"] > 0.1) & (plain["A"] < 0.9)
    assert np.abs(freed["R"] - plain["R"])[edge].max() > 0.02
    np.testing.assert_array_equal(
        freed["R"][~edge & (plain["A"] > 0.9999)], plain["R"][~edge & (plain["A"] > 0.9999)]
    )
