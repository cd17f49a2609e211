"""Working spaces: colour-science's matrices on light, and on the colours that a document chooses."""

from __future__ import annotations

from functools import cache

import colour
import numpy as np

#: Working spaces and colour-science's names for their primaries.
SPACES = {
    "linear": "ITU-R BT.709", "linear@ap1": "ACEScg", "linear@bt2020": "ITU-R BT.2020",
    "linear@p3-d65": "P3-D65", "cg/ACEScg": "ACEScg",
}  # fmt: skip
#: Parameters that are colours of light, by the kind of what has them.
COLOURS = {"fog": "colour", "glow": "tint", "relight": "lamp", "key": "screen_colour"}


@cache
def matrix(source, target):
    """``(3, 3)`` from one working space to another, white kept by Bradford's adaptation."""
    if SPACES[source] == SPACES[target]:
        return np.eye(3)
    return colour.matrix_RGB_to_RGB(SPACES[source], SPACES[target], chromatic_adaptation_transform="Bradford")


def brought(picture, source, target):
    """``(H, W, 4)`` from one working space to another; alpha stays."""
    return np.concatenate([picture[..., :3] @ matrix(source, target).T, picture[..., 3:]], -1)


def with_colours(comp):
    """The comp with every colour of light as its working space has it."""
    if comp.working == "linear":
        return comp
    return comp.model_copy(update={"layers": _changed(comp.layers, comp.working)})


def _changed(value, working):
    if isinstance(value, tuple):
        return tuple(_changed(v, working) for v in value)
    if not hasattr(value, "model_fields_set"):
        return value
    changes = {name: _changed(getattr(value, name), working) for name in type(value).model_fields}
    name = COLOURS.get(getattr(value, "kind", ""))
    if name:
        changes[name] = tuple(matrix("linear", working) @ getattr(value, name))
    return value.model_copy(update=changes)
