"""A scene as it is rendered: meshes, materials, nodes, cameras, lights and how nodes move.

Units and axes follow glTF: metres, radians, seconds; right-handed, y up, cameras and lights look
along their own -z. Colours are scene-linear with the primaries of BT.709.

Source: glTF 2.0 [glTF2].
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float32]
Colour = tuple[float, float, float]

Path = Literal["translation", "rotation", "scale"]
Interpolation = Literal["LINEAR", "STEP", "CUBICSPLINE"]


@dataclass(frozen=True)
class Texture:
    """A picture on a surface.

    Attributes
    ----------
    pixels : ``(H, W, 4)`` R, G, B, A; colour textures in light, others as stored. Row 0 is v = 0.
    wrap : what lies beyond 0..1, across and down.
    nearest : no blending between pixels.
    """

    name: str
    pixels: Floats
    wrap: tuple[str, str] = ("repeat", "repeat")
    nearest: bool = False


@dataclass(frozen=True)
class Material:
    """Metallic-roughness surface with transmission and emission.

    Attributes
    ----------
    cutout : alpha below which the surface is not there, where it is cut by its alpha.
    blended : alpha is coverage.
    emission : light given off, colour times strength.
    solid : the surface bounds a body, whose index of refraction bends light; else it is a thin sheet.
    dimmed, dimmed_over : what a body leaves of light over a length in it; infinite where it is clear.
    """

    name: str
    colour: Colour = (1.0, 1.0, 1.0)
    alpha: float = 1.0
    colour_texture: Texture | None = None
    metallic: float = 1.0
    roughness: float = 1.0
    metal_texture: Texture | None = None
    emission: Colour = (0.0, 0.0, 0.0)
    emission_texture: Texture | None = None
    transmission: float = 0.0
    transmission_texture: Texture | None = None
    ior: float = 1.5
    cutout: float | None = None
    blended: bool = False
    double_sided: bool = False
    solid: bool = False
    dimmed: Colour = (1.0, 1.0, 1.0)
    dimmed_over: float = float("inf")

    @property
    def textured(self) -> bool:
        rows = (self.colour_texture, self.emission_texture, self.transmission_texture, self.metal_texture)
        return any(t is not None for t in rows)

    @property
    def veil(self) -> bool:
        """Whether its alpha lets anything through."""
        partly = self.alpha < 1 or self.colour_texture is not None
        return (self.blended or self.cutout is not None) and partly

    @property
    def sheer(self) -> bool:
        """Whether light comes through it, by its alpha or by its transmission."""
        return self.veil or self.transmission > 0


@dataclass(frozen=True)
class Mesh:
    """Triangles of one material.

    Attributes
    ----------
    positions, normals : ``(N, 3)``; normals have length 1.
    uv : ``(N, 2)``, or None where the mesh carries none; v goes down, (0, 0) is the picture's corner.
    triangles : ``(T, 3)`` indices, counter-clockwise seen from the front.
    """

    name: str
    positions: Floats
    normals: Floats
    uv: Floats | None
    triangles: NDArray[np.int32]
    material: Material


@dataclass(frozen=True)
class Camera:
    """A perspective camera. ``aspect`` None: that of the picture that is rendered."""

    name: str
    yfov: float
    aspect: float | None
    near: float
    far: float | None


@dataclass(frozen=True)
class Light:
    """A light of no size. ``intensity``: candela (point, spot) or lux (directional)."""

    name: str
    kind: Literal["point", "spot", "directional"]
    colour: Colour = (1.0, 1.0, 1.0)
    intensity: float = 1.0
    range: float | None = None
    inner: float = 0.0
    outer: float = float(np.pi / 4)


@dataclass(frozen=True)
class Node:
    """A place in the hierarchy. ``matrix`` instead of the three parts where the file gives one."""

    name: str
    parent: int | None = None
    translation: tuple[float, float, float] = (0.0, 0.0, 0.0)
    rotation: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 1.0)
    scale: tuple[float, float, float] = (1.0, 1.0, 1.0)
    matrix: NDArray[np.float64] | None = None
    meshes: tuple[Mesh, ...] = ()
    camera: Camera | None = None
    light: Light | None = None


@dataclass(frozen=True)
class Motion:
    """How one part of one node's place changes.

    Attributes
    ----------
    times : ``(K,)`` seconds, rising.
    values : ``(K, 3)`` or ``(K, 4)``; for CUBICSPLINE ``(K, 3, ...)``: in-tangent, value, out-tangent.
    """

    node: int
    path: Path
    interpolation: Interpolation
    times: Floats
    values: Floats


@dataclass(frozen=True)
class Scene:
    """Everything of one file.

    Attributes
    ----------
    nodes : every node of the scene, parents before their children.
    notes : what the file asks for and is not rendered, in sentences.
    added : what the file lacks and was added to see it by, in sentences.
    """

    name: str
    nodes: tuple[Node, ...]
    motions: tuple[Motion, ...] = ()
    notes: tuple[str, ...] = field(default=())
    added: tuple[str, ...] = field(default=())

    @property
    def seconds(self) -> float:
        """When the last motion ends."""
        return max((float(m.times[-1]) for m in self.motions), default=0.0)

    @property
    def cameras(self) -> list[int]:
        """Numbers of the nodes that carry a camera."""
        return [i for i, n in enumerate(self.nodes) if n.camera is not None]
