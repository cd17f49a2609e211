"""Scenes without a camera or a lamp: framed whole, lit, and left alone where they have both."""

import base64
import json

import numpy as np
import pytest
from core.scene.test_layers import three_cards
from core.scene.test_lighting import board, lamp
from neatveil.scene import read_scene
from neatveil.scene.frames import render_frame
from neatveil.scene.framing import CAMERA, FILL, KEY, bounds, framed
from neatveil.scene.model import Light, Material, Node, Scene
from neatveil.scene.setup import parse_setup

GREY = Material("grey", (0.5, 0.5, 0.5), metallic=0, roughness=1, ior=1.0)


def rendered(scene, width=64, height=36):
    size = {"width": width, "height": height, "samples": 4, "rate": "25"}
    return render_frame(scene, parse_setup({**size, "passes": ["beauty"]}), 1)


@pytest.mark.parametrize("size", [0.003, 1.0, 4000.0])
@pytest.mark.parametrize("place", [(0, 0, 0), (70, -12, 900)])
def test_a_thing_of_any_size_anywhere_is_seen_whole_and_lit(size, place):
    at = tuple(float(v) * size for v in place)
    bare = Scene("thing", (Node("card", translation=at, meshes=(board(size, material=GREY),)),))
    scene = framed(bare)
    assert [n.name for n in scene.nodes] == ["card", CAMERA, KEY, FILL]
    assert len(scene.added) == 2
    got = rendered(scene)
    covered = got["A"] > 0
    border = np.concatenate([covered[0], covered[-1], covered[:, 0], covered[:, -1]])
    assert not border.any(), "it lies within the frame"
    assert covered.mean() > 0.05, "and is no dot in it"
    assert 0.1 < got["R"][got["A"] == 1].mean() < 1.2


def test_what_a_scene_has_stays_as_it_is():
    whole = three_cards()
    lit = Scene("lit", (*whole.nodes, lamp(Light("sun", "directional", (1, 1, 1), 2.0))))
    assert framed(lit) is lit
    assert framed(whole) is whole, "its cards glow"
    eye = next(n for n in whole.nodes if n.camera)
    dark = Scene("dark", (Node("card", meshes=(board(1.0, material=GREY),)), eye))
    only_lights = framed(dark)
    assert only_lights.cameras == dark.cameras
    assert [n.light is not None for n in only_lights.nodes[-2:]] == [True, True]


def test_the_ball_around_everything_goes_by_the_nodes_places():
    below = Node("b", parent=0, translation=(2.0, 0, 0), meshes=(board(2.0),))
    middle, radius = bounds(Scene("s", (Node("a", translation=(1.0, 0, 0), scale=(2.0, 2.0, 2.0)), below)))
    np.testing.assert_allclose(middle, [5, 0, 0], atol=1e-6)
    assert radius == pytest.approx(np.hypot(4, 4) / 2)


def test_a_file_of_one_triangle_opens_with_a_camera_and_says_so(tmp_path):
    """The minimal file of the glTF tutorial's kind: positions and indices, nothing else [glTF2]."""
    points = np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0]], np.float32).tobytes()
    order = np.array([0, 1, 2], np.uint16).tobytes()
    data = base64.b64encode(points + order).decode()
    document = {
        "asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}], "nodes": [{"mesh": 0}],
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "indices": 1}]}],
        "buffers": [{"uri": f"data:application/octet-stream;base64,{data}", "byteLength": 42}],
        "bufferViews": [{"buffer": 0, "byteOffset": 0, "byteLength": 36},
                        {"buffer": 0, "byteOffset": 36, "byteLength": 6}],
        "accessors": [
            {"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3",
             "min": [0, 0, 0], "max": [1, 1, 0]},
            {"bufferView": 1, "componentType": 5123, "count": 3, "type": "SCALAR"},
        ],
    }  # fmt: skip
    (tmp_path / "triangle.gltf").write_text(json.dumps(document))
    scene = read_scene(tmp_path / "triangle.gltf")
    assert scene.added[0].startswith("It has no camera")
    assert rendered(scene)["A"].sum() > 50
