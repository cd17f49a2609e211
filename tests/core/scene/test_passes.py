"""Passes of shapes whose areas, depths, normals and UVs are known in closed form."""

import numpy as np
import pytest
import trimesh
from core.scene.files import Writer, triangle
from neatveil.errors import NameUnknown, ValueRefused
from neatveil.scene import read_scene
from neatveil.scene.lens import Lens
from neatveil.scene.model import Camera
from neatveil.scene.moment_samples import Later
from neatveil.scene.motion import matrix_of
from neatveil.scene.passes import PASSES
from neatveil.scene.passes.depth import EMPTY
from neatveil.scene.render_tiles import Sampling, render
from neatveil.scene.world import World
from scipy.stats import truncnorm

#: A camera at (0, 0, 4) that looks along -z: at z = 0 one unit is 20 pixels.
WIDTH, HEIGHT, PIXELS_A_UNIT = 160, 90, 20.0
YFOV = 2 * np.arctan(HEIGHT / 2 / PIXELS_A_UNIT / 4)


def lens(place=None):
    at = np.eye(4)
    at[2, 3] = 4
    return Lens.of(Camera("c", YFOV, None, 0.1, None), at if place is None else place, WIDTH, HEIGHT)


def world(tmp_path, *shapes, names=()):
    scene = trimesh.Scene()
    for i, shape in enumerate(shapes):
        scene.add_geometry(shape, node_name=names[i] if names else f"shape{i}")
    scene.export(str(tmp_path / "s.glb"))
    return World(read_scene(tmp_path / "s.glb"))


def flat(points):
    """A polygon at z = 0 around its first corner."""
    corners = np.c_[np.asarray(points, float), np.zeros(len(points))]
    fan = [[0, i, i + 1] for i in range(1, len(points) - 1)]
    return trimesh.Trimesh(corners, fan, process=False)


def disc(radius, count=720):
    turn = np.linspace(0, 2 * np.pi, count, endpoint=False)
    return flat(np.c_[radius * np.cos(turn), radius * np.sin(turn)] + [0.013, -0.027])


@pytest.mark.parametrize(
    ("shape", "area"),
    [
        (disc(1.3), np.pi * 1.3**2),
        (flat([[-9, -9], [0.3, -9], [1.1, 9], [-9, 9]]), None),  # a half-plane, tilted
        (flat([[-3, -1], [-3, -1.02], [3, 1.3], [3, 1.32]]), 0.02 * 6),  # a rod 0.4 pixels high
    ],
)
def test_coverage_is_the_area(tmp_path, shape, area):
    alpha = render(world(tmp_path, shape), lens(), ["alpha"], Sampling(64))["A"]
    if area is None:
        # the edge crosses the frame's middle line at x = 0.7; left of it all is covered
        area = HEIGHT * (WIDTH / 2 + 0.7 * PIXELS_A_UNIT) / PIXELS_A_UNIT**2
    assert alpha.sum() / PIXELS_A_UNIT**2 == pytest.approx(area, rel=2e-3)
    assert ((alpha > 0) & (alpha < 1)).sum() > 50, "the edge is soft"


def test_a_spheres_outline(tmp_path):
    """A sphere of radius r at distance d is seen as a disc of radius r / sqrt(d^2 - r^2) at distance 1."""
    ball = trimesh.creation.icosphere(5, radius=1.2)
    alpha = render(world(tmp_path, ball), lens(), ["alpha"], Sampling(64))["A"]
    radius = 1.2 / np.sqrt(16 - 1.2**2) * 4 * PIXELS_A_UNIT
    assert alpha.sum() == pytest.approx(np.pi * radius**2, rel=2e-3)


@pytest.mark.parametrize(
    ("pixel_filter", "inside"),
    [("box", 1.0), ("triangle", 0.875), ("gaussian", truncnorm(-3, 3, scale=0.5).cdf(0.5))],
)
def test_filters_have_their_published_shapes(tmp_path, pixel_filter, inside):
    """Beside an edge on a pixel's border: the filter's distribution half a pixel from its middle."""
    half = flat([[-20, -20], [0, -20], [0, 20], [-20, 20]])
    sampling = Sampling(256, pixel_filter)
    alpha = render(world(tmp_path, half), lens(), ["alpha"], sampling)["A"].mean(axis=0)
    edge = WIDTH // 2
    assert alpha[edge - 1] == pytest.approx(inside, abs=2e-3)
    assert alpha[edge] == pytest.approx(1 - inside, abs=2e-3)
    assert alpha[: edge - 3].min() == 1


