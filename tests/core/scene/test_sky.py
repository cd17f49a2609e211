"""Light from all around: the environment picture, and surfaces that light each other."""

import numpy as np
import pytest
import trimesh
from core.scene.test_lighting import CHALK, board, lamp, mirrored_share, rgb, scene_of_everything, shown
from core.scene.test_passes import HEIGHT, WIDTH, lens
from neatveil.scene.illumination import Illumination
from neatveil.scene.model import Light, Material, Mesh, Node
from neatveil.scene.sky import Sky

WHITE = Sky(np.ones((4, 8, 3), np.float32))


def ball(material, radius=1.0):
    shape = trimesh.creation.icosphere(5, radius)
    return Mesh(
        "ball", shape.vertices.astype(np.float32), (shape.vertices / radius).astype(np.float32), None,
        shape.faces.astype(np.int32), material,
    )  # fmt: skip


def test_the_sky_lies_as_the_open_format_says():
    """OpenEXR, ImfEnvmap.h: the middle is +z, +x lies a quarter to the left, the top is +y."""
    pixels = np.zeros((64, 128, 3), np.float32)
    for colour, (row, column) in enumerate([(32, 64), (32, 32), (0, 0)]):
        pixels[max(row - 3, 0) : row + 3, max(column - 3, 0) : column + 3, colour] = 1
    pixels[:3, :, 2] = 1
    sky = Sky(pixels)
    ways = np.float32([[0, 0, 2], [3, 0, 0], [0, 1, 0], [0, 0, -1], [-1, 0, 0]])
    np.testing.assert_allclose(sky.light(ways), [[1, 0, 0], [0, 1, 0], [0, 0, 1], [0, 0, 0], [0, 0, 0]])
    quarter = Sky(pixels, turn=np.pi / 2)
    np.testing.assert_allclose(quarter.light(np.float32([[1, 0, 0]])), [[1, 0, 0]], atol=1e-3)
    np.testing.assert_allclose(Sky(pixels, strength=3.0).light(ways[:1]), [[3, 0, 0]])


@pytest.mark.parametrize("material", [
    Material("chalk", (1, 1, 1), metallic=0, roughness=1, ior=1.0),
    Material("mirror", (1, 1, 1), metallic=1, roughness=0),
])  # fmt: skip
def test_in_a_white_furnace_what_loses_nothing_vanishes(material):
    """Inside even light a surface of albedo 1 sends back all of it (Lambert; Heitz 2014, 5.1)."""
    got = shown(["beauty"], Node("ball", meshes=(ball(material),)), samples=16, light=Illumination(sky=WHITE))
    inside = got["A"] == 1
    assert rgb(got)[inside].mean() == pytest.approx(1, abs=4e-3)


def test_rough_metal_loses_what_its_facets_hide():
    """The mean over a ball's disc of what another way of counting says for each angle."""
    rough = Material("rough", (1, 1, 1), metallic=1, roughness=0.7)
    got = shown(["beauty"], Node("ball", meshes=(ball(rough),)), samples=16, light=Illumination(sky=WHITE))
    angle = (np.arange(24) + 0.5) / 24 * np.pi / 2
    weight = np.sin(2 * angle)
    expected = np.average([mirrored_share(0.49, a, 20_000) for a in angle], weights=weight)
    assert rgb(got)[got["A"] > 0].sum() / 3 / got["A"].sum() == pytest.approx(expected, abs=0.01)


def test_glass_in_a_white_furnace_neither_gains_nor_loses_much():
    """What it mirrors and what it lets through add up; light that is mirrored twice inside is left out."""
    glass = Material("glass", metallic=0, roughness=0, transmission=1, ior=1.5, solid=True)
    light = Illumination(sky=WHITE, clear_glass=False)
    got = shown(["beauty"], Node("ball", meshes=(ball(glass),)), samples=16, light=light)
    inside = rgb(got)[got["A"] == 1]
    assert 0.9 < inside.mean() <= 1.003


