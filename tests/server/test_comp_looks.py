"""Looking at comps: stages, differences, lines, boxes; states and steps kept under names."""

import copy
import json
from urllib.parse import unquote

import numpy as np
import pytest
from comps.models import Comp
from elements.models import Element
from neatveil.alpha import Reading, read
from neatveil.cli import main
from neatveil.colour.working import matrix_to_light
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.picture import StoredPicture
from neatveil.view import Look, display
from webclient import Web

LEVELS = {"kind": "levels", "gamma": 3.0}
BLUR = {"kind": "blur", "size": 2}


def pixels(answer):
    assert answer.status_code == 200, answer.content
    x0, y0, x1, y1 = map(int, answer["X-Region"].split(","))
    return np.frombuffer(answer.content, np.uint8).reshape(y1 - y0, x1 - x0, 4)


def problems(answer):
    return json.loads(unquote(answer["X-Problems"]))


def with_steps(comp, *steps):
    draft = copy.deepcopy(comp["document"])
    draft["layers"][0]["steps"] = list(steps)
    return draft


def picture(web, comp, **ask):
    return pixels(web("POST", f"comps/{comp['id']}/picture", {"frame": 1, **ask}))


def test_the_stages_of_a_layer(ada, comp):
    draft = with_steps(comp, LEVELS, BLUR)
    none, first, both = (picture(ada, comp, document=draft, layer="a", stage=n) for n in (0, 1, 2))
    np.testing.assert_array_equal(none, picture(ada, comp))
    np.testing.assert_array_equal(first, picture(ada, comp, document=with_steps(comp, LEVELS)))
    np.testing.assert_array_equal(both, picture(ada, comp, document=draft))


def test_the_difference_of_two_looks(ada, comp):
    draft = with_steps(comp, LEVELS)
    other = {"document": draft, "layer": "a", "stage": 0}
    same = picture(ada, comp, document=draft, layer="a", stage=0, against=other)
    assert not same[..., :3].any()
    apart = picture(ada, comp, document=draft, against=other)
    black = {"background": "black"}
    plain, changed = (
        picture(ada, comp, document=d, look=black).astype(int) for d in (comp["document"], draft)
    )
    np.testing.assert_allclose(apart[..., :3], np.abs(plain - changed)[..., :3], atol=1)
    strong = picture(ada, comp, document=draft, against=other, gain=4)
    assert strong.max() > apart[..., :3].max()


def test_the_difference_of_two_frames(ada, comp):
    apart = picture(ada, comp, against={"frame": 3})
    assert apart[..., :3].max() > 50
    assert not picture(ada, comp, against={"frame": 1})[..., :3].any()


def test_a_line_across_the_edge(ada, comp):
    ask = {"frame": 1, "line": [0, 24.5, 64, 24.5]}
    rows = ada("POST", f"comps/{comp['id']}/profile", ask).json()
    assert rows["light"]["A"][0] == 0
    assert max(rows["light"]["A"]) == pytest.approx(1)
    inside = [c for c, a in zip(rows["straight"]["R"], rows["straight"]["A"], strict=True) if a > 0.3]
    assert np.ptp(inside) < 0.02, "one surface, one colour, whatever the alpha"


def test_a_box_is_measured(ada, comp):
    got = ada("POST", f"comps/{comp['id']}/measure", {"frame": 1, "within": [30, 22, 34, 26]}).json()
    assert got["light"]["A"] == {**got["light"]["A"], "mean": 1, "spread": 0, "low": 1, "high": 1}
    assert sum(got["codes"]["R"]["histogram"]) == 16
    assert got["codes"]["R"]["mean"] * 255 == pytest.approx(204, abs=0.6)


