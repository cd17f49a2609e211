"""Three geese on the shore, each of several objects and with a number of its own.

Written by ``python -m ferrow_marsh.scenes.geese FILE.glb``.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

from .gltf import Glb
from .shapes import Shape, ball, box, lathe, tube
from .turns import about, looking, towards

SECONDS = 48 / 25


def _body() -> Shape:
    tail = ball(1.0, 24).scaled(0.14, 0.05, 0.09).moved(-0.36, 0.40, 0)
    return ball(1.0, 36).scaled(0.34, 0.17, 0.18).turned(8, "z").moved(0, 0.36, 0) + tail


def _wings() -> Shape:
    wing = ball(1.0, 28).scaled(0.27, 0.10, 0.035)
    return wing.turned(6, "z").moved(-0.06, 0.39, 0.165) + wing.turned(6, "z").moved(-0.06, 0.39, -0.165)


def _neck() -> Shape:
    """From the breast up to the head, which is a part of it."""
    bend = [(0.26, 0.40), (0.33, 0.50), (0.335, 0.62), (0.32, 0.73), (0.34, 0.80)]
    line = np.array(bend)
    steps = np.linspace(0, len(bend) - 1, 17)
    path = [
        (float(np.interp(s, range(5), line[:, 0])), float(np.interp(s, range(5), line[:, 1])), 0.0)
        for s in steps
    ]
    radii = np.interp(steps, range(5), [0.11, 0.065, 0.048, 0.045, 0.05]).tolist()
    return tube(path, radii, 20) + ball(1.0, 24).scaled(0.075, 0.056, 0.052).moved(0.365, 0.815, 0)


def _beak() -> Shape:
    return (
        lathe([(0.030, 0.0), (0.022, 0.05), (0.008, 0.095), (0.0, 0.10)], 20)
        .turned(-96, "z")
        .moved(0.42, 0.81, 0)
    )


def _feet() -> Shape:
    whole = None
    for z in (-0.075, 0.075):
        leg = tube([(0.0, 0.0, z), (0.01, 0.22, z)], [0.014, 0.018], 12)
        web = box(0.13, 0.014, 0.09).moved(0.045, 0.007, z)
        whole = leg + web if whole is None else whole + leg + web
    assert whole is not None
    return whole


def geese(path: Path) -> Path:
    """Write the scene; the first goose turns its neck, the last one walks."""
    glb = Glb()
    white, grey = glb.matt("down", [0.78, 0.76, 0.72], 0.9), glb.matt("wing grey", [0.30, 0.29, 0.28], 0.8)
    orange, sand = glb.matt("orange", [0.80, 0.33, 0.06], 0.5), glb.matt("sand", [0.42, 0.36, 0.26])
    meshes = {
        "body": glb.mesh(_body(), white, "body"), "wings": glb.mesh(_wings(), grey, "wings"),
        "neck": glb.mesh(_neck(), white, "neck"), "beak": glb.mesh(_beak(), orange, "beak"),
        "feet": glb.mesh(_feet(), orange, "feet"),
    }  # fmt: skip
    glb.node("shore", mesh=glb.mesh(box(16, 0.1, 16).moved(0, -0.05, 0), sand, "shore"))
    necks, birds = [], []
    for number, (x, z, turn) in enumerate([(-0.75, 0.35, 20), (0.15, -0.25, -35), (0.95, 0.3, 170)], 1):
        beak = glb.node(f"beak {number}", mesh=meshes["beak"])
        neck = glb.node(f"neck {number}", mesh=meshes["neck"], children=[beak])
        parts = [glb.node(f"{n} {number}", mesh=meshes[n]) for n in ("body", "wings", "feet")]
        half = np.radians(turn) / 2
        birds.append(
            glb.node(
                f"goose {number}", children=[*parts, neck], translation=[x, 0, z],
                rotation=[0, float(np.sin(half)), 0, float(np.cos(half))],
            )
        )  # fmt: skip
        necks.append(neck)
    moments = np.linspace(0, SECONDS, 25)
    glb.move(necks[0], "rotation", moments, about([0, 1, 0], 0.3 * np.sin(2 * np.pi * moments / SECONDS)))
    walk = np.stack([0.95 - 0.25 * moments, 0.012 * np.abs(np.sin(9 * moments)), 0.3 + 0 * moments], axis=1)
    glb.move(birds[2], "translation", moments, walk)
    eye = [0.2, 0.95, 3.5]
    glb.camera("camera", 0.5, translation=eye, rotation=looking([0.05, 0.36, 0.0], eye))
    glb.light("dusk sun", "directional", 3.4, (1.0, 0.74, 0.52), rotation=towards([0.8, -0.55, -0.45]))
    glb.light("sky", "directional", 0.8, (0.55, 0.68, 1.0), rotation=towards([-0.3, -0.9, -0.5]))
    return glb.write(path)


if __name__ == "__main__":
    geese(Path(sys.argv[1]))
