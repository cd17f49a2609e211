"""A camera and lamps that the set-up places: against glTF 2.0, 3.10.3, and SciPy's rotations."""

import numpy as np
import pytest
from core.scene.test_lighting import board
from hypothesis import given
from hypothesis import strategies as st
from neatveil.errors import SceneRefused
from neatveil.scene.frames import lens_at, render_frame, seconds_of
from neatveil.scene.manifest import manifest
from neatveil.scene.model import Camera, Material, Node, Scene
from neatveil.scene.placed import PlacedCamera, placed_like
from neatveil.scene.setup import parse_setup
from scipy.spatial.transform import Rotation

CHALK = Material("chalk", (0.8, 0.8, 0.8), metallic=0, roughness=1, ior=1.0)
SCENE = Scene("s", (Node("card", meshes=(board(1.0, material=CHALK),)),))
angles = st.floats(-170, 170)


def setup(**fields):
    base = {"width": 64, "height": 36, "samples": 4, "rate": "25", "last": 9, "passes": ["beauty"]}
    return parse_setup({**base, **fields})


def lens(frame=1, part=0.0, **camera):
    made = setup(placed_camera=camera)
    return lens_at(SCENE, made, seconds_of(made, frame, part))


@given(angles, st.floats(-89, 89), angles)
def test_it_stands_as_rotations_about_y_x_and_z_say(azimuth, elevation, roll):
    """Turned by the azimuth about +Y, by the elevation about its own X, clockwise about its own Z."""
    got = lens(azimuth=azimuth, elevation=elevation, roll=roll, distance=3.0).place
    turn = Rotation.from_euler("YXZ", [azimuth, -elevation, -roll], degrees=True).as_matrix()
    np.testing.assert_allclose(got[:3, :3], turn, atol=1e-9)
    np.testing.assert_allclose(got[:3, 3], turn @ [0, 0, 3], atol=1e-9)


@given(angles, st.floats(-90, 90), angles, st.tuples(*[st.floats(-5, 5)] * 3))
def test_the_target_is_in_the_middle_whatever_it_looks_from(azimuth, elevation, roll, target):
    x, y, z = target
    seen = lens(
        azimuth=azimuth, elevation=elevation, roll=roll, distance=4.0, target_x=x, target_y=y, target_z=z
    )
    pixels, depth = seen.project(np.array([target]))
    np.testing.assert_allclose(pixels, [[32, 18]], atol=1e-6)
    assert depth[0] == pytest.approx(4)


def test_the_angle_of_view_reaches_from_the_top_to_the_bottom():
    seen = lens(azimuth=0, elevation=0, distance=2.0, angle=40.0)
    top = 2 * np.tan(np.radians(20))
    pixels, _ = seen.project(np.array([[0, top, 0], [0, -top, 0]]))
    np.testing.assert_allclose(pixels[:, 1], [0, 36], atol=1e-6)


@given(angles, st.floats(-85, 85), angles, st.floats(0.2, 50), st.floats(5, 100))
def test_a_camera_of_the_scene_is_gone_on_from_where_it_stands(azimuth, elevation, roll, distance, angle):
    old = PlacedCamera(azimuth=azimuth, elevation=elevation, roll=roll, distance=distance, angle=angle)
    eye = Camera("eye", float(np.radians(angle)), None, 0.1, None)
    found = placed_like(eye, old.place(), np.array([0.3, -0.2, 0.1]))
    np.testing.assert_allclose(found.place(), old.place(), atol=1e-4 * max(1, distance))
    assert found.angle == pytest.approx(angle)


def test_a_camera_that_stands_too_far_away_is_refused_in_words():
    far = np.eye(4)
    far[:3, 3] = 0, 0, 3e6
    with pytest.raises(SceneRefused, match="eye cannot be gone on from: distance"):
        placed_like(Camera("eye", 0.8, None, 0.1, None), far, np.zeros(3))


