"""Surfaces that cover only a share: coverages multiply, cut-outs cut."""

import numpy as np
import pytest
from core.scene.test_lighting import board, shown
from core.scene.test_passes import WIDTH
from neatveil.scene.model import Material, Node, Texture


def sheet(alpha, **more):
    return Material("sheet", (1, 1, 1), alpha=alpha, blended=True, emission=(1, 1, 1), **more)


@pytest.mark.parametrize("count", [1, 2, 3, 6])
@pytest.mark.parametrize("alpha", [0.5, 0.2])
def test_equal_sheets(count, alpha):
    """n sheets of coverage a cover 1 - (1 - a)^n."""
    nodes = [Node(f"n{i}", meshes=(board(z=-0.3 * i, material=sheet(alpha)),)) for i in range(count)]
    got = shown(["alpha", "beauty"], *nodes, samples=64)
    assert got["A"].mean() == pytest.approx(1 - (1 - alpha) ** count, abs=2e-3)
    np.testing.assert_allclose(got["R"], got["A"], atol=1e-6)


def test_what_is_behind_shows_through_by_its_share():
    front, back = sheet(0.3), Material("back", emission=(0, 1, 0))
    nodes = Node("front", meshes=(board(material=front),)), Node("back", meshes=(board(z=-1, material=back),))
    got = shown(["beauty", "depth", "masks"], *nodes, samples=64)
    assert got["A"].min() == 1
    assert got["R"].mean() == pytest.approx(0.3, abs=2e-3)
    assert got["G"].mean() == pytest.approx(1.0, abs=2e-3)
    assert set(np.unique(got["depth.Z"].round(3))) == {4, 5}


def test_a_cut_out_follows_its_texture():
    """Left half alpha 0.4, right half 0.6, cut at 0.5."""
    pixels = np.ones((2, 2, 4), np.float32)
    pixels[:, 0, 3], pixels[:, 1, 3] = 0.4, 0.6
    art = Texture("art", pixels, nearest=True)
    cut = Material("cut", colour_texture=art, cutout=0.5)
    uv = np.float32([[0, 1], [1, 1], [1, 0], [0, 0]])
    got = shown(["alpha"], Node("leaf", meshes=(board(uv=uv, material=cut),)), samples=4)["A"]
    assert not got[:, : WIDTH // 2].any()
    assert got[:, WIDTH // 2 :].min() == 1


def test_an_opaque_material_ignores_its_alpha():
    solid = Material("solid", alpha=1.0, colour_texture=Texture("t", np.zeros((1, 1, 4), np.float32)))
    uv = np.zeros((4, 2), np.float32)
    assert shown(["alpha"], Node("wall", meshes=(board(uv=uv, material=solid),)))["A"].min() == 1
