"""Scenes, set-ups and renders: bringing in, drafts, rendering in pieces, elements, comps that follow."""

import json

import numpy as np
import pytest
from ferrow_marsh.scenes.glass_lantern import glass_lantern
from jobs.actions.run_job import run_piece
from jobs.models import Piece
from neatveil.errors import SceneRefused
from neatveil.io import LocalDecoder
from sceneclient import SMALL, bring, order, put
from scenes.actions import render_piece as rendering
from scenes.models import Render
from scenes.places import render_folder
from webclient import run_jobs


def render_row(web, number):
    return web("GET", f"renders/{number}").json()


def test_a_scene_is_brought_in_and_looked_at(sign):
    assert (sign["name"], sign["state"]) == ("waymark", "ready")
    assert sign["facts"]["cameras"] == ["camera"]
    assert {"board", "post", "bracket", "shore"} <= {n["name"] for n in sign["facts"]["nodes"]}


def test_a_gltf_comes_with_its_files_in_folders(ada, project, tmp_path):
    from core.scene.files import triangle

    writer = triangle()
    writer.gltf(tmp_path / "leaf.gltf", buffer="parts/scene.bin")
    files = {"leaf.gltf": (tmp_path / "leaf.gltf").read_bytes(), "parts/scene.bin": writer.data}
    assert bring(ada, project.pk, files)["state"] == "ready"
    lone = bring(ada, project.pk, {"leaf.gltf": files["leaf.gltf"]})
    assert lone["state"] == "refused"
    assert "scene.bin" in lone["problem"]["message"]


@pytest.mark.parametrize(
    ("name", "code"),
    [("../up.glb", "value-refused"), (".hidden.glb", "value-refused"), ("run.sh", "format-unknown"),
     ("/etc/x.glb", "value-refused"), ("a/../../x.glb", "value-refused")],
)  # fmt: skip
def test_files_that_no_scene_consists_of(ada, project, name, code):
    scene = ada("POST", f"projects/{project.pk}/scenes").json()["id"]
    answer = put(ada, scene, name, b"x")
    assert (answer.status_code, answer.json()["code"]) == (422, code)
    assert ada("POST", f"scenes/{scene}/finish").status_code == 422
    assert ada("GET", f"projects/{project.pk}/scenes").json() == []


def test_a_draft_shows_one_pass(ada, sign):
    def look(quality="fast", **more):
        document = {**SMALL, "width": 960, "height": 540, **more.pop("document", {})}
        return ada("POST", f"scenes/{sign['id']}/picture",
                   {"document": document, "quality": quality, "level": 2, **more})  # fmt: skip

    answer = look()
    assert (answer.status_code, answer["Content-Type"]) == (200, "image/jpeg")
    exact = look("exact", name="masks", document={"numbers": {"board": 1, "post": 2}})
    assert exact["X-Frame-Size"] == "240,135"
    pixels = np.frombuffer(exact.content, np.uint8).reshape(135, 240, 4)
    assert len(np.unique(pixels.reshape(-1, 4), axis=0)) > 2
    part = look(
        "exact", name="masks", document={"numbers": {"board": 1, "post": 2}}, region=[64, 32, 128, 96]
    )
    assert (part["X-Region"], part["X-Frame-Size"]) == ("64,32,128,96", "240,135")
    np.testing.assert_array_equal(
        np.frombuffer(part.content, np.uint8).reshape(64, 64, 4), pixels[32:96, 64:128]
    )
    wrong = look(name="masks", document={"numbers": {"kite": 1}})
    assert wrong.status_code == 422
    assert "no object kite" in wrong.json()["message"]
    assert look(name="beuty").json()["code"] == "name-unknown"
    assert look(document={"samples": 0}).status_code == 422


def test_a_placed_camera_begins_where_the_scenes_own_stands(ada, sign):
    """The draft through it is the draft through the scene's camera; moved, it is another."""
    document = {**SMALL, "passes": ["beauty"]}
    camera = ada("POST", f"scenes/{sign['id']}/camera", {"document": document, "frame": 3}).json()

    def seen(**more):
        body = {"document": {**document, **more}, "frame": 3, "name": "position", "quality": "exact"}
        answer = ada("POST", f"scenes/{sign['id']}/picture", body)
        return np.frombuffer(answer.content, np.uint8).astype(int)

    own = seen()
    assert np.abs(seen(placed_camera=camera) - own).mean() < 0.5
    assert np.abs(seen(placed_camera={**camera, "azimuth": camera["azimuth"] + 40}) - own).mean() > 5