def test_what_comes_into_a_step_is_measured_in_the_working_space(ada, comp):
    """As the step sees it; what is looked at stays light in BT.709's primaries."""
    box = {"frame": 1, "within": [30, 22, 34, 26], "layer": "a", "extent": "layer"}
    draft = {**with_steps(comp, LEVELS), "working": "linear@ap1"}

    def means(**ask):
        got = ada("POST", f"comps/{comp['id']}/measure", {**box, **ask}).json()["light"]
        return np.array([got[n]["mean"] for n in "RGB"])

    seen, light = means(document=draft, stage=0), means(stage=0)
    np.testing.assert_allclose(seen, np.linalg.solve(matrix_to_light("linear@ap1"), light), atol=1e-5)
    np.testing.assert_allclose(
        means(document={**draft, "layers": comp["document"]["layers"]}), light, atol=1e-5
    )


def test_the_waveform_counts_every_pixel_once(ada, comp):
    got = ada("POST", f"comps/{comp['id']}/measure", {"frame": 1}).json()["waveform"]
    assert set(got) == {"R", "G", "B", "luma"}
    rows = np.array(got["R"])
    assert rows.shape == (64, 256)
    assert rows.sum() == 64 * 48
    assert rows[-1, 0] == 48, "the left edge is black all the way down"
    codes = 63 - np.flatnonzero(rows[:, 128])
    assert 204 * 64 // 255 in codes


def test_states_are_named_compared_and_forgotten(ada, comp):
    at = f"comps/{comp['id']}"
    assert ada("POST", f"{at}/states", {"name": "first look"}).json()["revision"] == 1
    draft = with_steps(comp, LEVELS)
    ada("PUT", at, {"base": 1, "what": "levels", "document": draft})
    ada("POST", f"{at}/states", {"name": "with levels"})
    names = [(s["name"], s["revision"]) for s in ada("GET", f"{at}/states").json()]
    assert names == [("with levels", 2), ("first look", 1)]
    first = ada("GET", f"{at}/states").json()[1]["document"]
    assert first["layers"][0]["steps"] == []
    back = ada("PUT", at, {"base": 2, "what": "back to first look", "document": first}).json()
    assert back["can_undo"] == "back to first look"
    ada("POST", f"{at}/states", {"name": "first look"})
    assert [s["revision"] for s in ada("GET", f"{at}/states").json()] == [3, 2]
    ada("DELETE", f"{at}/states/3")
    assert [s["name"] for s in ada("GET", f"{at}/states").json()] == ["with levels"]


def test_steps_are_kept_by_name_for_the_whole_project(ada, project):
    at = f"projects/{project.pk}/presets"
    made = ada("POST", at, {"kind": "steps", "name": "dusk grade", "content": [LEVELS, BLUR]}).json()
    assert made["content"][0]["in_black"] == 0, "whole, with what was left out"
    assert [k["name"] for k in Web("ben")("GET", at).json()] == ["dusk grade"]
    ada("POST", at, {"kind": "steps", "name": "dusk grade", "content": [BLUR]})
    assert len(ada("GET", at).json()[0]["content"]) == 1
    ada("DELETE", f"presets/{made['id']}")
    assert ada("GET", at).json() == []


def test_steps_that_are_none_are_not_kept(ada, project):
    answer = ada(
        "POST", f"projects/{project.pk}/presets", {"kind": "steps", "name": "x", "content": [{"kind": "no"}]}
    )
    assert answer.status_code == 422
    assert answer.json()["code"] == "step-unknown"
    wrong = {"kind": "steps", "name": "x", "content": [{"kind": "levels", "gamma": "much"}]}
    assert "not valid" in ada("POST", f"projects/{project.pk}/presets", wrong).json()["message"]


