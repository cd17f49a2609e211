"""Elements that hold data by themselves: named as such, never asked for their reading, joined by name."""

import cv2
import numpy as np
import pytest
import tifffile
from core.pictures import save_png, soft_disc
from webclient import run_jobs


@pytest.fixture
def passes(ada, project, tmp_path):
    """A picture, and depth, UV and motion of it in files of their own, two frames each."""
    y, x = np.mgrid[:48, :64].astype(np.float32)
    files = {}
    for n in (1, 2):
        files[f"kite_beauty.{n:04d}.png"] = save_png(tmp_path / "c.png", soft_disc()).read_bytes()
        made = {
            "depth": np.hypot(x, y) + 2, "uv": np.dstack([x / 63, y / 47, x * 0]),
            "motion": np.dstack([x - 32, y * 0, y * 0]),
        }  # fmt: skip
        for name, values in made.items():
            rgb = {} if values.ndim == 2 else {"photometric": "rgb"}
            tifffile.imwrite(tmp_path / "d.tif", values.astype(np.float32), **rgb)
            files[f"kite_{name}.{n:04d}.tif"] = (tmp_path / "d.tif").read_bytes()
    rows = ada.bring(project.pk, files)
    return {r["name"].split(".")[0].split("_")[1]: r for r in rows}


def jpeg(answer):
    return cv2.imdecode(np.frombuffer(answer.content, np.uint8), cv2.IMREAD_COLOR)[..., ::-1]


def test_data_is_known_by_its_name_and_never_asked_about(ada, passes):
    for name in ("depth", "uv", "motion"):
        row = passes[name]
        assert (row["holds"], row["encoding"], row["reading"]["alpha"]) == (name, "linear", "none")
        assert row["reading_set"]
        assert set(row["kinds"].values()) == {"data"}
    assert passes["beauty"]["holds"] == ""
    shown = jpeg(ada("GET", f"elements/{passes['depth']['id']}/card"))
    assert shown[0, 0].max() < 20, "the nearest is dark"
    assert shown[-1, -1].min() > 235, "the farthest is white"


def test_all_that_belongs_to_a_picture_is_offered_and_joined_in_one_go(ada, project, passes):
    beauty = passes["beauty"]
    found = ada("GET", f"projects/{project.pk}/pairs").json()
    assert {(m["element"], m["holds"], *m["names"]) for m in found} == {
        (beauty["id"], "depth", "depth.Z"), (beauty["id"], "uv", "uv.U", "uv.V"),
        (beauty["id"], "motion", "motion.X", "motion.Y"),
    }  # fmt: skip
    pairs = [{"element": m["element"], "source": m["source"]} for m in found]
    ada("POST", f"projects/{project.pk}/pairs/join", {"pairs": pairs})
    assert ada("GET", f"projects/{project.pk}/pairs").json() == []
    point = {"frame": 2, "x": 12, "y": 30, "planes": ["uv.V", "motion.X", "depth.Z"]}
    stored = ada("POST", f"elements/{beauty['id']}/values", point).json()["stored"]
    assert stored[:3] == pytest.approx([30 / 47, -20, np.hypot(12, 30) + 2], rel=1e-6)
    again = ada("POST", f"projects/{project.pk}/pairs/join", {"pairs": pairs[:1]})
    assert again.status_code == 409


def test_a_person_says_what_a_file_holds_and_takes_it_back(ada, project, passes, tmp_path):
    uv = passes["uv"]
    row = ada("POST", f"elements/{uv['id']}/holds", {"holds": ""}).json()
    assert (row["holds"], row["reading_set"], set(row["kinds"].values())) == ("", False, {"colour"})
    assert ada("POST", f"elements/{uv['id']}/reading/undo").json()["holds"] == "uv"
    wrong = ada("POST", f"elements/{uv['id']}/holds", {"holds": "heat"})
    assert (wrong.status_code, "depth" in wrong.json()["advice"]) == (422, True)
    (plain,) = ada.bring(project.pk, {"board.png": save_png(tmp_path / "b.png", soft_disc()).read_bytes()})
    said = ada("POST", f"elements/{plain['id']}/holds", {"holds": "normals"}).json()
    assert (said["holds"], said["kinds"]["R"], said["reading"]["alpha"]) == ("normals", "data", "straight")


