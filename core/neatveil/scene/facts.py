"""What a scene holds, for people to choose from."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel

from .model import Scene
from .motion import places_at


class NodeFact(BaseModel):
    """A node that shows something, or has nodes below it that do. ``depth``: levels below the root."""

    name: str
    parent: str | None
    depth: int
    triangles: int
    has_uv: bool


class SceneFacts(BaseModel):
    """What is in a scene. ``objects_by_depth``: objects at the root, the nearest to the camera first."""

    name: str
    cameras: list[str]
    lights: list[str]
    nodes: list[NodeFact]
    materials: list[str]
    glass: list[str]
    triangles: int
    seconds: float
    objects_by_depth: list[str]
    notes: list[str]
    added: list[str] = []


def facts_of(scene: Scene) -> SceneFacts:
    """The facts of a scene at its first moment."""
    triangles = [sum(len(m.triangles) for m in n.meshes) for n in scene.nodes]
    below = triangles.copy()
    for i in range(len(scene.nodes) - 1, -1, -1):
        parent = scene.nodes[i].parent
        if parent is not None:
            below[parent] += below[i]
    depth: list[int] = []
    for node in scene.nodes:
        depth.append(0 if node.parent is None else depth[node.parent] + 1)
    nodes = [
        NodeFact(
            name=n.name, parent=None if n.parent is None else scene.nodes[n.parent].name, depth=depth[i],
            triangles=below[i], has_uv=all(m.uv is not None for m in n.meshes),
        )
        for i, n in enumerate(scene.nodes)
        if below[i]
    ]  # fmt: skip
    materials = {id(m.material): m.material for n in scene.nodes for m in n.meshes}.values()
    return SceneFacts(
        name=scene.name,
        cameras=[scene.nodes[i].name for i in scene.cameras],
        lights=[n.name for n in scene.nodes if n.light is not None],
        nodes=nodes,
        materials=[m.name for m in materials],
        glass=[m.name for m in materials if m.transmission > 0],
        triangles=sum(triangles),
        seconds=scene.seconds,
        objects_by_depth=_by_depth(scene, below),
        notes=list(scene.notes),
        added=list(scene.added),
    )


def _by_depth(scene: Scene, below: list[int]) -> list[str]:
    """Root objects by the distance of their middle from the first camera, along its axis."""
    places = places_at(scene, 0.0)
    roots = [i for i, n in enumerate(scene.nodes) if n.parent is None and below[i]]
    if not scene.cameras:
        return [scene.nodes[i].name for i in roots]
    camera = places[scene.cameras[0]]
    root_of: list[int] = []
    for i, node in enumerate(scene.nodes):
        root_of.append(i if node.parent is None else root_of[node.parent])
    distance = {}
    for root in roots:
        points = [
            m.positions.astype(np.float64) @ places[i][:3, :3].T + places[i][:3, 3]
            for i, n in enumerate(scene.nodes)
            if root_of[i] == root
            for m in n.meshes
        ]
        middle = np.concatenate(points).mean(axis=0)
        distance[root] = float(-(middle - camera[:3, 3]) @ camera[:3, 2])
    return [scene.nodes[i].name for i in sorted(roots, key=lambda i: distance[i])]
