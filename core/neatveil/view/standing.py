"""Standing a layer in a rendered scene: where a pointer meets the scene, and as large as it was."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from ..comp import Card, Comp, camera_frame
from ..comp.layers import LayerBase
from ..evaluate import Evaluator
from ..evaluate.cards import seen_by
from ..evaluate.placement import place_of
from ..numeric.camera import spread_of
from ..scene.model import Scene
from ..scene.world import World

Vector = NDArray[np.float64]
#: How far along the camera's axis a ray meets the scene at a frame of the camera; None where it does not.
Meets = Callable[[int, Vector, Vector], float | None]


def standing(
    evaluator: Evaluator, comp: Comp, frame: int, layer: str, camera: str,
    point: tuple[float, float] | None, meets: Meets,
) -> Card:  # fmt: skip
    """The card that a layer becomes.

    Parameters
    ----------
    camera : key of the camera that sees it, for a layer that is flat.
    point : of the comp, where its place is to be seen; None leaves it where it is seen now.

    Returns
    -------
    Without keys. A layer that was flat faces the camera, as large as it was seen; one that stands already
    keeps its size and its angles. It stands where the scene is met, and where that is nowhere as far away as
    before, or as the scene's origin is.

    Raises
    ------
    NeatVeilError : as of `Evaluator.lying`.
    """
    own, size, matrix = evaluator.lying(comp, frame, layer)
    before = own.card
    card = before or Card(camera=camera, faces="camera", roll=own.transform.rotation).at(frame)
    lens = comp.camera_of(card)
    number = camera_frame(comp, card, lens)
    place = np.array(lens.place_at(number))
    inside = _seen_in_group(comp, own, size, matrix, point)
    # the ray through it, one unit long along the axis
    way = np.linalg.inv(seen_by(comp, lens, number)[:, :3]) @ (*inside, 1.0)
    far = meets(number, place[:, 3], way)
    if far is None:
        far = _far_as_before(place, before)
    x, y, z = (round(float(v), 6) for v in place[:, 3] + way * far)
    change = {"x": x, "y": y, "z": z, "keys": {}}
    if before is None:
        _, up = spread_of(lens.yfov_at(number), lens.width, lens.height)
        pixel = 2 * up / lens.height * far  # of the scene
        change |= {"width": round(size[0] * own.transform.scale * pixel, 6)}
        change |= {"anchor": "centre" if point is None else "foot"}
    return card.model_copy(update=change)


def meets_scene(scene: Scene, seconds: Callable[[int], float]) -> Meets:
    """Against the meshes of a scene, at the moments of the camera's frames."""

    def meets(frame: int, eye: Vector, way: Vector) -> float | None:
        rays = [np.ascontiguousarray(v[None], np.float32) for v in (eye, way)]
        length = float(World(scene, seconds(frame)).everything.first_hits(rays[0], rays[1]).length[0])
        return length if np.isfinite(length) else None

    return meets


def _seen_in_group(
    comp: Comp, own: LayerBase, size: tuple[int, int], matrix: Vector, point: tuple[float, float] | None
) -> Vector:
    """Where the place is to be seen, in the frame of what holds the layer."""
    into = place_of(comp, own, size)
    if point is None:
        found = np.linalg.inv(into) @ _anchor(own.card, size)
    else:
        found = np.linalg.inv(into) @ matrix @ (*point, 1.0)
    return np.asarray(found[:2] / found[2], np.float64)


def _anchor(card: Card | None, size: tuple[int, int]) -> Vector:
    down = size[1] if card is not None and card.anchor == "foot" else size[1] / 2
    return np.array([size[0] / 2, down, 1.0])


def _far_as_before(place: Vector, before: Card | None) -> float:
    at = np.zeros(3) if before is None else np.array([before.x, before.y, before.z])
    far = float((place[:, 3] - at) @ place[:, 2])
    return far if far > 1e-6 else 1.0
