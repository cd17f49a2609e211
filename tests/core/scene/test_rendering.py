"""Ranges of frames: what is written, what goes on after an end, and what is refused before any work."""

import json
from fractions import Fraction
from pathlib import Path

import numpy as np
import OpenEXR
import pytest
from core.scene.files import Writer
from ferrow_marsh.scenes.waymark import waymark
from neatveil.alpha import read
from neatveil.channels.identity import name_hash
from neatveil.cli import main
from neatveil.errors import Cancelled, DocumentRefused, FileMissing, SceneRefused
from neatveil.io import LocalDecoder
from neatveil.scene import read_scene, rendering
from neatveil.scene.frames import lens_at, render_frame, seconds_of
from neatveil.scene.rendering import render_range, write_manifest
from neatveil.scene.setup import RenderSetup, load_setup, parse_setup, setup_schema

SQUARE = [[-1, -1, 0], [1, -1, 0], [1, 1, 0], [-1, 1, 0]]
PASSES = ["beauty", "alpha", "depth", "motion", "masks", "ids", "uv"]


@pytest.fixture
def scene(tmp_path):
    """A board that moves to the right and turns, seen by a camera that moves up."""
    writer = Writer()
    uv = [[0, 1], [1, 1], [1, 0], [0, 0]]
    normals = [[0, 0, 1]] * 4
    mesh = writer.mesh(SQUARE, [0, 1, 2, 0, 2, 3], uv, normals, material=0)
    writer.document["materials"] = [{"name": "glow", "emissiveFactor": [1, 0.5, 0.25]}]
    board = writer.node(name="board", mesh=mesh)
    writer.document["cameras"] = [{"type": "perspective", "perspective": {"yfov": 0.9, "znear": 0.1}}]
    eye = writer.node(name="eye", camera=0, translation=[0, 0, 5])
    times = writer.array(np.array([0, 1], np.float32))
    half = np.sqrt(0.5)
    rows = {
        (board, "translation"): [[0, 0, 0], [1, 0, -1]],
        (board, "rotation"): [[0, 0, 0, 1], [0, half, 0, half]],
        (eye, "translation"): [[0, 0, 5], [0, 0.5, 5]],
    }
    animation = {"samplers": [], "channels": []}
    for (node, path), values in rows.items():
        target = {"node": node, "path": path}
        animation["channels"].append({"sampler": len(animation["samplers"]), "target": target})
        output = writer.array(np.array(values, np.float32))
        animation["samplers"].append({"input": times, "output": output})
    writer.document["animations"] = [animation]
    writer.document["scenes"] = [{"nodes": [board, eye]}]
    return read_scene(writer.glb(tmp_path / "board.glb"))


def setup(**more):
    return parse_setup(
        {"rate": "25", "last": 3, "width": 64, "height": 36, "samples": 4, "passes": PASSES,
         "numbers": {"board": 4}, **more}
    )  # fmt: skip


def test_motion_is_where_the_same_point_falls_a_frame_later(scene):
    """Against UVs: the point of the board at a pixel is found again, by its UV, in the next frame."""
    rows = setup(width=640, height=360, samples=1)
    now, then = (render_frame(scene, rows, frame) for frame in (1, 2))
    found = {n: LocalPixels(then, n) for n in ("uv.U", "uv.V")}
    checked = 0
    for y in range(40, 320, 20):
        for x in range(180, 460, 20):
            if now["A"][y, x] < 1:
                continue
            there = x + now["motion.X"][y, x], y + now["motion.Y"][y, x]
            for n, pixels in found.items():
                assert pixels.at(*there) == pytest.approx(now[n][y, x], abs=2e-4)
            checked += 1
    assert checked > 40
    assert np.abs(now["motion.X"][now["A"] == 1]).max() > 1


class LocalPixels:
    """A plane looked up between its pixels, by hand."""

    def __init__(self, picture, name):
        self.plane = picture[name]

    def at(self, x, y):
        x0, y0 = int(np.floor(x)), int(np.floor(y))
        a, b = x - x0, y - y0
        p = self.plane[y0 : y0 + 2, x0 : x0 + 2]
        return (p[0, 0] * (1 - a) + p[0, 1] * a) * (1 - b) + (p[1, 0] * (1 - a) + p[1, 1] * a) * b


