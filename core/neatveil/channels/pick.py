"""One grey channel of a picture, as mattes are made of.

Of R, G, B and what is made of them the picture over black is taken, as the eye sees it, in light or as sRGB
codes. Luma: ITU-R BT.601-7, BT.709-6, BT.2020-2 [BT601] [BT709] [BT2020], or the plain mean; hue, lightness
and saturation as in `models.py`. Colour differences: the screen's channel less the greater of the others, 0
where that is more, as of Vlahos 1971 [Vlahos1971]. Simple differences such as ``red-green`` keep their sign.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Literal

import numpy as np

from ..errors import unknown_name
from ..numeric.jit import kernel
from ..numeric.sums import weighed
from ..picture import Plane
from .luma import LUMA_WEIGHTS
from .models import to_hls
from .screens import SCREENS

#: Channels that every picture has or that are made of what it has.
PICKS = (
    "alpha", "luma", "red", "green", "blue", "hue", "saturation", "lightness", "min", "max",
    "green-difference", "blue-difference", "red-green", "red-blue", "green-blue",
)  # fmt: skip
LumaWeights = Literal["bt601", "bt709", "bt2020", "mean"]

_LETTERS = {"alpha": "A", "red": "R", "green": "G", "blue": "B"}
_HLS = ("hue", "lightness", "saturation")


@kernel
def _difference(screen, one, two, out):  # type: ignore[no-untyped-def]
    for i in range(out.size):
        out[i] = max(screen[i] - max(one[i], two[i]), np.float32(0))


def picked(
    planes: Mapping[str, Plane], name: str, *, weights: str = "bt709", code: Callable[[Plane], Plane] | None
) -> Plane:
    """``(H, W)``: one of `PICKS`, or an extra channel by its name.

    Parameters
    ----------
    planes : R, G, B, A, premultiplied over black, and extra channels; not changed.
    code : makes codes of flat light; None leaves light. Alpha and extra channels are never changed.

    Raises
    ------
    NameUnknown : there is no such channel; the message lists those there are.
    """
    if name == "alpha":
        return planes["A"]
    if name not in PICKS:
        if name in planes:
            return planes[name]
        extra = [n for n in planes if n not in {"R", "G", "B", "A"}]
        raise unknown_name("channel", name, [*PICKS, *extra])
    shape = planes["R"].shape
    r, g, b = (np.ascontiguousarray(planes[n]).reshape(-1) for n in "RGB")
    if code is not None:
        wanted = _LETTERS.get(name) or _pair(name) or "RGB"
        r, g, b = (code(p) if n in wanted else p for n, p in zip("RGB", (r, g, b), strict=True))
    return _made(name, r, g, b, weights).reshape(shape)


def _pair(name: str) -> str:
    """Letters of a simple difference; empty for all else."""
    one, _, two = name.partition("-")
    return _LETTERS[one] + _LETTERS[two] if two in _LETTERS else ""


def _made(name: str, r: Plane, g: Plane, b: Plane, weights: str) -> Plane:
    if name in _LETTERS:
        return {"red": r, "green": g, "blue": b}[name]
    if name == "luma":
        out = np.empty_like(r)
        weighed(r, g, b, out, *(np.float32(w) for w in LUMA_WEIGHTS[weights]))
        return out
    if name in _HLS:
        return to_hls(r, g, b)[_HLS.index(name)]
    if name.endswith("-difference"):
        screen, one, two = ((r, g, b)[i] for i in SCREENS[name.partition("-")[0]])
        out = np.empty_like(r)
        _difference(screen, one, two, out)
        return out
    if "-" in name:
        one, two = ({"red": r, "green": g, "blue": b}[n] for n in name.split("-"))
        return np.asarray(one - two, np.float32)
    work = np.minimum if name == "min" else np.maximum
    return np.asarray(work(work(r, g), b), np.float32)
