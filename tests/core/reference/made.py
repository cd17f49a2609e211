"""What is made here. Text, shapes and patterns are checked by themselves elsewhere: here they are taken as
drawn, so that only what is done with them is compared."""

from __future__ import annotations

import numpy as np
from neatveil.made import Canvas

from .pixels import decoded, encoded


def picture(made, size, level):
    """``(H, W, 4)`` premultiplied, at a level."""
    canvas = Canvas(*size, level)
    height, width = canvas.frame.height, canvas.frame.width
    if made.kind == "solid":
        return np.broadcast_to([*(made.alpha * np.array(made.colour)), made.alpha], (height, width, 4)) * 1.0
    if made.kind == "gradient":
        return gradient(made, size, level, (height, width))
    out = np.zeros((height, width, 4))
    drawn = made.drawn(canvas)
    box = drawn.data_window
    if not box.empty:
        out[box.y0 : box.y1, box.x0 : box.x1] = drawn.rgba()
    return out


def gradient(made, size, level, shape):
    y, x = (np.mgrid[: shape[0], : shape[1]] + 0.5) * 2.0**level
    first = np.array([size[0] / 2 + made.x, size[1] / 2 + made.y])
    way = np.array([made.to_x - made.x, made.to_y - made.y])
    length = np.hypot(*way)
    if made.form == "linear":
        t = ((x - first[0]) * way[0] + (y - first[1]) * way[1]) / length**2
    else:
        t = np.hypot(x - first[0], y - first[1]) / length
    if made.beyond == "repeat":
        t = t % 1
    if made.beyond == "mirror":
        t = np.minimum(t % 2, 2 - t % 2)
    t = np.clip(t, 0, 1)[..., None]
    ends = np.array([made.colour, made.to_colour])
    if made.mixed_in == "codes":
        ends = encoded(ends)
    alphas = np.array([made.alpha, made.to_alpha])
    alpha = alphas[0] + t * (alphas[1] - alphas[0])
    colour = ends[0] * alphas[0] + t * (ends[1] * alphas[1] - ends[0] * alphas[0])
    if made.mixed_in == "codes":
        straight = colour / np.where(alpha > 0, alpha, 1)
        colour = decoded(straight, "srgb") * alpha
    return np.concatenate([colour, alpha], -1)
