"""A stool and a basket on the shore: soft contact shadows, and ground that catches a cast one.

Written by ``python -m ferrow_marsh.scenes.shore_stool FILE.glb``.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

from .gltf import Glb
from .shapes import Shape, box, lathe, tube
from .turns import looking, towards


def _legs() -> Shape:
    whole = None
    for turn in np.radians([30, 150, 270]):
        foot = (0.26 * np.cos(turn), 0.0, 0.26 * np.sin(turn))
        head = (0.15 * np.cos(turn), 0.44, 0.15 * np.sin(turn))
        leg = tube([foot, head], [0.026, 0.020], 16)
        whole = leg if whole is None else whole + leg
    assert whole is not None
    return whole


def _seat() -> Shape:
    rim = [
        (0.0, 0.435),
        (0.20, 0.435),
        (0.235, 0.44),
        (0.245, 0.455),
        (0.235, 0.475),
        (0.20, 0.48),
        (0.0, 0.472),
    ]
    return lathe(rim)


def _basket() -> Shape:
    """Woven rings, one over the other, open above; a handle."""
    whole = lathe([(0.0, 0.012), (0.13, 0.012), (0.135, 0.02)])
    for row in range(9):
        height = 0.025 + row * 0.024
        radius = 0.135 + 0.035 * (row / 8) ** 0.7
        turn = np.linspace(0, 2 * np.pi, 73)
        weave = radius + 0.006 * np.sin(12 * turn + row * np.pi)
        ring = [
            (float(r * np.cos(t)), height, float(r * np.sin(t))) for r, t in zip(weave, turn, strict=True)
        ]
        whole = whole + tube(ring, [0.0135] * 73, 8)
    bow = [(0.165 * np.cos(a), 0.225 + 0.2 * np.sin(a), 0.0) for a in np.linspace(0, np.pi, 25)]
    return whole + tube(bow, [0.010] * 25, 10)


def shore_stool(path: Path) -> Path:
    """Write the scene; nothing moves in it."""
    glb = Glb()
    ash = glb.matt("ash wood", [0.46, 0.33, 0.20], 0.55)
    willow = glb.matt("willow", [0.38, 0.25, 0.13], 0.8)
    sand = glb.matt("sand", [0.42, 0.36, 0.26])
    glb.node("shore", mesh=glb.mesh(box(12, 0.1, 12).moved(0, -0.05, 0), sand, "shore"))
    legs = glb.node("legs", mesh=glb.mesh(_legs(), ash, "legs"))
    seat = glb.node("seat", mesh=glb.mesh(_seat(), ash, "seat"))
    glb.node("stool", children=[legs, seat], translation=[-0.18, 0, 0])
    glb.node("basket", mesh=glb.mesh(_basket(), willow, "basket"), translation=[0.34, 0, 0.20])
    eye = [0.55, 0.95, 2.1]
    glb.camera("camera", 0.5, translation=eye, rotation=looking([0.05, 0.2, 0.0], eye))
    glb.light("dusk sun", "directional", 3.6, (1.0, 0.76, 0.54), rotation=towards([0.75, -0.62, -0.35]))
    return glb.write(path)


if __name__ == "__main__":
    shore_stool(Path(sys.argv[1]))
