"""A comp as it is to be drawn: its document with the project's elements in it."""

from __future__ import annotations

from typing import Any

import numpy as np
from config.engine import evaluator
from neatveil.comp import Comp as Document
from neatveil.comp import GroupAlpha, Layer, element_frame
from neatveil.comp.layers import MatteOwner, matte_of
from neatveil.comp.loading import parse_comp
from neatveil.errors import ValueRefused
from neatveil.mattes import Matte
from neatveil.steps.patch import PatchStep, Route

from .inner_comps import with_all_sources
from .lists import with_row
from .models import Comp


def stored_document(comp: Comp) -> Document:
    """The document as far as this version knows it; to be shown, not to be written back where it is newer."""
    return parse_comp(comp.document, comp.name, lenient=True)


def document_of(comp: Comp, row: int | None = None) -> Document:
    """The whole document with its elements; `DocumentRefused` where it is of a newer version.

    ``row``: filled by this row of its list.
    """
    document = parse_comp(comp.document, comp.name)
    if row is not None:
        document = with_row(document, comp.project_id, row)
    return with_all_sources(document, comp.project_id)


def before(document: Document, layer_id: str) -> Document:
    """The comp before the layer's work: without its steps, or without it where it has none."""
    layer = document.layer(layer_id)
    change = {"steps": ()} if any(s.on for s in layer.steps) else {"shown": False}
    return document.with_layer(layer_id, change)


def at_stage(document: Document, layer_id: str, count: int) -> Document:
    """The comp with only the first so many of the layer's steps done."""
    layer = document.layer(layer_id)
    return document.with_layer(layer_id, {"steps": layer.steps[:count]})


def uncut(document: Document, layer_id: str) -> Document:
    """The comp with the layer's own matte off."""
    return document.with_layer(layer_id, {"matte": None})


def of_matte(document: Document, layer_id: str, owner: MatteOwner, part: int | None) -> Document:
    """The layer cut by its matte, or by the one of a step or of its alpha, or by one part of that alone.

    What a step's matte, or that of the alpha, sees of the layer is how it came: it is shown over that.
    """
    layer = document.layer(layer_id)
    matte = matte_of(layer, owner)
    change: dict[str, Any] = {} if owner is None else {"steps": ()}
    if owner == "alpha":
        change["alpha"] = GroupAlpha()
    if part is not None:
        matte = _alone(matte, part)
    return document.with_layer(layer_id, {**change, "matte": matte})


def _alone(matte: Matte, part: int) -> Matte:
    """One part of a matte by itself, as it is looked at and measured."""
    if part >= len(matte.parts):
        raise ValueRefused(f"The matte has no part {part + 1}.")
    one = matte.parts[part].model_copy(update={"combine": "add", "on": True, "first": None, "last": None})
    return Matte(parts=(one,))


def with_part_alone(document: Document, layer_id: str, owner: MatteOwner, part: int) -> Document:
    """The comp with one part alone as the layer's matte, or as that of one of its steps or of its alpha."""
    layer = document.layer(layer_id)
    alone = _alone(matte_of(layer, owner), part)
    if owner is None:
        return document.with_layer(layer_id, {"matte": alone})
    if owner == "alpha":
        return document.with_layer(layer_id, {"alpha": GroupAlpha(by="matte", matte=alone)})
    one = layer.steps[owner]
    through = one.through.model_copy(update={"matte": alone})
    steps = list(layer.steps)
    steps[owner] = one.model_copy(update={"through": through})
    return document.with_layer(layer_id, {"steps": tuple(steps)})


def of_channel(document: Document, layer_id: str, name: str, frame: int) -> Document:
    """The layer as one extra channel of its element: grey, its least black and its most white."""
    layer = document.layer(layer_id)
    if not isinstance(layer, Layer):
        raise ValueRefused(
            f"{layer.name} is a group: its channels are its members'.", advice="Choose a member."
        )
    element = document.element(layer.element)
    number = element_frame(document, layer.at(frame), element, frame)
    plane = evaluator().stored(element, element.first if number is None else number, [name])[name]
    sound = plane[np.isfinite(plane)]
    low, high = (float(sound.min()), float(sound.max())) if sound.size else (0.0, 1.0)
    gain = min(1000.0, 1 / (high - low)) if high > low else 1.0
    route = Route(channel=name, gain=gain, offset=max(-1000.0, -low * gain))
    routes: dict[Any, Route] = dict.fromkeys("RGB", route)
    routes["A"] = Route(source="constant", channel="1")
    step = PatchStep(routes=routes, space="codes", output_alpha="premultiplied")
    return document.with_layer(layer_id, {"steps": (step,), "matte": None, "keys": {}})