def test_the_numbers_of_a_pass_under_a_pixel(ada, sign):
    def values(name, x, y, **more):
        body = {"document": {**SMALL, **more}, "name": name, "x": x, "y": y, "rays": 4}
        return ada("POST", f"scenes/{sign['id']}/values", body).json()["channels"]

    row = order(ada, sign, passes=["beauty", "depth"], last=1, samples=1).json()
    run_jobs()
    made = LocalDecoder().read(str(next(render_folder(Render.objects.get(pk=row["id"])).glob("*.exr"))), 0,
                               ["R", "A", "depth.Z"])  # fmt: skip
    y, x = (int(v) for v in np.argwhere(made["A"] == 1)[40])
    assert values("depth", x, y)["depth.Z"] == pytest.approx(float(made["depth.Z"][y, x]), rel=1e-6)
    assert values("beauty", x, y)["A"] == 1
    assert values("depth", -1, 5) == {}
    assert values("depth", 64, 5) == {}


def test_set_ups_are_kept_by_name(ada, sign):
    path = f"scenes/{sign['id']}/setups"
    kept = ada("POST", path, {"name": "night", "document": SMALL}).json()
    assert kept["document"]["rate"] == "24000/1001"
    again = ada("POST", path, {"name": "night", "document": SMALL})
    assert (again.status_code, again.json()["code"]) == (409, "conflict")
    over = ada("POST", path, {"name": "night", "document": {**SMALL, "samples": 9}, "replace": True}).json()
    assert (over["id"], over["document"]["samples"]) == (kept["id"], 9)
    assert ada("DELETE", f"{path}/{kept['id']}").status_code == 204
    assert ada("GET", path).json() == []


def test_a_render_becomes_an_element_that_is_read_right(ada, project, sign):
    row = order(ada, sign, over=[0, 0.5, 1.0]).json()
    assert (row["job"]["state"], row["job"]["count"]) == ("queued", 6)
    run_jobs()
    row = render_row(ada, row["id"])
    assert (row["job"]["state"], row["job"]["written"], row["job"]["newest"]) == ("done", 6, 6)
    (part,) = row["parts"]
    element = next(e for e in ada("GET", f"projects/{project.pk}/elements").json() if e["key"] == part["key"])
    assert element["state"] == "ready"
    assert element["rate"] == "24000/1001"
    assert element["reading"]["alpha"] == "premultiplied"
    assert element["reading"]["matte"] == [0, 0.5, 1.0]
    assert element["encoding"] == "linear"
    assert {c["name"]: c["data"] for c in element["facts"]["channels"]} == {
        "R": False, "G": False, "B": False, "A": False, "depth.Z": True,
    }  # fmt: skip
    told = json.loads(b"".join(ada("GET", f"renders/{row['id']}/manifest").streaming_content))
    assert list(told["frames"]) == [str(f) for f in range(1, 7)]
    shown = ada("GET", f"renders/{row['id']}/frames/3")
    assert shown["Content-Type"] == "image/jpeg"
    assert ada("GET", f"renders/{row['id']}/frames/99").status_code == 404


def test_data_passes_as_codes_are_marked_as_data(ada, project, sign):
    row = order(ada, sign, passes=["beauty", "uv"], output={"format": "png16"}, last=1).json()
    run_jobs()
    parts = render_row(ada, row["id"])["parts"]
    elements = {e["key"]: e for e in ada("GET", f"projects/{project.pk}/elements").json()}
    by_name = {p["name"]: elements[p["key"]] for p in parts}
    assert all(c["data"] for c in by_name["sign uv"]["facts"]["channels"])
    assert by_name["sign uv"]["encoding"] == "linear"
    assert not any(c["data"] for c in by_name["sign beauty"]["facts"]["channels"])
    assert by_name["sign beauty"]["facts"]["kind"] == "still"


LAYERS = [{"name": "board", "objects": ["board"]}, {"name": "post", "objects": ["post", "bracket"]}]


def test_layers_are_laid_into_a_comp_in_depth_order(ada, project, sign, comp):
    row = order(ada, sign, layers=LAYERS).json()
    assert ada("POST", f"renders/{row['id']}/lay-in", {"comp": comp["id"]}).status_code == 409
    run_jobs()
    answer = ada("POST", f"renders/{row['id']}/lay-in", {"comp": comp["id"]})
    assert answer.json() == {"comp": comp["id"], "revision": 2}
    layers = ada("GET", f"comps/{comp['id']}").json()["document"]["layers"]
    assert [x["name"] for x in layers] == ["disc", row["name"]]
    assert [(x["name"], x["operator"]) for x in layers[1]["layers"]] == [("post", "over"), ("board", "plus")]


