"""Documents with revisions, and pictures that are the core's own."""

import json
from urllib.parse import unquote

import numpy as np
import pytest
from neatveil.comp.loading import parse_comp
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.view import Look, display
from webclient import Web


def put(web, comp, base, what="a change", **change):
    document = {**comp["document"], **change}
    return web("PUT", f"comps/{comp['id']}", {"base": base, "what": what, "document": document})


def test_two_people_at_once_and_nothing_is_lost(ada, comp):
    ben = Web("ben")
    assert put(ada, comp, 1, "longer", last=2).json()["revision"] == 2
    answer = put(ben, comp, 1, "another name", name="dawn")
    assert answer.status_code == 409
    problem = answer.json()
    assert problem["code"] == "stale"
    for side in ("ada", "longer", "revision 2", "another name", "revision 1"):
        assert side in problem["message"]
    now = ada("GET", f"comps/{comp['id']}").json()
    assert (now["document"]["last"], now["name"]) == (2, "dusk")


def test_undo_and_redo_reach_back_as_far_as_there_were_changes(ada, comp):
    for n, last in enumerate((2, 1), start=1):
        put(ada, comp, n, f"last {last}", last=last)

    def step(way, base):
        return ada("POST", f"comps/{comp['id']}/{way}", {"base": base})

    assert ada("GET", f"comps/{comp['id']}").json()["can_undo"] == "last 1"
    assert [step("undo", b).json()["document"]["last"] for b in (3, 4)] == [2, 3]
    assert step("undo", 5).json()["message"] == "There is nothing of yours to undo."
    assert [step("redo", b).json()["document"]["last"] for b in (5, 6)] == [2, 1]
    assert step("redo", 7).status_code == 409
    assert step("undo", 7).json()["document"]["last"] == 2
    put(ada, comp, 8, "other way", last=3)
    assert step("redo", 9).status_code == 409, "a new change ends what could be redone"


def test_undo_takes_back_ones_own_change_beside_those_of_others(ada, comp):
    ben = Web("ben")
    put(ada, comp, 1, "longer", last=5)
    now = ben("GET", f"comps/{comp['id']}").json()
    assert now["can_undo"] is None, "what ada did is not ben's to take back"
    put(ben, now, 2, "named", name="dawn")
    undone = ada("POST", f"comps/{comp['id']}/undo", {"base": 3}).json()
    assert (undone["document"]["last"], undone["name"]) == (comp["document"]["last"], "dawn")
    assert (undone["can_undo"], undone["can_redo"]) == (None, "longer")
    redone = ada("POST", f"comps/{comp['id']}/redo", {"base": 4}).json()
    assert (redone["document"]["last"], redone["name"]) == (5, "dawn")
    put(ben, redone, 5, "shorter", last=4)
    refused = ada("POST", f"comps/{comp['id']}/undo", {"base": 6})
    assert refused.status_code == 409
    for part in ("longer", "ben", "last"):
        assert part in refused.json()["message"]
    assert ben("POST", f"comps/{comp['id']}/undo", {"base": 6}).json()["document"]["last"] == 5


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"layers": [{"id": "a", "name": "n", "element": "e1", "operator": "ovr"}]}, "operator"),
        ({"layers": [{"id": "a", "name": "n", "element": "e1", "opacity": 2}]}, "opacity"),
        ({"rate": "fast"}, "rate"),
    ],
)
def test_wrong_documents_name_the_field(ada, comp, change, where):
    answer = put(ada, comp, 1, **change)
    assert answer.status_code == 422
    assert where in answer.json()["message"]


