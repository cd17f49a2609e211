"""Light through glass: bent as Snell says, mirrored as Fresnel says, and seen through in the alpha."""

import numpy as np
import pytest
from core.scene.test_lighting import board, lamp, rgb, shown
from core.scene.test_passes import HEIGHT, PIXELS_A_UNIT, WIDTH, lens
from neatveil.scene.illumination import Illumination
from neatveil.scene.model import Light, Material, Mesh, Node, Scene, Texture
from neatveil.scene.motion import matrix_of
from neatveil.scene.object_roles import ObjectRoles
from neatveil.scene.plate import Plate
from neatveil.scene.render_tiles import Sampling, render
from neatveil.scene.sky import Sky
from neatveil.scene.world import World
from scipy.spatial.transform import Rotation

CLEAR = {"metallic": 0, "roughness": 0, "transmission": 1.0}
GLASS = Material("glass", ior=1.5, solid=True, **CLEAR)
#: A ramp of the plate: red is the column's, green the row's share.
RAMP = np.zeros((HEIGHT, WIDTH, 3), np.float32)
RAMP[..., 0] = (np.arange(WIDTH) + 0.5) / WIDTH
RAMP[..., 1] = ((np.arange(HEIGHT) + 0.5) / HEIGHT)[:, None]


def slab(thickness=1.0, size=40.0, material=GLASS, z=0.0):
    """A body with its front at z and its back behind it."""
    front, back = board(size, z), board(size, z - thickness)
    corners = np.concatenate([front.positions, back.positions])
    normals = np.concatenate([front.normals, -back.normals])
    order = np.concatenate([front.triangles, back.triangles[:, ::-1] + 4])
    return Mesh("slab", corners, normals, None, order.astype(np.int32), material)


def turned_lens(degrees):
    """A camera that looks along -z after it was turned about y by the angle, far off."""
    way = np.radians(degrees)
    place = matrix_of(
        np.array([5 * np.sin(way), 0, 5 * np.cos(way)]),
        Rotation.from_euler("y", way).as_quat(),
        np.ones(3),
    )
    return lens(place)


def fresnel(degrees, ior):
    """Mirrored share of unpolarised light at one surface (Born & Wolf, 1.5.2, eqs. 32 and 33)."""
    outer = np.radians(degrees)
    inner = np.arcsin(np.sin(outer) / ior)
    if degrees == 0:
        return ((ior - 1) / (ior + 1)) ** 2
    square = np.sin(outer - inner) ** 2 / np.sin(outer + inner) ** 2
    parallel = np.tan(outer - inner) ** 2 / np.tan(outer + inner) ** 2
    return (square + parallel) / 2


