"""What the functions on arrays accept: floating point of the right shape, made contiguous float32."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ValidationError

from ..errors import ValueRefused
from ..picture import PremultipliedPicture

Array = NDArray[np.float32]


def rgba_of(given: Any, name: str = "rgba") -> Array:
    """``(H, W, 4)``."""
    return floats(given, name, "(H, W, 4): R, G, B, A", lambda s: len(s) == 3 and s[2] == 4)


def plane_of(given: Any, name: str) -> Array:
    """``(H, W)``."""
    return floats(given, name, "(H, W)", lambda s: len(s) == 2)


def colour_of(given: Any, name: str = "rgb") -> Array:
    """``(H, W, 3 or 4)``."""
    return floats(given, name, "(H, W, 3 or 4)", lambda s: len(s) == 3 and s[2] in {3, 4})


def triples_of(given: Any, name: str) -> Array:
    """``(..., 3)``."""
    return floats(given, name, "(..., 3)", lambda s: len(s) > 0 and s[-1] == 3)


def floats(given: Any, name: str, expected: str, fits: Callable[[tuple[int, ...]], bool]) -> Array:
    """Contiguous float32; whole numbers are refused, since nothing says which of them is 1."""
    array = np.asarray(given)
    if array.dtype.kind != "f" or not fits(array.shape):
        whole = "Scale whole numbers to 0..1 first, for example by 1/255." if array.dtype.kind in "iu" else ""
        raise ValueRefused(
            f"{name} is {array.dtype} {array.shape}; expected floating point {expected}.", advice=whole
        )
    return np.ascontiguousarray(array, np.float32)


def picture_of(given: Any, name: str = "rgba") -> PremultipliedPicture:
    return PremultipliedPicture.from_rgba(rgba_of(given, name))


def model_of(model: type[BaseModel], title: str, fields: dict[str, Any]) -> Any:
    """The model with these fields; `ValueRefused` with a line for each that is wrong."""
    try:
        return model.model_validate(fields)
    except ValidationError as error:
        lines = [f"{'.'.join(str(p) for p in e['loc'])}: {e['msg']}" for e in error.errors()[:5]]
        known = ", ".join(n for n in model.model_fields if n != "kind")
        raise ValueRefused(f"{title}: {'; '.join(lines)}.", advice=f"Its fields are {known}.") from None