def test_a_rate_of_1001_keeps_its_moments(scene):
    rows = setup(rate="24000/1001", first=1001, last=1100)
    assert rows.rate == Fraction(24000, 1001)
    assert seconds_of(rows, 1001) == 0
    assert seconds_of(rows, 1025) == pytest.approx(1.001, abs=1e-12)


def test_files_hold_every_channel_in_the_type_it_needs(scene, tmp_path):
    render_range(scene, setup(), [1, 2], tmp_path / "out")
    with OpenEXR.File(str(tmp_path / "out" / "board.0002.exr"), separate_channels=True) as file:
        channels, header = file.channels(), file.header()
        assert channels["R"].pixels.dtype == np.float16
        assert channels["mask.4"].pixels.dtype == np.float16
        for name in ("depth.Z", "uv.U", "motion.X", "objects00.R"):
            assert channels[name].pixels.dtype == np.float32, name
        key = f"cryptomatte/{name_hash('objects'):08x}"[:19]
        assert json.loads(header[f"{key}/manifest"]) == {"board": f"{name_hash('board'):08x}"}
    meant = render_frame(scene, setup(), 2)
    got = LocalDecoder().read(str(tmp_path / "out" / "board.####.exr"), 2, list(meant.planes))
    for name in ("depth.Z", "uv.V", "motion.Y", "objects00.R"):
        np.testing.assert_array_equal(got[name], meant[name])
    np.testing.assert_allclose(got["R"], meant["R"], atol=5e-4)


def test_the_manifest_tells_what_the_files_are(scene, tmp_path):
    render_range(scene, setup(), [1], tmp_path)
    render_range(scene, setup(), [3], tmp_path)
    write_manifest(scene, setup(), tmp_path)
    told = json.loads((tmp_path / "board.json").read_text())
    assert list(told["frames"]) == ["1", "3"], "of every render into the folder"
    assert told["rate"] == "25"
    assert told["alpha"]["alpha"] == "premultiplied"
    assert told["alpha"]["matte"] == [0, 0, 0]
    assert told["passes"]["depth"]["kind"] == "data"
    assert told["passes"]["beauty"]["kind"] == "colour"
    place = np.array(told["frames"]["3"]["camera"])
    np.testing.assert_allclose(place, lens_at(scene, setup(), 2 / 25).place)
    np.testing.assert_allclose(place[:3, 3], [0, 0.04, 5], atol=1e-6)


def test_what_is_not_rendered_is_said_on_the_command_line(tmp_path, capsys):
    writer = Writer()
    writer.document["materials"] = [{"name": "cloth", "extensions": {"KHR_materials_sheen": {}}}]
    meshes = [writer.mesh(SQUARE, [0, 1, 2], material=0)]
    writer.document["cameras"] = [{"type": "perspective", "perspective": {"yfov": 0.9, "znear": 0.1}}]
    nodes = [writer.node(name="n", mesh=meshes[0]), writer.node(name="eye", camera=0)]
    writer.document["scenes"] = [{"nodes": nodes}]
    scene = writer.glb(tmp_path / "cloth.glb")
    (tmp_path / "s.json").write_text(setup(passes=["alpha"], last=1, numbers={}).model_dump_json())
    assert main(["scene", str(scene), "--setup", str(tmp_path / "s.json"), "--to", str(tmp_path)]) == 0
    assert "Material cloth: KHR_materials_sheen is not rendered." in capsys.readouterr().err
    told = json.loads((tmp_path / "cloth.json").read_text())
    assert len(told["not_rendered"]) == 1


