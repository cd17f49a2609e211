"""Light that comes straight from the scene's lights: diffuse and mirrored, with shadows.

Source: glTF 2.0, appendix B (metallic-roughness, Fresnel after Schlick, Trowbridge-Reitz/GGX with
Smith's joint shadowing); KHR_lights_punctual for how lights fall off [glTF2].
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .model import Floats, Light
from .motion import Matrix, places_at
from .seen import Seen
from .surface import Surface

#: Shadow rays begin this share of the distance off the surface, so that it does not shade itself.
_OFF = 1e-4


@dataclass(frozen=True)
class Lit:
    """Light from the surface to the camera, ``(rows, width, samples, 3)``; 0 where nothing was met.

    Attributes
    ----------
    open, all : diffuse light with and without shadows: their ratio is the shadow.
    """

    diffuse: Floats
    reflection: Floats
    emission: Floats
    open: Floats

    @property
    def beauty(self) -> Floats:
        """The sum of the lighting passes, by definition."""
        return self.diffuse + self.reflection + self.emission


def lit(seen: Seen) -> Lit:
    """The light of one strip; traced for the first pass that asks, kept for the others."""
    if "lit" not in seen.shared:
        seen.shared["lit"] = _light(seen)
    found: Lit = seen.shared["lit"]
    return found


def _light(seen: Seen) -> Lit:
    met = seen.covered.reshape(-1)
    surface = Surface.of(seen)
    position = seen.position.reshape(-1, 3)[met].astype(np.float64)
    normal = seen.normal.reshape(-1, 3)[met].astype(np.float64)
    view = _unit(-seen.directions[met].astype(np.float64))
    count = len(position)
    sums = {name: np.zeros((count, 3)) for name in ("diffuse", "reflection", "open")}
    world = seen.world
    places = places_at(world.scene, world.seconds)
    for node, place in zip(world.scene.nodes, places, strict=True):
        if node.light is None or not count:
            continue
        way, distance, arriving = _from_light(node.light, place, position)
        facing = np.maximum((way * normal).sum(axis=1), 0)
        seen_by = (facing > 0) & (arriving.max(axis=1) > 0)
        if not seen_by.any():
            continue
        free = np.zeros(count, bool)
        free[seen_by] = ~_shadowed(seen, position[seen_by], normal[seen_by], way[seen_by], distance[seen_by])
        diffuse, mirrored = _scattered(surface, normal, view, way)
        power = arriving * facing[:, None]
        sums["open"] += diffuse * power
        sums["diffuse"] += diffuse * power * free[:, None]
        sums["reflection"] += mirrored * power * free[:, None]
    rows = {name: _spread(seen, met, values) for name, values in sums.items()}
    return Lit(rows["diffuse"], rows["reflection"], _spread(seen, met, surface.emission), rows["open"])


def _spread(seen: Seen, met: NDArray[np.bool_], values: NDArray[np.floating]) -> Floats:
    whole = np.zeros((len(met), 3), np.float32)
    whole[met] = values
    return whole.reshape(*seen.shape, 3)


def _from_light(
    light: Light, place: Matrix, position: NDArray[np.float64]
) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
    """The way to the light, how far it is, and what arrives (lux, ``(N, 3)``) square to the way."""
    axis = -place[:3, 2] / np.linalg.norm(place[:3, 2])
    colour = np.array(light.colour) * light.intensity
    if light.kind == "directional":
        way = np.broadcast_to(-axis, position.shape)
        return way, np.full(len(position), 1e8), np.broadcast_to(colour, position.shape)
    to_light = place[:3, 3] - position
    distance = np.maximum(np.linalg.norm(to_light, axis=1), 1e-9)
    way = to_light / distance[:, None]
    strength = 1 / np.square(distance)
    if light.range is not None:
        strength = strength * np.clip(1 - (distance / light.range) ** 4, 0, 1)
    if light.kind == "spot":
        inner, outer = np.cos(light.inner), np.cos(light.outer)
        share = np.clip((-(way @ axis) - outer) / max(1e-3, inner - outer), 0, 1)
        strength = strength * np.square(share)
    return way, distance, strength[:, None] * colour


def _shadowed(
    seen: Seen, position: NDArray[np.float64], normal: NDArray[np.float64],
    way: NDArray[np.float64], distance: NDArray[np.float64],
) -> NDArray[np.bool_]:  # fmt: skip
    off = _OFF * (1 + np.abs(position).max(axis=1, keepdims=True))
    begin = (position + normal * off).astype(np.float32)
    reach = (distance - 2 * off[:, 0]).astype(np.float32)
    return seen.world.blocked(begin, way.astype(np.float32), reach)


def _scattered(
    surface: Surface, normal: NDArray[np.float64], view: NDArray[np.float64], way: NDArray[np.float64]
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Share of light scattered from ``way`` to ``view``, diffuse and mirrored, ``(N, 3)`` a steradian."""
    half = _unit(view + way)
    n_l = np.clip((normal * way).sum(axis=1), 1e-6, 1)
    n_v = np.clip((normal * view).sum(axis=1), 1e-6, 1)
    n_h = np.clip((normal * half).sum(axis=1), 0, 1)
    v_h = np.clip((view * half).sum(axis=1), 0, 1)
    metal = surface.metallic[:, None].astype(np.float64)
    glance = ((1 - surface.ior) / (1 + surface.ior)).astype(np.float64)[:, None] ** 2
    straight_on = glance * (1 - metal) + surface.colour * metal
    fresnel = straight_on + (1 - straight_on) * ((1 - v_h) ** 5)[:, None]
    diffuse = (1 - fresnel) * surface.colour * (1 - metal) / np.pi
    a2 = np.maximum(surface.roughness.astype(np.float64), 0.02) ** 4
    facets = a2 / (np.pi * np.square(n_h * n_h * (a2 - 1) + 1))
    hidden = 0.5 / (n_l * np.sqrt(n_v * n_v * (1 - a2) + a2) + n_v * np.sqrt(n_l * n_l * (1 - a2) + a2))
    return diffuse, fresnel * (facets * hidden)[:, None]


def _unit(vectors: NDArray[np.float64]) -> NDArray[np.float64]:
    unit: NDArray[np.float64] = vectors / np.maximum(np.linalg.norm(vectors, axis=1, keepdims=True), 1e-12)
    return unit
