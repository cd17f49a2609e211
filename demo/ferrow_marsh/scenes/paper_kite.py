"""The paper kite: thin and two-sided, turning fast in the wind, with a tail of bows.

Written by ``python -m ferrow_marsh.scenes.paper_kite FILE.glb``.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw

from .gltf import Glb
from .shapes import Shape, sheet, tube
from .turns import about, looking, times, towards

SECONDS = 48 / 25
#: Corners: above, left, below, right.
CORNERS = [(0.0, 0.55, 0.0), (-0.42, 0.12, 0.04), (0.0, -0.75, 0.0), (0.42, 0.12, 0.04)]


def paper(size: int = 512) -> NDArray[np.uint8]:
    """Four fields of colour, a spar's shadow along each edge between them."""
    image = Image.new("RGB", (size, size), (214, 74, 52))
    draw = ImageDraw.Draw(image)
    middle = size * 0.33
    draw.polygon([(0, 0), (size / 2, 0), (size / 2, middle), (0, middle)], fill=(240, 190, 70))
    draw.polygon([(size / 2, middle), (size, middle), (size, size), (size / 2, size)], fill=(240, 190, 70))
    draw.line([(size / 2, 0), (size / 2, size)], fill=(120, 50, 36), width=8)
    draw.line([(0, middle), (size, middle)], fill=(120, 50, 36), width=8)
    draw.ellipse([size / 2 - 44, middle - 44, size / 2 + 44, middle + 44], fill=(250, 240, 220))
    return np.asarray(image)


def _uv(corner: tuple[float, float, float]) -> tuple[float, float]:
    return (corner[0] + 0.42) / 0.84, (0.55 - corner[1]) / 1.30


def _sail() -> Shape:
    """Two halves that meet at the spar, bent back by the wind."""
    top, left, low, right = CORNERS
    halves = [[top, left, low], [top, low, right]]
    return sheet(halves[0], [_uv(c) for c in halves[0]]) + sheet(halves[1], [_uv(c) for c in halves[1]])


def _bow(x: float, y: float) -> Shape:
    left = [(x, y, 0.0), (x - 0.09, y + 0.045, 0.0), (x - 0.09, y - 0.045, 0.01)]
    right = [(x, y, 0.0), (x + 0.09, y - 0.045, 0.0), (x + 0.09, y + 0.045, 0.01)]
    corners = [(0.0, 0.0), (1.0, 0.0), (0.5, 1.0)]
    return sheet(left, corners) + sheet(right, corners)


def paper_kite(path: Path) -> Path:
    """Write the scene: two turns and a sweep across the frame in `SECONDS`."""
    glb = Glb()
    art = {"index": glb.picture(paper(), "kite paper")}
    sides = {"doubleSided": True}
    sail = glb.material(
        "paper",
        pbrMetallicRoughness={"baseColorTexture": art, "metallicFactor": 0, "roughnessFactor": 0.8},
        **sides,
    )
    cloth = glb.material(
        "cloth", pbrMetallicRoughness={"baseColorFactor": [0.16, 0.32, 0.5, 1], "metallicFactor": 0}, **sides
    )
    line = glb.matt("line", [0.6, 0.55, 0.45])
    sweep = [(0.10 * np.sin(3.2 * s), -0.75 - 0.95 * s, 0.02 * np.sin(9 * s)) for s in np.linspace(0, 1, 24)]
    spar = [(0.0, 0.55, -0.012), (0.0, -0.75, -0.012)]
    across = [(-0.42, 0.12, 0.03), (0.0, 0.12, -0.012), (0.42, 0.12, 0.03)]
    sticks = tube(spar, [0.011, 0.011], 10) + tube(across, [0.009] * 3, 10)
    bows = (
        _bow(sweep[6][0], sweep[6][1]) + _bow(sweep[13][0], sweep[13][1]) + _bow(sweep[20][0], sweep[20][1])
    )
    kite = glb.node(
        "kite",
        children=[
            glb.node("sail", mesh=glb.mesh(_sail(), sail, "sail")),
            glb.node("sticks", mesh=glb.mesh(sticks, line, "sticks")),
            glb.node("tail", mesh=glb.mesh(tube(sweep, [0.006] * 24, 8), line, "tail")),
            glb.node("bows", mesh=glb.mesh(bows, cloth, "bows")),
        ],
    )
    moments = np.linspace(0, SECONDS, 97)
    share = moments / SECONDS
    spin = about([0, 1, 0], 4 * np.pi * share)
    lean = about([0, 0, 1], -0.5 + 0.35 * np.sin(2 * np.pi * share))
    glb.move(kite, "rotation", moments, times(lean, spin))
    place = np.stack(
        [-1.1 + 2.2 * share, 0.45 + 0.35 * np.sin(2 * np.pi * share), -0.4 * np.cos(np.pi * share)], 1
    )
    glb.move(kite, "translation", moments, place)
    eye = [0.0, -0.5, 4.1]
    glb.camera("camera", 0.62, translation=eye, rotation=looking([0.0, 0.1, 0.0], eye))
    glb.light("dusk sun", "directional", 4.5, (1.0, 0.75, 0.52), rotation=towards([0.8, -0.25, -0.5]))
    glb.light("sky", "directional", 1.0, (0.55, 0.68, 1.0), rotation=towards([-0.2, -0.9, -0.6]))
    return glb.write(path)


if __name__ == "__main__":
    paper_kite(Path(sys.argv[1]))
