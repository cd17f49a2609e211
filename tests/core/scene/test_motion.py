"""Nodes in time, against SciPy's splines and rotations; pixels against the standard's matrices."""

import numpy as np
import pytest
from core.scene.files import triangle
from neatveil.errors import SceneRefused
from neatveil.scene import read_scene
from neatveil.scene.lens import Lens
from neatveil.scene.model import Camera, Motion
from neatveil.scene.motion import matrix_of, places_at, value_at
from neatveil.scene.samples import Grid
from scipy.interpolate import CubicHermiteSpline
from scipy.spatial.transform import Rotation, Slerp

TIMES = np.array([0.5, 1.25, 3.0], np.float32)


def motion(path, interpolation, values):
    return Motion(0, path, interpolation, TIMES, np.asarray(values, np.float32))


@pytest.mark.parametrize("seconds", [0.6, 1.25, 2.0, 2.999])
def test_cubic_moves_are_hermite_splines(seconds):
    """glTF 2.0, appendix C.5; tangents are in units a second. Reference: SciPy."""
    rng = np.random.default_rng(4)
    values = rng.normal(size=(3, 3, 3)).astype(np.float32)
    got = value_at(motion("translation", "CUBICSPLINE", values), seconds)
    for i in range(2):
        if TIMES[i] <= seconds <= TIMES[i + 1]:
            ends, slopes = values[i : i + 2, 1], [values[i, 2], values[i + 1, 0]]
            expected = CubicHermiteSpline(TIMES[i : i + 2], ends, slopes)(seconds)
            np.testing.assert_allclose(got, expected, atol=1e-6)


def test_turns_take_the_shorter_arc_at_an_even_pace():
    """glTF 2.0, appendix C.4. Reference: SciPy; a quaternion and its negative are the same turn."""
    turns = Rotation.from_euler("xyz", [[10, 20, 30], [100, -40, 60], [90, 90, 0]], degrees=True)
    quaternions = turns.as_quat()
    quaternions[1] *= -1
    swing = motion("rotation", "LINEAR", quaternions)
    for seconds in np.linspace(0.5, 3, 11):
        expected = Slerp(TIMES, turns)(seconds)
        got = Rotation.from_quat(value_at(swing, seconds))
        assert (got * expected.inv()).magnitude() < 1e-5


def test_steps_hold_and_ends_rest():
    hold = motion("scale", "STEP", [[1, 1, 1], [2, 2, 2], [3, 3, 3]])
    assert [value_at(hold, t)[0] for t in (0, 0.5, 1.24, 1.25, 2.9, 3, 99)] == [1, 1, 1, 2, 2, 3, 3]


def test_matrices_scale_then_turn_then_move():
    turn = Rotation.from_euler("zyx", [0.3, -0.8, 1.1])
    point, scale, move = np.array([0.2, -1.0, 2.5]), np.array([2, 0.5, 3]), np.array([5, 6, 7])
    got = matrix_of(move, turn.as_quat(), scale) @ [*point, 1]
    np.testing.assert_allclose(got[:3], turn.apply(point * scale) + move, atol=1e-12)


def test_children_go_with_their_parents(tmp_path):
    writer = triangle()
    writer.node(name="arm", translation=[0, 3, 0], children=[0])
    writer.document["nodes"][0]["translation"] = [1, 0, 0]
    times = writer.array(np.array([0, 2], np.float32))
    turns = writer.array(np.array([[0, 0, 0, 1], [0, 0, np.sqrt(0.5), np.sqrt(0.5)]], np.float32))
    writer.document["animations"] = [
        {
            "samplers": [{"input": times, "output": turns}],
            "channels": [{"sampler": 0, "target": {"node": 1, "path": "rotation"}}],
        }
    ]
    writer.document["scenes"][0]["nodes"] = [1]
    scene = read_scene(writer.glb(tmp_path / "arm.glb"))
    assert scene.seconds == 2
    leaf = [n.name for n in scene.nodes].index("leaf")
    for seconds, expected in ((0, [1, 3, 0]), (1, [np.sqrt(0.5), 3 + np.sqrt(0.5), 0]), (2, [0, 4, 0])):
        np.testing.assert_allclose(places_at(scene, seconds)[leaf][:3, 3], expected, atol=1e-6)


def test_times_that_do_not_rise_are_refused(tmp_path):
    writer = triangle()
    times = writer.array(np.array([0, 2, 1], np.float32))
    values = writer.array(np.zeros((3, 3), np.float32))
    writer.document["animations"] = [
        {
            "name": "sway",
            "samplers": [{"input": times, "output": values}],
            "channels": [{"sampler": 0, "target": {"node": 0, "path": "scale"}}],
        }
    ]
    with pytest.raises(SceneRefused, match="sway"):
        read_scene(writer.glb(tmp_path / "t.glb"))


def lens(width=160, height=90):
    place = matrix_of(
        np.array([1.0, 2, 3]), Rotation.from_euler("y", 0.4).as_quat(), np.array([2.0, 2.0, 2.0])
    )
    return Lens.of(Camera("c", 0.7, None, 0.1, 50.0), place, width, height)


def test_points_fall_on_the_pixels_of_the_standards_matrix():
    """glTF 2.0, 3.10.3.3: the finite perspective projection, then the viewport."""
    view = lens()
    a, y, n, f = view.width / view.height, 0.7, 0.1, 50.0
    projection = np.array(
        [[1 / (a * np.tan(y / 2)), 0, 0, 0], [0, 1 / np.tan(y / 2), 0, 0],
         [0, 0, (f + n) / (n - f), 2 * f * n / (n - f)], [0, 0, -1, 0]]
    )  # fmt: skip
    points = np.random.default_rng(5).normal(size=(50, 3)) + np.array([-1, 2, -6])
    clip = np.c_[points, np.ones(50)] @ np.linalg.inv(view.place).T @ projection.T
    expected = (clip[:, :2] / clip[:, 3:] * [1, -1] + 1) / 2 * [view.width, view.height]
    pixels, depth = view.project(points)
    np.testing.assert_allclose(pixels, expected, atol=1e-9)
    np.testing.assert_allclose(depth, clip[:, 3], atol=1e-12)


def test_rays_go_through_the_pixels_they_were_asked_for():
    view = lens()
    offsets = np.random.default_rng(6).uniform(-1, 1, (5, view.width, 3, 2)).astype(np.float32)
    origins, directions = view.rays(offsets, Grid(0, 40, view.width, 45, 3))
    back, depth = view.project(origins + 7.5 * directions)
    y, x = np.mgrid[40:45, 0 : view.width] + 0.5
    expected = np.stack([x, y], axis=-1)[:, :, None] + offsets
    np.testing.assert_allclose(back, expected.reshape(-1, 2), atol=1e-3)
    np.testing.assert_allclose(depth, 7.5, rtol=1e-5)
