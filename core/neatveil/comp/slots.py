"""Slots: places of a comp that a row of a list fills: a picture, a text, a number, a colour.

What the comp holds there is the slot's default: where a row leaves a cell empty nothing changes.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any, Literal, TypeVar

import numpy as np
from pydantic import ValidationError

from ..animation import Animated
from ..colour import decode
from ..errors import DocumentRefused, ValueRefused
from ..made import Made
from ..steps.foreign import ForeignStep
from .document import Comp
from .elements import Element
from .layers import AnyLayer, Layer, MadeLayer
from .slot_place import Slot

Kind = Literal["picture", "text", "number", "colour"]
#: What a cell that names a picture stands for: a key, and the element where the comp does not hold it yet.
Pictures = Callable[[str], tuple[str, Element | Comp | None]]

Holder = TypeVar("Holder", bound=Animated)

_HEX = re.compile(r"#?([0-9a-fA-F]{2})([0-9a-fA-F]{2})([0-9a-fA-F]{2})")


def kind_of(comp: Comp, slot: Slot) -> Kind:
    """What a slot takes; `DocumentRefused` where its place is not in the comp any more."""
    value = _held(comp, slot)
    if slot.field in ("element", "second"):
        return "picture"
    if isinstance(value, str) and _made_at(comp, slot) is not None:
        return "text"
    if isinstance(value, bool) or not isinstance(value, (int, float, tuple)):
        raise _refused(slot, "which is no picture, text, number or colour")
    return "colour" if isinstance(value, tuple) else "number"


def columns_of(comp: Comp) -> dict[str, Kind]:
    """The slots by their names, as columns; `DocumentRefused` where two of a name differ in kind."""
    found: dict[str, Kind] = {}
    for slot in comp.slots:
        kind = kind_of(comp, slot)
        if found.setdefault(slot.name, kind) != kind:
            raise DocumentRefused(
                f"The slot {slot.name} is a {found[slot.name]} in one place and a {kind} in another.",
                advice="Give one of them another name.",
            )
    return found


def default_of(comp: Comp, slot: Slot) -> str:
    """What the comp holds there, as a cell would say it."""
    value = _held(comp, slot)
    if isinstance(value, tuple):
        return " ".join(f"{v:g}" for v in value)
    return f"{value:g}" if isinstance(value, (int, float)) else str(value)


def filled(comp: Comp, row: Mapping[str, str], pictures: Pictures) -> Comp:
    """The comp with a row's values in its slots.

    Parameters
    ----------
    row : cells by the slots' names; an empty one, or none, leaves the default.
    pictures : finds what a cell names.

    Raises
    ------
    ValueRefused
        A cell is no value of its slot; ``where`` names the slot.
    NeatVeilError
        As of ``pictures``.
    """
    return filled_by_kind(comp, row, columns_of(comp), pictures)


def filled_by_kind(comp: Comp, row: Mapping[str, str], kinds: Mapping[str, Kind], pictures: Pictures) -> Comp:
    """As `filled`; ``kinds``: as of `columns_of`, found once for many rows."""
    for slot in comp.slots:
        cell = row.get(slot.name, "").strip()
        if cell:
            comp = _with(comp, slot, _value(comp, slot, kinds[slot.name], cell, pictures))
    return comp


def _value(comp: Comp, slot: Slot, kind: Kind, cell: str, pictures: Pictures) -> Any:
    if kind == "picture":
        return pictures(cell)
    if kind == "text":
        # a table's cell has no lines of its own
        return cell.replace("\\n", "\n")
    if kind == "number":
        try:
            return float(cell)
        except ValueError:
            raise ValueRefused(
                f"{cell!r} is no number.", advice="Write one such as 0.5.", where=slot.name
            ) from None
    return colour_of(cell, slot.name)


def colour_of(cell: str, where: str) -> tuple[float, float, float]:
    """Linear light of a cell: three numbers, or six hexadecimal digits of sRGB code values."""
    if match := _HEX.fullmatch(cell):
        codes = np.array([int(v, 16) / 255 for v in match.groups()], np.float32)
        r, g, b = (float(v) for v in decode(codes[None], "srgb")[0])
        return r, g, b
    try:
        r, g, b = (float(v) for v in re.split(r"[\s,;]+", cell))
    except ValueError:
        raise ValueRefused(
            f"{cell!r} is no colour.",
            advice="Write #rrggbb, or three numbers of linear light such as 0.2 0.5 1.", where=where,
        ) from None  # fmt: skip
    return r, g, b


def _layer(comp: Comp, slot: Slot) -> AnyLayer:
    found = next((x for x in comp.all_layers if x.id == slot.layer), None)
    if found is None:
        raise _refused(slot, "whose layer is not in the comp any more")
    return found


def _held(comp: Comp, slot: Slot) -> Any:
    layer = _layer(comp, slot)
    made = _made_at(comp, slot)
    if made is not None:
        return getattr(made, slot.field)
    if slot.step is None:
        if slot.field != "element" or not isinstance(layer, Layer):
            raise _refused(slot, f"and a layer has no {slot.field} that a row could fill")
        return layer.element
    step = layer.steps[slot.step] if slot.step < len(layer.steps) else None
    if step is None or isinstance(step, ForeignStep) or slot.field not in type(step).model_fields:
        raise _refused(slot, "whose step is not there any more")
    return getattr(step, slot.field)


def _made_at(comp: Comp, slot: Slot) -> Made | None:
    """What is made here that has the slot's field."""
    layer = _layer(comp, slot)
    if slot.step is None and isinstance(layer, MadeLayer) and slot.field in type(layer.made).model_fields:
        return layer.made
    return None


def _refused(slot: Slot, why: str) -> DocumentRefused:
    return DocumentRefused(f"The slot {slot.name} stands for a place {why}.", advice="Take the slot out.")


def _with(comp: Comp, slot: Slot, value: Any) -> Comp:
    if isinstance(value, tuple) and slot.field in ("element", "second"):
        key, given = value
        value = key
        if isinstance(given, Element):
            comp = comp.model_copy(update={"elements": {**comp.elements, key: given}})
        elif given is not None:
            comp = comp.model_copy(update={"comps": {**comp.comps, key: given}})
    made = _made_at(comp, slot)
    if made is not None:
        return comp.with_layer(slot.layer, {"made": _with_value(made, slot, value)})
    if slot.step is None:
        return comp.with_layer(slot.layer, {"element": value})
    layer = _layer(comp, slot)
    changed = _with_value(layer.steps[slot.step], slot, value)
    steps = tuple(changed if i == slot.step else s for i, s in enumerate(layer.steps))
    return comp.with_layer(slot.layer, {"steps": steps})


def _with_value(holder: Holder, slot: Slot, value: Any) -> Holder:
    """A step, or what is made here, with the row's value; `ValueRefused` where it does not take that."""
    try:
        changed = type(holder).model_validate({**holder.model_dump(), slot.field: value})
    except ValidationError as error:
        raise ValueRefused(
            f"{slot.name}: {error.errors()[0]['msg']}.",
            advice="Write a value that it takes.",
            where=slot.name,
        ) from error
    # a row's number stands for all frames
    kept = {n: c for n, c in changed.keys.items() if n.partition(".")[0] != slot.field}
    return changed.model_copy(update={"keys": kept})