def test_elements_of_other_projects_cannot_be_used(ada, comp):
    other = ada("POST", "projects", {"name": "other"}).json()
    body = {**comp["document"]}
    answer = ada("POST", f"projects/{other['id']}/comps", {**body, "layers": []})
    theirs = answer.json()
    answer = put(ada, theirs, 1, layers=comp["document"]["layers"])
    assert answer.json()["code"] == "document-refused"
    assert "disc" in answer.json()["message"]
    assert ada("POST", f"projects/{other['id']}/comps", body).json()["code"] == "document-refused"
    empty = ada("POST", f"comps/{theirs['id']}/picture", {"frame": 1})
    shown = ada("POST", f"comps/{theirs['id']}/picture", {"frame": 1, "document": body})
    np.testing.assert_array_equal(pixels(shown), pixels(empty))
    assert "document-refused" in shown["X-Problems"]


def pixels(answer):
    assert answer.status_code == 200, answer.content
    x0, y0, x1, y1 = (int(v) for v in answer["X-Region"].split(","))
    return np.frombuffer(answer.content, np.uint8).reshape(y1 - y0, x1 - x0, 4)


def test_exact_pictures_are_the_cores(ada, comp):
    document = parse_comp(json.loads(ada("GET", f"comps/{comp['id']}/document.json").content))
    picture = Evaluator(LocalDecoder()).picture(document, 2)
    for look in ({"channel": "colour"}, {"channel": "alpha"}, {"background": "white"}):
        answer = ada("POST", f"comps/{comp['id']}/picture", {"frame": 2, "look": look})
        np.testing.assert_array_equal(pixels(answer), display(picture, Look(**look)))
    part = ada("POST", f"comps/{comp['id']}/picture", {"frame": 2, "region": [8, 4, 40, 30]})
    np.testing.assert_array_equal(pixels(part), display(picture, Look())[4:30, 8:40])


def test_a_draft_is_drawn_and_not_kept(ada, comp):
    draft = json.loads(json.dumps(comp["document"]))
    draft["layers"][0]["shown"] = False
    ask = {"frame": 1, "look": {"channel": "alpha"}}
    assert pixels(ada("POST", f"comps/{comp['id']}/picture", {**ask, "document": draft}))[..., 0].max() == 0
    assert pixels(ada("POST", f"comps/{comp['id']}/picture", ask))[..., 0].max() == 255


def test_what_passes_while_dragging_is_the_same_picture(ada, comp):
    draft = json.loads(json.dumps(comp["document"]))
    draft["layers"][0]["steps"] = [{"kind": "levels", "gamma": 2.0}]
    for ask in ({"frame": 1}, {"frame": 1, "region": [8, 4, 40, 30]}, {"frame": 1, "level": 1}):
        ask["document"] = draft
        rest = ada("POST", f"comps/{comp['id']}/picture", ask)
        moving = ada("POST", f"comps/{comp['id']}/picture", {**ask, "passing": True})
        np.testing.assert_array_equal(pixels(moving), pixels(rest))
        assert moving["X-Region"] == rest["X-Region"]


def test_a_draft_cannot_reach_into_other_projects(ada, comp):
    """An element's number can be guessed: a draft in a project of one's own must not show it."""
    eve = Web("eve")
    own = eve("POST", "projects", {"name": "eve's"}).json()
    mine = eve("POST", f"projects/{own['id']}/comps", {**comp["document"], "layers": []}).json()
    answer = eve("POST", f"comps/{mine['id']}/picture", {"frame": 1, "document": comp["document"]})
    empty = eve("POST", f"comps/{mine['id']}/picture", {"frame": 1})
    np.testing.assert_array_equal(pixels(answer), pixels(empty))
    assert "document-refused" in answer["X-Problems"]
    for path in ("picture", "values"):
        there, nowhere = (
            eve("POST", f"comps/{n}/{path}", {"frame": 1, "x": 1, "y": 1}) for n in (comp["id"], 10**6)
        )
        assert there.status_code == 404
        assert there.json() == nowhere.json()


