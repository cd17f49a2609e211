"""Light that comes straight from the scene's lamps: scattered and mirrored, with shadows.

Source: glTF 2.0, appendix B (metallic-roughness, Fresnel after Schlick, Trowbridge-Reitz/GGX with
Smith's joint shadowing); KHR_lights_punctual for how lights fall off [glTF2].
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from ..numeric.blocks import new_array
from ..numeric.jit import kernel
from ..numeric.rows import spread_out, taken
from .bundle import off_surface
from .model import Floats, Light
from .motion import Matrix
from .shadow_rays import Shade, shade_of
from .surface import SurfaceHits
from .world import World


@dataclass(frozen=True)
class Arriving:
    """What one lamp sends to ``N`` places.

    Attributes
    ----------
    way : ``(N, 3)`` towards the lamp.
    power : ``(N,)`` lux over the surface, without shadows and colour.
    left : ``(N, 3)`` what shadows leave of it.
    colour : ``(3,)``, times the lamp's intensity.
    """

    way: Floats
    power: Floats
    left: Floats
    colour: Floats


def from_lamps(world: World, shade: Shade, position: Floats, normal: Floats) -> list[Arriving]:
    """What each lamp of the scene sends to places on surfaces, ``(N, 3)``."""
    count = len(position)
    found = []
    for node, place in zip(world.scene.nodes, world.places, strict=True):
        if node.light is None or not count:
            continue
        begin, way = new_array((count, 3)), new_array((count, 3))
        reach, power = new_array((count,)), new_array((count,))
        towards(position, normal, *_numbers(node.light, place), begin, way, reach, power)
        rows = np.flatnonzero(power > 0)
        if len(rows) == count:
            left = shade.passing(begin, way, reach)
        else:
            passing = shade.passing(taken(begin, rows), taken(way, rows), taken(reach, rows))
            left = spread_out(passing, rows, count)
        colour = (np.array(node.light.colour) * node.light.intensity).astype(np.float32)
        found.append(Arriving(way, power, left, colour))
    return found


def lit_by_lamps(world: World, met: SurfaceHits, directions: Floats) -> tuple[Floats, Floats, Floats]:
    """Light that surfaces send back along rays: scattered, mirrored, and scattered without shadows."""
    sums = [new_array((len(met.position), 3), zero=True) for _ in range(3)]
    for one in from_lamps(world, shade_of(world), met.position, met.normal):
        scatter(
            met.normal, directions, one.way, one.power, one.left, one.colour, met.colour, met.metallic,
            met.roughness, met.ior, met.transmission, *sums,
        )  # fmt: skip
    return sums[0], sums[1], sums[2]


_KINDS = {"point": 0, "spot": 1, "directional": 2}


def _numbers(light: Light, place: Matrix) -> tuple[Any, ...]:
    """Kind, place, way that it shines, range (0: none), cosines of its inner and outer cone."""
    axis = -place[:3, 2] / np.linalg.norm(place[:3, 2])
    cone = np.cos([light.inner, light.outer]).astype(np.float32)
    at = place[:3, 3].astype(np.float32)
    return _KINDS[light.kind], at, axis.astype(np.float32), np.float32(light.range or 0), cone


@kernel
def towards(position, normal, kind, at, axis, light_range, cone, begin, way, reach, arriving):  # type: ignore[no-untyped-def]
    """Shadow rays to one light, and what arrives over the surface without shadows (lux, colour apart)."""
    for i in range(position.shape[0]):
        px, py, pz = position[i, 0], position[i, 1], position[i, 2]
        strength = np.float32(1)
        distance = np.float32(1e8)
        if kind == 2:
            wx, wy, wz = -axis[0], -axis[1], -axis[2]
        else:
            wx, wy, wz = at[0] - px, at[1] - py, at[2] - pz
            distance = max(np.sqrt(wx * wx + wy * wy + wz * wz), np.float32(1e-9))
            wx, wy, wz = wx / distance, wy / distance, wz / distance
            strength = np.float32(1) / (distance * distance)
            if light_range > 0:
                strength *= max(np.float32(0), np.float32(1) - (distance / light_range) ** 4)
            if kind == 1:
                share = -(wx * axis[0] + wy * axis[1] + wz * axis[2]) - cone[1]
                share = min(
                    max(share / max(np.float32(1e-3), cone[0] - cone[1]), np.float32(0)), np.float32(1)
                )
                strength *= share * share
        facing = wx * normal[i, 0] + wy * normal[i, 1] + wz * normal[i, 2]
        arriving[i] = strength * max(facing, np.float32(0))
        far = off_surface(px, py, pz)
        way[i, 0], way[i, 1], way[i, 2] = wx, wy, wz
        reach[i] = distance - 2 * far
        for k in range(3):
            begin[i, k] = position[i, k] + normal[i, k] * far


@kernel
def scatter(  # type: ignore[no-untyped-def]
    normal, directions, way, arriving, left, light, colour, metallic, roughness, ior, transmission,
    diffuse, mirrored, whole,
):  # fmt: skip
    """Add what one lamp gives along rays that came by ``directions``, of any length."""
    one = np.float32(1)
    tiny = np.float32(1e-6)
    for i in range(arriving.size):
        if arriving[i] <= 0:
            continue
        vx, vy, vz = -directions[i, 0], -directions[i, 1], -directions[i, 2]
        size = one / np.sqrt(vx * vx + vy * vy + vz * vz)
        vx, vy, vz = vx * size, vy * size, vz * size
        lx, ly, lz = way[i, 0], way[i, 1], way[i, 2]
        nx, ny, nz = normal[i, 0], normal[i, 1], normal[i, 2]
        hx, hy, hz = vx + lx, vy + ly, vz + lz
        size = one / max(np.sqrt(hx * hx + hy * hy + hz * hz), np.float32(1e-12))
        hx, hy, hz = hx * size, hy * size, hz * size
        n_l = min(max(nx * lx + ny * ly + nz * lz, tiny), one)
        n_v = min(max(nx * vx + ny * vy + nz * vz, tiny), one)
        n_h = min(max(nx * hx + ny * hy + nz * hz, np.float32(0)), one)
        v_h = min(max(vx * hx + vy * hy + vz * hz, np.float32(0)), one)
        glance = (one - ior[i]) / (one + ior[i])
        bend = (one - v_h) ** 5
        a2 = max(roughness[i], np.float32(0.02)) ** 4
        down = n_h * n_h * (a2 - one) + one
        facets = a2 / (np.float32(np.pi) * down * down)
        hidden = np.float32(0.5) / (
            n_l * np.sqrt(n_v * n_v * (one - a2) + a2) + n_v * np.sqrt(n_l * n_l * (one - a2) + a2)
        )
        for k in range(3):
            straight_on = glance * glance * (one - metallic[i]) + colour[i, k] * metallic[i]
            fresnel = straight_on + (one - straight_on) * bend
            power = arriving[i] * light[k]
            matt = (one - metallic[i]) * (one - transmission[i]) / np.float32(np.pi)
            even = (one - fresnel) * colour[i, k] * matt * power
            whole[i, k] += even
            diffuse[i, k] += even * left[i, k]
            mirrored[i, k] += fresnel * facets * hidden * power * left[i, k]
