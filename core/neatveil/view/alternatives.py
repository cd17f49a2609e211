"""How far the members of a group that stand for the same picture lie apart."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..comp import Comp, Group
from ..errors import ValueRefused
from ..evaluate import Evaluator


@dataclass(frozen=True)
class Difference:
    """Of R, G and B in light, premultiplied, over the whole frame; and of alpha."""

    mean: float
    most: float
    alpha: float


def difference_of_alternatives(
    evaluator: Evaluator, comp: Comp, frame: int, group_id: str, one: str, other: str
) -> Difference:
    """The group drawn alone with one member shown, against the other in its place.

    Raises
    ------
    ValueRefused : it is no group, or has not these two members.
    """
    group = comp.layer(group_id)
    members = {x.id for x in group.layers} if isinstance(group, Group) else set()
    if not {one, other} <= members:
        raise ValueRefused(f"{group.name} has no two members to compare.", where=group.name)
    pictures = []
    for shown, hidden in ((one, other), (other, one)):
        changed = comp.with_layer(shown, {"shown": True}).with_layer(hidden, {"shown": False})
        pictures.append(evaluator.picture(changed, frame, only=group_id, keep=False).rgba())
    off = np.abs(pictures[0] - pictures[1])
    return Difference(float(off[..., :3].mean()), float(off[..., :3].max()), float(off[..., 3].max()))
