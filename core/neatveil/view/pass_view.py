"""Passes as pictures to look at: data laid out on grey or colour so that people can judge it.

What is shown here is for the eye alone; files hold the values themselves.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ..alpha import read
from ..colour import decode
from ..picture import RGB, RGBA, Plane, PremultipliedPicture, StoredPicture
from ..scene.passes import pass_named
from ..scene.passes.depth import EMPTY
from ..scene.setup import RenderSetup

Planes = dict[str, Plane]


def pass_picture(
    picture: StoredPicture, name: str, setup: RenderSetup, *, as_stored: bool = False
) -> PremultipliedPicture:
    """One pass of a rendered picture; ``as_stored`` shows the beauty's RGB as the file holds it, opaque.

    Raises `NameUnknown`.
    """
    one = pass_named(name)
    if name == "beauty" and not as_stored:
        return read(picture.with_planes({n: picture[n] for n in RGBA}), setup.reading, "linear")
    if name in {"beauty", "alpha"}:
        own = {n: picture[n] for n in (RGB if name == "beauty" else "A")}
    else:
        own = {c: p for c, p in picture.planes.items() if _belongs(c, one.channel_layer)}
    shown = _SHOWN.get(name, _light if one.coded == "light" else _codes)(own, setup)
    opaque = np.ones_like(shown[0])
    planes = dict(zip(RGBA, [*shown, opaque], strict=True))
    return PremultipliedPicture(planes, picture.data_window, picture.display_window)


def alike_everywhere(name: str) -> bool:
    """Whether a part of the pass is shown as in the whole: not where the whole says what is white."""
    return name not in {"depth", "depth_filtered", "motion", "position"}


def _belongs(channel: str, layer: str) -> bool:
    return bool(layer) and channel.rpartition(".")[0].rstrip("0123456789") == layer


def _as_code(values: Plane) -> Plane:
    """The light that a screen shows as the given share of white."""
    return decode(np.ascontiguousarray(np.clip(values, 0, 1), dtype=np.float32), "srgb")


def _light(own: Planes, _: RenderSetup) -> list[Plane]:
    return list(own.values())


def _codes(own: Planes, _: RenderSetup) -> list[Plane]:
    """Shares of 0..1: one as grey, two as red and green, three as they are."""
    codes = [_as_code(v) for v in own.values()]
    if len(codes) == 1:
        return codes * 3
    return [*codes, np.zeros_like(codes[0])][:3]


def _depth(own: Planes, _: RenderSetup) -> list[Plane]:
    """The nearest is white, the farthest that is there dark; black where nothing is."""
    (z,) = own.values()
    there = z < np.float32(EMPTY * 0.5)
    if not there.any():
        return [np.zeros_like(z)] * 3
    near, far = float(z[there].min()), float(z[there].max())
    share = (far - z) / np.float32(max(far - near, 1e-6))
    return [_as_code(np.where(there, 0.15 + 0.85 * share, 0).astype(np.float32))] * 3


def _around_half(own: Planes, most: Callable[[Plane], float]) -> list[Plane]:
    codes = [_as_code(0.5 + v / np.float32(2 * max(most(v), 1e-6))) for v in own.values()]
    return [*codes, _as_code(np.full_like(codes[0], 0.5))][:3]


def _normals(own: Planes, _: RenderSetup) -> list[Plane]:
    return _around_half(own, lambda v: 1.0)


def _motion(own: Planes, _: RenderSetup) -> list[Plane]:
    most = max(float(np.abs(v).max()) for v in own.values())
    return _around_half(own, lambda v: most)


def _position(own: Planes, _: RenderSetup) -> list[Plane]:
    return _around_half(own, lambda v: float(np.abs(v).max()))


def _hue(number: int) -> tuple[float, float, float]:
    """A colour of its own for a number, by steps of the golden ratio around the wheel."""
    turn = number * 0.6180339887498949 % 1.0
    r, g, b = (0.55 + 0.45 * np.cos(2 * np.pi * (turn + k / 3)) for k in range(3))
    return float(r), float(g), float(b)


def _masks(own: Planes, _: RenderSetup) -> list[Plane]:
    """Each number in a colour of its own, by its share."""
    total = (
        np.zeros((3, *next(iter(own.values())).shape), np.float32) if own else np.zeros((3, 1, 1), np.float32)
    )
    for channel, share in own.items():
        for i, part in enumerate(_hue(int(channel.rpartition(".")[2]))):
            total[i] += share * np.float32(part)
    return list(total)


def _ids(own: Planes, _: RenderSetup) -> list[Plane]:
    """The first rank: each identity in a colour of its own, by its share."""
    bits, share = np.ascontiguousarray(own["objects00.R"]).view(np.uint32), own["objects00.G"]
    total = np.zeros((3, *share.shape), np.float32)
    for number in np.unique(bits[share > 0]):
        here = np.where(bits == number, share, np.float32(0))
        for i, part in enumerate(_hue(int(number) % 9973)):
            total[i] += here * np.float32(part)
    return list(total)


_SHOWN: dict[str, Callable[[Planes, RenderSetup], list[Plane]]] = {
    "depth": _depth, "depth_filtered": _depth, "normals": _normals, "motion": _motion,
    "position": _position, "masks": _masks, "ids": _ids,
}  # fmt: skip