def test_before_is_without_the_layers_steps(ada, comp):
    draft = json.loads(json.dumps(comp["document"]))
    draft["layers"][0]["steps"] = [{"kind": "levels", "gamma": 3.0}]
    ask = {"frame": 1, "document": draft, "layer": "a"}
    after, before = (
        pixels(ada("POST", f"comps/{comp['id']}/picture", {**ask, "before": b})) for b in (False, True)
    )
    plain = pixels(ada("POST", f"comps/{comp['id']}/picture", {"frame": 1}))
    np.testing.assert_array_equal(before, plain)
    assert np.abs(after.astype(int) - plain).max() > 20


def test_jpeg_while_things_move(ada, comp):
    answer = ada("POST", f"comps/{comp['id']}/picture", {"frame": 1, "quality": "fast"})
    assert answer["Content-Type"] == "image/jpeg"
    assert "evaluate" in answer["Server-Timing"]


def test_an_outdated_request_is_dropped(ada, comp):
    ask = {"frame": 1, "viewer": "me", "sequence": 7}
    assert ada("POST", f"comps/{comp['id']}/picture", ask).status_code == 200
    answer = ada("POST", f"comps/{comp['id']}/picture", {**ask, "sequence": 6})
    assert answer.json()["code"] == "cancelled"


def test_values_and_points_outside(ada, comp):
    got = ada("POST", f"comps/{comp['id']}/values", {"frame": 1, "x": 33, "y": 24, "layer": "a"}).json()
    assert got["stored"][3] == 1
    assert got["result"][0] == pytest.approx(got["straight"][0])
    assert ada("POST", f"comps/{comp['id']}/values", {"frame": 1, "x": 99, "y": 0}).status_code == 422


def test_tables_tell_units_and_ranges(ada):
    tables = ada("GET", "tables").json()
    levels = next(s for s in tables["steps"] if s["kind"] == "levels")
    assert levels["fields"]["gamma"]["minimum"] == 0.05
    assert {"over", "multiply", "add"} <= {o["name"] for o in tables["operators"]}


def test_kept_openapi_description_is_the_apis():
    from pathlib import Path

    from maintenance.management.commands.export_openapi import description

    kept = Path(__file__).parents[2] / "docs" / "openapi.json"
    assert kept.read_text("utf-8") == description(), "run tools/openapi.sh"


def test_readings_take_part_in_undo_in_the_order_in_which_they_were_made(ada, comp, disc):
    """A change of the comp, of a reading in a recipe, of the comp: taken back in turn, and done again."""

    def reading():
        rows = ada("GET", f"projects/{comp['project']}/elements").json()
        return next(e for e in rows if e["id"] == disc["id"])["reading"]["alpha"]

    def state():
        return ada("GET", f"comps/{comp['id']}").json()

    def step(way):
        answer = ada("POST", f"comps/{comp['id']}/{way}", {"base": state()["revision"]})
        assert answer.status_code == 200, answer.content
        return answer.json()

    layer = comp["document"]["layers"][0]
    put(ada, comp, 1, layers=[{**layer, "opacity": 0.5}])
    ada("POST", "elements/reading", {"elements": [disc["id"]], "reading": {"alpha": "premultiplied"}})
    put(ada, comp, 2, layers=[{**layer, "opacity": 0.25}])

    def opacity():
        return state()["document"]["layers"][0]["opacity"]

    step("undo")
    assert (opacity(), reading()) == (0.5, "premultiplied")
    assert state()["can_undo"] == "reading of disc.####.png"
    step("undo")
    assert (opacity(), reading()) == (0.5, "straight")
    step("undo")
    assert (opacity(), reading()) == (1.0, "straight")
    step("redo")
    assert (opacity(), reading()) == (0.5, "straight")
    assert state()["can_redo"] == "reading of disc.####.png"
    step("redo")
    assert (opacity(), reading()) == (0.5, "premultiplied")
    step("redo")
    assert (opacity(), reading()) == (0.25, "premultiplied")


def test_a_reading_of_somebody_else_is_not_taken_back(ada, comp, disc):
    from webclient import Web

    ben = Web("ben")
    ben("POST", "elements/reading", {"elements": [disc["id"]], "reading": {"alpha": "premultiplied"}})
    assert ada("GET", f"comps/{comp['id']}").json()["can_undo"] != "reading of disc.####.png"


