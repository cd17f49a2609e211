"""The caption strap: straight 8-bit graphics, sliding in."""

from __future__ import annotations

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from .brushes import HEIGHT, WIDTH

TEXT, SMALL = "Ferrow Marsh at dusk", "A film of the reserve wardens"


def caption(frame: int) -> Image.Image:
    """One RGBA frame; the surface colour runs on past the edges, as straight graphics should."""
    ease = 1 - (1 - min(1.0, frame / 14)) ** 3
    over = 2
    left = 110 - (1 - ease) * 420
    alpha = Image.new("L", (WIDTH * over, 260 * over), 0)
    ink = Image.new("L", alpha.size, 0)
    box = [left * over, 30 * over, (left + 790) * over, 218 * over]
    ImageDraw.Draw(alpha).rounded_rectangle(box, 22 * over, fill=round(225 * ease))
    draw = ImageDraw.Draw(ink)
    big, small = (ImageFont.load_default(size * over) for size in (68, 32))
    draw.text(((left + 44) * over, 52 * over), TEXT, font=big, fill=255)
    draw.text(((left + 46) * over, 146 * over), SMALL, font=small, fill=200)
    size = (WIDTH, 260)
    strap = np.asarray(alpha.resize(size, Image.Resampling.BOX)).astype(np.float32) / 255
    text = np.asarray(ink.resize(size, Image.Resampling.BOX)).astype(np.float32) / 255 * ease
    out = np.zeros((HEIGHT, WIDTH, 4), np.uint8)
    total = text + strap * (1 - text)
    share = np.divide(text, total, out=np.zeros_like(text), where=total > 0)[..., None]
    colour = share * np.array([246, 238, 220]) + (1 - share) * np.array([38, 74, 72])
    rows = slice(770, 770 + size[1])
    out[rows, :, :3] = np.rint(colour)
    out[rows, :, 3] = np.rint(total * 255)
    return Image.fromarray(out)
