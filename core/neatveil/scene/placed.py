"""A camera and lamps that a set-up places by itself, around what they look at.

Angles are degrees: azimuth 0 looks from +Z, the front in glTF, and grows to the right (+X); elevation grows
upward (+Y); roll turns the camera clockwise about its axis, so that the picture turns the other way.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, ValidationError

from ..animation import Animated
from ..errors import SceneRefused
from ..numeric.camera import facing
from .model import Camera, Light, Node, Scene
from .motion import Matrix

#: Name of the placed camera in manifests and messages.
PLACED = "placed camera"
#: The nearest thing that is seen, as a share of the distance.
_NEAR = 1 / 1000


def _place(title: str) -> float:
    return Field(0.0, ge=-1e6, le=1e6, title=title, json_schema_extra={"unit": "units"})


class PlacedCamera(Animated):
    """A camera on an orbit around a target; each number may have keys, by the frame of the render."""

    azimuth: float = Field(28.0, ge=-36000, le=36000, title="azimuth", description="Around the target.")
    elevation: float = Field(16.0, ge=-90, le=90, title="elevation", description="Above the target.")
    roll: float = Field(0.0, ge=-36000, le=36000, title="roll", description="About the camera's axis.")
    distance: float = Field(5.0, gt=1e-6, le=1e6, title="distance", description="From the target.")
    angle: float = Field(
        32.0, ge=0.1, le=170, title="angle of view", description="From the frame's top to its bottom."
    )
    target_x: float = _place("target x")
    target_y: float = _place("target y")
    target_z: float = _place("target z")

    def place(self) -> Matrix:
        """``(4, 4)``: from the camera's space to the world's; as it is without its keys."""
        target = np.array([self.target_x, self.target_y, self.target_z])
        return on_orbit(target, self.distance, self.azimuth, self.elevation, self.roll)

    def camera(self) -> Camera:
        return Camera(PLACED, float(np.radians(self.angle)), None, self.distance * _NEAR, None)


class PlacedLamp(Animated):
    """Light from one direction everywhere, as the sun's; its numbers may have keys, by the render's frame."""

    name: str = Field(min_length=1, max_length=60, pattern=r"^[\w][\w .-]*$")
    azimuth: float = Field(0.0, ge=-36000, le=36000)
    elevation: float = Field(45.0, ge=-90, le=90)
    strength: float = Field(1.0, ge=0, le=1e6, description="Lux.")
    colour: tuple[float, float, float] = Field((1.0, 1.0, 1.0), description="Linear light.")

    def node(self) -> Node:
        light = Light(self.name, "directional", self.colour, self.strength)
        return Node(self.name, matrix=on_orbit(np.zeros(3), 0.0, self.azimuth, self.elevation), light=light)


def on_orbit(
    target: NDArray[np.float64], distance: float, azimuth: float, elevation: float, roll: float = 0.0
) -> Matrix:
    """``(4, 4)`` of something at a distance that looks at a target."""
    matrix = np.eye(4)
    matrix[:3, :3] = facing(azimuth, elevation, roll)
    matrix[:3, 3] = target + matrix[:3, 2] * distance
    return matrix


def scene_with_lamps(scene: Scene, lamps: tuple[PlacedLamp, ...], frame: float) -> Scene:
    """The scene with a set-up's own lamps in it, as they are at a frame of the render."""
    nodes = (x.at(frame).node() for x in lamps)
    return replace(scene, nodes=(*scene.nodes, *nodes)) if lamps else scene


def placed_like(camera: Camera, place: Matrix, middle: NDArray[np.float64]) -> PlacedCamera:
    """The placed camera that sees what another one sees, to go on from.

    Parameters
    ----------
    camera, place : the other one, and ``(4, 4)`` from its space to the world's.
    middle : ``(3,)`` of what the scene shows: the target lies on the axis, beside it.

    Returns
    -------
    Without keys; angles to a ten-thousandth of a degree.

    Raises
    ------
    SceneRefused
        It stands farther away, or sees more or less, than a placed camera can.
    """
    turn = place[:3, :3] / np.linalg.norm(place[:3, :3], axis=0)
    eye, back = place[:3, 3], turn[:, 2]
    distance = float((eye - middle) @ back)
    if distance <= 1e-6:  # it looks away from everything
        distance = max(float(np.linalg.norm(eye - middle)), 1.0)
    elevation = float(np.degrees(np.arcsin(np.clip(back[1], -1, 1))))
    azimuth = float(np.degrees(np.arctan2(back[0], back[2])))
    level = facing(azimuth, elevation, 0.0)
    roll = float(np.degrees(np.arctan2(turn[:, 0] @ -level[:, 1], turn[:, 0] @ level[:, 0])))
    x, y, z = (float(v) for v in eye - back * distance)
    try:
        return PlacedCamera(
            azimuth=round(azimuth, 4), elevation=round(elevation, 4), roll=round(roll, 4), distance=distance,
            angle=float(np.degrees(camera.yfov)), target_x=x, target_y=y, target_z=z,
        )  # fmt: skip
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        raise SceneRefused(
            f"{camera.name} cannot be gone on from: {first['loc'][0]}: {first['msg']}.",
            advice="Choose another camera of the scene, or scale the scene.", where=camera.name,
        ) from error  # fmt: skip
