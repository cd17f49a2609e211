"""Motion blur, depth of field and noise: a pixel's samples spread over time, over the lens, and as needed."""

import numpy as np
import pytest
from core.scene.test_lighting import board, rgb, scene_of_everything
from core.scene.test_passes import HEIGHT, PIXELS_A_UNIT, WIDTH, lens
from neatveil.errors import Cancelled
from neatveil.picture import Box
from neatveil.scene.frames import render_frame
from neatveil.scene.illumination import Illumination
from neatveil.scene.lens import Focus
from neatveil.scene.model import Camera, Material, Motion, Node, Scene
from neatveil.scene.moment_samples import Moment
from neatveil.scene.passes import PassSettings
from neatveil.scene.render_tiles import Sampling, render, render_moments
from neatveil.scene.setup import parse_setup
from neatveil.scene.world import World

GLOW = Material("glow", (0, 0, 0), ior=1.0, metallic=0, emission=(1, 1, 1))


def moving(speed):
    """A card of side 2 that moves to the right by units a second, at x = 0 at second 0."""
    times = np.float32([-4, 4])
    way = np.float32([[-4 * speed, 0, 0], [4 * speed, 0, 0]])
    nodes = (
        Node("card", meshes=(board(2.0, material=GLOW),)),
        Node("eye", translation=(0, 0, 4), camera=Camera("eye", float(lens_angle()), None, 0.1, None)),
    )
    return Scene("s", nodes, (Motion(0, "translation", "LINEAR", times, way),))


def lens_angle():
    return 2 * np.arctan(HEIGHT / 2 / PIXELS_A_UNIT / 4)


def setup(**more):
    return parse_setup(
        {"rate": "10", "width": WIDTH, "height": HEIGHT, "samples": 64, "passes": ["beauty"], **more}
    )


