"""A rendered set laid into a comp as one group, in every format: the beauty, rebuilt, and over a plate.

The truth is the pass renderer's composite of the whole scene before the plate.
"""

import numpy as np
import pytest
from core.scene.test_layers import LAYERS, PLATE, glow, shadow_scene, three_cards
from core.scene.test_lighting import board, lamp
from core.scene.test_passes import HEIGHT, WIDTH
from neatveil.comp import Carried, Comp, Element, Layer
from neatveil.comp.tree import walk
from neatveil.errors import ValueRefused
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.picture import StoredPicture
from neatveil.scene.frames import render_frame
from neatveil.scene.model import Camera, Light, Node, Scene
from neatveil.scene.output import written_of
from neatveil.scene.pass_stack import RenderedElement, carried_channels, pass_stack
from neatveil.scene.render_layers import render_layers_of
from neatveil.scene.rendering import render_range
from neatveil.scene.setup import parse_setup

LIGHT = ["diffuse", "reflection", "transmission", "emission"]


def lit_cards():
    """Glowing cards in the light of a sun, the far one a catcher of shadows."""
    eye = next(n for n in three_cards().nodes if n.camera)
    grey = shadow_scene().nodes[1].meshes[0]
    sun = lamp(Light("sun", "directional", (1, 0.9, 0.8), np.pi), turn=(0, np.radians(-25), 0))
    cards = [
        Node("near", meshes=(board(1.1, z=0.6, x=-0.4, material=glow(0.2, 0.1, 0.4)),)),
        Node("card", meshes=(grey,), translation=(0.4, 0.1, 0)),
        Node("far", meshes=(board(4.0, z=-0.6),)),
    ]
    return Scene("lit", (*cards, eye, sun))


def setup(passes, format_name="exr", **more):
    output = {"format": format_name, "dither": False, **more.pop("output", {})}
    given = {
        "rate": "25",
        "width": WIDTH,
        "height": HEIGHT,
        "samples": 16,
        "passes": passes,
        "output": output,
    }
    return parse_setup({**given, **more})


def laid(folder, scene, rows, *, plate=True, pictures=None, backdrop=PLATE):
    """The comp of a render over the plate, as files."""
    render_range(scene, rows, [1], folder, pictures=pictures)
    oiio_writing.write(
        folder / "plate.exr", StoredPicture(dict(zip("RGB", np.moveaxis(backdrop, 2, 0), strict=True))),
        sample="float", alpha_straight=False, encoding="linear", compression="zip",
    )  # fmt: skip
    written = [w for s in reversed(render_layers_of(scene, rows)) for w in written_of(scene, rows, s)]
    rendered = [RenderedElement(w, f"e{i}", w.name) for i, w in enumerate(written)]
    decoder = LocalDecoder()
    files = {r.key: str(folder / r.written.pattern) for r in rendered}
    carried = carried_channels(rendered, lambda r: [c.name for c in decoder.probe(files[r.key]).channels])
    elements = {
        r.key: Element(
            name=r.name or "all", file=files[r.key], first=1, last=1,
            reading=r.written.reading, encoding=r.written.encoding,
            joined=[
                Carried(name=c.name, file=files[c.source.key], channel=c.channel, first=1, last=1, data=True)
                for c in carried.get(r.key, [])
            ],
        )
        for r in rendered
    }  # fmt: skip
    none = {"alpha": "none"}
    elements["plate"] = Element(file=str(folder / "plate.exr"), still=True, encoding="linear", reading=none)
    layers = [Layer(id="plate", name="plate", element="plate")] if plate else []
    layers.append(pass_stack(rows, rendered, "cards", {"plate"}))
    return Comp(width=WIDTH, height=HEIGHT, elements=elements, layers=tuple(layers))


def drawn(comp):
    return Evaluator(LocalDecoder()).picture(comp, 1).rgba()


def rebuilt(comp):
    """The other of the two ways to the picture."""
    stack = next(x for x in walk(comp.layers) if getattr(x, "alternatives", ()))
    beauty, passes = stack.alternatives
    return comp.with_layer(beauty, {"shown": False}).with_layer(passes, {"shown": True})


def truth(scene, rows, pictures=None, backdrop=PLATE):
    whole = rows.model_copy(update={"layers": (), "passes": ("composite",), "plate": "plate"})
    picture = render_frame(scene, whole, 1, lambda n, f: backdrop if n == "plate" else pictures(n, f))
    return np.stack([picture[f"composite.{c}"] for c in "RGB"], -1)


def close(got, expected, mean, most):
    off = np.abs(got[..., :3] - expected)
    assert off.mean() < mean
    assert np.quantile(off, 0.999) < most


@pytest.mark.parametrize("format_name", ["exr", "exr-each", "png16"])
def test_the_beauty_and_its_passes_added_up_are_the_true_composite(tmp_path, format_name):
    passes = ["beauty", *LIGHT, "occlusion", "shadow", "depth"]
    rows = setup(passes, format_name, output={"depth_range": [0, 9]})
    scene = lit_cards()
    comp = laid(tmp_path, scene, rows)
    whole = truth(scene, rows)
    # the files hold half floats, or codes of 16 bits
    close(drawn(comp), whole, 1 / 255, 4 / 255)
    again = drawn(rebuilt(comp))
    close(again, whole, 1 / 255, 4 / 255)
    assert np.abs(again - drawn(comp)).max() < 2e-3, "half floats are added"


