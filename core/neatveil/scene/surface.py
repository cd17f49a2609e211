"""The surfaces that rays met: where, how they lie, and what they are made of."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields

import numpy as np
from numpy.typing import NDArray

from ..numeric.blocks import new_array
from ..numeric.jit import kernel
from ..numeric.rows import taken
from .bundle import Hits, Ints, blend
from .model import Floats, Material
from .textures import looked_up
from .world import World

Bools = NDArray[np.bool_]


@dataclass(frozen=True)
class SurfaceHits:
    """Surfaces at ``N`` hits.

    Attributes
    ----------
    position, normal : ``(N, 3)``; normals have length 1 and look towards where the ray came from.
    uv : ``(N, 2)``
    front : whether the ray came from outside.
    part : number of the part.
    colour, emission : ``(N, 3)`` in light.
    metallic, roughness, ior, transmission : ``(N,)``
    solid : whether the surface bounds a body, or is a thin sheet.
    """

    position: Floats
    normal: Floats
    uv: Floats
    front: Bools
    part: Ints
    colour: Floats
    emission: Floats
    metallic: Floats
    roughness: Floats
    ior: Floats
    transmission: Floats
    solid: Bools

    @classmethod
    def of(cls, world: World, hits: Hits, directions: Floats) -> SurfaceHits:
        """The surfaces at hits, every one of which met something."""
        count = len(hits.triangle)
        position, normal, uv = new_array((count, 3)), new_array((count, 3)), new_array((count, 2))
        for values, out in ((world.positions, position), (world.normals, normal), (world.uv, uv)):
            blend(values, world.corners, hits.triangle, hits.u, hits.v, out)
        front = np.empty(count, np.bool_)
        face(world.positions, world.corners, hits.triangle, directions, normal, front)
        part = taken(world.part, hits.triangle)
        if world.part_mirrored.any():
            front ^= taken(world.part_mirrored, part)
        which = taken(world.part_material, part)
        rows = world.materials
        made = cls(
            position, normal, uv, front, part,
            _by(rows, which, lambda m: m.colour), _by(rows, which, lambda m: m.emission),
            _by(rows, which, lambda m: m.metallic), _by(rows, which, lambda m: m.roughness),
            _by(rows, which, lambda m: m.ior), _by(rows, which, lambda m: m.transmission),
            taken(np.array([m.solid for m in rows]), which),
        )  # fmt: skip
        for number, material in enumerate(rows):
            if material.textured:
                made._look_up(np.flatnonzero(which == number), material)
        return made

    def some(self, rows: NDArray[np.int64]) -> SurfaceHits:
        """Those of some rows."""
        return SurfaceHits(*(taken(getattr(self, f.name), rows) for f in fields(self)))

    def _look_up(self, here: NDArray[np.int64], material: Material) -> None:
        if not len(here):
            return
        uv = taken(self.uv, here)
        if material.colour_texture:
            self.colour[here] *= looked_up(material.colour_texture, uv)[:, :3]
        if material.emission_texture:
            self.emission[here] *= looked_up(material.emission_texture, uv)[:, :3]
        if material.transmission_texture:
            # KHR_materials_transmission: in red
            self.transmission[here] *= looked_up(material.transmission_texture, uv)[:, 0]
        if material.metal_texture:
            # glTF 2.0, 3.9.2: roughness in green, metal in blue
            found = looked_up(material.metal_texture, uv)
            self.roughness[here] *= found[:, 1]
            self.metallic[here] *= found[:, 2]

    def mirrored(self, way: Floats) -> Floats:
        """``(N,)``: the share of light along ways that a dielectric mirrors, by Schlick's Fresnel."""
        glance = ((1 - self.ior) / (1 + self.ior)) ** 2
        cosine = np.abs((self.normal * way).sum(axis=1)) / np.linalg.norm(way, axis=1)
        share: Floats = glance + (1 - glance) * (1 - np.minimum(cosine, 1)) ** 5
        return share

    def straight_through(self, way: Floats) -> Floats:
        """``(N, 3)``: the share of light that goes through unbent, by Schlick's Fresnel."""
        share = (1 - self.mirrored(way)) * self.transmission * (1 - self.metallic)
        through: Floats = (share[:, None] * self.colour).astype(np.float32)
        return through


def _by(rows: list[Material], which: Ints, value: Callable[[Material], object]) -> Floats:
    return taken(np.array([value(m) for m in rows], np.float32), which)


@kernel
def face(positions, corners, triangle, directions, normal, front):  # type: ignore[no-untyped-def]
    """Normals to length 1 and towards where the ray came from, in place; whether it met the front.

    By the triangle, not by the normal itself: near a round outline blended normals lean away from the ray.
    The front is the side from which the corners run counter-clockwise.
    """
    for i in range(front.size):
        a, b, c = corners[triangle[i], 0], corners[triangle[i], 1], corners[triangle[i], 2]
        ux, uy, uz = (
            positions[b, 0] - positions[a, 0],
            positions[b, 1] - positions[a, 1],
            positions[b, 2] - positions[a, 2],
        )
        vx, vy, vz = (
            positions[c, 0] - positions[a, 0],
            positions[c, 1] - positions[a, 1],
            positions[c, 2] - positions[a, 2],
        )
        gx, gy, gz = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx
        front[i] = gx * directions[i, 0] + gy * directions[i, 1] + gz * directions[i, 2] < 0
        x, y, z = normal[i, 0], normal[i, 1], normal[i, 2]
        length = np.sqrt(x * x + y * y + z * z)
        if length > 0:
            away = (x * gx + y * gy + z * gz < 0) == front[i]
            scale = np.float32(-1 if away else 1) / length
            normal[i, 0], normal[i, 1], normal[i, 2] = x * scale, y * scale, z * scale
