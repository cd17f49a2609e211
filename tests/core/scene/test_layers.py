"""Objects apart: layers, holdouts, caught shadows, and the true composite they are scored against."""

import numpy as np
import pytest
from core.scene.test_lighting import board, lamp, rgb
from core.scene.test_passes import HEIGHT, PIXELS_A_UNIT, WIDTH, lens
from core.scene.test_shutter import lens_angle
from neatveil import arrays
from neatveil.alpha import read
from neatveil.errors import DocumentRefused, SceneRefused, ValueRefused
from neatveil.scene.frames import render_frame, render_layer
from neatveil.scene.illumination import Illumination
from neatveil.scene.model import Camera, Light, Material, Node, Scene
from neatveil.scene.object_roles import ObjectRoles
from neatveil.scene.plate import Plate
from neatveil.scene.render_layers import render_layers_of
from neatveil.scene.render_tiles import Sampling, render
from neatveil.scene.setup import parse_setup
from neatveil.scene.world import World

PLATE = np.random.default_rng(3).random((HEIGHT, WIDTH, 3)).astype(np.float32)


def glow(red, green, blue):
    return Material("glow", (0, 0, 0), ior=1.0, metallic=0, emission=(red, green, blue))


def three_cards():
    """Three glowing cards one behind the other, each shifted to the right."""
    eye = Node("eye", translation=(0, 0, 4), camera=Camera("eye", float(lens_angle()), None, 0.1, None))
    cards = [
        Node(name, meshes=(board(2.13, z=-i, x=i * 0.77, material=glow(*colour)),))
        for i, (name, colour) in enumerate([("near", (1, 0, 0)), ("middle", (0, 1, 0)), ("far", (0, 0, 1))])
    ]
    return Scene("cards", (*cards, eye))


LAYERS = [{"name": n, "objects": [n]} for n in ("near", "middle", "far")]


def setup(**more):
    return parse_setup(
        {"rate": "25", "width": WIDTH, "height": HEIGHT, "samples": 16, "passes": ["beauty"], **more}
    )


def pictures(scene, rows):
    return [render_layer(scene, rows, s, 1, lambda n, f: PLATE) for s in render_layers_of(scene, rows)]


def test_held_out_layers_add_up_to_the_whole():
    """Each nearer shape is cut out of what is behind: shares of a pixel that add up (plus)."""
    scene = three_cards()
    whole = render_frame(scene, setup(), 1)
    parts = pictures(scene, setup(layers=LAYERS))
    assert len(parts) == 3
    for name in "RGBA":
        np.testing.assert_allclose(sum(p[name] for p in parts), whole[name], atol=1e-6)


def test_whole_layers_are_rendered_as_if_alone():
    scene = three_cards()
    parts = pictures(scene, setup(layers=LAYERS, holdout="whole"))
    for part, row in zip(parts, ("near", "middle", "far"), strict=True):
        alone = Scene("alone", tuple(n for n in scene.nodes if n.name in {row, "eye"}))
        np.testing.assert_array_equal(part["A"], render_frame(alone, setup(), 1)["A"])
    # laid over each other they are the whole, but for pixels that edges share
    near, middle, far = (read(p, setup().reading, "linear").rgba() for p in parts)
    laid = arrays.merge("over", near, arrays.merge("over", middle, far))
    whole = read(render_frame(scene, setup(), 1), setup().reading, "linear").rgba()
    assert np.abs(laid - whole).max() < 0.26
    assert (np.abs(laid - whole) < 1e-6).mean() > 0.97


