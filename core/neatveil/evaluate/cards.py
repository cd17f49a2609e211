"""Layers that stand in the scene of a rendered set: from their own pixels to those that the camera sees.

Source: the projection of glTF 2.0, 3.10.3 [glTF2]; a plane under it is a projective mapping, Heckbert 1989,
section 2.2.3 [Heckbert1989].
"""

from __future__ import annotations

import numpy as np

from ..comp import Card, Comp, SceneCamera, camera_frame
from ..numeric.camera import Matrix, facing, projection, spread_of

#: How near to its own plane a camera may come, as a share of its distance: then the card is a hair's breadth.
_EDGE_ON = 1e-7


def card_matrix(comp: Comp, card: Card, size: tuple[int, int]) -> Matrix:
    """``(3, 3)``: from corner coordinates of a layer's picture to those of the comp, times the depth.

    Parameters
    ----------
    card : as it is at a frame of ``comp``.
    size : of the layer's picture, unhalved.

    Raises
    ------
    DocumentRefused
        The comp has not the camera that it is seen by.
    """
    camera = comp.camera_of(card)
    frame = camera_frame(comp, card, camera)
    matrix: Matrix = seen_by(comp, camera, frame) @ _in_world(card, np.array(camera.place_at(frame)), size)
    return matrix


def card_key(comp: Comp, card: Card) -> list[object]:
    """Changes with everything that `card_matrix` depends on, but for the picture's size."""
    camera = comp.camera_of(card)
    frame = camera_frame(comp, card, camera)
    return [
        card.model_dump_json(), comp.width, comp.height, camera.width, camera.height,
        camera.place_at(frame), camera.yfov_at(frame),
    ]  # fmt: skip


def seen_by(comp: Comp, camera: SceneCamera, frame: int) -> Matrix:
    """``(3, 4)``: as of `projection`, into the comp, where a layer of the set lies at rest.

    ``frame``: of the camera's own.
    """
    spread = spread_of(camera.yfov_at(frame), camera.width, camera.height)
    seen = projection(np.array(camera.place_at(frame)), camera.width, camera.height, spread)
    right, down = (comp.width - camera.width) // 2, (comp.height - camera.height) // 2
    shift: Matrix = np.array([[1, 0, right], [0, 1, down], [0, 0, 1]], float)
    return shift @ seen


def _in_world(card: Card, place: Matrix, size: tuple[int, int]) -> Matrix:
    """``(4, 3)``: from corner coordinates of a picture to points of the world, homogeneous."""
    turn = facing(card.turn, card.tilt, card.roll)
    if card.faces == "camera":
        turn = place[:, :3] @ turn
    right, up, front = turn.T
    at, eye = np.array([card.x, card.y, card.z]), place[:, 3]
    away = float((eye - at) @ front)
    least = _EDGE_ON * max(float(np.linalg.norm(eye - at)), 1e-9)
    if abs(away) < least:
        at = at - front * (least - away)
    unit = card.width / size[0]  # of the scene in one pixel
    middle = size[1] if card.anchor == "foot" else size[1] / 2
    corner = at - right * card.width / 2 + up * unit * middle
    return np.vstack([np.column_stack([right * unit, -up * unit, corner]), [0, 0, 1]])