def test_passes_in_files_of_their_own_become_one_stack(ada, project, sign, comp):
    """Light as members of a group, data as extra channels of the beauty; laid in twice it stays so."""
    passes = ["beauty", "diffuse", "reflection", "emission", "transmission", "occlusion", "depth"]
    row = order(ada, sign, passes=passes, output={"format": "exr-each"}, last=1).json()
    run_jobs()
    for revision in (2, 3):
        answer = ada("POST", f"renders/{row['id']}/lay-in", {"comp": comp["id"]})
        assert answer.json()["revision"] == revision
    document = ada("GET", f"comps/{comp['id']}").json()["document"]
    stack = document["layers"][1]
    beauty, light, occlusion = stack["layers"]
    assert stack["alpha"] == {"by": "member", "member": beauty["id"], "matte": None}
    assert stack["alternatives"] == [beauty["id"], light["id"]]
    assert [x["name"] for x in light["layers"]] == ["diffuse", "reflection", "transmission", "emission"]
    assert (beauty["shown"], light["shown"], occlusion["shown"]) == (True, False, False)
    elements = {e["key"]: e for e in ada("GET", f"projects/{project.pk}/elements").json()}
    assert [p["name"] for p in elements[beauty["element"]]["parts"]] == ["occlusion.Y", "depth.Z"]

    def drawn(**shown):
        layers = [{**x, "shown": shown.get(x["name"], x["shown"])} for x in stack["layers"]]
        changed = {**document, "layers": [document["layers"][0], {**stack, "layers": layers}]}
        answer = ada(
            "POST", f"comps/{comp['id']}/picture", {"frame": 1, "quality": "exact", "document": changed}
        )
        assert answer.status_code == 200, answer.content
        return answer.content

    once = drawn()
    assert drawn(**{"beauty": False, "lighting passes": True}) != drawn(beauty=False)
    assert drawn(occlusion=True) != once


def test_a_comp_is_made_of_a_render_with_its_size_rate_and_frames(ada, project, sign):
    row = order(ada, sign, passes=["beauty"], last=2).json()
    run_jobs()
    answer = ada("POST", f"renders/{row['id']}/lay-in", {})
    made = ada("GET", f"comps/{answer.json()['comp']}").json()
    document = made["document"]
    assert made["name"] == row["name"]
    assert [document[f] for f in ("width", "height", "first", "last", "rate")] == [
        SMALL["width"], SMALL["height"], 1, 2, "24000/1001",
    ]  # fmt: skip
    assert [x["kind"] for x in document["layers"]] == ["group"]


def test_a_draft_is_laid_at_the_size_that_was_ordered(ada, project, sign):
    """A draft is rendered at half the size: enlarged, it covers what the final will."""
    final = order(ada, sign, passes=["beauty"], last=1).json()
    draft = order(ada, sign, passes=["beauty"], last=1, use="draft").json()
    run_jobs()
    covered = []
    for row in (final, draft):
        made = ada("POST", f"renders/{row['id']}/lay-in", {}).json()["comp"]
        document = ada("GET", f"comps/{made}").json()["document"]
        assert (document["width"], document["height"]) == (SMALL["width"], SMALL["height"])
        asked = {"frame": 1, "within": [0, 0, document["width"], document["height"]]}
        covered.append(ada("POST", f"comps/{made}/measure", asked).json())
    assert covered[1] != covered[0]
    alphas = [m["light"]["A"]["mean"] for m in covered]
    assert alphas[1] == pytest.approx(alphas[0], rel=0.05)


def test_rendered_again_every_comp_follows(ada, project, sign, comp):
    row = order(ada, sign, passes=["beauty"], last=2).json()
    run_jobs()
    ada("POST", f"renders/{row['id']}/lay-in", {"comp": comp["id"]})

    def picture():
        return ada("POST", f"comps/{comp['id']}/picture", {"frame": 1, "quality": "exact"}).content

    before, key = picture(), render_row(ada, row["id"])["parts"][0]["key"]
    changed = {**SMALL, "passes": ["beauty"], "last": 2, "lights": False}
    answer = ada("POST", f"renders/{row['id']}/again", {"document": changed})
    assert (answer.json()["job"]["state"], answer.json()["version"]) == ("queued", 2)
    assert picture() == before, "until the new one is whole the old one is shown"
    run_jobs()
    assert render_row(ada, row["id"])["parts"][0]["key"] == key
    assert picture() != before


