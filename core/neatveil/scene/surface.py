"""What the surface is at each sample: its material's numbers, with the textures looked up."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .model import Floats, Material, Texture
from .seen import Seen


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


def looked_up(texture: Texture, uv: Floats) -> Floats:
    """``(N, 4)`` of a texture at ``(N, 2)`` places; (0, 0) is its first pixel's outer corner.

    Source: glTF 2.0, 3.8.4 samplers [glTF2].
    """
    height, width = texture.pixels.shape[:2]
    x, y = uv[:, 0] * width, uv[:, 1] * height
    if texture.nearest:
        column, row = (_wrapped(np.floor(v), n, w) for v, n, w in _axes(texture, x, y))
        return texture.pixels[row, column]
    x, y = x - 0.5, y - 0.5
    left, top = np.floor(x), np.floor(y)
    a, b = (x - left)[:, None], (y - top)[:, None]
    x0, y0 = (_wrapped(v, n, w) for v, n, w in _axes(texture, left, top))
    x1, y1 = (_wrapped(v, n, w) for v, n, w in _axes(texture, left + 1, top + 1))
    p = texture.pixels
    upper = p[y0, x0] * (1 - a) + p[y0, x1] * a
    lower = p[y1, x0] * (1 - a) + p[y1, x1] * a
    blended: Floats = (upper * (1 - b) + lower * b).astype(np.float32)
    return blended


def _axes(texture: Texture, x: Floats, y: Floats) -> list[tuple[Floats, int, str]]:
    height, width = texture.pixels.shape[:2]
    return [(x, width, texture.wrap[0]), (y, height, texture.wrap[1])]


def _wrapped(place: Floats, size: int, wrap: str) -> NDArray[np.int64]:
    """Whole pixels inside 0..size by how the texture goes on beyond its edge."""
    number = place.astype(np.int64)
    if wrap == "clamp":
        return np.clip(number, 0, size - 1)
    if wrap == "mirror":
        turn = number % (2 * size)
        mirrored: NDArray[np.int64] = np.where(turn < size, turn, 2 * size - 1 - turn)
        return mirrored
    return number % size
