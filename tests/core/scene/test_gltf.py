"""Scenes in: files of other libraries, what the standard allows, and what is refused by name."""

import base64
import io
import json
import struct
import zlib

import numpy as np
import pytest
import trimesh
from core.scene.files import TRIANGLE, Writer, triangle
from neatveil.errors import FileEmpty, FileMissing, NeatVeilError, SceneRefused
from neatveil.scene import read_scene
from neatveil.scene.motion import places_at
from PIL import Image


def only_mesh(scene):
    (mesh,) = [m for n in scene.nodes for m in n.meshes]
    return mesh


@pytest.mark.parametrize("ending", ["glb", "gltf"])
def test_a_scene_that_trimesh_wrote(tmp_path, ending):
    """trimesh is a general-purpose library with a glTF writer of its own."""
    shape = trimesh.creation.icosphere(3, radius=2.0)
    scene = trimesh.Scene()
    move = trimesh.transformations.translation_matrix([1, 2, 3])
    scene.add_geometry(shape, node_name="ball", transform=move)
    scene.export(str(tmp_path / f"ball.{ending}"))
    got = read_scene(tmp_path / f"ball.{ending}")
    number = next(i for i, n in enumerate(got.nodes) if n.meshes)
    mesh = got.nodes[number].meshes[0]
    world = mesh.positions @ places_at(got, 0)[number][:3, :3].T + places_at(got, 0)[number][:3, 3]
    np.testing.assert_allclose(np.linalg.norm(world - [1, 2, 3], axis=1), 2, atol=1e-6)
    corners = world[mesh.triangles]
    area = (
        np.linalg.norm(np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]), axis=1).sum()
        / 2
    )
    assert area == pytest.approx(shape.area, rel=1e-5)


def test_uvs_and_textures_that_trimesh_wrote(tmp_path):
    picture = Image.fromarray(np.array([[[255, 0, 0], [0, 188, 0]]], np.uint8))
    material = trimesh.visual.material.PBRMaterial(baseColorTexture=picture, roughnessFactor=0.25)
    uv = [[0, 0], [1, 0], [0, 1]]
    visual = trimesh.visual.TextureVisuals(uv=uv, material=material)
    trimesh.Trimesh(TRIANGLE, [[0, 1, 2]], visual=visual, process=False).export(str(tmp_path / "leaf.glb"))
    mesh = only_mesh(read_scene(tmp_path / "leaf.glb"))
    # glTF's v goes down, trimesh's up
    np.testing.assert_allclose(sorted(mesh.uv.tolist()), sorted([[0, 1], [1, 1], [0, 0]]))
    texture = mesh.material.colour_texture
    # IEC 61966-2-1: code 188 is light 0.502886
    np.testing.assert_allclose(texture.pixels[0, :, :3], [[1, 0, 0], [0, 0.502886, 0]], atol=1e-5)
    assert mesh.material.roughness == 0.25


def test_without_normals_every_triangle_is_flat(tmp_path):
    mesh = only_mesh(read_scene(triangle().glb(tmp_path / "t.glb")))
    np.testing.assert_allclose(mesh.normals, [[0, 0, 1]] * 3)


@pytest.mark.parametrize(
    ("mode", "expected"),
    [(5, [[0, 1, 2], [1, 3, 2], [2, 3, 4]]), (6, [[0, 1, 2], [0, 2, 3], [0, 3, 4]])],
)
def test_strips_and_fans(tmp_path, mode, expected):
    """glTF 2.0, 3.7.2.1: p(i) = {v(i), v(i + 1 + i%2), v(i + 2 - i%2)} and {v(i+1), v(i+2), v(0)}."""
    points = np.array([[0, 0, 0], [1, 0, 0], [0, 1, 0], [1, 1, 0.5], [0, 2, 0.25]], np.float32)
    writer = Writer()
    writer.node(mesh=writer.mesh(points, normals=[[0, 0, 1]] * 5, indices=range(5), mode=mode))
    mesh = only_mesh(read_scene(writer.glb(tmp_path / "s.glb")))
    assert {tuple(np.roll(t, -t.argmin())) for t in mesh.triangles} == {
        tuple(np.roll(t, -np.argmin(t))) for t in np.array(expected)
    }


