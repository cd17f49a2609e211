"""Shadows on what stands in for things of the plate: caught, to be laid over the plate."""

from __future__ import annotations

import numpy as np

from ..channels import LUMA_WEIGHTS
from .lamps import from_lamps
from .lobes import DIFFUSE
from .model import Floats
from .moment_samples import MomentSamples
from .paths import onward
from .samples import hashed
from .shadow_rays import shade_of_counted, shade_of_shown

_SKY, _SALT = np.float32(1e8), 21


def caught(samples: MomentSamples) -> tuple[Floats, Floats]:
    """Light that arrives at catchers, and what the shown objects leave of it, ``(rows, width, samples)``.

    Luma of the lamps' and the sky's light over the surface; 0 where no catcher is.
    """
    if "caught" not in samples.shared:
        samples.shared["caught"] = _caught(samples)
    found: tuple[Floats, Floats] = samples.shared["caught"]
    return found


def _caught(samples: MomentSamples) -> tuple[Floats, Floats]:
    rows = np.flatnonzero(samples.catcher.reshape(-1))
    if not len(rows):
        none = np.zeros(samples.shape, np.float32)
        return none, none
    surfaces, world = samples.hits_at(rows), samples.world
    weights = np.array(LUMA_WEIGHTS["bt709"], np.float32)
    whole, left = np.zeros(len(rows), np.float32), np.zeros(len(rows), np.float32)
    shown, counted = shade_of_shown(world), shade_of_counted(world)
    if samples.light.lamps:
        places = surfaces.position, surfaces.normal
        lamps = from_lamps(world, shown, *places)
        before: list[Floats | None] = [None] * len(lamps)
        if counted is not None:
            before = [x.left for x in from_lamps(world, counted, *places)]
        for one, earlier in zip(lamps, before, strict=True):
            luma = one.colour * weights
            whole += one.power * luma.sum()
            left += one.power * (_own(one.left, earlier) @ luma)
    if (sky := samples.light.shining_sky) is not None:
        keys = samples.keys[rows]
        further = onward(
            surfaces, samples.directions[rows], DIFFUSE, hashed(keys, 80), samples.grid.pairs(_SALT)[rows]
        )
        # one ray with the density of the cosine stands for pi times its light
        light = np.pi * sky.light(further.way)
        ray = further.begin, further.way, np.full(len(rows), _SKY, np.float32)
        whole += light @ weights
        own = _own(shown.passing(*ray), None if counted is None else counted.passing(*ray))
        left += (light * own) @ weights
    return samples.spread(whole, rows), samples.spread(left, rows)


def _own(left: Floats, before: Floats | None) -> Floats:
    """``(N, 3)``: what the layer's own objects leave of light, of which nearer layers leave ``before``.

    The shares that layers take add up to what all of them take together: where two shadows fall on one
    place, it is dark once.
    """
    return left if before is None else 1 - before + left
