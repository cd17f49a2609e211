"""Steps done on arrays, for tests."""

import numpy as np
from neatveil.picture import Box, PremultipliedPicture, whole_frame
from neatveil.steps import STEPS
from neatveil.steps.apply import apply_steps


def step(kind, **parameters):
    return STEPS[kind](**parameters)


def done(rgba, *steps, level=0, frame=1):
    """``(H, W, 4)`` premultiplied after the steps, over the frame."""
    picture = PremultipliedPicture.from_rgba(np.asarray(rgba, np.float32))
    return whole_frame(apply_steps(picture, steps, level, frame)).rgba()


def windowed(rgba, window, frame):
    """A picture with a data window unlike its frame; ``window`` is x0, y0."""
    x, y = window
    height, width, _ = rgba.shape
    planes = {n: np.ascontiguousarray(rgba[..., i]) for i, n in enumerate("RGBA")}
    return PremultipliedPicture(planes, Box(x, y, x + width, y + height), Box.sized(*frame))


def opaque(rgb):
    """Colour ``(H, W, 3)`` with an alpha of 1."""
    return np.dstack([rgb, np.ones(rgb.shape[:2])]).astype(np.float32)
