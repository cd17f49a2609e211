"""From a glTF file to a scene; what is not rendered is named, never left out in silence."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np

from ...errors import SceneRefused
from ..framing import framed
from ..model import Camera, Light, Motion, Node, Scene
from .accessors import Accessors, entry, numbers
from .container import Container, open_container
from .materials import Materials
from .meshes import Meshes

_EXTENSIONS = {
    "KHR_lights_punctual",
    "KHR_materials_transmission",
    "KHR_materials_ior",
    "KHR_materials_emissive_strength",
    "KHR_materials_volume",
}
_PATHS = {"translation": 3, "rotation": 4, "scale": 3}


def read_scene(path: Path | str) -> Scene:
    """The scene of a ``.glb`` or ``.gltf`` file.

    Parameters
    ----------
    path : of the file; what it names lies beside it.

    Returns
    -------
    Meshes, materials, cameras, lights and animations; lengths in metres. A file without a camera or a light
    gets such as frame and light it: see ``added``.

    Raises
    ------
    SceneRefused
        Something in it is wrong; the error names file, node or mesh.
    FileMissing, FileEmpty
        It is not there, or holds nothing.

    Notes
    -----
    Source: glTF 2.0 [glTF2]; KHR_lights_punctual.

    Examples
    --------
    >>> import tempfile
    >>> with tempfile.TemporaryDirectory() as folder:
    ...     path = Path(folder, "empty.gltf")
    ...     _ = path.write_text('{"asset": {"version": "2.0"}, "scenes": [{"nodes": []}], "scene": 0}')
    ...     read_scene(path)
    Traceback (most recent call last):
    neatveil.errors.SceneRefused: empty.gltf shows no mesh.
    """
    container = open_container(Path(path))
    try:
        return _scene(container)
    except MemoryError as error:
        raise SceneRefused(
            f"{container.path.name} asks for more memory than there is for reading it.",
            advice="Export it with fewer triangles or smaller textures.",
            where=container.path.name,
        ) from error
    except (TypeError, AttributeError, KeyError, ValueError, IndexError, OverflowError) as error:
        # the document is JSON from anywhere: a list may stand where an object should
        raise SceneRefused(
            f"{container.path.name} cannot be read as glTF: something in it is not of the kind that "
            f"the standard asks for ({type(error).__name__}: {error}).",
            advice="Export it again.",
            where=container.path.name,
        ) from error


def _scene(container: Container) -> Scene:
    document = container.json
    required = [e for e in document.get("extensionsRequired", []) if e not in _EXTENSIONS]
    if required:
        raise SceneRefused(
            f"{container.path.name} cannot be rendered without {', '.join(required)}.",
            advice="Export it without these extensions.",
            where=container.path.name,
        )
    notes: list[str] = []
    accessors = Accessors(container)
    meshes = Meshes(document, accessors, Materials(container, accessors, notes), notes)
    order = _order(document, container.path.name)
    places = {number: place for place, (number, _) in enumerate(order)}
    nodes = tuple(_node(document, n, p if p is None else places[p], meshes, notes) for n, p in order)
    motions = tuple(_motions(document, accessors, places, notes))
    if not any(n.meshes for n in nodes):
        raise SceneRefused(f"{container.path.name} shows no mesh.", where=container.path.name)
    return framed(Scene(container.path.stem, nodes, motions, tuple(dict.fromkeys(notes))))


def _order(document: dict[str, Any], name: str) -> list[tuple[int, int | None]]:
    """(node, its parent) of the shown scene, parents first; a node that comes twice is refused."""
    if "scenes" in document:
        roots = entry(document, "scenes", document.get("scene", 0), name).get("nodes", [])
    else:
        below = {c for n in document.get("nodes", []) for c in n.get("children", [])}
        roots = [i for i in range(len(document.get("nodes", []))) if i not in below]
    found: list[tuple[int, int | None]] = []
    seen: set[int] = set()
    waiting: list[tuple[int, int | None]] = [(r, None) for r in reversed(roots)]
    while waiting:
        number, parent = waiting.pop()
        row = entry(document, "nodes", number, f"the scene of {name}")
        if number in seen:
            raise SceneRefused(
                f"Node {row.get('name') or number} is below itself, or below two others.",
                advice="Export the scene again.",
                where=str(row.get("name") or number),
            )
        seen.add(number)
        found.append((number, parent))
        waiting += [(c, number) for c in reversed(row.get("children", []))]
    return found


def _node(
    document: dict[str, Any], number: int, parent: int | None, meshes: Meshes, notes: list[str]
) -> Node:
    row = document["nodes"][number]
    name = str(row.get("name") or f"node {number}")
    if "skin" in row:
        notes.append(f"Node {name}: its skin is not rendered; the mesh stands in its rest pose.")
    light = row.get("extensions", {}).get("KHR_lights_punctual", {}).get("light")
    matrix = None
    if "matrix" in row:
        # stored by columns (3.5.3)
        matrix = np.array(numbers(row["matrix"], 16, name)).reshape(4, 4).T
    t = numbers(row.get("translation", (0, 0, 0)), 3, name)
    r = numbers(row.get("rotation", (0, 0, 0, 1)), 4, name)
    s = numbers(row.get("scale", (1, 1, 1)), 3, name)
    return Node(
        name, parent,
        translation=(t[0], t[1], t[2]), rotation=(r[0], r[1], r[2], r[3]), scale=(s[0], s[1], s[2]),
        matrix=matrix,
        meshes=meshes.get(row["mesh"], name) if "mesh" in row else (),
        camera=_camera(document, row["camera"], name, notes) if "camera" in row else None,
        light=_light(document, light, name) if light is not None else None,
    )  # fmt: skip


def _camera(document: dict[str, Any], index: int, node: str, notes: list[str]) -> Camera | None:
    row = entry(document, "cameras", index, f"node {node}")
    name = str(row.get("name") or node)
    lens = row.get("perspective")
    if not lens:
        notes.append(f"Camera {name}: only perspective cameras are rendered.")
        return None
    yfov = float(lens.get("yfov", 0))
    if not 0 < yfov < np.pi:
        raise SceneRefused(f"Camera {name} opens by {yfov} radians.", where=name)
    return Camera(name, yfov, lens.get("aspectRatio"), float(lens.get("znear", 0.01)), lens.get("zfar"))


def _light(document: dict[str, Any], index: int, node: str) -> Light:
    table = document.get("extensions", {}).get("KHR_lights_punctual", {})
    row = entry(table, "lights", index, f"node {node}")
    name = str(row.get("name") or node)
    kind = row.get("type")
    if kind not in {"point", "spot", "directional"}:
        raise SceneRefused(f"Light {name} is of the kind {kind!r}, which glTF does not know.", where=name)
    colour = numbers(row.get("color", (1, 1, 1)), 3, name)
    spot = row.get("spot", {})
    return Light(
        name, kind, (colour[0], colour[1], colour[2]), float(row.get("intensity", 1)), row.get("range"),
        float(spot.get("innerConeAngle", 0)), float(spot.get("outerConeAngle", np.pi / 4)),
    )  # fmt: skip


def _motions(
    document: dict[str, Any], accessors: Accessors, places: dict[int, int], notes: list[str]
) -> list[Motion]:
    """All animations of the file, played together."""
    found = []
    for number, animation in enumerate(document.get("animations", [])):
        name = str(animation.get("name") or f"animation {number}")
        for channel in animation.get("channels", []):
            target = channel.get("target", {})
            path, node = target.get("path"), target.get("node")
            if path not in _PATHS:
                notes.append(f"Animation {name}: {path} is not rendered.")
            elif node in places:
                sampler = entry(animation, "samplers", channel.get("sampler"), name)
                found.append(_motion(sampler, places[node], path, accessors, name))
    return found


def _motion(sampler: dict[str, Any], node: int, path: Any, accessors: Accessors, name: str) -> Motion:
    where = f"animation {name}"
    kind = sampler.get("interpolation", "LINEAR")
    if kind not in {"LINEAR", "STEP", "CUBICSPLINE"}:
        raise SceneRefused(f"{where} interpolates by {kind!r}, which glTF does not know.", where=name)
    times = accessors.floats(sampler.get("input", -1), 1, where)[:, 0]
    values = accessors.floats(sampler.get("output", -1), _PATHS[path], where)
    each = 3 if kind == "CUBICSPLINE" else 1
    if len(values) != each * len(times) or (np.diff(times) <= 0).any():
        raise SceneRefused(
            f"{where} has {len(times)} times for {len(values)} values, or its times do not rise.", where=name
        )
    if each == 3:
        values = values.reshape(len(times), 3, -1)
    return Motion(node, path, kind, times, values)
