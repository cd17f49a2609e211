"""Shadow: what is left of the lights' diffuse light where something stands in the way.

1 is unshadowed, 0 all shadow, so that the unshadowed diffuse light times this is the diffuse pass.
"""

from __future__ import annotations

import numpy as np

from ..lighting import lit
from ..model import Floats
from ..seen import Seen
from .base import Numbering, Pass, channels


def _fill(seen: Seen, _: Numbering) -> dict[str, Floats]:
    found = lit(seen)
    left, whole = seen.light(found.diffuse), seen.light(found.open)
    share = np.where(whole > 0, left / np.where(whole > 0, whole, 1), 1).astype(np.float32)
    return channels("shadow", "RGB", share)


PASS = Pass("shadow", "What shadows leave of the diffuse light.", "data", True, "half", _fill)