def test_interleaved_normalised_and_sparse_numbers(tmp_path):
    """glTF 2.0, 3.6.2: strides, f = c / 65535, and sparse replacement."""
    writer = Writer()
    rows = np.zeros(3, [("p", "<f4", 3), ("n", "<f4", 3)])
    rows["p"], rows["n"] = TRIANGLE, (0, 0, 2)
    view = {"buffer": 0, "byteOffset": 0, "byteLength": rows.nbytes, "byteStride": 24}
    writer.data, writer.document["bufferViews"] = rows.tobytes(), [view]
    vec3 = {"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3"}
    writer.document["accessors"] = [vec3, {**vec3, "byteOffset": 12}]
    uv = writer.array(np.array([[0, 65535], [13107, 0], [1, 2]], np.uint16), normalized=True)
    writer.array(np.array([1], np.uint16))
    writer.array(np.array([[5, 6, 7]], np.float32))
    writer.document["accessors"][0]["sparse"] = {
        "count": 1, "indices": {"bufferView": 2, "componentType": 5123}, "values": {"bufferView": 3},
    }  # fmt: skip
    attributes = {"POSITION": 0, "NORMAL": 1, "TEXCOORD_0": uv}
    writer.document["meshes"] = [{"primitives": [{"attributes": attributes}]}]
    writer.node(mesh=0)
    mesh = only_mesh(read_scene(writer.glb(tmp_path / "i.glb")))
    np.testing.assert_array_equal(mesh.positions, [[0, 0, 0], [5, 6, 7], [0, 1, 0]])
    np.testing.assert_array_equal(mesh.normals, [[0, 0, 1]] * 3)
    np.testing.assert_allclose(mesh.uv, [[0, 1], [0.2, 0], [1 / 65535, 2 / 65535]], atol=1e-9)


def test_buffers_as_base64_and_names_with_spaces(tmp_path):
    writer = triangle()
    inline = "data:application/octet-stream;base64," + base64.b64encode(writer.data).decode()
    assert only_mesh(read_scene(writer.gltf(tmp_path / "inline.gltf", inline))).positions.shape == (3, 3)
    (tmp_path / "my marsh.bin").write_bytes(writer.data)
    assert read_scene(writer.gltf(tmp_path / "spaces.gltf", "my%20marsh.bin")).name == "spaces"


def test_glass_glow_and_lights(tmp_path):
    writer = triangle(material=0)
    writer.document["materials"] = [
        {
            "name": "glass",
            "emissiveFactor": [1, 0.5, 0],
            "pbrMetallicRoughness": {"metallicFactor": 0},
            "extensions": {
                "KHR_materials_transmission": {"transmissionFactor": 0.9},
                "KHR_materials_ior": {"ior": 1.33},
                "KHR_materials_emissive_strength": {"emissiveStrength": 8},
                "KHR_materials_sheen": {},
            },
        }
    ]
    lamp = {"type": "spot", "intensity": 40, "spot": {"outerConeAngle": 0.5}}
    writer.document["extensions"] = {"KHR_lights_punctual": {"lights": [lamp]}}
    writer.node(name="lamp", extensions={"KHR_lights_punctual": {"light": 0}})
    writer.document["scenes"][0]["nodes"] = [0, 1]
    scene = read_scene(writer.glb(tmp_path / "g.glb"))
    material = only_mesh(scene).material
    assert (material.transmission, material.ior, material.emission) == (0.9, 1.33, (8, 4, 0))
    assert scene.nodes[1].light.outer == 0.5
    assert scene.notes == ("Material glass: KHR_materials_sheen is not rendered.",)


def test_what_is_not_rendered_is_named(tmp_path):
    writer = triangle(material=0, targets=[{}])
    writer.document["materials"] = [{"name": "bark", "normalTexture": {"index": 0}}]
    writer.document["cameras"] = [{"type": "orthographic", "name": "plan"}]
    writer.document["nodes"][0].update(skin=0, camera=0)
    notes = " ".join(read_scene(writer.glb(tmp_path / "n.glb")).notes)
    for words in ("morph targets", "normal map", "Camera plan", "Node leaf: its skin"):
        assert words in notes


def refused(tmp_path, change, kind: type[NeatVeilError] = SceneRefused, **more):
    writer = triangle(**more)
    change(writer.document)
    with pytest.raises(kind) as caught:
        read_scene(writer.glb(tmp_path / "wrong.glb"))
    assert caught.value.where
    return str(caught.value)