def test_an_animated_layer_is_drawn_as_it_is_at_the_frame(ada, comp):
    keys = {"keys": [{"frame": 1, "value": 0, "way": "linear"}, {"frame": 3, "value": 8}]}
    draft = copy.deepcopy(comp["document"])
    draft["layers"][0]["transform"] = {"keys": {"x": keys}}
    moved = copy.deepcopy(comp["document"])
    moved["layers"][0]["transform"] = {"x": 4}
    np.testing.assert_array_equal(
        picture(ada, comp, document=draft, frame=2), picture(ada, comp, document=moved, frame=2)
    )
    answer = ada("PUT", f"comps/{comp['id']}", {"base": 1, "what": "x", "document": draft})
    assert answer.json()["document"]["layers"][0]["transform"]["keys"]["x"]["keys"][1]["value"] == 8
    draft["layers"][0]["transform"]["keys"] = {"filter": keys}
    refused = ada("PUT", f"comps/{comp['id']}", {"base": 2, "what": "x", "document": draft})
    assert refused.status_code == 422
    assert "no number that can be animated" in refused.json()["message"]


def test_tables_tell_what_each_control_is(ada):
    tables = ada("GET", "tables").json()
    by_kind = {s["kind"]: s for s in tables["steps"]}
    assert by_kind["levels"]["fresh"] == {"space": "codes"}
    assert by_kind["blur"]["fields"]["kernel"]["enum"] == ["gaussian", "box", "disc"]
    assert by_kind["tone"]["fields"]["gain"]["default"] == [1, 1, 1]
    assert {s["family"] for s in tables["steps"]} >= {"colour", "edges", "place", "light"}
    assert tables["through"]["by"]["default"] == "everywhere"


def patched(comp, second):
    route = {"R": {"source": "second", "channel": "B"}}
    return with_steps(comp, {"kind": "patch", "second": second, "routes": route})


def test_a_step_takes_another_element_which_then_stays(ada, comp, project, png):
    other = ada.bring(project.pk, {"blue.png": png(0, (0.1, 0.2, 0.9))})[0]
    draft = patched(comp, other["key"])
    answer = ada("PUT", f"comps/{comp['id']}", {"base": 1, "what": "patch", "document": draft})
    assert answer.status_code == 200, answer.content
    got, before = picture(ada, comp), picture(ada, comp, document=comp["document"])
    assert got[24, 32, 0] == 230
    assert before[24, 32, 0] == 204
    refused = ada("DELETE", f"elements/{other['id']}")
    assert refused.status_code == 409
    assert "used in dusk" in refused.json()["message"]


def test_a_step_cannot_reach_into_other_projects(ada, comp, png):
    """An element's number can be guessed: as a second source it must not show either."""
    eve = Web("eve")
    own = eve("POST", "projects", {"name": "eve's"}).json()
    made = eve.bring(own["id"], {"mine.png": png(0)})[0]
    draft = patched(comp, comp["document"]["layers"][0]["element"])
    draft["layers"][0]["element"] = made["key"]
    mine = eve("POST", f"projects/{own['id']}/comps", {**draft, "layers": []}).json()
    answer = eve("POST", f"comps/{mine['id']}/picture", {"frame": 1, "document": draft})
    empty = eve("POST", f"comps/{mine['id']}/picture", {"frame": 1})
    np.testing.assert_array_equal(pixels(answer), pixels(empty))
    (problem,) = problems(answer)
    assert problem["code"] == "document-refused"
    assert "which the project has not" in problem["message"]


def test_a_layer_that_cannot_be_drawn_is_named_and_the_others_are_shown(ada, comp):
    draft = copy.deepcopy(comp["document"])
    draft["layers"].append({**draft["layers"][0], "id": "b", "name": "sharp one", "steps": [{"kind": "no"}]})
    answer = ada("POST", f"comps/{comp['id']}/picture", {"frame": 1, "document": draft})
    np.testing.assert_array_equal(pixels(answer), picture(ada, comp))
    (problem,) = problems(answer)
    assert problem["where"] == "sharp one"
    assert "'no' is not known here" in problem["message"]
    kept = ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": draft}).json()["document"]
    assert kept["layers"][1]["steps"][0]["kind"] == "no", "nothing of it is lost"


