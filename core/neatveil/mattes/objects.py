"""Objects by their names, from channels of identity and coverage by rank.

Source: Friedman & Jones 2015, open specification for ID mattes, version 1.2.0 [FriedmanJones2015]: rank by
rank an identity, the hash of a name as a float32, and the share of the pixel that it covers.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from ..channels.identity import hash_as_float, name_hash
from ..errors import NameUnknown
from ..picture import Plane
from .part import PicturePart, Rows

_Name = Annotated[str, Field(min_length=1, max_length=1000)]
#: The plane that the shares of the named objects are handed on in.
SHARES = "objects"


class ObjectPart(PicturePart):
    """Everything that one of the names stands for."""

    title: ClassVar[str] = "Objects"

    kind: Literal["object"] = "object"
    ranks: str = Field(
        "objects", min_length=1, max_length=200, title="ranks",
        description="Name of the ID layer: its channels are called so with 00.R and so on.",
    )  # fmt: skip
    objects: tuple[_Name, ...] = Field((), max_length=1000, title="objects")

    def values(self, rows: Rows) -> Plane:
        return rows.planes[SHARES]

    def kept(self, values: Plane, out: Plane | None = None) -> Plane:
        if out is None:
            out = np.empty(values.shape, np.float32)
        np.clip(values, 0, 1, out=out)
        return np.subtract(np.float32(1), out, out=out) if self.inverted else out


def rank_channels(layer: str, known: Sequence[str]) -> list[tuple[str, str]]:
    """Identity and coverage of each rank among a file's channels; `NameUnknown` where it has none."""
    found: list[tuple[str, str]] = []
    for number in range(100):
        for identity, coverage in (("R", "G"), ("B", "A")):
            pair = f"{layer}{number:02d}.{identity}", f"{layer}{number:02d}.{coverage}"
            if pair[0] not in known or pair[1] not in known:
                if not found:
                    raise NameUnknown(
                        f"There are no ID ranks called {layer}.",
                        advice="Render the pass of identity and coverage, or name the layer that holds it.",
                    )
                return found
            found.append(pair)
    return found


def shares_of(names: Sequence[str], planes: Mapping[str, Plane], ranks: Sequence[tuple[str, str]]) -> Plane:
    """``(H, W)`` 0..1: the share of every pixel that objects of these names cover."""
    wanted = np.array([hash_as_float(name_hash(n)) for n in names], np.float32)
    total = np.zeros(next(iter(planes.values())).shape, np.float32)
    for identity, coverage in ranks:
        # compared as bits: a hash may be any float
        hit = np.isin(np.ascontiguousarray(planes[identity]).view(np.uint32), wanted.view(np.uint32))
        total += np.where(hit, planes[coverage], np.float32(0))
    return np.asarray(np.minimum(total, 1), np.float32)
