"""Twelve boards for the waymark: what is painted on each, and the list of them."""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np
from PIL import Image, ImageDraw, ImageFont

#: File, first line, second line, paint.
BOARDS = [
    ("heron_hide", "Heron hide", "200 m   please be quiet", (37, 74, 66)),
    ("reed_path", "Reed path", "closed while the geese nest", (122, 52, 40)),
    ("shore_walk", "Shore walk", "1 km   boots needed", (36, 66, 104)),
    ("boardwalk", "Boardwalk", "slippery when wet", (96, 72, 32)),
    ("bittern_pool", "Bittern pool", "listen at dusk", (58, 44, 84)),
    ("lantern_evening", "Lantern evening", "Friday at the jetty", (118, 84, 20)),
    ("kite_field", "Kite field", "east wind today", (34, 92, 110)),
    ("warden", "Warden’s hut", "tea, maps, lost gloves", (44, 92, 48)),
    ("high_water", "High water", "19:40   stay on the dyke", (110, 36, 44)),
    ("otter_crossing", "Otter crossing", "dogs on leads", (70, 60, 48)),
    ("star_watch", "Star watch", "red lights only", (26, 34, 62)),
    ("ferrow_marsh", "Ferrow Marsh", "the way out", (52, 84, 84)),
]
FILES = {name: f"board_{name}.png" for name, *_ in BOARDS}


def board(
    first: str, second: str, paint: tuple[int, int, int], size: tuple[int, int] = (768, 384)
) -> Image.Image:
    """One board: a frame, two lines."""
    width, height = size
    image = Image.new("RGB", size, paint)
    draw = ImageDraw.Draw(image)
    draw.rectangle([14, 14, width - 15, height - 15], outline=(233, 222, 190), width=6)
    for row, (line, points) in enumerate(((first, 92), (second, 46))):
        font = ImageFont.load_default(points)
        draw.text((width / 2, 140 + row * 130), line, fill=(233, 222, 190), font=font, anchor="mm")
    return image


def write_boards(folder: Path) -> None:
    """All of them as PNG files."""
    for name, first, second, paint in BOARDS:
        code = np.asarray(board(first, second, paint))
        cv2.imwrite(str(folder / FILES[name]), cv2.cvtColor(code, cv2.COLOR_RGB2BGR))