def test_layers_that_are_not_rendered_and_flattened_ones():
    scene = three_cards()
    off = [LAYERS[0], {**LAYERS[1], "render": False}, LAYERS[2]]
    assert [s.layer for s in render_layers_of(scene, setup(layers=off))] == ["near", "far"]
    flat = pictures(scene, setup(layers=off, flattened=True))
    assert len(flat) == 1
    assert flat[0]["G"].max() == 0
    assert flat[0]["B"].max() == 1
    with pytest.raises(SceneRefused, match="None of the layers"):
        render_layers_of(scene, setup(layers=[{**LAYERS[0], "render": False}]))
    with pytest.raises(SceneRefused, match="no object kite"):
        render_layers_of(scene, setup(layers=[{"name": "a", "objects": ["kite"]}]))
    with pytest.raises(DocumentRefused, match="one layer only"):
        setup(layers=[LAYERS[0], {"name": "b", "objects": ["near"]}])
    with pytest.raises(DocumentRefused, match="two layers are called near"):
        setup(layers=[LAYERS[0], LAYERS[0]])


def shadow_scene():
    """A sun over a card before a wall; the wall stands in for one in the plate."""
    grey = Material("grey", (0.5, 0.5, 0.5), metallic=0, roughness=1, ior=1.0)
    sun = Light("sun", "directional", (1, 1, 1), np.pi)
    nodes = (
        Node("wall", meshes=(board(),)),
        Node("card", meshes=(board(1.0, z=1.0, material=grey),)),
        lamp(sun, turn=(0, np.radians(-45), 0)),
    )
    return Scene("s", nodes)


def caught(passes, casting=ObjectRoles(catchers=frozenset({"wall"})), **light):  # noqa: B008
    world = World(shadow_scene(), casting=casting)
    return render(world, lens(), passes, Sampling(16), light=Illumination(indirect=False, **light))


def test_a_catcher_is_not_seen_but_its_shadow_is():
    got = caught(["beauty", "caught", "depth", "ids"])
    seen = got["A"] > 0
    # the card itself: side 1 at distance 3 of 4
    assert got["A"].sum() == pytest.approx((PIXELS_A_UNIT * 4 / 3) ** 2, rel=0.01)
    # its shadow: side 1 on the wall, shifted by the height over the wall (45 degrees)
    x = (np.arange(WIDTH) + 0.5 - WIDTH / 2) / PIXELS_A_UNIT
    row = got["caught.A"][HEIGHT // 2]
    inside = (x > 0.68) & (x < 1.45)
    assert (row[inside] == 1).all()
    assert row[np.abs(x) > 1.6].max() == 0
    assert not got["caught.A"][seen & (got["A"] == 1)].any()


def test_caught_shadows_go_into_the_alpha_where_asked():
    scene = three_cards()
    nodes = (*scene.nodes, lamp(Light("sun", "directional", (1, 1, 1), 3.0), turn=(0, -0.6, 0)))
    scene = Scene("cards", nodes)
    apart = render_frame(scene, setup(shadow_catchers=["far"], passes=["beauty", "caught"]), 1)
    joined = render_frame(scene, setup(shadow_catchers=["far"], shadows="in-alpha"), 1)
    assert set(joined.planes) == set("RGBA")
    assert apart["caught.A"].sum() > 50
    np.testing.assert_allclose(joined["A"], apart["A"] + apart["caught.A"], atol=1e-6)
    np.testing.assert_array_equal(joined["R"], apart["R"])


def test_the_true_composite_is_what_laying_over_gives():
    """B + P (1 - a) without glass (Porter & Duff 1984), shadows as black."""
    plate = Plate(PLATE)
    got = caught(["beauty", "caught", "composite"], plate=plate)
    meant = rgb(got) + PLATE * (1 - got["A"] - got["caught.A"])[..., None]
    np.testing.assert_allclose(rgb(got, "composite"), meant, atol=2e-5)


def test_what_passes_need_is_said():
    scene = three_cards()
    with pytest.raises(ValueRefused, match="needs a shadow catcher"):
        render_frame(scene, setup(passes=["caught"]), 1)
    with pytest.raises(ValueRefused, match="needs a plate"):
        render_frame(scene, setup(passes=["composite"]), 1)
