"""How much sky a surface sees, against configuration factors in closed form."""

import numpy as np
import pytest
from core.scene.test_lighting import CHALK, board, shown
from core.scene.test_passes import HEIGHT, PIXELS_A_UNIT, WIDTH
from neatveil.scene.model import Mesh, Node


def test_a_plane_under_an_open_sky_sees_all_of_it():
    got = shown(["occlusion"], Node("floor", meshes=(board(),)), samples=16)["occlusion.Y"]
    assert got.min() == 1


def test_nothing_is_not_dark():
    got = shown(["occlusion", "alpha"], Node("card", meshes=(board(1.0),)), samples=4)
    assert (got["occlusion.Y"][got["A"] == 0] == 1).all()


def test_beside_a_wall():
    """A long wall of height h at distance d hides (1 - d / sqrt(d^2 + h^2)) / 2 of the sky.

    Howell, A Catalog of Radiation Heat Transfer Configuration Factors: differential element to an
    infinitely long strip square to it; from memory.
    """
    height, left = 1.5, -2.0
    # the floor lies in the picture's plane; the wall stands on it, towards the camera
    corners = np.float32([[left, -900, 0], [left, 900, 0], [left, 900, height], [left, -900, height]])
    order = np.array([[0, 1, 2], [0, 2, 3]], np.int32)
    wall = Mesh("wall", corners, np.tile(np.float32([1, 0, 0]), (4, 1)), None, order, CHALK)
    nodes = Node("floor", meshes=(board(60),)), Node("wall", meshes=(wall,))
    got = shown(["occlusion"], *nodes, samples=64)["occlusion.Y"].mean(axis=0)
    x = (np.arange(WIDTH) + 0.5 - WIDTH / 2) / PIXELS_A_UNIT
    distance = x - left
    # left of the wall's foot the wall itself is seen, and its shape in perspective
    for column in np.flatnonzero(distance > 0.1)[::8]:
        d = distance[column]
        hidden = (1 - d / np.hypot(d, height)) / 2
        assert got[column] == pytest.approx(1 - hidden, abs=0.012)


def lid(radius, x, z):
    turn = np.linspace(0, 2 * np.pi, 181)[:-1]
    rim = np.stack([x + radius * np.cos(turn), radius * np.sin(turn), np.full(180, z)], axis=1)
    points = np.concatenate([[[x, 0, z]], rim]).astype(np.float32)
    i = np.arange(180)
    order = np.stack([np.zeros(180, int), i + 1, (i + 1) % 180 + 1], axis=1).astype(np.int32)
    mesh = Mesh("lid", points, np.tile(np.float32([0, 0, 1]), (181, 1)), None, order, CHALK)
    return Node("lid", meshes=(mesh,))


def test_under_a_disc():
    """A disc of radius r straight above at height h hides r^2 / (r^2 + h^2) of the sky (textbook)."""
    floor = Node("floor", meshes=(board(60),))
    got = shown(["occlusion", "depth"], floor, lid(0.5, 3.0, 1.0), samples=64)
    # the camera sees the spot under the disc's middle past the disc's edge
    column, row = int(WIDTH / 2 + 3 * PIXELS_A_UNIT), HEIGHT // 2
    assert got["depth.Z"][row, column] == pytest.approx(4, abs=1e-3)
    found = got["occlusion.Y"][row - 2 : row + 3, column - 2 : column + 2].mean()
    assert found == pytest.approx(1 - 0.25 / 1.25, abs=0.01)


def test_what_lies_behind_a_floor_hides_nothing():
    floor = Node("floor", meshes=(board(60),))
    assert shown(["occlusion"], floor, lid(0.8, 0, -1.0), samples=4)["occlusion.Y"].min() == 1