def test_keys_are_read_at_parts_of_a_frame_too():
    keys = {"azimuth": {"keys": [{"frame": 1, "value": 0, "way": "linear"}, {"frame": 5, "value": 40}]}}
    for frame, part, azimuth in ((1, 0, 0), (3, 0, 20), (3, 0.25, 22.5), (9, 0, 40)):
        np.testing.assert_allclose(lens(frame, part, keys=keys).place, lens(azimuth=azimuth).place, atol=1e-6)


def test_motion_vectors_are_those_of_the_moving_camera():
    keys = {"azimuth": {"keys": [{"frame": 1, "value": 0, "way": "linear"}, {"frame": 5, "value": 8}]}}
    made = setup(placed_camera={"elevation": 0, "distance": 4, "keys": keys}, passes=["motion", "position"])
    got = render_frame(SCENE, made, 2)
    here, there = (lens_at(SCENE, made, seconds_of(made, n)) for n in (2, 3))
    point = np.array([[got[f"position.{n}"][18, 32] for n in "XYZ"]])
    moved = there.project(point)[0] - here.project(point)[0]
    assert [got["motion.X"][18, 32], got["motion.Y"][18, 32]] == pytest.approx(moved[0], abs=0.02)


def test_a_lamp_lights_by_lamberts_cosine():
    """KHR_lights_punctual: lux E at an angle t leave a white surface with E cos(t) / pi of light."""
    camera = {"azimuth": 0, "elevation": 0, "distance": 3, "angle": 20}
    for elevation, share in ((0, 1.0), (60, 0.5), (90, 0.0)):
        lamp = {"name": "sun", "elevation": elevation, "strength": np.pi, "colour": [1, 0.5, 0]}
        got = render_frame(SCENE, setup(placed_camera=camera, lamps=[lamp], indirect=False), 1)
        middle = [float(got[n][18, 32]) for n in "RGB"]
        assert middle == pytest.approx([0.8 * share, 0.4 * share, 0], abs=0.02)


def test_the_manifest_has_the_camera_of_every_frame():
    keys = {"angle": {"keys": [{"frame": 1, "value": 30, "way": "linear"}, {"frame": 5, "value": 50}]}}
    made = setup(placed_camera={"keys": keys}, lamps=[{"name": "sun"}])
    told = manifest(SCENE, made, [1, 5])
    assert told["camera"]["name"] == "placed camera"
    assert [told["frames"][n]["yfov"] for n in "15"] == pytest.approx(np.radians([30, 50]))
    assert told["lights"]["sun"]["kind"] == "directional"
    np.testing.assert_allclose(told["frames"]["1"]["camera"], lens(keys=keys).place)


def test_lamps_and_the_environment_follow_their_keys():
    """At a frame between two keys as one that stands there; the manifest tells where each lamp was."""

    def keyed(first, last):
        return {"keys": [{"frame": 1, "value": first}, {"frame": 9, "value": last}]}

    def lit(elevation, strength, around, **keys):
        lamp = {"name": "sun", "elevation": elevation, "strength": strength, "keys": keys.get("lamp", {})}
        sky = {"picture": "sky", "strength": around, "keys": keys.get("sky", {})}
        made = setup(placed_camera={"azimuth": 0, "elevation": 0}, lamps=[lamp], environment=sky, samples=16)
        return made, render_frame(SCENE, made, 5, lambda name, frame: np.ones((4, 8, 3), np.float32))

    moving, got = lit(
        0, 1, 1,
        lamp={"elevation": keyed(0, 60), "strength": keyed(1.0, 3.0)}, sky={"strength": keyed(0.0, 1.0)},
    )  # fmt: skip
    _, still = lit(30, 2, 0.5)
    np.testing.assert_array_equal(got["R"], still["R"])
    rows = manifest(SCENE, moving, [1, 5, 9])["frames"]
    ups = [np.array(rows[str(n)]["lights"]["sun"])[1, 2] for n in (1, 5, 9)]
    np.testing.assert_allclose(ups, np.sin(np.radians([0, 30, 60])), atol=1e-6)