def test_one_sample_is_the_pixels_centre(tmp_path):
    half = flat([[-20, -20], [0.01, -20], [0.01, 20], [-20, 20]])
    alpha = render(world(tmp_path, half), lens(), ["alpha"], Sampling(1))["A"]
    assert set(np.unique(alpha)) == {0, 1}
    assert alpha[0, WIDTH // 2 - 1] == 1
    assert alpha[0, WIDTH // 2] == 0


def tilted_board(tmp_path):
    """A board 6 x 4, turned about y, with UVs from corner to corner."""
    board = trimesh.Trimesh(
        [[-3, -2, 0], [3, -2, 0], [3, 2, 0], [-3, 2, 0]], [[0, 1, 2], [0, 2, 3]], process=False,
        visual=trimesh.visual.TextureVisuals(
            uv=[[0, 0], [1, 0], [1, 1], [0, 1]], material=trimesh.visual.material.PBRMaterial()
        ),
    )  # fmt: skip
    turn = trimesh.transformations.rotation_matrix(0.5, [0, 1, 0])
    scene = trimesh.Scene()
    scene.add_geometry(board, node_name="board", transform=turn)
    scene.export(str(tmp_path / "board.glb"))
    return World(read_scene(tmp_path / "board.glb")), turn


def test_depth_position_normal_and_uv_of_a_plane(tmp_path):
    where, turn = tilted_board(tmp_path)
    got = render(where, lens(), ["depth", "position", "normals", "uv"], Sampling(1))
    normal = turn[:3, 2]
    y, x = np.mgrid[0:HEIGHT, 0:WIDTH] + 0.5
    way = np.stack(
        [(x - WIDTH / 2) / PIXELS_A_UNIT / 4, (HEIGHT / 2 - y) / PIXELS_A_UNIT / 4, -np.ones(x.shape)], -1
    )
    # (0, 0, 4) + t * way meets the plane through 0
    depth = -4 * normal[2] / (way @ normal)
    point = np.array([0, 0, 4]) + depth[..., None] * way
    local = point @ turn[:3, :3]
    on = (np.abs(local[..., 0]) < 2.99) & (np.abs(local[..., 1]) < 1.99)
    assert on.sum() > 3000
    np.testing.assert_allclose(got["depth.Z"][on], depth[on], rtol=1e-5)
    for i, c in enumerate("XYZ"):
        np.testing.assert_allclose(got[f"position.{c}"][on], point[on][:, i], atol=2e-5)
        np.testing.assert_allclose(got[f"normal.{c}"][on], normal[i], atol=1e-6)
    # the file's v goes down: glTF 2.0, 3.8.3
    np.testing.assert_allclose(got["uv.U"][on], (local[on][:, 0] + 3) / 6, atol=1e-5)
    np.testing.assert_allclose(got["uv.V"][on], 1 - (local[on][:, 1] + 2) / 4, atol=1e-5)
    off = (np.abs(local[..., 0]) > 3.01) | (np.abs(local[..., 1]) > 2.01)
    assert (got["depth.Z"][off] == np.float32(EMPTY)).all()
    assert not got["uv.U"][off].any()
    assert got.data_planes == set(got.planes)


def test_depth_is_never_mixed_and_the_filtered_one_is(tmp_path):
    near = flat([[-20, -20], [0.013, -20], [0.013, 20], [-20, 20]])
    far = flat([[-90, -90], [90, -90], [90, 90], [-90, 90]])
    far.apply_translation([0, 0, -6])
    got = render(world(tmp_path, near, far), lens(), ["depth", "depth_filtered"], Sampling(16))
    np.testing.assert_allclose(np.unique(got["depth.Z"].round(4)), [4, 10])
    mixed = got["depth_filtered.Z"][:, WIDTH // 2]
    assert ((mixed > 4.1) & (mixed < 9.9)).all()


def test_masks_are_by_number_and_add_up_to_the_alpha(tmp_path):
    shapes = [disc(0.8), disc(0.8), disc(0.8)]
    for i, shape in enumerate(shapes):
        shape.apply_translation([1.1 * (i - 1), 0.2 * i, -0.01 * i])
    where = world(tmp_path, *shapes, names=["goose", "gander", "reed"])
    got = render(where, lens(), ["alpha", "masks"], Sampling(32), {"goose": 7, "gander": 7, "reed": 2})
    np.testing.assert_allclose(got["mask.7"] + got["mask.2"], got["A"], atol=1e-6)
    assert got["mask.2"].sum() < got["mask.7"].sum()


def test_children_have_the_number_of_what_they_hang_on(tmp_path):
    writer = triangle()
    writer.node(name="bracket", children=[0], translation=[0, 0, 1])
    writer.document["scenes"][0]["nodes"] = [1]
    where = World(read_scene(writer.glb(tmp_path / "b.glb")))
    got = render(where, lens(), ["alpha", "masks"], Sampling(4), {"bracket": 5})
    np.testing.assert_array_equal(got["mask.5"], got["A"])


def test_normals_of_stretched_and_mirrored_objects(tmp_path):
    """A normal stays square to its surface: it turns by the inverse transpose."""
    writer = Writer()
    ball = trimesh.creation.icosphere(4)
    mesh = writer.mesh(ball.vertices, ball.faces.reshape(-1), normals=ball.vertex_normals)
    writer.node(mesh=mesh, scale=[-1.5, 0.5, 0.8])
    where = World(read_scene(writer.glb(tmp_path / "e.glb")))
    got = render(where, lens(), ["normals", "position", "alpha"], Sampling(1))
    on = got["A"] == 1
    point = np.stack([got[f"position.{c}"][on] for c in "XYZ"], axis=-1)
    expected = point / np.square([1.5, 0.5, 0.8])
    expected /= np.linalg.norm(expected, axis=1, keepdims=True)
    normal = np.stack([got[f"normal.{c}"][on] for c in "XYZ"], axis=-1)
    assert (normal * expected).sum(axis=1).min() > 0.999


def test_the_cameras_scale_does_not_matter(tmp_path):
    """glTF 2.0, 3.10.1: the node's scale is not applied to the camera."""
    where = world(tmp_path, disc(1.0))
    plain, scaled = (
        lens(matrix_of(np.array([0, 0, 4.0]), np.array([0, 0, 0, 1.0]), np.full(3, s))) for s in (1.0, 3.0)
    )
    a, b = (render(where, x, ["alpha", "depth"], Sampling(4)) for x in (plain, scaled))
    for n in a.planes:
        np.testing.assert_array_equal(a[n], b[n])


def test_the_same_picture_whatever_the_strips(tmp_path, monkeypatch):
    where = world(tmp_path, disc(1.0))
    names = [n for n, p in PASSES.items() if p.needs in {None, "later"}]
    later = Later.of(where, 1.0, lens())
    whole = render(where, lens(), names, Sampling(8), later=later)
    monkeypatch.setattr("neatveil.numeric.pool.STRIP_BYTES", 4 * WIDTH * 8 * 3)
    parts = render(where, lens(), names, Sampling(8), later=later)
    for n in whole.planes:
        np.testing.assert_array_equal(whole[n], parts[n])


def test_what_cannot_be_rendered_is_said_before_any_work(tmp_path):
    where = world(tmp_path, disc(1.0), names=["pond"])
    with pytest.raises(ValueRefused, match="pond has no UVs"):
        render(where, lens(), ["uv"])
    with pytest.raises(NameUnknown, match="depht"):
        render(where, lens(), ["depht"])
    with pytest.raises(ValueRefused, match="one frame later"):
        render(where, lens(), ["motion"])
    with pytest.raises(ValueRefused, match="samples"):
        render(where, lens(), ["alpha"], Sampling(0))
    huge = Lens.of(Camera("c", 1, None, 0.1, None), np.eye(4), 1_000_000, 1_000_000)
    with pytest.raises(ValueRefused, match="1000000"):
        render(where, huge, ["alpha"])


def test_normals_of_a_ball_do_not_turn_over_at_its_outline(tmp_path):
    """Blended normals lean away from the camera there; they are those of the surface all the same."""
    ball = trimesh.creation.icosphere(2, 1.5)
    got = render(world(tmp_path, ball), lens(), ["normals", "position", "alpha"], Sampling(1))
    outward = np.stack([got[f"position.{c}"] for c in "XYZ"], axis=-1)
    normal = np.stack([got[f"normal.{c}"] for c in "XYZ"], axis=-1)
    seen = got["A"] > 0
    assert ((outward * normal).sum(axis=-1)[seen] > 1.3).all()
