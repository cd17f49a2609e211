"""The files of a render: what is written of each sheet, under which names, and what they hold."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Literal

import numpy as np

from ..alpha import Reading
from ..colour import encode
from ..io.backends import oiio_writing
from ..io.sequences import Pattern
from ..io.whole import whole_file
from ..picture import StoredPicture
from .identity import metadata
from .model import Floats, Scene
from .passes import pass_named
from .passes.base import Pass
from .render_layers import RenderLayer
from .setup import RenderSetup

Planes = dict[str, Floats]


@dataclass(frozen=True)
class Form:
    """A form of files.

    Attributes
    ----------
    apart : one sequence a pass, else all channels in one file.
    codes : sample type of files that hold codes of 0..1; None: half and float by what a pass needs.
    """

    ending: str
    apart: bool
    codes: Literal["uint8", "uint16"] | None = None


FORMS = {
    "exr": Form(".exr", apart=False),
    "exr-each": Form(".exr", apart=True),
    "png8": Form(".png", apart=True, codes="uint8"),
    "png16": Form(".png", apart=True, codes="uint16"),
    "tiff8": Form(".tif", apart=True, codes="uint8"),
    "tiff16": Form(".tif", apart=True, codes="uint16"),
}


@dataclass(frozen=True)
class Written:
    """One sequence of files.

    Attributes
    ----------
    name : of the layer and the pass, as people read it; empty where it is everything.
    pattern : the files, seen from the render's folder.
    passes : what is in it.
    """

    layer: str
    name: str
    pattern: str
    passes: tuple[str, ...]
    reading: Reading
    encoding: Literal["linear", "srgb"]
    kind: Literal["colour", "data"]

    def path(self, folder: Path, frame: int) -> Path:
        return Pattern.parse(folder / self.pattern).path(frame)


def written_of(scene: Scene, setup: RenderSetup, layer: RenderLayer) -> list[Written]:
    """The sequences of one sheet."""
    file_format = FORMS[setup.output.format]
    base = setup.name or scene.name
    folder = f"{layer.layer}/" if layer.layer else ""
    stem = f"{base}_{layer.layer}" if layer.layer else base
    if not file_format.apart:
        reading = setup.reading if {"beauty", "alpha"} & set(setup.passes) else Reading(alpha="none")
        data = all(pass_named(p).kind == "data" for p in setup.passes)
        pattern = f"{folder}{stem}.####{file_format.ending}"
        kind: Literal["colour", "data"] = "data" if data else "colour"
        return [Written(layer.layer, layer.layer, pattern, setup.passes, reading, "linear", kind)]
    found = []
    for one in map(pass_named, setup.passes):
        for part in _parts(one, setup):
            name = " ".join(x for x in (layer.layer, part) if x)
            light = file_format.codes is not None and one.coded == "light"
            found.append(
                Written(
                    layer.layer, name, f"{folder}{stem}_{part}.####{file_format.ending}", (one.name,),
                    _reading(one, setup, light), "srgb" if light else "linear", one.kind,
                )
            )  # fmt: skip
    return found


def _parts(one: Pass, setup: RenderSetup) -> list[str]:
    """Names of a pass's sequences: files of codes hold one mask each."""
    if one.name == "masks" and FORMS[setup.output.format].codes:
        return [f"mask{n}" for n in sorted(set(setup.numbers.values()))]
    return [one.name]


def _reading(one: Pass, setup: RenderSetup, encoded: bool) -> Reading:
    if one.coded == "light" and one.name != "beauty" and setup.output.alpha_with_passes:
        return Reading(alpha="premultiplied")
    if one.name == "alpha" and FORMS[setup.output.format].codes is None:
        return Reading(alpha="premultiplied")
    if one.name != "beauty":
        return Reading(alpha="none")
    reading = setup.reading
    if encoded and any(reading.matte):
        codes = encode(np.array([reading.matte], np.float32), "srgb")[0]
        r, g, b = (float(v) for v in codes)
        reading = reading.model_copy(update={"matte": (r, g, b)})
    return reading


def write_layer(
    scene: Scene, setup: RenderSetup, layer: RenderLayer, frame: int, picture: StoredPicture, folder: Path
) -> None:
    """Write the files of one frame, each whole or not at all."""
    file_format = FORMS[setup.output.format]
    for row in written_of(scene, setup, layer):
        planes = {c: p for c, p in picture.planes.items() if _belongs(c, row)}
        if file_format.apart and pass_named(row.passes[0]).coded == "light":
            # alone in its file a picture has the plain names, so that every program shows it
            planes = {c.rpartition(".")[2]: p for c, p in planes.items()}
            if setup.output.alpha_with_passes:
                planes["A"] = picture["A"]
        if file_format.codes is not None:
            planes = _as_codes(pass_named(row.passes[0]), setup, planes)
        with whole_file(row.path(folder, frame)) as part:
            oiio_writing.write(
                part, StoredPicture(planes), sample=file_format.codes or "half",
                alpha_straight=row.reading.alpha == "straight", encoding=row.encoding,
                compression=setup.output.compression if file_format.codes is None else "",
                samples=None if file_format.codes else channel_samples(setup, planes),
                attributes={**_identities(scene, row), "framesPerSecond": str(setup.rate)},
                dither=frame if file_format.codes == "uint8" and setup.output.dither else None,
            )  # fmt: skip


def _belongs(channel: str, row: Written) -> bool:
    """Whether a channel is written into a sequence."""
    layer, letter = _layer(channel), channel.rpartition(".")[2]
    for one in map(pass_named, row.passes):
        if layer != one.channel_layer:
            continue
        if one.name == "masks" and row.name.rpartition(" ")[2].startswith("mask"):
            return row.name.rpartition(" ")[2] in {"masks", f"mask{letter}"}
        if one.name != "alpha" or letter == "A":
            return True
    return False


def _layer(channel: str) -> str:
    """The pass's part of a channel's name: ``objects`` of ``objects01.R``, nothing of ``A``."""
    return channel.rpartition(".")[0].rstrip("0123456789")


def channel_samples(setup: RenderSetup, planes: Planes) -> dict[str, str]:
    """Sample type of each channel: what its pass needs so that half does not round it."""
    by_layer = {p.channel_layer: p.sample for p in map(pass_named, setup.passes)}
    return {c: by_layer.get(_layer(c), "half") for c in planes}


def _identities(scene: Scene, row: Written) -> dict[str, str]:
    return metadata([n.name for n in scene.nodes if n.meshes]) if "ids" in row.passes else {}


def _as_codes(one: Pass, setup: RenderSetup, planes: Planes) -> Planes:
    """Values as codes of 0..1 under the names that files of codes have: Y, or R, G, B and A."""
    values = list(planes.values())
    if one.coded == "light":
        return {c: v if c == "A" else encode(v, "srgb") for c, v in planes.items()}
    if one.coded == "range":
        near, far = setup.output.depth_range or (0.0, 1.0)
        values = [(v - np.float32(near)) / np.float32(far - near) for v in values]
    elif one.coded == "way":
        # where nothing was met there is no way; the middle stands for it
        values = [np.float32(0.5) + v / np.float32(2) for v in values]
    if len(values) == 1:
        return {"Y": values[0]}
    if len(values) == 2:
        values.append(np.zeros_like(values[0]))
    return dict(zip("RGB", values, strict=True))
