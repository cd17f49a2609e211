"""A camera that frames a scene and lights that show it, for files that come without.

Most files that are passed round hold a thing and nothing to see it by.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from .model import Camera, Light, Mesh, Node, Scene
from .motion import places_at
from .placed import on_orbit

CAMERA, KEY, FILL = "framing camera", "key light", "fill light"
#: Vertical angle of view: of a lens that flatters things on a table (common practice, no source).
_YFOV = np.radians(32)
#: Where it is seen from, in degrees: a little from the right and from above, +Z being the front.
_AZIMUTH, _ELEVATION = 28.0, 16.0
#: Room around the thing.
_ROOM = 1.15


def framed(scene: Scene) -> Scene:
    """The scene with a camera and lights where it has none; ``added`` says which, in sentences.

    Parameters
    ----------
    scene : as its file holds it; it shows a mesh.

    Returns
    -------
    The same scene where it has both, or a camera and surfaces that glow.
    """
    nodes, added = list(scene.nodes), []
    centre, radius = bounds(scene)
    if not scene.cameras:
        distance = _ROOM * radius / np.sin(_YFOV / 2)
        camera = Camera(CAMERA, float(_YFOV), None, float(distance / 1000), None)
        nodes.append(Node(CAMERA, matrix=on_orbit(centre, distance, _AZIMUTH, _ELEVATION), camera=camera))
        added.append(f"It has no camera: {CAMERA} was added, which sees all of it.")
    # somebody who put a camera into a scene that glows by itself means it to be lit by that
    meant = bool(scene.cameras) and any(_glows(m) for n in scene.nodes for m in n.meshes)
    if not meant and not any(n.light is not None for n in scene.nodes):
        for name, azimuth, elevation, strength in ((KEY, -40, 50, 3.0), (FILL, 60, 15, 0.8)):
            place = on_orbit(centre, radius, _AZIMUTH + azimuth, elevation)
            light = Light(name, "directional", (1.0, 1.0, 1.0), strength)
            nodes.append(Node(name, matrix=place, light=light))
        added.append(f"It has no light: {KEY} and {FILL} were added.")
    if not added:
        return scene
    return replace(scene, nodes=tuple(nodes), added=tuple(added))


def _glows(mesh: Mesh) -> bool:
    return any(mesh.material.emission)


def bounds(scene: Scene) -> tuple[NDArray[np.float64], float]:
    """Middle and radius of a ball around all meshes at the first moment, in scene units."""
    places = places_at(scene, 0.0)
    low, high = np.full(3, np.inf), np.full(3, -np.inf)
    for node, place in zip(scene.nodes, places, strict=True):
        for mesh in node.meshes:
            points = mesh.positions @ place[:3, :3].T + place[:3, 3]
            low, high = np.minimum(low, points.min(axis=0)), np.maximum(high, points.max(axis=0))
    radius = float(np.linalg.norm(high - low)) / 2
    return (low + high) / 2, max(radius, 1e-6)
