"""Scenes read once in a limited process, and opened again as plain arrays."""

import numpy as np
import pytest
from core.scene.files import triangle
from ferrow_marsh.scenes.glass_lantern import glass_lantern
from ferrow_marsh.scenes.setups import SCENES, write_all
from ferrow_marsh.scenes.waymark import waymark
from neatveil.errors import FileMissing, SceneRefused
from neatveil.scene import read_scene
from neatveil.scene.facts import facts_of
from neatveil.scene.frames import render_frame
from neatveil.scene.isolated import prepare_scene
from neatveil.scene.prepared import open_prepared, save_prepared
from neatveil.scene.render_layers import render_layers_of
from neatveil.scene.setup import load_setup, parse_setup
from neatveil.view.pass_view import pass_picture


def small(passes, **more):
    return parse_setup({"rate": "25", "width": 64, "height": 36, "samples": 2, "passes": passes, **more})


def test_a_prepared_scene_renders_as_the_scene_itself(tmp_path):
    scene = read_scene(waymark(tmp_path / "waymark.glb"))
    save_prepared(scene, tmp_path / "waymark.prepared")
    again = open_prepared(tmp_path / "waymark.prepared")
    assert again.nodes[0].meshes[0].material is not None
    materials = {id(m.material) for n in scene.nodes for m in n.meshes}
    assert len({id(m.material) for n in again.nodes for m in n.meshes}) == len(materials)
    rows = small(["beauty", "uv", "motion"], seed=3)
    for frame in (1, 9):
        first, second = render_frame(scene, rows, frame), render_frame(again, rows, frame)
        for name in first.planes:
            np.testing.assert_array_equal(first[name], second[name])


def test_glass_keeps_its_endless_clearness(tmp_path):
    scene = read_scene(glass_lantern(tmp_path / "l.glb"))
    save_prepared(scene, tmp_path / "p")
    glass = next(
        m.material for n in open_prepared(tmp_path / "p").nodes for m in n.meshes if m.material.solid
    )
    assert glass.dimmed_over == float("inf")


def test_a_limited_process_tells_the_facts(tmp_path):
    facts = prepare_scene(glass_lantern(tmp_path / "lantern.glb"), tmp_path / "p")
    assert facts == facts_of(read_scene(tmp_path / "lantern.glb"))
    assert facts.cameras == ["camera"]
    assert facts.glass == ["glass"]
    assert facts.objects_by_depth[0] in {"lantern", "post"}
    assert {n.name: n.parent for n in facts.nodes}["glass"] == "lantern"


def test_objects_come_from_the_nearest_to_the_farthest(tmp_path):
    writer = triangle()
    for z in (-5, -1, -3):
        writer.node(name=f"at {z}", mesh=0, translation=[0, 0, z])
    writer.document["cameras"] = [{"type": "perspective", "perspective": {"yfov": 0.9, "znear": 0.1}}]
    writer.node(name="eye", camera=0, translation=[0, 0, 4])
    writer.document["scenes"] = [{"nodes": [0, 1, 2, 3, 4]}]
    facts = facts_of(read_scene(writer.glb(tmp_path / "s.glb")))
    assert facts.objects_by_depth == ["leaf", "at -1", "at -3", "at -5"]


def test_what_goes_wrong_in_the_process_is_told(tmp_path):
    (tmp_path / "broken.glb").write_bytes(b"glTF" + b"\xff" * 40)
    with pytest.raises(SceneRefused, match=r"broken\.glb"):
        prepare_scene(tmp_path / "broken.glb", tmp_path / "p")
    with pytest.raises(FileMissing):
        prepare_scene(tmp_path / "gone.glb", tmp_path / "p")
    scene = waymark(tmp_path / "waymark.glb")
    with pytest.raises(SceneRefused, match="longer than 0 seconds"):
        prepare_scene(scene, tmp_path / "p", seconds=0.01)
    with pytest.raises(SceneRefused, match="more memory"):
        prepare_scene(scene, tmp_path / "p", memory=64 << 20)
    assert not (tmp_path / "p").exists()
    (tmp_path / "p").write_bytes(b"something else")
    with pytest.raises(SceneRefused, match="not a prepared scene"):
        open_prepared(tmp_path / "p")


def test_the_demos_scenes_and_set_ups_fit_each_other(tmp_path):
    write_all(tmp_path)
    for demo in SCENES:
        scene = read_scene(tmp_path / demo.file)
        assert scene.notes == ()
        for name in demo.setups:
            rows = load_setup(next(p for p in tmp_path.glob("*.json") if _same(p.stem, name)))
            assert render_layers_of(scene, rows), name


def _same(stem, name):
    return stem == "".join(c if c.isalnum() else "_" for c in name.lower()).replace("__", "_").strip("_")


def test_every_pass_can_be_looked_at(tmp_path):
    scene = read_scene(waymark(tmp_path / "waymark.glb"))
    passes = ["beauty", "alpha", "diffuse", "depth", "normals", "position", "uv", "motion", "motion_encoded",
              "masks", "ids", "shadow", "occlusion", "caught"]  # fmt: skip
    rows = small(passes, numbers={"board": 1, "post": 2}, shadow_catchers=["shore"])
    picture = render_frame(scene, rows, 3)
    for name in passes:
        shown = pass_picture(picture, name, rows)
        assert np.isfinite(shown.rgba()).all(), name
        assert shown["R"].max() > 0.05, name
        assert shown["R"].max() <= 1 or name in {"beauty", "diffuse"}, name


def test_a_straight_beauty_is_shown_as_read_and_as_stored(tmp_path):
    scene = read_scene(waymark(tmp_path / "waymark.glb"))
    rows = small(["beauty"], alpha="straight", samples=16)
    picture = render_frame(scene, rows, 3)
    shown, stored = (pass_picture(picture, "beauty", rows, as_stored=s) for s in (False, True))
    np.testing.assert_array_equal(stored["G"], picture["G"])
    assert stored["A"].min() == 1
    edge = (picture["A"] > 0) & (picture["A"] < 1)
    np.testing.assert_allclose(shown["G"][edge], (picture["G"] * picture["A"])[edge], rtol=1e-5)