@pytest.mark.parametrize(("opens", "begin"), [("around", -5.0), ("at", 0.0)])
def test_a_moving_edge_covers_each_pixel_as_long_as_it_is_there(opens, begin):
    """At 10 pixels a shutter time the edge's alpha is a ramp of 10 pixels (analytic)."""
    # 10 frames a second, half a frame open: 20 pixels a frame
    scene = moving(speed=20 * 10 / PIXELS_A_UNIT)
    got = render_frame(scene, setup(shutter={"opens": opens, "samples": 32}), 1)
    row = got["A"][HEIGHT // 2]
    left = WIDTH / 2 - PIXELS_A_UNIT + begin
    x = np.arange(WIDTH) + 0.5
    expected = np.clip((x - left) / 10, 0, 1) - np.clip((x - left - 40) / 10, 0, 1)
    np.testing.assert_allclose(row, expected, atol=0.04)
    assert got["R"].sum() == pytest.approx(40 * 40, rel=2e-3), "blur moves light, it makes none"
    still = render_frame(scene, setup(), 1)["A"][HEIGHT // 2]
    assert set(np.unique(still.round(3))) <= {0, 0.5, 1}


def test_data_of_a_blurred_frame_is_that_of_its_middle():
    """What is never mixed is taken at one moment."""
    scene = moving(speed=20 * 10 / PIXELS_A_UNIT)
    rows = setup(passes=["position", "motion", "alpha"], shutter={"samples": 9}, samples=36)
    got = render_frame(scene, rows, 1)
    whole = got["A"] == 1
    np.testing.assert_allclose(got["motion.X"][whole], 20, atol=0.01)
    x = (np.arange(WIDTH) + 0.5 - WIDTH / 2) / PIXELS_A_UNIT
    np.testing.assert_allclose(
        got["position.X"][HEIGHT // 2][whole[HEIGHT // 2]], x[whole[HEIGHT // 2]], atol=0.03
    )


def test_a_point_out_of_focus_is_a_disc_of_the_size_that_optics_say():
    """Opening * |distance - focus| / focus, in the plane of the object (thin lens, Hecht 5.2)."""
    small = 0.05
    world = World(Scene("s", (Node("dot", meshes=(board(small, material=GLOW),)),)))
    at = np.eye(4)
    at[2, 3] = 4
    camera = Camera("c", float(lens_angle()), None, 0.1, None)
    sharp = Focus(8.0, 1.0)
    view = lens().of(camera, at, WIDTH, HEIGHT, sharp)
    got = render(world, view, ["beauty"], Sampling(1024))["R"]
    # seen at 4 while sharp at 8: a disc of opening * 4 / 8 units, 20 pixels a unit
    across = 1.0 * 4 / 8 * PIXELS_A_UNIT
    y, x = np.nonzero(got > 0)
    blur = small * PIXELS_A_UNIT
    assert x.max() - x.min() + 1 == pytest.approx(across + blur, abs=1.5)
    assert y.max() - y.min() + 1 == pytest.approx(across + blur, abs=1.5)
    assert got.sum() == pytest.approx(blur**2, rel=0.1)
    assert (got > 0).sum() == pytest.approx(np.pi * ((across + blur) / 2) ** 2, rel=0.25), (
        "a disc, not a square"
    )


def test_at_the_distance_that_is_sharp_nothing_is_blurred():
    world = World(Scene("s", (Node("card", meshes=(board(2.0, material=GLOW),)),)))
    at = np.eye(4)
    at[2, 3] = 4
    view = lens().of(Camera("c", float(lens_angle()), None, 0.1, None), at, WIDTH, HEIGHT, Focus(4.0, 1.0))
    got = render(world, view, ["beauty", "depth"], Sampling(16))
    plain = render(world, lens(), ["beauty", "depth"], Sampling(16))
    np.testing.assert_allclose(got["A"], plain["A"], atol=1e-6)
    np.testing.assert_allclose(got["depth.Z"], plain["depth.Z"], rtol=1e-5)


def test_samples_are_taken_where_the_noise_asks_for_them():
    world = World(Scene("s", scene_of_everything()))
    light = Illumination()
    full = rgb(render(world, lens(), ["beauty"], Sampling(256), light=light))
    coarse = rgb(render(world, lens(), ["beauty"], Sampling(256, noise=1.0), light=light))
    fine = rgb(render(world, lens(), ["beauty"], Sampling(256, noise=0.01), light=light))
    eight = rgb(render(world, lens(), ["beauty"], Sampling(8), light=light))
    np.testing.assert_array_equal(coarse, eight), "a high threshold is content with the first round"
    screen = [np.sqrt(v) for v in (full, eight, fine)]
    errors = [np.sqrt(((s - screen[0]) ** 2).mean()) for s in screen]
    assert errors[2] < 0.012
    assert errors[2] < errors[1] / 1.5


def test_many_moments_that_stand_still_are_one():
    world = World(Scene("s", scene_of_everything()))
    alone = render(world, lens(), ["beauty", "depth", "masks", "ids"], Sampling(8), {"plate": 1})
    both = render_moments(
        [Moment(world, lens()), Moment(world, lens())], ["beauty", "masks", "ids"], Sampling(8),
        PassSettings({"plate": 1}),
    )  # fmt: skip
    for name in both.planes:
        np.testing.assert_allclose(both[name], alone[name], atol=1e-6, err_msg=name)


def test_a_picture_that_is_not_wanted_any_more_is_left():
    world = World(Scene("s", scene_of_everything()))
    with pytest.raises(Cancelled):
        render_moments([Moment(world, lens())], ["beauty"], Sampling(4), cancelled=lambda: True)


def test_a_part_of_the_frame_is_that_part_of_the_whole():
    world = World(Scene("s", scene_of_everything()))
    names = ["beauty", "depth", "occlusion", "masks"]
    moments = [Moment(world, lens())]
    whole = render_moments(moments, names, Sampling(4), PassSettings({"plate": 1}))
    box = Box(70, 30, 110, 61)
    part = render_moments(moments, names, Sampling(4), PassSettings({"plate": 1}), window=box)
    assert (part.data_window, part.display_window) == (box, whole.display_window)
    for name in whole.planes:
        np.testing.assert_allclose(part[name], whole[name][30:61, 70:110], atol=1e-6, err_msg=name)