@pytest.mark.parametrize("degrees", [0, 30, 45, 60, 75])
def test_a_slab_lets_through_what_fresnel_says(degrees):
    """Twice (1 - F) of what is behind is seen through both sides of a slab."""
    world = World(Scene("s", (Node("slab", meshes=(slab(),)),)))
    alpha = render(world, turned_lens(degrees), ["alpha"], Sampling(1))["A"]
    # the frame's middle lies between four pixels
    got = alpha[HEIGHT // 2 - 1 : HEIGHT // 2 + 1, WIDTH // 2 - 1 : WIDTH // 2 + 1].mean()
    assert 1 - got == pytest.approx((1 - fresnel(degrees, 1.5)) ** 2, abs=3e-3)


@pytest.mark.parametrize("degrees", [20, 50])
def test_a_slab_shifts_what_is_behind_it_as_snell_says(degrees):
    """Red tells where on a wall each ray lands: inside the slab it leans by asin(sin(outer) / n)."""
    ramp = Texture("ramp", np.float32([[[0, 1, 0, 1], [1, 1, 0, 1]]]), ("clamp", "clamp"))
    ruler = Material("ruler", (0, 0, 0), ior=1.0, emission=(1, 1, 0), emission_texture=ramp)
    wall = Node(
        "wall", meshes=(board(20, z=-2.0, uv=np.float32([[0, 0], [1, 0], [1, 1], [0, 1]]), material=ruler),)
    )
    view = turned_lens(degrees)
    world = World(Scene("s", (wall, Node("slab", meshes=(slab(),)))))
    got = render(world, view, ["transmission"], Sampling(1))
    # between the two pixels' centres red rises evenly over ten units
    red, green = got["transmission.R"][HEIGHT // 2], got["transmission.G"][HEIGHT // 2]
    landed = red / np.where(green > 0, green, 1) * 10 - 5
    x = np.arange(WIDTH) + 0.5 - WIDTH / 2
    ways = np.stack(
        [x / WIDTH * 2 * view.spread[0], np.full(WIDTH, -0.5 / HEIGHT * 2 * view.spread[1]), -np.ones(WIDTH)]
    )
    ways = view.place[:3, :3] @ ways
    ways /= np.linalg.norm(ways, axis=0)
    outer = np.arccos(-ways[2])
    inner = np.arcsin(np.sin(outer) / 1.5)
    sideways = ways[0] / np.sin(outer)
    expected = view.eye[0] + sideways * ((view.eye[2] + 1) * np.tan(outer) + np.tan(inner))
    inside = np.abs(expected) < 4.9
    assert inside.sum() > 60
    np.testing.assert_allclose(landed[inside], expected[inside], atol=2e-3)
    bare = view.eye[0] + sideways * (view.eye[2] + 2) * np.tan(outer)
    assert np.abs(bare - expected)[inside].mean() > 0.1, "a shift that cannot be missed"


def test_a_thin_sheet_bends_nothing():
    """Without a volume the surface is a sheet: the plate stands where it was, through tinted glass too."""
    pane = Material("pane", colour=(0.5, 1.0, 0.25), ior=1.0, **CLEAR)
    light = Illumination(plate=Plate(RAMP))
    tilted = Node(
        "pane", meshes=(board(6.0, material=pane),), rotation=tuple(Rotation.from_euler("y", 0.6).as_quat())
    )
    got = rgb(shown(["composite"], tilted, light=light), "composite")
    middle = slice(HEIGHT // 2 - 10, HEIGHT // 2 + 10), slice(WIDTH // 2 - 10, WIDTH // 2 + 10)
    np.testing.assert_allclose(got[middle], RAMP[middle] * pane.colour, atol=2e-3)


def test_a_ball_turns_the_plate_upside_down():
    """A ball of n = 1.5 is a lens of focal length n R / (2 (n - 1)) = 1.5 R (Hecht, 6.2)."""
    import trimesh

    ball = trimesh.creation.icosphere(5, 1.0)
    mesh = Mesh(
        "ball", ball.vertices.astype(np.float32), ball.vertex_normals.astype(np.float32), None,
        ball.faces.astype(np.int32), GLASS,
    )  # fmt: skip
    light = Illumination(plate=Plate(RAMP))
    got = shown(["composite"], Node("ball", meshes=(mesh,)), samples=4, light=light)
    row = got["composite.R"][HEIGHT // 2]
    middle, step = WIDTH // 2, int(PIXELS_A_UNIT * 0.3)
    assert row[middle - step] > row[middle] > row[middle + step], "left and right change places"
    assert row[10] < row[middle] < row[-10]


def test_glass_can_be_rendered_opaque():
    """The classic mistake, on purpose: refraction is left out of the alpha."""
    nodes = (Node("pane", meshes=(board(2.0, material=Material("pane", ior=1.0, **CLEAR)),)),)
    clear = shown(["alpha", "beauty"], *nodes, light=Illumination(sky=Sky(np.ones((2, 4, 3), np.float32))))
    solid = shown(
        ["alpha", "beauty"], *nodes,
        light=Illumination(sky=Sky(np.ones((2, 4, 3), np.float32)), clear_glass=False),
    )  # fmt: skip
    centre = HEIGHT // 2, WIDTH // 2
    assert clear["A"][centre] == pytest.approx(0, abs=1e-3)
    assert solid["A"][centre] == 1
    assert solid["R"][centre] == pytest.approx(1, abs=1e-3), "the sky is painted into the glass"


def test_alpha_alone_is_the_alpha_of_the_beauty():
    rough = Material("rough", metallic=0, roughness=0.5, transmission=0.7, ior=1.4, solid=True)
    nodes = (
        Node("slab", meshes=(slab(0.4, 2.0, rough),)),
        Node("wall", meshes=(board(0.8, z=-1.0),)),
        lamp(Light("key", "point", (1, 1, 1), 30.0), at=(1, 2, 3)),
    )
    light = Illumination()
    alone = shown(["alpha"], *nodes, samples=4, light=light)["A"]
    both = shown(["beauty", "alpha"], *nodes, samples=4, light=light)["A"]
    np.testing.assert_array_equal(alone, both)
    assert ((alone > 0.01) & (alone < 0.99)).sum() > 100


def test_glass_throws_the_shadow_of_its_colour():
    sun = Light("sun", "directional", (1, 1, 1), 3.0)
    tinted = Material("tinted", colour=(1.0, 0.5, 0.0), ior=1.0, **CLEAR)
    pane = Node("pane", meshes=(board(2.0, z=2.0, x=6.0, material=tinted),))
    light = lamp(sun, turn=(0, np.radians(70), 0))
    got = shown(["shadow"], Node("wall", meshes=(board(),)), pane, light)
    x = 6 - 2 * np.tan(np.radians(70))  # where the pane's middle falls
    column = int(WIDTH / 2 + x * PIXELS_A_UNIT)
    left = 1 - (1 - np.cos(np.radians(70))) ** 5  # Schlick's share of an index of 1
    np.testing.assert_allclose(
        rgb(got, "shadow")[HEIGHT // 2, column], left * np.array(tinted.colour), atol=2e-3
    )


def test_a_body_dims_light_by_its_length():
    """Beer and Lambert: colour ** (length / distance)."""
    body = Material("body", ior=1.0, solid=True, dimmed=(0.5, 0.25, 1.0), dimmed_over=2.0, **CLEAR)
    white = Material("white", (0, 0, 0), emission=(1, 1, 1))
    nodes = (
        Node("slab", meshes=(slab(3.0, material=body),)),
        Node("wall", meshes=(board(z=-4, material=white),)),
    )
    got = rgb(shown(["transmission"], *nodes), "transmission")[HEIGHT // 2, WIDTH // 2]
    np.testing.assert_allclose(got, np.array(body.dimmed) ** 1.5, rtol=5e-3)


def test_what_stands_in_for_the_plate_shows_through_glass_as_the_plate():
    pane = Node("pane", meshes=(board(2.0, z=1.0, material=Material("pane", ior=1.0, **CLEAR)),))
    wall = Node("wall", meshes=(board(),))
    world = World(Scene("s", (pane, wall)), casting=ObjectRoles(catchers=frozenset({"wall"})))
    got = render(world, lens(), ["alpha"], Sampling(1))["A"]
    assert got.max() < 1e-3