def test_a_corner_is_lit_by_its_other_wall():
    """The bounced light of a wide glowing wall on a board square to it: half of the hemisphere.

    A half-space of radiance 1 that begins at the surface gives albedo * 1/2 (form factor of a
    half-plane square to the surface; Howell, catalogue of configuration factors, B-3).
    """
    glow = Material("glow", (0, 0, 0), emission=(1, 1, 1))
    far = 2000.0
    corners = np.float32([[2.0, -far, 0], [2.0, far, 0], [2.0, far, far], [2.0, -far, far]])
    normals = np.tile(np.float32([-1, 0, 0]), (4, 1))
    wall = Mesh("wall", corners, normals, None, np.array([[0, 1, 2], [0, 2, 3]], np.int32), glow)
    nodes = Node("board", meshes=(board(4.0),)), Node("glow", meshes=(wall,))
    got = rgb(shown(["diffuse"], *nodes, samples=256, light=Illumination()), "diffuse")
    # one unit before the wall: an angle of 45 degrees stays open below it; sin of it is out of sight
    column = WIDTH // 2 + 20
    region = got[HEIGHT // 2 - 4 : HEIGHT // 2 + 4, column - 3 : column + 3].mean(axis=(0, 1))
    np.testing.assert_allclose(region, np.array(CHALK.colour) * 0.5, rtol=0.03)


def test_indirect_light_can_be_left_out_and_lamps_put_out():
    nodes = scene_of_everything()
    whole = shown(["beauty"], *nodes, samples=8, light=Illumination(sky=WHITE))
    lamps = shown(["beauty"], *nodes, samples=8, light=Illumination(indirect=False))
    dark = shown(["beauty", "emission"], *nodes, samples=8, light=Illumination(lamps=False, sky=WHITE))
    np.testing.assert_array_equal(whole["A"], dark["A"])
    assert rgb(whole).mean() > rgb(lamps).mean() > rgb(dark).mean()
    np.testing.assert_array_equal(rgb(dark), rgb(dark, "emission"))


def test_the_sum_is_honest_with_sky_glass_and_bounces():
    glass = Material("pane", (0.7, 0.9, 1), metallic=0, roughness=0.1, transmission=0.8)
    pane = Node("pane", meshes=(board(1.5, z=1.7, x=-1.0, material=glass),))
    passes = ["beauty", "diffuse", "reflection", "transmission", "emission", "environment"]
    light = Illumination(sky=WHITE, sky_seen=True)
    got = shown(passes, *scene_of_everything(), pane, samples=8, light=light)
    parts = [rgb(got, name) for name in passes[1:]]
    np.testing.assert_allclose(sum(parts), rgb(got), atol=2e-6)
    for name, part in zip(passes[1:], parts, strict=True):
        assert part.max() > 0.01, name


def test_a_visible_sky_is_mixed_into_the_colour_alone():
    """RGB is F * a + sky * (1 - a), the alpha stays that of the objects."""
    glow = Material("glow", (0, 0, 0), ior=1.0, metallic=0, emission=(2.0, 1.0, 0.5))
    sky = Sky(np.full((2, 4, 3), 0.25, np.float32))
    node = Node("sign", meshes=(board(2.13, material=glow),))
    hidden = shown(["beauty"], node, samples=32, light=Illumination(sky=sky))
    seen = shown(["beauty"], node, samples=32, light=Illumination(sky=sky, sky_seen=True))
    np.testing.assert_array_equal(hidden["A"], seen["A"])
    mixed = rgb(hidden) + 0.25 * (1 - hidden["A"])[..., None]
    np.testing.assert_allclose(rgb(seen), mixed, atol=1e-5)
    assert hidden["R"][0, 0] == 0


def test_one_ray_of_chance_brings_no_more_than_the_limit():
    spark = Material("spark", (0, 0, 0), emission=(5000.0, 5000, 5000))
    node = Node("spark", meshes=(board(0.05, z=1.0, x=3.0, material=spark),))
    nodes = Node("wall", meshes=(board(2.0),)), node
    got = shown(["diffuse"], *nodes, samples=1, light=Illumination(most=2.0))
    assert got["diffuse.R"].max() <= 2.0
    assert lens().width == WIDTH
    assert shown(["beauty"], node, lamp(Light("l", "point")), light=Illumination(most=2.0))["R"].max() in (
        0,
        5000,
    )