def test_layers_made_here_are_laid_moved_and_looked_at(ada, comp):
    text = {"id": "t", "name": "title", "kind": "made", "made": {"kind": "text", "text": "Dusk", "size": 20}}
    layers = [*comp["document"]["layers"], text]
    assert put(ada, comp, 1, layers=layers).status_code == 200
    ask = {"frame": 1, "look": {"channel": "alpha"}, "extent": "layer", "layer": "t"}
    shown = pixels(ada("POST", f"comps/{comp['id']}/picture", ask))
    assert shown[..., 0].max() == 255
    text["transform"] = {"x": 300}
    assert put(ada, comp, 2, layers=layers).status_code == 200
    assert pixels(ada("POST", f"comps/{comp['id']}/picture", ask))[..., 0].max() == 0
    text["made"]["size"] = -1
    refused = put(ada, comp, 3, layers=layers)
    assert refused.status_code == 422
    assert "size" in refused.json()["message"]
    kinds = {row["kind"]: row for row in ada("GET", "tables").json()["made"]}
    assert list(kinds)[:4] == ["text", "shape", "solid", "gradient"]
    assert kinds["text"]["fields"]["size"]["unit"] == "px"


def test_letters_that_a_font_has_not_got_are_told_with_the_picture_of_the_rest(ada, comp):
    text = {"id": "t", "name": "title", "kind": "made", "made": {"kind": "text", "text": "沼"}}
    assert put(ada, comp, 1, layers=[*comp["document"]["layers"], text]).status_code == 200
    answer = ada("POST", f"comps/{comp['id']}/picture", {"frame": 1, "look": {"channel": "alpha"}})
    assert pixels(answer)[..., 0].max() == 255
    assert "U+6CBC" in unquote(answer["X-Problems"])


def test_the_nearest_layer_that_covers_a_point_is_picked(ada, comp):
    def made(name, x, **more):
        shape = {"kind": "shape", "shape": "rectangle", "width": 20, "height": 20}
        return {"id": name, "name": name, "kind": "made", "made": shape, "transform": {"x": x}, **more}

    group = {"id": "g", "name": "g", "kind": "group", "layers": [made("inner", 20)]}
    layers = [made("far", 0), made("near", 6), made("off", 0, shown=False), group]
    ask = {"document": {**comp["document"], "width": 64, "height": 48, "layers": layers}, "frame": 1}

    def picked(x, y, level=1):
        body = {**ask, "point": [x, y], "level": level}
        return ada("POST", f"comps/{comp['id']}/pick", body).json()["layer"]

    assert [picked(x, 24) for x in (2, 24, 34, 56)] == [None, "far", "near", "g"]
    assert picked(34, 24, level=0) == "near"
    assert picked(-5, 24) is None
    assert picked(34, 47) is None


def test_text_that_does_not_fit_its_canvas_is_told_with_the_one_it_fits_on(ada, comp):
    def canvas(text, **made):
        row = {"kind": "text", "text": text, "size": 40, **made}
        layers = [{"id": "t", "name": "title", "kind": "made", "made": row}]
        body = {"document": {**comp["document"], "width": 200, "height": 100, "layers": layers}, "layer": "t"}
        return ada("POST", f"comps/{comp['id']}/canvas", body)

    assert canvas("Dusk").json() == {"width": 200, "height": 100, "whole_width": 200, "whole_height": 100}
    long = canvas("Lanterns over Ferrow Marsh").json()
    assert long["whole_width"] > 400
    assert long["whole_height"] == 100
    fits = canvas("Lanterns over Ferrow Marsh", canvas_width=long["whole_width"]).json()
    assert fits["whole_width"] == fits["width"] == long["whole_width"]
    assert canvas("沼").status_code == 422  # no such letters
