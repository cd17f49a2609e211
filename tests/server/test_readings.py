"""Suggested readings, readings on trial, and rules."""

import numpy as np
import pytest
from core.alpha.matrix import Case, element
from core.pictures import save_png
from elements.models import Element


@pytest.fixture
def kite(ada, project, tmp_path):
    """An element that was multiplied over a green, as PNGs that claim to be straight."""
    rgba = element(Case("soft", "8-bit", "encoded", "green"))
    files = {
        f"kite.{n:04d}.png": save_png(tmp_path / "k.png", np.roll(rgba, n, 1)).read_bytes() for n in (1, 2)
    }
    return ada.bring(project.pk, files)[0]


def test_what_the_pixels_say_is_offered_and_never_done_silently(ada, kite):
    assert kite["reading"]["alpha"] == "straight", "as the format says, until somebody says otherwise"
    found = kite["suggestion"]
    assert found["verdict"] == "premultiplied"
    assert found["reading"]["matte"] == pytest.approx([0, 1, 0], abs=0.02)
    assert found["reading"]["multiplied"] == "encoded"
    assert found["sure"]


def test_readings_side_by_side_at_the_worst_edges(ada, kite):
    trial = ada("POST", f"elements/{kite['id']}/trial").json()
    assert trial["readings"][0] == trial["suggestion"]["reading"]
    assert {r["alpha"] for r in trial["readings"]} == {"straight", "premultiplied"}
    assert len({p["frame"] for p in trial["places"]}) == 2, "of several frames"
    assert trial["places"][0]["disagreement"] > 5
    place = trial["places"][0]
    answer = ada(
        "POST", f"elements/{kite['id']}/trial/sheet", {"readings": trial["readings"], "place": place}
    )
    assert answer["Content-Type"] == "image/png"
    sheet = _png(answer.content)
    x0, y0, x1, y1 = place["box"]
    rows, columns = len(trial["readings"]), len(trial["backgrounds"])
    assert sheet.shape == ((y1 - y0) * rows, (x1 - x0) * columns, 3)
    right, straight = (trial["readings"].index(r) for r in (trial["readings"][0], {**kite["reading"]}))
    cells = sheet.reshape(rows, y1 - y0, columns, x1 - x0, 3).astype(int)
    over_black = cells[:, :, 0]
    assert (over_black[straight] - over_black[right])[..., 1].max() > 60, "a green fringe where it is wrong"


def test_the_plate_of_the_comp_lies_behind_where_there_is_one(ada, project, kite, disc):
    ada("POST", "elements/reading", {"elements": [kite["id"]], "rate": "25"})
    layers = [{"id": "p", "name": "plate", "element": disc["key"]},
              {"id": "k", "name": "kite", "element": kite["key"]}]  # fmt: skip
    body = {"name": "c", "width": 320, "height": 200, "rate": "25", "first": 1, "last": 2, "layers": layers}
    ada("POST", f"projects/{project.pk}/comps", body)
    trial = ada("POST", f"elements/{kite['id']}/trial").json()
    assert trial["backgrounds"][-1] == "plate"
    answer = ada(
        "POST", f"elements/{kite['id']}/trial/sheet",
        {"readings": trial["readings"][:1], "place": trial["places"][0]},
    )  # fmt: skip
    x0, _, x1, _ = trial["places"][0]["box"]
    assert _png(answer.content).shape[1] == 5 * (x1 - x0)


def test_what_has_no_alpha_is_not_tried(ada, project, tmp_path):
    (row,) = ada.bring(project.pk, {"p.png": save_png(tmp_path / "p.png", np.ones((8, 8, 3))).read_bytes()})
    assert row["suggestion"] is None
    answer = ada("POST", f"elements/{row['id']}/trial")
    assert (answer.status_code, answer.json()["code"]) == (422, "value-refused")


def test_a_rule_reads_what_comes_later_and_what_is_here_if_asked(ada, project, png):
    (here,) = ada.bring(project.pk, {"caption_strap.png": png()})
    reading = {"alpha": "premultiplied", "matte": [0, 0, 0]}
    rule = {"pattern": "*_strap*", "format": "PNG", "reading": reading}
    made = ada("POST", f"projects/{project.pk}/reading-rules", {**rule, "apply_now": True})
    assert made.json()["fitting"] == 1
    assert Element.objects.get(pk=here["id"]).reading["alpha"] == "premultiplied"
    rows = {r["name"]: r for r in ada.bring(project.pk, {"big_strap.png": png(), "kite.png": png()})}
    assert rows["big_strap.png"]["reading_words"] == "premultiplied over black"
    assert rows["big_strap.png"]["reading_set"]
    assert rows["kite.png"]["reading_words"] == "straight"
    assert ada("DELETE", f"reading-rules/{made.json()['id']}").status_code == 204
    empty = ada("POST", f"projects/{project.pk}/reading-rules", {"reading": reading})
    assert empty.status_code == 422


def test_a_rule_by_the_folder_something_was_dropped_in(ada, project, png):
    rule = {"folder": "renders", "reading": {"alpha": "premultiplied"}}
    ada("POST", f"projects/{project.pk}/reading-rules", rule)
    rows = ada.bring(project.pk, {"renders/day/a.png": png(), "scans/a.png": png()})
    assert {r["folder"]: r["reading"]["alpha"] for r in rows} == {
        "renders/day": "premultiplied", "scans": "straight",
    }  # fmt: skip


def _png(data):
    import io

    from PIL import Image

    return np.asarray(Image.open(io.BytesIO(data)))
