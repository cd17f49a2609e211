"""The waymark sign: its board swings on a bracket; the board is an object of its own with clean UVs.

Written by ``python -m ferrow_marsh.scenes.waymark FILE.glb``.
"""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

from .gltf import Glb
from .shapes import box, post
from .turns import towards

SECONDS = 48 / 25


def board_art(width: int = 768, height: int = 384) -> NDArray[np.uint8]:
    """What is painted on the board."""
    image = Image.new("RGB", (width, height), (37, 74, 66))
    draw = ImageDraw.Draw(image)
    draw.rectangle([14, 14, width - 15, height - 15], outline=(233, 222, 190), width=6)
    for row, (text, size) in enumerate((("Ferrow Marsh", 96), ("hide 400 m   shore 1 km", 50))):
        draw.text(
            (width / 2, 130 + row * 130),
            text,
            fill=(233, 222, 190),
            font=ImageFont.load_default(size),
            anchor="mm",
        )
    return np.asarray(image)


def waymark(path: Path) -> Path:
    """Write the scene; the board swings twice in `SECONDS`."""
    glb = Glb()
    art = {"baseColorTexture": {"index": glb.picture(board_art(), "board art")}, "metallicFactor": 0}
    oak, steel = glb.matt("oak", [0.23, 0.15, 0.09]), glb.matt("iron", [0.12, 0.12, 0.13], 0.4, 0.9)
    shore = glb.matt("sand", [0.42, 0.36, 0.26])
    paint = glb.material("paint", pbrMetallicRoughness={**art, "roughnessFactor": 0.5})
    glb.node("shore", mesh=glb.mesh(box(14, 0.1, 10).moved(0, -0.05, 0), shore, "shore"))
    glb.node("post", mesh=glb.mesh(post(0.09, 2.6).moved(0, 1.3, 0), oak, "post"))
    arm = box(1.5, 0.05, 0.05).moved(0.75, 2.4, 0) + box(0.04, 0.12, 0.03).moved(1.35, 2.33, 0)
    glb.node("bracket", mesh=glb.mesh(arm + box(0.04, 0.12, 0.03).moved(0.35, 2.33, 0), steel, "bracket"))
    board = glb.mesh(box(1.2, 0.6, 0.04).moved(0, -0.36, 0), paint, "board")
    swing = glb.node("board", mesh=board, translation=[0.85, 2.3, 0])
    times = np.linspace(0, SECONDS, 25)
    angle = 0.35 * np.sin(times / SECONDS * 4 * np.pi)
    zero = np.zeros_like(angle)
    glb.move(swing, "rotation", times, np.stack([np.sin(angle / 2), zero, zero, np.cos(angle / 2)], axis=1))
    glb.camera(
        "camera",
        0.62,
        translation=[1.7, 1.75, 4.6],
        rotation=[0, float(np.sin(0.09)), 0, float(np.cos(0.09))],
    )
    glb.light("dusk sun", "directional", 4.0, (1.0, 0.72, 0.5), rotation=towards([-0.75, -0.5, -0.55]))
    glb.light("sky", "directional", 0.9, (0.55, 0.68, 1.0), rotation=towards([0.4, -0.9, -0.5]))
    return glb.write(path)


if __name__ == "__main__":
    waymark(Path(sys.argv[1]))
