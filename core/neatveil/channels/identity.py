"""Names as numbers that a floating-point channel can hold.

Source: Friedman & Jones 2015, open specification for ID mattes, version 1.2.0 [FriedmanJones2015];
MurmurHash3 [Appleby2011].
"""

from __future__ import annotations

import mmh3
import numpy as np


def name_hash(name: str) -> int:
    """32-bit hash of a name's UTF-8 bytes, changed so that it is a normal float32.

    An exponent of all zeros or all ones would be a denormal number, infinite or no number, which
    programs do not carry through: its lowest bit is then turned over.
    """
    number = mmh3.hash(name.encode(), 0, signed=False)
    exponent = number >> 23 & 0xFF
    return number ^ (1 << 23) if exponent in (0, 255) else number


def hash_as_float(number: int) -> np.float32:
    """The same 32 bits as a float32."""
    return np.float32(np.uint32(number).view(np.float32))
