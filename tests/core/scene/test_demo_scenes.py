"""The demo's five scenes laid into comps by their own set-ups: each is the renderer's own composite of it."""

import numpy as np
import pytest
from core.scene.test_pass_stack import HEIGHT, PLATE, WIDTH, close, drawn, laid, rebuilt, truth
from ferrow_marsh.scenes.dusk import dusk_sky
from ferrow_marsh.scenes.setups import SCENES, SKY
from neatveil.comp.tree import walk
from neatveil.io import LocalDecoder
from neatveil.scene import read_scene
from neatveil.scene.pictures import LocalPictures
from neatveil.scene.setup import parse_setup

LANTERN = SCENES[0].file
#: Of each scene the set-up with the lighting passes, and the one with a layer for each goose.
CASES = {s.file: (s, next(iter(s.setups))) for s in SCENES}
CASES["geese.glb, one layer each"] = (SCENES[4], "Geese, one layer each")


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    folder = tmp_path_factory.mktemp("scenes")
    dusk_sky(folder / SKY)
    for scene in SCENES:
        scene.write(folder / scene.file)
    return folder


def rendered(folder, case, out, backdrop=PLATE):
    """The comp of a demo scene at the size of the tests' plate, and the true composite."""
    scene, name = CASES[case]
    small = {"width": WIDTH, "height": HEIGHT, "samples": 9, "first": 1, "last": 1, "indirect": False}
    setup = parse_setup({**scene.setups[name], **small})
    pictures = LocalPictures(LocalDecoder(), folder, setup)
    scene = read_scene(folder / scene.file)
    comp = laid(out, scene, setup, pictures=pictures, backdrop=backdrop)
    return comp, truth(scene, setup, pictures, backdrop)


def both_ways(comp):
    ways = [drawn(comp)]
    if any(getattr(x, "alternatives", ()) for x in walk(comp.layers)):
        ways.append(drawn(rebuilt(comp)))
    return ways


@pytest.mark.parametrize("case", [c for c in CASES if c != LANTERN])
def test_the_comp_is_the_true_composite(folder, tmp_path, case):
    """Over noise, the hardest plate; the shadows of three geese that fall on one another are dark once."""
    comp, whole = rendered(folder, case, tmp_path)
    assert np.abs(whole - PLATE).max() > 0.2, "something stands before the plate"
    for got in both_ways(comp):
        close(got, whole, 1 / 255, 4 / 255)


def test_tinted_glass_is_true_but_for_its_tint_and_what_it_bends(folder, tmp_path):
    """One alpha is the mean of what three channels let through, and does not bend: over even grey the mean of
    the channels is the true one, and each of them is as near as the glass is grey.
    """
    grey = np.full_like(PLATE, 0.4)
    comp, whole = rendered(folder, LANTERN, tmp_path, grey)
    for got in both_ways(comp):
        close(got[..., :3].mean(axis=-1, keepdims=True), whole.mean(axis=-1, keepdims=True), 1 / 255, 4 / 255)
        close(got, whole, 1 / 255, 10 / 255)