@pytest.mark.parametrize(
    ("change", "code", "words"),
    [
        ({"replaced": {"bytes": 1}}, "element-replaced", "replaced by another file"),
        ({"state": "arriving"}, "element-not-ready", "still being looked at"),
        ({"state": "refused"}, "element-not-ready", "was refused"),
        ({"rate": "", "kind": "sequence"}, "rate-missing", "gives no frame rate"),
    ],
    ids=lambda v: v if isinstance(v, str) else None,
)
def test_an_element_that_cannot_be_used_is_named_by_its_layer_and_the_rest_shows(
    ada, comp, project, png, change, code, words
):
    other = ada.bring(project.pk, {"blue.png": png(0, (0.1, 0.2, 0.9))})[0]
    draft = copy.deepcopy(comp["document"])
    draft["layers"].append({"id": "late", "name": "late one", "element": other["key"]})
    ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": draft})
    row = Element.objects.get(pk=other["id"])
    kind = change.pop("kind", None)
    row.facts = {**row.facts, "rate": None, **({"kind": kind} if kind else {})}
    for name, value in change.items():
        setattr(row, name, value)
    row.save()
    answer = ada("POST", f"comps/{comp['id']}/picture", {"frame": 1})
    np.testing.assert_array_equal(pixels(answer), picture(ada, comp, document=comp["document"]))
    (problem,) = problems(answer)
    assert (problem["code"], problem["where"]) == (code, "late one")
    assert words in problem["message"]
    # alone there is nothing else to show
    only = {"frame": 1, "layer": "late", "extent": "layer"}
    assert problems(ada("POST", f"comps/{comp['id']}/picture", only))[0]["code"] == code
    values = {"frame": 1, "x": 3, "y": 3}
    assert ada("POST", f"comps/{comp['id']}/values", values).status_code == 200
    assert ada("POST", f"comps/{comp['id']}/values", {**values, "layer": "late"}).json()["code"] == code


def test_values_of_a_layer_whose_element_is_gone_say_so(ada, comp):
    draft = copy.deepcopy(comp["document"])
    draft["layers"][0]["element"] = "e99999"
    ask = {"frame": 1, "x": 3, "y": 3, "layer": "a", "document": draft}
    answer = ada("POST", f"comps/{comp['id']}/values", ask)
    assert answer.status_code == 422
    assert "not in the project any more" in answer.json()["message"]


def test_a_comp_of_a_newer_version_is_shown_and_not_changed(ada, comp):
    row = Comp.objects.get(pk=comp["id"])
    stored = {**row.document, "neatveil": 99, "mood": "dusk"}
    stored["layers"] = [{**stored["layers"][0], "weather": 3, "steps": [{"kind": "levels", "curl": 1}]}]
    row.document = stored
    row.save()
    got = ada("GET", f"comps/{comp['id']}").json()
    assert got["newer"]
    assert picture(ada, comp).any()
    answer = ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": comp["document"]})
    assert (answer.status_code, "newer version" in answer.json()["message"]) == (409, True)
    row.refresh_from_db()
    assert row.document == stored


