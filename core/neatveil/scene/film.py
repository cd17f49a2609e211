"""Rendering passes: rays are traced once a strip, and every pass is filled from what they met."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from ..errors import ValueRefused
from ..numeric.pool import for_strips
from ..picture import Plane, StoredPicture
from .lens import Lens
from .passes import Numbering, pass_named
from .samples import PixelFilter
from .seen import Later, Seen
from .world import World

#: Most pixels of a picture and samples of a pixel.
MAX_PIXELS, MAX_SAMPLES = 16384 * 16384, 4096


@dataclass(frozen=True)
class Sampling:
    """How finely a pixel is looked at."""

    samples: int = 16
    pixel_filter: PixelFilter = "box"
    seed: int = 0


def render(
    world: World, lens: Lens, passes: Iterable[str], sampling: Sampling | None = None,
    numbers: dict[str, int] | None = None, later: Later | None = None,
) -> StoredPicture:  # fmt: skip
    """The named passes of one moment, as one picture with a plane for each channel.

    ``numbers`` gives objects their numbers, by the names of their nodes; ``later`` is needed by
    passes that tell how things move.

    Raises `ValueRefused` (size, samples, a UV pass of a mesh without UVs), `NameUnknown`.
    """
    sampling = sampling or Sampling()
    chosen = [pass_named(n) for n in passes]
    _check(world, lens, sampling, {p.name for p in chosen}, later)
    numbering = Numbering(numbers or {})
    planes: dict[str, Plane] = {}
    kinds: dict[str, str] = {}

    def strip(y0: int, y1: int) -> None:
        seen = Seen.through(
            world, lens, (y0, y1), sampling.samples, sampling.pixel_filter, sampling.seed, later
        )
        for one in chosen:
            for name, values in one.fill(seen, numbering).items():
                plane = planes.get(name)
                if plane is None:
                    new = np.zeros((lens.height, lens.width), np.float32)
                    plane = planes.setdefault(name, new)
                    kinds[name] = one.kind
                plane[y0:y1] = values

    for_strips(lens.height, lens.width * sampling.samples, strip)
    data = {name for name in planes if kinds[name] == "data"}
    return StoredPicture(planes, data_planes=data)


def _check(world: World, lens: Lens, sampling: Sampling, names: set[str], later: Later | None) -> None:
    if not 0 < lens.width * lens.height <= MAX_PIXELS:
        raise ValueRefused(
            f"{lens.width} x {lens.height} cannot be rendered; at most {MAX_PIXELS:,} pixels can."
        )
    if not 0 < sampling.samples <= MAX_SAMPLES:
        raise ValueRefused(f"{sampling.samples} samples a pixel; 1 to {MAX_SAMPLES} are possible.")
    if "motion" in names and later is None:
        raise ValueRefused("The motion pass needs to know where things are one frame later.")
    if "uv" in names and not world.part_has_uv.all():
        part = int(np.argmin(world.part_has_uv))
        node = world.scene.nodes[world.part_node[part]].name
        raise ValueRefused(
            f"Node {node} has no UVs, which the UV pass needs.",
            advice="Give its mesh UVs, or leave the UV pass out.",
            where=node,
        )
