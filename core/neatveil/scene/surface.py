"""What the surface is at each sample: its material's numbers, with the textures looked up."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .model import Floats, Material
from .seen import Seen
from .textures import looked_up


@dataclass(frozen=True)
class Surface:
    """Flat, one row a sample that met something.

    Attributes
    ----------
    colour, emission : ``(N, 3)`` light.
    metallic, roughness, ior : ``(N,)``.
    """

    colour: Floats
    emission: Floats
    metallic: Floats
    roughness: Floats
    ior: Floats

    @classmethod
    def of(cls, seen: Seen) -> Surface:
        """The surface at the covered samples, in their order."""
        met = seen.covered.reshape(-1)
        part, uv = seen.part.reshape(-1)[met], seen.uv.reshape(-1, 2)[met]
        which = seen.world.part_material[part]
        count = len(part)
        made = cls(
            np.empty((count, 3), np.float32), np.empty((count, 3), np.float32),
            np.empty(count, np.float32), np.empty(count, np.float32), np.empty(count, np.float32),
        )  # fmt: skip
        for number, material in enumerate(seen.world.materials):
            here = np.flatnonzero(which == number)
            if len(here):
                made._fill(here, material, uv[here])
        return made

    def _fill(self, here: NDArray[np.int64], material: Material, uv: Floats) -> None:
        self.colour[here] = material.colour
        self.emission[here] = material.emission
        self.metallic[here], self.roughness[here] = material.metallic, material.roughness
        self.ior[here] = material.ior
        if material.colour_texture:
            self.colour[here] *= looked_up(material.colour_texture, uv)[:, :3]
        if material.emission_texture:
            self.emission[here] *= looked_up(material.emission_texture, uv)[:, :3]
        if material.metal_texture:
            # glTF 2.0, 3.9.2: roughness in green, metal in blue
            found = looked_up(material.metal_texture, uv)
            self.roughness[here] *= found[:, 1]
            self.metallic[here] *= found[:, 2]