def test_cycles_name_the_node(tmp_path):
    def loop(document):
        document["nodes"][0]["children"] = [0]

    assert "leaf is below itself" in refused(tmp_path, loop)


@pytest.mark.parametrize("value", [np.nan, np.inf])
def test_positions_that_are_no_numbers_name_the_mesh(tmp_path, value):
    writer = Writer()
    writer.node(mesh=writer.mesh([[0, 0, value], [1, 0, 0], [0, 1, 0]], name="reed"))
    with pytest.raises(SceneRefused, match="reed"):
        read_scene(writer.glb(tmp_path / "nan.glb"))


def test_triangles_of_no_area_are_left_out_and_said(tmp_path):
    writer = triangle(indices=[0, 1, 2, 0, 0, 1, 2, 2, 2])
    scene = read_scene(writer.glb(tmp_path / "z.glb"))
    assert len(only_mesh(scene).triangles) == 1
    assert scene.notes == ("Mesh thing: 2 triangles of no area are left out.",)
    assert "no triangle" in refused(tmp_path, lambda d: None, indices=[0, 0, 1])


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda d: d["accessors"][0].update(count=10**12), "thing"),
        (lambda d: d["accessors"][0].update(count=4), "beyond the end"),
        (lambda d: d["accessors"][0].update(bufferView=7), "number 7 of bufferViews"),
        (lambda d: d["nodes"][0].update(mesh=3), "number 3 of meshes"),
        (lambda d: d["nodes"][0].update(children=[9]), "number 9 of nodes"),
        (lambda d: d["nodes"][0].update(scale=[1, 1]), "leaf"),
        (lambda d: d.update(extensionsRequired=["KHR_draco_mesh_compression"]), "KHR_draco_mesh_compression"),
        (lambda d: d["asset"].update(version="1.0"), "1.0"),
        (lambda d: d["nodes"][0].pop("mesh"), "no mesh"),
    ],
)
def test_broken_documents_say_what_is_broken(tmp_path, change, words):
    assert words in refused(tmp_path, change)


def test_positions_that_are_not_there(tmp_path):
    writer = triangle(indices=[0, 1, 5])
    with pytest.raises(SceneRefused, match="position 5 of 3"):
        read_scene(writer.glb(tmp_path / "p.glb"))


@pytest.mark.parametrize("size", [0, 3, 15, 60, 200])
def test_cut_off_files(tmp_path, size):
    whole = triangle().glb(tmp_path / "whole.glb").read_bytes()
    cut = tmp_path / "cut.glb"
    cut.write_bytes(whole[:size])
    with pytest.raises((SceneRefused, FileEmpty), match=r"cut\.glb"):
        read_scene(cut)


@pytest.mark.parametrize("uri", ["../secret.bin", "/etc/passwd", "file:///etc/passwd", "https://a.example/b"])
def test_files_outside_the_scenes_folder_are_not_opened(tmp_path, uri):
    (tmp_path / "secret.bin").write_bytes(triangle().data)
    folder = tmp_path / "scene"
    folder.mkdir()
    with pytest.raises(SceneRefused, match="not beside the scene"):
        read_scene(triangle().gltf(folder / "s.gltf", uri))


def test_missing_textures_and_buffers_name_the_file(tmp_path):
    with pytest.raises(FileMissing, match=r"gone\.bin"):
        read_scene(triangle().gltf(tmp_path / "b.gltf", "gone.bin"))
    writer = triangle(material=0, uv=[[0, 0], [1, 0], [0, 1]])
    writer.document["materials"] = [{"pbrMetallicRoughness": {"baseColorTexture": {"index": 0}}}]
    writer.document.update(textures=[{"source": 0}], images=[{"uri": "board_art.png"}])
    with pytest.raises(FileMissing, match=r"board_art\.png"):
        read_scene(writer.gltf(tmp_path / "t.gltf"))
    (tmp_path / "board_art.png").write_text("no picture")
    with pytest.raises(SceneRefused, match=r"board_art\.png"):
        read_scene(writer.gltf(tmp_path / "t.gltf"))


def test_a_text_file_named_glb(tmp_path):
    (tmp_path / "notes.glb").write_text("geese at dawn")
    with pytest.raises(SceneRefused, match=r"notes\.glb"):
        read_scene(tmp_path / "notes.glb")
    (tmp_path / "list.gltf").write_text(json.dumps([1, 2]))
    with pytest.raises(SceneRefused, match="version"):
        read_scene(tmp_path / "list.gltf")