@pytest.mark.parametrize("format_name", ["exr", "exr-each"])
def test_caught_shadows_darken_the_plate_exactly(tmp_path, format_name):
    """``beauty + plate * (1 - alpha - caught)``."""
    rows = setup(["beauty", "caught"], format_name, shadow_catchers=["far"], indirect=False)
    scene = lit_cards()
    comp = laid(tmp_path, scene, rows)
    picture = render_frame(scene, rows, 1)
    left = 1 - picture["A"] - picture["caught.A"]
    expected = np.stack([picture[c] for c in "RGB"], -1) + PLATE * left[..., None]
    assert picture["caught.A"].sum() > 20, "there is a shadow"
    np.testing.assert_allclose(drawn(comp)[..., :3], expected, atol=1e-3)
    close(drawn(comp), truth(scene, rows), 1 / 255, 4 / 255)


def crossing_cards():
    """Two cards that stand in one another, so that each is in front somewhere."""
    eye = Node("eye", translation=(0, 0, 4), camera=Camera("eye", 0.8, None, 0.1, None))
    half = np.radians(20) / 2
    turns = {"left": half, "right": -half}
    colours = {"left": (1, 0.2, 0), "right": (0, 0.3, 1)}
    cards = [
        Node(
            n,
            translation=(0.037, 0, 0),  # they meet within a pixel, not between two
            rotation=(0, float(np.sin(turn)), 0, float(np.cos(turn))),
            meshes=(board(2.0, material=glow(*colours[n])),),
        )
        for n, turn in turns.items()
    ]
    return Scene("crossing", (*cards, eye))


@pytest.mark.parametrize("scene", [three_cards(), crossing_cards()])
def test_cut_out_layers_join_exactly_and_laid_over_they_leave_seams(tmp_path, scene):
    names = [n.name for n in scene.nodes if n.meshes]
    layers = [{"name": n, "objects": [n]} for n in names]
    rows = setup(["beauty"], layers=layers)
    comp = laid(tmp_path, scene, rows)
    whole = truth(scene, rows)
    close(drawn(comp), whole, 1e-4, 2e-3)
    group = comp.layers[1]
    over = tuple(x.model_copy(update={"operator": "over"}) for x in group.layers)
    seams = drawn(comp.with_layer(group.id, {"layers": over}))
    assert np.abs(seams[..., :3] - whole).max() > 0.02, "the seams that let the plate through"


def test_whole_layers_lie_over_each_other_in_their_order(tmp_path):
    rows = setup(["beauty"], layers=LAYERS, holdout="whole")
    comp = laid(tmp_path, three_cards(), rows)
    group = comp.layers[1]
    assert [x.name for x in group.layers] == ["far", "middle", "near"]
    assert {x.operator for x in group.layers} == {"over"}
    close(drawn(comp), truth(three_cards(), rows), 2 / 255, 0.3)


def test_shadow_and_occlusion_are_multiplied_inside_the_alpha(tmp_path):
    rows = setup(["beauty", "occlusion"], "exr-each")
    comp = laid(tmp_path, lit_cards(), rows)
    occlusion = next(x for x in walk(comp.layers) if x.name == "occlusion")
    assert not occlusion.shown
    on = drawn(comp.with_layer(occlusion.id, {"shown": True}))
    picture = render_frame(lit_cards(), rows, 1)
    beauty = np.stack([picture[c] for c in "RGB"], -1) * picture["occlusion.Y"][..., None]
    expected = beauty + PLATE * (1 - picture["A"])[..., None]
    np.testing.assert_allclose(on[..., :3], expected, atol=2e-3)


def test_data_is_no_layer_but_is_carried_by_the_beauty(tmp_path):
    rows = setup(["beauty", "depth", "normals"], "exr-each")
    scene = lit_cards()
    comp = laid(tmp_path, scene, rows, plate=False)
    assert [x.name for x in walk(comp.layers)] == ["cards", "beauty"]
    assert [c.name for c in comp.elements["e0"].joined] == ["depth.Z", "normal.X", "normal.Y", "normal.Z"]
    written = [w for s in render_layers_of(scene, rows) for w in written_of(scene, rows, s)]
    rendered = [RenderedElement(w, f"e{i}", w.name) for i, w in enumerate(written)]
    with pytest.raises(ValueRefused, match="no pass that is a picture"):
        pass_stack(rows, rendered[1:], "a")


def test_what_the_passes_lack_of_the_beauty_is_said(tmp_path):
    glare = {"strength": 0.2, "size": 0.1, "over": 0.5}
    comp = laid(tmp_path, lit_cards(), setup(["beauty", "diffuse", "emission"], glare=glare))
    names = [x.name for x in walk(comp.layers)]
    assert "lighting passes without reflection, transmission, glare" in names


def test_without_a_beauty_the_passes_are_added_inside_the_alpha_pass(tmp_path):
    rows = setup([*LIGHT, "alpha"], "exr-each")
    scene = lit_cards()
    comp = laid(tmp_path, scene, rows)
    close(drawn(comp), truth(scene, rows), 1 / 255, 4 / 255)