def test_a_transcoded_uv_pass_is_one_still(ada, project, passes):
    ada("POST", "elements/reading", {"elements": [passes["uv"]["id"]], "rate": "25"})
    ada("POST", "transcodes", {"elements": [passes["uv"]["id"]], "format": "exr", "take_over": True})
    run_jobs()
    rows = {r["id"]: r for r in ada("GET", f"projects/{project.pk}/elements").json()}
    row = rows[passes["uv"]["id"]]
    assert (row["holds"], row["kinds"]["R"], row["facts"]["format"]) == ("uv", "data", "OpenEXR")
    got = ada("POST", f"elements/{row['id']}/values", {"frame": 2, "x": 12, "y": 30, "planes": ["R", "G"]})
    assert got.json()["stored"][:2] == pytest.approx([12 / 63, 30 / 47], rel=1e-7), "in full float"


def test_a_uv_pass_of_eight_bits_shows_why_that_is_too_few(ada, project, passes, tmp_path):
    y, x = np.mgrid[:48, :64].astype(np.float32)
    coarse = np.dstack([x / 640, y / 480, x * 0])  # ten pixels a code, in 8 bits 2.5
    (row,) = ada.bring(project.pk, {"flag_uv.png": save_png(tmp_path / "f.png", coarse).read_bytes()})
    assert any("8 bits" in note for note in row["facts"]["notes"])
    block = ada("GET", f"elements/{row['id']}/coarse-uv").json()["block"]
    assert block == pytest.approx(640 / 255, rel=0.15)
    picture = jpeg(ada("GET", f"elements/{row['id']}/coarse-uv/picture")).astype(float)
    half = picture.shape[1] // 2
    steps = [np.abs(np.diff(side[..., 0], axis=1)).max() for side in (picture[:, :half], picture[:, half:])]
    assert steps[0] > 1.5 * steps[1], "in blocks on the left, smooth on the right"
    fine = passes["uv"]
    assert ada("GET", f"elements/{fine['id']}/coarse-uv").json()["block"] is None
    assert ada("GET", f"elements/{fine['id']}/coarse-uv/picture").status_code == 422
    assert ada("GET", f"elements/{passes['beauty']['id']}/coarse-uv").status_code == 422


def test_versions_that_differ_are_not_joined(ada, project, tmp_path):
    files = {
        f"kite_{name}.png": save_png(tmp_path / "k.png", soft_disc()[..., :3]).read_bytes()
        for name in ("v1_rgb", "v2_alpha", "v2_rgb", "v3_depth")
    }
    rows = {r["name"]: r["id"] for r in ada.bring(project.pk, files)}
    found = ada("GET", f"projects/{project.pk}/pairs").json()
    assert [(m["element"], m["source"]) for m in found] == [
        (rows["kite_v2_rgb.png"], rows["kite_v2_alpha.png"])
    ]


def test_what_a_pointer_passes_over_is_known_at_once(ada, project, passes):
    """Distances over the whole frame are those that single places are asked for, moved with their layer."""
    pairs = ada("GET", f"projects/{project.pk}/pairs").json()
    pairs = [{"element": m["element"], "source": m["source"]} for m in pairs]
    ada("POST", f"projects/{project.pk}/pairs/join", {"pairs": pairs})
    ada("POST", "elements/reading", {"elements": [passes["beauty"]["id"]], "rate": "25"})
    step = {"kind": "depth_blur", "depth": "depth.Z"}
    layer = {
        "id": "a",
        "name": "a",
        "element": passes["beauty"]["key"],
        "steps": [step],
        "transform": {"x": 8},
    }
    body = {"name": "focus", "width": 64, "height": 48, "last": 2}
    comp = ada("POST", f"projects/{project.pk}/comps", body).json()
    document = {**comp["document"], "layers": [layer]}
    ask = {"document": document, "frame": 2, "layer": "a", "step": 0}
    answer = ada("POST", f"comps/{comp['id']}/distances", {**ask, "columns": 16, "rows": 12})
    assert answer.status_code == 200, answer.content
    found = np.frombuffer(answer.content, "<f4").reshape(12, 16)
    assert found[:, :2].max() == 0, "nothing lies there"
    for column, row in ((2, 0), (9, 5), (15, 11)):
        point = [4 * column + 2, 4 * row + 2]
        one = ada("POST", f"comps/{comp['id']}/distance", {**ask, "point": point}).json()["distance"]
        assert found[row, column] == one == pytest.approx(np.hypot(point[0] - 8, point[1]) + 2, rel=1e-6)
    wrong = ada("POST", f"comps/{comp['id']}/distances", {**ask, "step": 3, "columns": 4, "rows": 4})
    assert (wrong.status_code, "depth" in wrong.json()["message"]) == (422, True)
