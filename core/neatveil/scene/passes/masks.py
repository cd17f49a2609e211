"""Object masks: for each number the share of the pixel that its objects cover. They add up to alpha
where everything has a number.
"""

from __future__ import annotations

import numpy as np

from ..model import Floats
from ..seen import Seen
from .base import Given, Pass


def _fill(seen: Seen, given: Given) -> dict[str, Floats]:
    numbers = given.of_nodes(seen)
    of_part = np.array([numbers[n] if numbers[n] is not None else -1 for n in seen.world.part_node], np.int64)
    here = np.where(seen.part >= 0, of_part[seen.part], -1)
    wanted = sorted(set(given.by_name.values()))
    return {f"mask.{n}": seen.share(here == n) for n in wanted}


PASS = Pass(
    name="masks",
    help="One anti-aliased mask for each numbered object.",
    kind="data",
    filtered=True,
    sample="half",
    fill=_fill,
    layer="mask",
    unit="share of the pixel",
)
