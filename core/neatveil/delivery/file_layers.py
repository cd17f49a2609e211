"""Layers of an OpenEXR file: layers and groups of the comp, each alone, beside the picture.

A layer's channels have its name and a dot before their own, as OpenEXR names them [OpenEXR]. Colour has the
form of the picture beside it; data is written in 32-bit float as it stands.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TypeVar

import numpy as np

from ..comp import Comp
from ..evaluate import Evaluator
from ..picture import RGBA, Picture, Plane, whole_frame

P = TypeVar("P", bound=Picture)

#: A layer's or group's id; with a colon, a channel of what it shows.
PATTERN = r"^[A-Za-z0-9_-]{1,64}(:[^:]{1,200})?$"


@dataclass(frozen=True, slots=True)
class FileLayer:
    """``name``: in the file, without a dot; ``channel``: of data; empty for the layer's picture."""

    id: str
    name: str
    channel: str = ""

    @property
    def channels(self) -> list[str]:
        """Their names in the file."""
        return [f"{self.name}.{c}" for c in ([self.channel] if self.channel else RGBA)]


def file_layers(comp: Comp, asked: Sequence[str]) -> list[FileLayer]:
    """What is asked for, each once, with a name that no other has.

    Raises `DocumentRefused` where the comp has no such layer.

    >>> from neatveil.comp import Comp, Layer
    >>> lamps = {"a": "lamp 1.2", "b": "lamp 1_2"}
    >>> of = Comp(layers=tuple(Layer(id=n, name=name, element="e") for n, name in lamps.items()))
    >>> [one.name for one in file_layers(of, ["a", "b", "b:depth.Z"])]
    ['lamp 1_2', 'lamp 1_2_2', 'lamp 1_2_2']
    """
    names: dict[str, str] = {}
    found = []
    for one in dict.fromkeys(asked):
        identity, _, channel = one.partition(":")
        if identity not in names:
            names[identity] = _free_name(comp.layer(identity).name, set(names.values()))
        found.append(FileLayer(identity, names[identity], channel))
    return found


def _free_name(name: str, taken: set[str]) -> str:
    # a dot would begin a layer within the layer; the picture's own channels have no name before them
    base = re.sub(r"[.\x00-\x1f]+", "_", name).strip("_ ")[:60] or "layer"
    number, free = 2, base
    while free in taken:
        free, number = f"{base}_{number}", number + 1
    return free


def layer_planes(evaluator: Evaluator, comp: Comp, frame: int, one: FileLayer) -> dict[str, Plane]:
    """Its channels by their names in the file, over the comp's frame.

    Colour is scene-linear, premultiplied over black. Data is taken from the nearest pixel, never mixed; 0
    where the layer does not lie, or at a frame at which it shows nothing.

    Raises
    ------
    NeatVeilError : it cannot be computed; `NameUnknown` where nothing that it shows has the channel.
    """
    if one.channel:
        (name,) = one.channels
        return {name: evaluator.data_in_frame(comp, frame, one.id, one.channel)}
    alone = whole_frame(evaluator.picture(comp, frame, only=one.id, keep=False))
    return {f"{one.name}.{n}": alone[n] for n in RGBA}


def nearest_pixels(plane: Plane, width: int, height: int) -> Plane:
    """Data at another size, unmixed."""
    rows = (np.arange(height) * 2 + 1) * plane.shape[0] // (2 * height)
    columns = (np.arange(width) * 2 + 1) * plane.shape[1] // (2 * width)
    return np.ascontiguousarray(plane[rows][:, columns])


def split(picture: P) -> tuple[P, dict[str, P], dict[str, Plane]]:
    """The picture itself, its file layers by name, each as a picture of the same state, and its data."""
    colour = {n: p for n, p in picture.planes.items() if n not in picture.data_planes}
    grouped: dict[str, dict[str, Plane]] = {}
    for name, plane in colour.items():
        layer, _, channel = name.rpartition(".")
        grouped.setdefault(layer, {})[channel] = plane
    pictures = {
        n: type(picture)(planes, picture.data_window, picture.display_window) for n, planes in grouped.items()
    }
    return pictures.pop(""), pictures, {n: picture[n] for n in sorted(picture.data_planes)}


def joined(main: P, layers: Mapping[str, P], data: Mapping[str, Plane]) -> P:
    """As `split` took it apart."""
    planes = dict(main.planes)
    for name, layer in layers.items():
        planes |= {f"{name}.{n}": p for n, p in layer.planes.items()}
    return type(main)({**planes, **data}, main.data_window, main.display_window, data_planes=data)