@pytest.mark.parametrize(
    "how", [{"alpha": "straight"}, {"over": [0, 0.5, 1]}, {"over": [1, 1, 1]}, {"alpha": "premultiplied"}]
)
def test_the_alphas_state_is_what_was_asked_and_reads_back_alike(scene, how):
    """C = F*a + M*(1-a) (ISO 32000-1:2008, 11.6.5.3), or F itself; read by the reading it is one light."""
    plain = render_frame(scene, setup(passes=["beauty"], samples=16), 1)
    rows = setup(passes=["beauty"], samples=16, **how)
    got = render_frame(scene, rows, 1)
    alpha, colour = plain["A"], (1, 0.5, 0.25)
    edge = (alpha > 0) & (alpha < 1)
    assert edge.any()
    matte = how.get("over", (0, 0, 0))
    for i, n in enumerate("RGB"):
        meant = np.where(alpha > 0, colour[i], 0) if "straight" in how.values() else None
        if meant is None:
            meant = colour[i] * alpha + matte[i] * (1 - alpha)
        np.testing.assert_allclose(got[n], meant, atol=1e-5)
    again = read(got, rows.reading, "linear")
    for n in "RGBA":
        np.testing.assert_allclose(again[n], plain[n], atol=1e-5)


def test_an_ended_render_goes_on_and_keeps_what_was_whole(scene, tmp_path, monkeypatch):
    done = []
    with pytest.raises(Cancelled):
        render_range(
            scene, setup(), [1, 2, 3], tmp_path, progress=done.append, cancelled=lambda: len(done) == 2
        )
    assert sorted(p.name for p in tmp_path.glob("*.exr")) == ["board.0001.exr", "board.0002.exr"]
    made = []
    real = rendering.render_layer
    monkeypatch.setattr(rendering, "render_layer", lambda *a: made.append(a[3]) or real(*a))
    render_range(scene, setup(), [1, 2, 3], tmp_path)
    assert made == [3]


def test_nothing_half_written_under_a_final_name(scene, tmp_path, monkeypatch):
    def broken(part, *_, **__):
        part.write_bytes(b"half")
        raise KeyboardInterrupt

    monkeypatch.setattr("neatveil.io.backends.oiio_writing.write", broken)
    with pytest.raises(KeyboardInterrupt):
        render_range(scene, setup(), [1], tmp_path / "out")
    assert list((tmp_path / "out").iterdir()) == []


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"passes": ["beuty"]}, "beuty"),
        ({"last": 1_000_000}, "at most 100000"),
        ({"last": -5}, "lies before"),
        ({"width": 32768, "height": 32768}, "pixels"),
        ({"width": 10**9}, "width"),
        ({"rate": "fast"}, "rate"),
        ({"samples": 0}, "samples"),
        ({"colour": 1}, "colour"),
        ({"alpha": "straight", "over": [0, 1, 0]}, "over"),
    ],
)
def test_wrong_set_ups_name_the_field(change, words):
    with pytest.raises(DocumentRefused, match=words):
        setup(**change)


def test_a_scene_without_the_camera(scene, tmp_path):
    with pytest.raises(SceneRefused, match="no camera drone; it has eye"):
        render_range(scene, setup(camera="drone"), [1], tmp_path)
    with pytest.raises(FileMissing, match=r"gone\.json"):
        load_setup(tmp_path / "gone.json")


def test_the_published_schema_is_the_programs():
    published = Path(__file__).resolve().parents[3] / "docs/schema/scene-setup.schema.json"
    assert json.loads(published.read_text()) == setup_schema()


def test_the_demos_waymark_swings(tmp_path):
    scene = read_scene(waymark(tmp_path / "waymark.glb"))
    assert scene.notes == ()
    rows = setup(width=96, height=54, passes=["alpha", "masks", "uv"], numbers={"board": 1}, last=48)
    boards = [render_frame(scene, rows, frame)["mask.1"] for frame in (1, 7)]
    assert all(20 < b.sum() < 1500 for b in boards)
    assert np.abs(boards[0] - boards[1]).sum() > 5


def test_the_command_line(scene, tmp_path, capsys):
    where = tmp_path / "setup.json"
    where.write_text(setup(passes=["beauty"]).model_dump_json())
    command = ["scene", str(tmp_path / "board.glb"), "--setup", str(where), "--to", str(tmp_path / "o")]
    assert main([*command, "--frames", "2-3"]) == 0
    assert sorted(p.name for p in (tmp_path / "o").glob("*.exr")) == ["board.0002.exr", "board.0003.exr"]
    assert main([*command, "--frames", "2-9"]) == 1
    assert "set-up has 1 to 3" in capsys.readouterr().err
    assert main(["schema", "--setup"]) == 0
    assert json.loads(capsys.readouterr().out)["properties"].keys() == RenderSetup.model_fields.keys()
