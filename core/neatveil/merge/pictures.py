"""Merging whole pictures to be looked at; the evaluator lays its layers strip by strip instead."""

from __future__ import annotations

import numpy as np

from ..picture import RGBA, PremultipliedPicture


def over(front: PremultipliedPicture, back: PremultipliedPicture) -> PremultipliedPicture:
    """``F + B (1 - a)``, of two pictures with the same data window.

    Source: Porter & Duff 1984, over [PorterDuff1984].
    """
    rest = np.float32(1) - front["A"]
    return front.with_planes({n: front[n] + back[n] * rest for n in RGBA})