def test_the_command_line_writes_what_the_screen_shows(ada, comp, tmp_path):
    """A saved comp with steps of every kind, a patch of two sources, keys, mattes, groups, a turned place."""
    ramp = {"keys": [{"frame": 1, "value": 1}, {"frame": 3, "value": 2, "way": "eased"}]}
    first = {
        **comp["document"]["layers"][0],
        "name": "turned",
        "transform": {"rotation": 9, "scale": 0.8, "x": 3.5},
    }
    first["steps"] = [
        {"kind": "levels", "space": "codes", "keys": {"gamma": ramp}},
        {"kind": "blur", "size": 1.5, "through": {"by": "ellipse", "width": 30, "height": 20, "soft": 9}},
        {"kind": "glow", "size": 4, "threshold": 0.1},
        {"kind": "grow_shrink", "size": -0.7},
        {"kind": "transform", "rotation": 3, "x": 1.25, "filter": "lanczos"},
        {"kind": "grain", "amount": [0.05, 0.05, 0.05]},
    ]
    patch = {"kind": "patch", "second": "layer:a", "routes": {"R": {"source": "second", "channel": "B"}}}
    second = {**first, "id": "b", "name": "patched", "operator": "screen", "transform": {}, "steps": [patch]}
    points = [v for x, y in ((-20, -14), (22, -9), (4, 18)) for v in (x, y, -6, 3, 6, -3)]
    matte = {
        "steady": 1, "grow": -0.5, "soften": 0.6, "edge_colour": "inside",
        "parts": [
            {"kind": "shape", "shape": "free", "points": points, "soft_inside": 3, "soft_outside": 2},
            {"kind": "key", "screen_colour": [0.1, 0.6, 0.1], "combine": "intersect"},
            {"source": "layer:b", "channel": "luma", "read": "placed", "combine": "exclude", "passes": 2},
            {"kind": "paint", "strokes": [{"points": [-9, 0, 12, 3], "size": 6, "value": 0.3}]},
        ],
    }  # fmt: skip
    third = {**first, "id": "c", "name": "cut", "steps": [], "matte": matte}
    fourth = {
        **third,
        "id": "d",
        "matte": None,
        "operator": "dest-out",
        "opacity": 0.5,
        "transform": {"x": 20},
    }
    group = {
        **{k: v for k, v in fourth.items() if k != "element"},
        **{"kind": "group", "id": "g", "name": "group", "operator": "over", "opacity": 0.9},
        **{"layers": [third, fourth], "alpha": {"by": "member", "member": "c"}},
    }
    draft = {**comp["document"], "layers": [first, second, group]}
    assert ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": draft}).status_code == 200
    (tmp_path / "c.json").write_bytes(ada("GET", f"comps/{comp['id']}/document.json").content)
    assert (
        main(["render", str(tmp_path / "c.json"), "--frames", "2-3", "--to", str(tmp_path / "o.##.exr")]) == 0
    )
    for frame in (2, 3):
        written = LocalDecoder().read(str(tmp_path / "o.##.exr"), frame)
        reading = Reading(alpha="premultiplied")
        shown = display(read(written, reading, "linear"), Look())
        seen = picture(ada, comp, frame=frame)
        assert np.ptp(seen[..., 0]) > 100, "there is something to see"
        # the file holds half floats: one code of 255 at most
        assert np.abs(shown[..., :3].astype(int) - seen[..., :3]).max() <= 1


def test_a_layer_is_looked_at_as_a_further_channel(ada, comp, disc, tmp_path):
    """A depth carried along from a file of its own: least black, most white, as codes."""
    depth = np.tile(np.linspace(2, 10, 64, dtype=np.float32), (48, 1))
    stored = StoredPicture({"Y": depth})
    path = tmp_path / "depth.exr"
    oiio_writing.write(
        path, stored, sample="float", alpha_straight=False, encoding="linear", compression="zip"
    )
    deep = ada.bring(comp["project"], {"depth.exr": path.read_bytes()})[0]
    part = {"source": deep["id"], "name": "depth.Z", "data": True, "ends": "hold"}
    answer = ada("POST", f"elements/{disc['id']}/parts", part)
    assert answer.status_code in {200, 201}, answer.content
    seen = picture(ada, comp, layer="a", extent="layer", extra_channel="depth.Z")
    row = seen[20, :, 0].astype(float)
    np.testing.assert_allclose(row, np.linspace(0, 255, 64), atol=1.5)
    assert (seen[..., 0] == seen[..., 2]).all()
    gone = ada("POST", f"comps/{comp['id']}/picture", {"frame": 1, "layer": "a", "extra_channel": "depth.Q"})
    assert gone.status_code in {404, 422}
    assert "depth.Q" in gone.json()["message"]
