"""Where a layer that stands in a scene is seen: rays from the eye through every pixel, met with its plane."""

from __future__ import annotations

from math import ceil, floor

import numpy as np
from scipy.spatial.transform import Rotation

from .pixels import limited, sampled


def camera_row(comp, card, number):
    """The camera of a card, and the row of its tables at a frame of the comp."""
    camera = comp.cameras[card.camera or comp.camera]
    row = floor((number - comp.first - card.offset) * camera.rate / comp.rate)
    count = max(len(camera.places), len(camera.yfov))
    row = min(max(row, 0), count - 1)
    return camera, np.array(camera.places[row % len(camera.places)]), camera.yfov[row % len(camera.yfov)]


def back_to_card(comp, card, number, size):
    """``(3, 3)``: from corner coordinates of the comp to those of a picture of a size, over the depth."""
    camera, place, yfov = camera_row(comp, card, number)
    turn, eye = place[:, :3], place[:, 3]
    unit = 2 * np.tan(yfov / 2) / camera.height
    left = (comp.width - camera.width) // 2 + camera.width / 2
    top = (comp.height - camera.height) // 2 + camera.height / 2
    # the ray through a point of the comp, one unit long along the axis
    ray = turn @ np.array([[unit, 0, -unit * left], [0, -unit, unit * top], [0, 0, -1.0]])
    own = Rotation.from_euler("YXZ", [card.turn, -card.tilt, -card.roll], degrees=True).as_matrix()
    right, up, front = (turn @ own if card.faces == "camera" else own).T
    at = np.array([card.x, card.y, card.z])
    nearness = front @ ray / ((at - eye) @ front)  # one over the depth at which the ray meets the plane
    scale = size[0] / card.width
    across = scale * ((eye - at) @ right * nearness + right @ ray) + size[0] / 2 * nearness
    middle = size[1] if card.anchor == "foot" else size[1] / 2
    down = -scale * ((eye - at) @ up * nearness + up @ ray) + middle * nearness
    return np.stack([across, down, nearness])


def sampling(comp, back, size, level, finest=0):
    """The level of the picture that is read, and the samples of a pixel across and down."""
    y, x = (a.ravel() for a in np.mgrid[0 : comp.height : 17j, 0 : comp.width : 17j])

    def to(x, y):
        found = back @ np.stack([x, y, np.ones(x.size)])
        return found[:2] / found[2]

    before = back @ np.stack([x, y, np.ones(x.size)])
    u, v = np.where(before[2] > 0, to(x, y), np.nan)
    seen = (u > 0) & (v > 0) & (u < size[0]) & (v < size[1])
    if not seen.any():
        away = np.hypot(u - size[0] / 2, v - size[1] / 2)
        seen[np.argmin(np.where(np.isnan(away), np.inf, away))] = True
    h = 1e-4
    across = np.hypot(*(to(x + h, y) - to(x - h, y)))[seen] / (2 * h)
    down = np.hypot(*(to(x, y + h) - to(x, y - h)))[seen] / (2 * h)
    read = max(finest, floor(np.log2(2.0**level * min(across.min(), down.min())) + 1e-9))
    share = 2.0**level / 2.0**read / 1.5
    return read, [min(8, max(1, ceil(share * n.max()))) for n in (across, down)]


def seen(picture, back, size, samples, name):
    """The mean of a pixel's samples; ``back``: from corner coordinates at the level to the picture's."""
    total = 0
    for j in range(samples[1]):
        for i in range(samples[0]):
            y, x = np.mgrid[: size[1], : size[0]].astype(float)
            x, y = x + (i + 0.5) / samples[0], y + (j + 0.5) / samples[1]
            u, v, w = (back[k, 0] * x + back[k, 1] * y + back[k, 2] for k in range(3))
            there = w > 0
            w = np.where(there, w, 1)
            u, v = (np.where(there, c / w, -1e6) - 0.5 for c in (u, v))
            total = total + sampled(picture, u, v, name)
    total = total / (samples[0] * samples[1])
    return limited(total) if name in {"cubic", "lanczos"} else total
