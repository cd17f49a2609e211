"""Light on surfaces: textbook laws, and a sum that is honest."""

import numpy as np
import pytest
from core.scene.test_passes import HEIGHT, PIXELS_A_UNIT, WIDTH, lens
from neatveil.scene.illumination import Illumination
from neatveil.scene.lamps import scatter
from neatveil.scene.model import Light, Material, Mesh, Node, Scene, Texture
from neatveil.scene.render_tiles import Sampling, render
from neatveil.scene.textures import looked_up
from neatveil.scene.world import World
from scipy.ndimage import map_coordinates
from scipy.spatial.transform import Rotation

#: Reflects nothing seen straight on, so that what is left is Lambert's law.
CHALK = Material("chalk", (0.6, 0.4, 0.2), metallic=0, roughness=1, ior=1.0)


def board(size=40.0, z=0.0, x=0.0, material=CHALK, uv=None):
    corners = np.array([[-1, -1, 0], [1, -1, 0], [1, 1, 0], [-1, 1, 0]]) * size / 2 + [x, 0, z]
    normals = np.tile(np.float32([0, 0, 1]), (4, 1))
    order = np.array([[0, 1, 2], [0, 2, 3]], np.int32)
    return Mesh("board", corners.astype(np.float32), normals, uv, order, material)


def lamp(light, at=(0, 0, 0), turn=(0, 0, 0)):
    return Node(
        "lamp", translation=at, rotation=tuple(Rotation.from_euler("xyz", turn).as_quat()), light=light
    )


#: Lamps alone: what textbooks give in closed form.
DIRECT = Illumination(indirect=False)


def shown(passes, *nodes, samples=1, light=DIRECT):
    return render(World(Scene("s", nodes)), lens(), passes, Sampling(samples), light=light)


def rgb(picture, layer=""):
    return np.stack([picture[f"{layer}.{c}" if layer else c] for c in "RGB"], axis=-1)


