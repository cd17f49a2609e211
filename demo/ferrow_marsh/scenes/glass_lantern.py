"""The glass lantern on its post: panes that bend light, a wick that glows, iron that mirrors the dusk.

Written by ``python -m ferrow_marsh.scenes.glass_lantern FILE.glb``.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

from .gltf import Glb
from .shapes import Shape, ball, box, lathe, post, tube
from .turns import looking, towards

SECONDS = 48 / 25


def _frame() -> Shape:
    """Iron: four corners, a floor, a roof and a ring."""
    corners = [box(0.018, 0.34, 0.018).moved(x, 0.2, z) for x in (-0.11, 0.11) for z in (-0.11, 0.11)]
    floor = box(0.27, 0.025, 0.27).moved(0, 0.02, 0)
    rim = [box(0.25, 0.018, 0.018).moved(0, 0.375, z) for z in (-0.11, 0.11)]
    rim += [box(0.018, 0.018, 0.25).moved(x, 0.375, 0) for x in (-0.11, 0.11)]
    roof = lathe([(0.19, 0.38), (0.185, 0.39), (0.10, 0.455), (0.045, 0.475), (0.04, 0.50), (0.0, 0.51)], 4)
    turn = np.linspace(0, 2 * np.pi, 25)
    ring = tube([(0.04 * np.sin(t), 0.545 + 0.04 * np.cos(t), 0.0) for t in turn], [0.007] * 25, 10)
    whole = floor + roof.turned(45, "y") + ring
    for part in corners + rim:
        whole = whole + part
    return whole


def _panes() -> Shape:
    panes = [box(0.20, 0.33, 0.008).moved(0, 0.2, z) for z in (-0.112, 0.112)]
    panes += [box(0.008, 0.33, 0.20).moved(x, 0.2, 0) for x in (-0.112, 0.112)]
    return panes[0] + panes[1] + panes[2] + panes[3]


def glass_lantern(path: Path) -> Path:
    """Write the scene; the flame flickers and the lantern turns a little in `SECONDS`."""
    glb = Glb()
    oak = glb.matt("oak", [0.20, 0.13, 0.08])
    iron = glb.matt("iron", [0.10, 0.10, 0.11], 0.35, 1.0)
    wax = glb.matt("wax", [0.75, 0.68, 0.52], 0.6)
    glass, flame = glb.glass("glass", [0.93, 0.98, 0.95]), glb.glow("flame", [1.0, 0.55, 0.18], 24.0)
    glb.node("post", mesh=glb.mesh(post(0.075, 1.4).moved(0, -0.7, 0), oak, "post"))
    wick = glb.node(
        "wick",
        mesh=glb.mesh(ball(1.0, 24).scaled(0.013, 0.034, 0.013), flame, "wick"),
        translation=[0, 0.205, 0],
    )
    lamp = glb.light("flame light", "point", 2.2, (1.0, 0.6, 0.25), translation=[0, 0.215, 0])
    candle = glb.node("candle", mesh=glb.mesh(post(0.035, 0.13).moved(0, 0.098, 0), wax, "candle"))
    panes = glb.node("glass", mesh=glb.mesh(_panes(), glass, "panes"))
    frame = glb.node("iron", mesh=glb.mesh(_frame(), iron, "iron"))
    body = glb.node("lantern", children=[wick, lamp, candle, panes, frame])
    times = np.linspace(0, SECONDS, 49)
    flicker = 1 + 0.10 * np.sin(times * 17) + 0.07 * np.sin(times * 41 + 1)
    glb.move(wick, "scale", times, np.stack([np.ones_like(times), flicker, np.ones_like(times)], axis=1))
    angle = np.radians(24) + 0.10 * np.sin(2 * np.pi * times / SECONDS)
    zero = np.zeros_like(angle)
    glb.move(body, "rotation", times, np.stack([zero, np.sin(angle / 2), zero, np.cos(angle / 2)], axis=1))
    eye, at = [0.25, 0.42, 1.75], [0.0, 0.19, 0.0]
    glb.camera("camera", 0.52, translation=eye, rotation=looking(at, eye))
    glb.light("last light", "directional", 0.8, (1.0, 0.62, 0.4), rotation=towards([-0.8, -0.35, -0.3]))
    return glb.write(path)


if __name__ == "__main__":
    glass_lantern(Path(sys.argv[1]))
