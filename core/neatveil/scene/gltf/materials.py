"""Materials and their textures.

Source: glTF 2.0, 3.9 materials; KHR_materials_transmission, KHR_materials_ior, KHR_materials_volume,
KHR_materials_emissive_strength [glTF2].
"""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from ...colour import decode
from ...errors import SceneRefused
from ..model import Material, Texture
from .accessors import Accessors, entry, numbers
from .container import Container

#: Most pixels of a texture.
MAX_PIXELS = 16384 * 16384

_WRAPS = {10497: "repeat", 33071: "clamp", 33648: "mirror"}
_NEAREST = 9728
_READ_EXTENSIONS = {
    "KHR_materials_transmission",
    "KHR_materials_ior",
    "KHR_materials_emissive_strength",
    "KHR_materials_volume",
}


class Materials:
    """The materials of one file, each made once; ``notes`` gathers what is not rendered."""

    def __init__(self, container: Container, accessors: Accessors, notes: list[str]) -> None:
        self._container = container
        self._accessors = accessors
        self._json = container.json
        self._notes = notes
        self._made: dict[int | None, Material] = {None: Material("default")}
        self._textures: dict[tuple[int, bool], Texture] = {}

    def get(self, index: int | None, where: str) -> Material:
        if index not in self._made:
            self._made[index] = self._make(entry(self._json, "materials", index, where), index)
        return self._made[index]

    def _make(self, row: dict[str, Any], index: int | None) -> Material:
        name = str(row.get("name") or f"material {index}")
        base = row.get("pbrMetallicRoughness", {})
        extensions = row.get("extensions", {})
        self._note_unread(row, extensions, name)
        glass = extensions.get("KHR_materials_transmission", {})
        body = extensions.get("KHR_materials_volume", {})
        dimmed = numbers(body.get("attenuationColor", (1, 1, 1)), 3, name)
        strength = float(extensions.get("KHR_materials_emissive_strength", {}).get("emissiveStrength", 1))
        r, g, b, a = numbers(base.get("baseColorFactor", (1, 1, 1, 1)), 4, name)
        glow = numbers(row.get("emissiveFactor", (0, 0, 0)), 3, name)
        mode = row.get("alphaMode", "OPAQUE")
        return Material(
            name=name,
            colour=(r, g, b),
            alpha=1.0 if mode == "OPAQUE" else a,
            colour_texture=self._texture(base.get("baseColorTexture"), name, colour=True),
            metallic=float(base.get("metallicFactor", 1)),
            roughness=float(base.get("roughnessFactor", 1)),
            metal_texture=self._texture(base.get("metallicRoughnessTexture"), name, colour=False),
            emission=(glow[0] * strength, glow[1] * strength, glow[2] * strength),
            emission_texture=self._texture(row.get("emissiveTexture"), name, colour=True),
            transmission=float(glass.get("transmissionFactor", 0)),
            transmission_texture=self._texture(glass.get("transmissionTexture"), name, colour=False),
            ior=float(extensions.get("KHR_materials_ior", {}).get("ior", 1.5)),
            cutout=float(row.get("alphaCutoff", 0.5)) if mode == "MASK" else None,
            blended=mode == "BLEND",
            double_sided=bool(row.get("doubleSided", False)),
            # rays measure how thick the mesh is; the file's own thickness is for renderers without them
            solid=float(body.get("thicknessFactor", 0)) > 0,
            dimmed=(dimmed[0], dimmed[1], dimmed[2]),
            dimmed_over=float(body.get("attenuationDistance", "inf")),
        )

    def _note_unread(self, row: dict[str, Any], extensions: dict[str, Any], name: str) -> None:
        for key, words in (("normalTexture", "normal map"), ("occlusionTexture", "baked occlusion")):
            if key in row:
                self._notes.append(f"Material {name}: its {words} is not rendered.")
        for extension in extensions:
            if extension not in _READ_EXTENSIONS:
                self._notes.append(f"Material {name}: {extension} is not rendered.")

    def _texture(self, use: dict[str, Any] | None, name: str, *, colour: bool) -> Texture | None:
        if not use:
            return None
        if use.get("texCoord", 0) != 0:
            self._notes.append(f"Material {name}: a texture on a second set of UVs lies on the first.")
        if "KHR_texture_transform" in use.get("extensions", {}):
            self._notes.append(f"Material {name}: KHR_texture_transform is not rendered.")
        index = use.get("index")
        row = entry(self._json, "textures", index, f"material {name}")
        assert isinstance(index, int)
        known = self._textures.get((index, colour))
        if known is None:
            known = self._textures[index, colour] = self._read_texture(row, index, colour)
        return known

    def _read_texture(self, row: dict[str, Any], index: int, colour: bool) -> Texture:
        where = f"texture {index}"
        image = entry(self._json, "images", row.get("source"), where)
        name = str(image.get("name") or image.get("uri") or f"picture {row['source']}")[:200]
        if "bufferView" in image:
            data = self._accessors.view(image["bufferView"], where)
        else:
            data = self._container.bytes_of(image.get("uri"), where)
        sampler = entry(self._json, "samplers", row["sampler"], where) if "sampler" in row else {}
        wrap = tuple(_WRAPS.get(sampler.get(k, 10497), "repeat") for k in ("wrapS", "wrapT"))
        pixels = _pixels(data, name)
        if colour:
            for i in range(3):
                pixels[..., i] = decode(np.ascontiguousarray(pixels[..., i]), "srgb")
        return Texture(name, pixels, (wrap[0], wrap[1]), sampler.get("magFilter") == _NEAREST)


def _pixels(data: bytes, name: str) -> np.ndarray[Any, np.dtype[np.float32]]:
    """``(H, W, 4)`` shares of the largest code, from PNG or JPEG bytes."""
    how = cv2.IMREAD_UNCHANGED | cv2.IMREAD_IGNORE_ORIENTATION
    try:
        coded = cv2.imdecode(np.frombuffer(data, np.uint8), how)
    except cv2.error as error:  # such as a size beyond the library's own limit
        if error.code == cv2.Error.StsNoMem:
            raise MemoryError from error
        coded = None
    if coded is None or coded.dtype not in (np.uint8, np.uint16):
        raise SceneRefused(
            f"The texture {name} cannot be read as PNG or JPEG.",
            advice="Copy or export it again.",
            where=name,
        )
    height, width = coded.shape[:2]
    if height * width > MAX_PIXELS:
        raise SceneRefused(f"The texture {name} is {width} x {height}; that is too large.", where=name)
    whole = cv2.cvtColor(coded, _TO_RGBA[1 if coded.ndim == 2 else coded.shape[2]])
    top = np.float32(255 if coded.dtype == np.uint8 else 65535)
    shares: np.ndarray[Any, np.dtype[np.float32]] = np.divide(whole, top, dtype=np.float32)
    return shares


_TO_RGBA = {1: cv2.COLOR_GRAY2RGBA, 3: cv2.COLOR_BGR2RGBA, 4: cv2.COLOR_BGRA2RGBA}