@pytest.mark.parametrize("degrees", [0, 30, 60, 80])
def test_lamberts_law(degrees):
    """A surface that scatters evenly: L = albedo / pi * E * cos(angle) (Lambert 1760)."""
    sun = Light("sun", "directional", (1, 1, 1), 3.0)
    got = shown(["diffuse"], Node("wall", meshes=(board(),)), lamp(sun, turn=(0, np.radians(degrees), 0)))
    expected = np.array(CHALK.colour) / np.pi * 3 * np.cos(np.radians(degrees))
    np.testing.assert_allclose(rgb(got, "diffuse")[HEIGHT // 2, WIDTH // 2], expected, rtol=2e-3)


def test_light_from_a_point_falls_by_the_square_of_its_distance():
    """KHR_lights_punctual: candela / distance^2, times the cosine."""
    bulb = Light("bulb", "point", (1, 0.5, 0.25), 50.0)
    got = rgb(shown(["diffuse"], Node("wall", meshes=(board(),)), lamp(bulb, at=(0, 0, 2))), "diffuse")
    for column in (WIDTH // 2, WIDTH // 2 + 40):
        off = (column + 0.5 - WIDTH / 2) / PIXELS_A_UNIT
        up = 0.5 / PIXELS_A_UNIT
        square = 4 + off**2 + up**2
        expected = np.array(CHALK.colour) / np.pi * 50 * np.array(bulb.colour) / square * 2 / np.sqrt(square)
        np.testing.assert_allclose(got[HEIGHT // 2, column], expected, rtol=0.01)


def test_a_spot_ends_at_its_cone():
    spot = Light("spot", "spot", (1, 1, 1), 10.0, inner=0.2, outer=0.5)
    got = shown(["diffuse"], Node("wall", meshes=(board(),)), lamp(spot, at=(0, 0, 3)))["diffuse.R"]
    radius = np.hypot(*(np.mgrid[0:HEIGHT, 0:WIDTH] + 0.5 - [[[HEIGHT / 2]], [[WIDTH / 2]]])) / PIXELS_A_UNIT
    assert (got[radius < 3 * np.tan(0.2)] > 0.15).all()
    assert not got[radius > 3 * np.tan(0.5) + 0.05].any()


def test_a_shadow_lies_where_geometry_says():
    """A board of side 1 half-way to a point light throws a shadow of side 2."""
    bulb = Light("bulb", "point", (1, 1, 1), 50.0)
    # out of the camera's sight of the shadow: the camera stands to the side of the lamp's line
    nodes = Node("wall", meshes=(board(),)), Node("card", meshes=(board(1.0, z=1.0, x=-1.0),))
    got = shown(["shadow", "diffuse", "ids"], *nodes, lamp(bulb, at=(0, 0, 2)), samples=16)
    # the shadow's middle lies at x = -2, its right edge at -1
    row = got["shadow.R"][HEIGHT // 2]
    x = (np.arange(WIDTH) + 0.5 - WIDTH / 2) / PIXELS_A_UNIT
    card = np.abs(x * 3 / 4 + 1) < 0.55
    inside, outside = (x > -2.9) & (x < -1.1) & ~card, (x > -0.9) | (x < -3.1)
    assert not row[inside].any()
    assert (row[outside & ~card] == 1).all()
    assert not got["diffuse.R"][HEIGHT // 2][inside].any()


def scene_of_everything():
    rng = np.random.default_rng(7)
    art = Texture("art", rng.random((6, 9, 4)).astype(np.float32))
    uv = np.float32([[0, 1], [1, 1], [1, 0], [0, 0]])
    brass = Material("brass", (0.9, 0.7, 0.3), metallic=0.8, roughness=0.3, emission=(0.1, 0, 0.3))
    print_ = Material("print", colour_texture=art, metallic=0.1, roughness=0.6, emission=(0, 0.2, 0))
    return (
        Node("wall", meshes=(board(3.0, uv=uv, material=print_),)),
        Node("plate", rotation=tuple(Rotation.from_euler("y", 0.4).as_quat()), translation=(0.7, 0.2, 1),
             meshes=(board(1.2, material=brass),)),
        lamp(Light("key", "point", (1, 0.9, 0.8), 30.0), at=(1, 2, 3)),
        lamp(Light("sky", "directional", (0.5, 0.6, 1), 1.5), turn=(-0.5, 0.3, 0)),
    )  # fmt: skip


def test_the_lighting_passes_add_up_to_the_beauty():
    passes = ["beauty", "diffuse", "reflection", "emission"]
    got = shown(passes, *scene_of_everything(), samples=8)
    parts = [rgb(got, name) for name in passes[1:]]
    np.testing.assert_allclose(sum(parts), rgb(got), atol=1e-6)
    for part in parts:
        assert part.max() > 0.01, "every part has something to add"


def test_the_unshadowed_light_times_the_shadow_is_the_diffuse_pass():
    nodes = scene_of_everything()
    got = shown(["diffuse", "shadow"], *nodes)
    # the same without anything that could stand in the way of the wall
    alone = shown(["diffuse", "ids"], nodes[0], *nodes[2:])
    wall = (got["diffuse.R"] > 0) & (got["shadow.R"] == 1) & (alone["diffuse.R"] > 0)
    same = np.isclose(got["diffuse.R"], alone["diffuse.R"], rtol=1e-4)
    assert same[wall].mean() > 0.5
    assert (got["shadow.R"] < 1).any()


def test_edges_are_premultiplied_over_black():
    glow = Material("glow", (0, 0, 0), emission=(2.0, 1.0, 0.5))
    got = shown(["beauty"], Node("sign", meshes=(board(2.13, material=glow),)), samples=32)
    edge = (got["A"] > 0) & (got["A"] < 1)
    assert edge.sum() > 50
    np.testing.assert_allclose(got["R"], 2 * got["A"], atol=1e-5)
    np.testing.assert_allclose(got["B"], 0.5 * got["A"], atol=1e-5)


@pytest.mark.parametrize(
    ("wrap", "mode"), [("repeat", "grid-wrap"), ("clamp", "nearest"), ("mirror", "reflect")]
)
def test_textures_are_blended_and_go_on_as_their_sampler_says(wrap, mode):
    """Bilinear, glTF 2.0, 3.8.4. Reference: SciPy."""
    rng = np.random.default_rng(8)
    pixels = rng.random((5, 7, 4)).astype(np.float32)
    uv = rng.uniform(-1.4, 2.4, (300, 2)).astype(np.float32)
    got = looked_up(Texture("t", pixels, (wrap, wrap)), uv)
    places = np.stack([uv[:, 1] * 5 - 0.5, uv[:, 0] * 7 - 0.5])
    for i in range(4):
        expected = map_coordinates(pixels[..., i], places, order=1, mode=mode)
        np.testing.assert_allclose(got[:, i], expected, atol=2e-5)


def surface_of(count, metallic, roughness, colour=1.0):
    """Colour, metallic, roughness, index of refraction, transmission."""
    numbers = (np.full(count, v, np.float32) for v in (metallic, roughness, 1.5, 0.0))
    return (np.full((count, 3), colour, np.float32), *numbers)


def scattered(surface, normal, view, way):
    """Share of light scattered from way to view, diffuse and mirrored, a steradian."""
    count = len(way)
    sums = [np.zeros((count, 3), np.float32) for _ in range(3)]
    normal, view, way = (np.ascontiguousarray(v, np.float32) for v in (normal, view, way))
    one, left = np.ones(count, np.float32), np.ones((count, 3), np.float32)
    scatter(normal, -view, way, one, left, np.ones(3, np.float32), *surface, *sums)
    return sums[0], sums[1]


def around(count=400):
    """Ways over the hemisphere at even steps of cosine and turn, and their cosines."""
    steps = (np.arange(count) + 0.5) / count
    cosine, turn = (g.reshape(-1) for g in np.meshgrid(steps, 2 * np.pi * steps))
    sine = np.sqrt(1 - cosine**2)
    return np.stack([sine * np.cos(turn), sine * np.sin(turn), cosine], axis=1), cosine


def mirrored_share(alpha, angle, count=200_000):
    """What rough white metal sends back, by another road: the mean of G2 / G1 over the facets that are seen.

    Source: Heitz 2018, Sampling the GGX Distribution of Visible Normals, listing 1 [Heitz2018].
    """
    rng = np.random.default_rng(9)
    view = np.array([np.sin(angle), 0, np.cos(angle)])
    stretched = view * [alpha, alpha, 1]
    stretched /= np.linalg.norm(stretched)
    side = np.array([-stretched[1], stretched[0], 0.0])
    side = side / np.linalg.norm(side) if np.linalg.norm(side) > 1e-9 else np.array([1.0, 0, 0])
    other = np.cross(stretched, side)
    radius, turn = np.sqrt(rng.random(count)), 2 * np.pi * rng.random(count)
    x, y = radius * np.cos(turn), radius * np.sin(turn)
    s = 0.5 * (1 + stretched[2])
    y = (1 - s) * np.sqrt(1 - x**2) + s * y
    z = np.sqrt(np.maximum(0, 1 - x**2 - y**2))
    facet = (x[:, None] * side + y[:, None] * other + z[:, None] * stretched) * [alpha, alpha, 1]
    facet /= np.linalg.norm(facet, axis=1, keepdims=True)
    out = 2 * (facet @ view)[:, None] * facet - view

    def smith(way):
        flat = way[..., 0] ** 2 + way[..., 1] ** 2
        return (np.sqrt(1 + alpha**2 * flat / np.maximum(way[..., 2], 1e-9) ** 2) - 1) / 2

    return np.where(out[:, 2] > 0, (1 + smith(view)) / (1 + smith(view) + smith(out)), 0).mean()


@pytest.mark.parametrize("roughness", [0.3, 0.5, 1.0])
@pytest.mark.parametrize("angle", [0.0, 0.8, 1.2])
def test_rough_metal_sends_back_what_another_way_of_counting_says(roughness, angle):
    """The hemisphere's sum of mirrored light times cosine; never above 1."""
    way, cosine = around()
    up = np.tile([0.0, 0, 1], (len(way), 1))
    view = np.tile([np.sin(angle), 0, np.cos(angle)], (len(way), 1))
    _, mirrored = scattered(surface_of(len(way), 1.0, roughness), up, view, way)
    total = (mirrored[:, 0] * cosine).mean() * 2 * np.pi
    assert total == pytest.approx(mirrored_share(roughness**2, angle), abs=3e-3)
    assert total < 1


def test_light_may_go_either_way():
    """Helmholtz reciprocity: the share from way to view is that from view to way."""
    way, _ = around(30)
    view = np.roll(way, 137, axis=0)
    up = np.tile([0.0, 0, 1], (len(way), 1))
    surface = surface_of(len(way), 0.4, 0.5, colour=0.7)
    for there, back in zip(scattered(surface, up, view, way), scattered(surface, up, way, view), strict=True):
        np.testing.assert_allclose(there, back, rtol=2e-5)
