"""Fog by depth and a lamp by normals: against their formulas, a grade by depth, and rendered normals."""

import numpy as np
import pytest
from core.reference.pictures import Arrays
from core.scene.test_cards import scene_of, setup
from neatveil.comp import Comp, Element, Layer
from neatveil.evaluate import Evaluator
from neatveil.scene.frames import render_frame
from scipy.spatial.transform import Rotation

WIDTH, HEIGHT = 48, 32
RAMP = np.broadcast_to(np.linspace(0.5, 40, WIDTH, dtype=np.float32), (HEIGHT, WIDTH))


def seen(rgba, planes, step, level=0):
    height, width = rgba.shape[:2]
    element = Element(file="own", still=True, encoding="linear", reading={"alpha": "premultiplied"})
    layer = Layer(id="a", name="hills", element="own", steps=[step])
    comp = Comp(width=width, height=height, elements={"own": element}, layers=(layer,))
    return Evaluator(Arrays({"own": [rgba]}, {"own": planes})).picture(comp, 1, level=level).rgba()


def half_covered():
    rgba = np.random.default_rng(2).random((HEIGHT, WIDTH, 4)).astype(np.float32)
    rgba[..., 3] = np.where(np.arange(HEIGHT) < 16, 1.0, 0.5)[:, None]
    rgba[..., :3] *= rgba[..., 3:]
    return rgba


def test_fog_takes_light_by_beer_and_lambert():
    step = {"kind": "fog", "density": 0.1, "start": 3.0, "colour": (0.2, 0.4, 0.8), "most": 0.9}
    got, rgba = seen(half_covered(), {"depth.Z": RAMP}, step), half_covered()
    t = (0.9 * (1 - np.exp(-0.1 * np.maximum(RAMP - 3, 0))))[..., None]
    expected = rgba[..., :3] * (1 - t) + t * np.array([0.2, 0.4, 0.8]) * rgba[..., 3:]
    np.testing.assert_allclose(got[..., :3], expected, atol=1e-6)
    np.testing.assert_array_equal(got[..., 3], rgba[..., 3])


def test_fog_between_two_distances_leaves_what_is_before_and_hides_what_is_behind():
    step = {"kind": "fog", "by": "range", "start": 10.0, "end": 30.0, "colour": (1, 0, 0)}
    got, rgba = seen(half_covered(), {"depth.Z": RAMP}, step), half_covered()
    np.testing.assert_array_equal(got[:, RAMP[0] < 10], rgba[:, RAMP[0] < 10])
    far = RAMP[0] > 30
    np.testing.assert_allclose(got[:, far, 0], rgba[:, far, 3], atol=1e-6)
    np.testing.assert_allclose(got[:, far, 1:3], 0, atol=1e-6)


@pytest.mark.parametrize("bad", [np.nan, np.inf, 0.0])
def test_what_is_no_distance_is_all_fog(bad):
    got = seen(half_covered(), {"depth.Z": np.full_like(RAMP, bad)}, {"kind": "fog", "colour": (0, 0, 1)})
    np.testing.assert_allclose(got[..., :3], got[..., 3:] * np.array([0, 0, 1]), atol=1e-6)


def test_a_step_through_a_matte_of_the_depth_is_a_grade_by_depth():
    """Near, far and a straight ramp between: the exposure at the far end, none at the near one."""
    part = {"kind": "channel", "source": "", "channel": "depth.Z", "low": 10.0, "high": 30.0}
    through = {"by": "matte", "matte": {"parts": [part]}}
    step = {"kind": "exposure", "stops": 1.0, "channels": "rgb", "through": through}
    got, rgba = seen(half_covered(), {"depth.Z": RAMP}, step), half_covered()
    weight = np.clip((RAMP - 10) / 20, 0, 1)[..., None]
    np.testing.assert_allclose(got[..., :3], rgba[..., :3] * (1 + weight), atol=1e-5)


@pytest.mark.parametrize("turn", [0.0, 50.0, -35.0])
def test_a_lamp_falls_on_what_faces_it(turn):
    """A rendered board turned about the vertical: its light grows by the cosine to the lamp."""
    scene = scene_of(Rotation.from_euler("Y", turn, degrees=True).as_matrix(), (0, 0, 0), 2.4)
    camera = {"azimuth": 0.0, "elevation": 0.0, "distance": 4.0}
    found = render_frame(scene, setup(passes=["beauty", "normals"], placed_camera=camera), 1)
    rgba = np.stack([found[n] for n in "RGBA"], -1)
    normals = {n: found[n] for n in ("normal.X", "normal.Y", "normal.Z")}
    step = {"kind": "relight", "azimuth": 60.0, "elevation": 20.0, "lamp": (1, 2, 0), "stays": 0.5}
    got = seen(rgba, normals, step)
    cosine = max(0, np.cos(np.radians(60 - turn)) * np.cos(np.radians(20)))
    whole = rgba[..., 3] > 0
    np.testing.assert_allclose(
        got[whole][:, :3], rgba[whole][:, :3] * (0.5 + cosine * np.array([1, 2, 0])), rtol=2e-3, atol=1e-5
    )
    codes = {n: (p + 1) / 2 for n, p in normals.items()}
    np.testing.assert_allclose(seen(rgba, codes, {**step, "stored": "codes"})[whole], got[whole], atol=1e-4)