def test_a_render_is_refused_before_any_work(ada, sign):
    for change, words in [
        ({"camera": "drone"}, "no camera drone"),
        ({"passes": ["caught"]}, "shadow catcher"),
        ({"environment": {"picture": "e999"}}, "e999 is not an element"),
        ({"environment": {"picture": "/etc/passwd"}}, "not an element"),
        ({"last": 2_000_000}, "last"),
        ({"shadow_catchers": ["moon"]}, "no object moon"),
    ]:
        answer = order(ada, sign, **change)
        assert answer.status_code == 422, change
        assert words in answer.json()["message"]
    assert not Render.objects.exists()
    assert order(ada, sign, name=" . ").status_code == 422


def test_cancelled_and_resumed_it_keeps_what_was_whole(ada, sign, monkeypatch):
    row = order(ada, sign).json()
    pieces = list(Piece.objects.values_list("pk", flat=True))
    run_piece(pieces[0])
    job = row["job"]["id"]
    assert ada("POST", f"jobs/{job}/cancel").json()["cancelling"]
    run_jobs()
    row = render_row(ada, row["id"])
    assert (row["job"]["state"], row["job"]["written"], row["parts"]) == ("cancelled", 4, [])
    folder = render_folder(Render.objects.get(pk=row["id"]))
    times = {p.name: p.stat().st_mtime_ns for p in folder.glob("*.exr")}
    assert len(times) == 4
    assert ada("POST", f"jobs/{job}/retry").json()["state"] == "queued"
    run_jobs()
    assert render_row(ada, row["id"])["job"]["state"] == "done"
    assert {p.name: p.stat().st_mtime_ns for p in folder.glob("*.exr")}.items() >= times.items()
    assert LocalDecoder().probe(str(folder / "sign.####.exr")).count == 6


def test_a_piece_that_was_killed_is_done_again(ada, sign, monkeypatch):
    row = order(ada, sign, last=3).json()
    real, made = rendering.render_range, []

    def killed(*args, **more):
        real(args[0], args[1], list(args[2])[:2], *args[3:], **more)
        raise KeyboardInterrupt

    monkeypatch.setattr(rendering, "render_range", killed)
    with pytest.raises(KeyboardInterrupt):
        run_piece(Piece.objects.get().pk)
    monkeypatch.setattr(rendering, "render_range", lambda *a, **m: made.append(1) or real(*a, **m))
    run_jobs()
    assert made == [1]
    assert render_row(ada, row["id"])["job"]["state"] == "done"


def test_what_goes_wrong_while_rendering_is_told(ada, sign, monkeypatch):
    def broken(*args, **more):
        raise SceneRefused("The kite flew away.", where="kite")

    row = order(ada, sign).json()
    monkeypatch.setattr(rendering, "render_range", broken)
    run_jobs()
    row = render_row(ada, row["id"])
    assert (row["job"]["state"], row["job"]["problem"]["message"]) == ("failed", "The kite flew away.")


def test_the_environment_and_the_plate_are_elements(ada, project, sign, png):
    (sky,) = ada.bring(project.pk, {"sky.png": png()})
    environment = {"picture": sky["key"], "visible": True}
    row = order(ada, sign, passes=["beauty", "composite"], environment=environment, plate=sky["key"], last=1)
    assert row.status_code == 201, row.content
    run_jobs()
    part = render_row(ada, row.json()["id"])["parts"][0]
    element = next(e for e in ada("GET", f"projects/{project.pk}/elements").json() if e["key"] == part["key"])
    assert element["reading"]["alpha"] == "straight"


def test_an_element_of_another_project_lights_nothing(ada, project, people, sign, png):
    from projects.models import Member, Project

    other = Project.objects.create(name="elsewhere")
    Member.objects.create(project=other, person=people["ada"])
    (sky,) = ada.bring(other.pk, {"sky.png": png()})
    assert order(ada, sign, environment={"picture": sky["key"]}).status_code == 422


def test_a_scene_that_is_being_rendered_stays(ada, sign):
    order(ada, sign, last=1)
    assert ada("DELETE", f"scenes/{sign['id']}").status_code == 409
    run_jobs()
    assert ada("DELETE", f"scenes/{sign['id']}").status_code == 204


def test_glass_shows_in_the_alpha_or_does_not(ada, project, tmp_path):
    lantern = bring(ada, project.pk, {"lantern.glb": glass_lantern(tmp_path / "l.glb").read_bytes()})

    def opaque(**more):
        body = {
            "document": {**SMALL, "width": 160, "height": 90, **more},
            "name": "alpha",
            "quality": "exact",
        }
        answer = ada("POST", f"scenes/{lantern['id']}/picture", body)
        return np.frombuffer(answer.content, np.uint8).reshape(90, 160, 4)[..., 0].astype(float).mean()

    assert opaque(refraction_in_alpha=False) > opaque() * 1.15