def textured() -> Writer:
    writer = triangle(material=0, uv=[[0, 0], [1, 0], [0, 1]], indices=[0, 1, 2])
    held = io.BytesIO()
    Image.fromarray(np.full((2, 3, 3), 51, np.uint8)).save(held, "PNG")
    view = writer.array(np.frombuffer(held.getvalue(), np.uint8))
    base = {"baseColorTexture": {"index": 0}, "baseColorFactor": [1, 1, 1, 1]}
    writer.document["materials"] = [{"name": "m", "pbrMetallicRoughness": base, "emissiveFactor": [0, 0, 0]}]
    writer.document.update(
        textures=[{"source": 0, "sampler": 0}], images=[{"bufferView": view}], samplers=[{"wrapS": 33071}],
        cameras=[{"type": "perspective", "perspective": {"yfov": 1, "znear": 0.1}}],
        extensions={"KHR_lights_punctual": {"lights": [{"type": "point", "color": [1, 1, 1]}]}},
    )  # fmt: skip
    writer.node(name="eye", camera=0, rotation=[0, 0, 0, 1])
    writer.node(name="lamp", extensions={"KHR_lights_punctual": {"light": 0}}, children=[1])
    times, places = writer.array(np.float32([0, 1])), writer.array(np.zeros((2, 3), np.float32))
    channel = {"sampler": 0, "target": {"node": 0, "path": "translation"}}
    sampler = {"input": times, "output": places}
    writer.document["animations"] = [{"samplers": [sampler], "channels": [channel]}]
    writer.document["scenes"] = [{"nodes": [0, 2]}]
    return writer


def places_in(value, path=()):
    """Every place in a JSON document."""
    yield path
    rows = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, below in rows:
        yield from places_in(below, (*path, key))


JUNK = [None, True, -1, 10**30, 0.5, "x", [], [None], {}, {"a": 1}, [1e308] * 3, float("nan")]


def test_whatever_stands_in_the_document_it_is_read_or_refused(tmp_path):
    """Each place of a whole scene by turns replaced by each piece of junk: no other error comes out."""
    whole = textured()
    read_scene(whole.glb(tmp_path / "whole.glb"))
    text, tried, refused = json.dumps(whole.document), 0, 0
    for place in list(places_in(whole.document))[1:]:
        for junk in JUNK:
            document = json.loads(text)
            at = document
            for key in place[:-1]:
                at = at[key]
            at[place[-1]] = junk
            whole.document = document
            try:
                read_scene(whole.glb(tmp_path / "junk.glb"))
            except NeatVeilError:
                refused += 1
            tried += 1
    assert tried > 1500
    assert refused > tried / 3


def test_a_texture_that_says_it_is_enormous(tmp_path):
    writer = textured()
    at = writer.data.index(b"IHDR") + 4
    header = b"IHDR" + struct.pack(">II", 1_000_000, 1_000_000) + writer.data[at + 8 : at + 13]
    check = struct.pack(">I", zlib.crc32(header))
    writer.data = writer.data[: at - 4] + header + check + writer.data[at + 17 :]
    with pytest.raises(SceneRefused, match="texture"):
        read_scene(writer.glb(tmp_path / "bomb.glb"))


def test_textures_in_the_binary_part(tmp_path):
    """A PNG inside the .glb, sampled at its pixels' own places."""
    writer = triangle(material=0)
    held = io.BytesIO()
    Image.fromarray(np.full((2, 3), 51, np.uint8)).save(held, "PNG")
    view = writer.array(np.frombuffer(held.getvalue(), np.uint8))
    writer.document["materials"] = [{"pbrMetallicRoughness": {"metallicRoughnessTexture": {"index": 0}}}]
    writer.document.update(
        textures=[{"source": 0, "sampler": 0}], images=[{"bufferView": view, "mimeType": "image/png"}],
        samplers=[{"wrapS": 33071, "magFilter": 9728}],
    )  # fmt: skip
    texture = only_mesh(read_scene(writer.glb(tmp_path / "x.glb"))).material.metal_texture
    assert texture.pixels.shape == (2, 3, 4)
    np.testing.assert_allclose(texture.pixels[..., 1], 0.2)
    assert (texture.wrap, texture.nearest) == (("clamp", "repeat"), True)
