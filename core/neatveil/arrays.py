"""The arithmetic on plain NumPy arrays.

Arrays are ``(H, W, 4)`` float32, R G B A, premultiplied over black unless said otherwise; other
floating-point arrays are converted to float32 first. An array without pixels gives one without pixels.
Colour is not clamped, alpha that is made here lies within 0..1, and inputs are never changed. Errors are
`neatveil.errors.ValueRefused` for a
wrong shape or type and `NameUnknown` for a name that is in no table.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .alpha.convert import premultiply_plane, unpremultiply_plane
from .alpha.suggest import Suggestion, suggest
from .channels.luma import luma
from .channels.pick import picked
from .channels.screens import SCREENS
from .errors import ValueRefused, unknown_name
from .mattes.morphology import grown
from .merge.coverage import over_interleaved
from .merge.operators import OPERATORS, Operator, merge_values, operator_named
from .numeric.pool import for_strips
from .picture import Plane, PremultipliedPicture, StoredPicture, whole_frame
from .steps import Step
from .steps.apply import apply_steps
from .steps.despill import despilled
from .steps.levels import LevelsStep

__all__ = [
    "despill",
    "difference_key",
    "grow_shrink",
    "levels",
    "luma",
    "merge",
    "operators",
    "premultiply",
    "suggest_reading",
    "unpremultiply",
]

Array = NDArray[np.float32]


def _checked(rgba: Array, name: str) -> Array:
    return _floats(rgba, name, "(H, W, 4): R, G, B, A", lambda s: len(s) == 3 and s[2] == 4)


def _floats(given: Any, name: str, expected: str, fits: Callable[[tuple[int, ...]], bool]) -> Array:
    """Contiguous float32; whole numbers are refused, since nothing says which of them is 1."""
    array = np.asarray(given)
    if array.dtype.kind != "f" or not fits(array.shape):
        whole = "Scale whole numbers to 0..1 first, for example by 1/255." if array.dtype.kind in "iu" else ""
        raise ValueRefused(
            f"{name} is {array.dtype} {array.shape}; expected floating point {expected}.", advice=whole
        )
    return np.ascontiguousarray(array, np.float32)


def _by_plane(rgba: Array, matte: tuple[float, float, float], function: Callable[..., None]) -> Array:
    source = _checked(rgba, "rgba")
    out = source.copy()
    height, width, _ = source.shape
    if not source.size:
        return out

    def strip(y0: int, y1: int) -> None:
        alpha = np.ascontiguousarray(source[y0:y1, :, 3]).reshape(-1)
        result = np.empty_like(alpha)
        for i in range(3):
            plane = np.ascontiguousarray(source[y0:y1, :, i]).reshape(-1)
            function(plane, alpha, result, np.float32(matte[i]))
            out[y0:y1, :, i] = result.reshape(y1 - y0, width)

    for_strips(height, width * 4, strip)
    return out


def premultiply(rgba: Array, matte: tuple[float, float, float] = (0, 0, 0)) -> Array:
    """Straight to premultiplied over ``matte``: ``C = F*a + M*(1-a)``.

    Source: Porter & Duff 1984 [PorterDuff1984]; ISO 32000-1:2008, 11.6.5.3 [ISO32000].

    >>> premultiply(np.array([[[1, 0.5, 0, 0.5]]], np.float32)).ravel().tolist()
    [0.5, 0.25, 0.0, 0.5]
    """
    return _by_plane(rgba, matte, premultiply_plane)


def unpremultiply(rgba: Array, matte: tuple[float, float, float] = (0, 0, 0)) -> Array:
    """Premultiplied over ``matte`` to straight: ``F = (C - M*(1-a)) / a``.

    Where alpha is 0 the colour is undefined; ``C - M`` is returned there, so light over black
    stays what it was.

    >>> unpremultiply(np.array([[[0.5, 0.25, 0, 0.5]]], np.float32)).ravel().tolist()
    [1.0, 0.5, 0.0, 0.5]
    """
    return _by_plane(rgba, matte, unpremultiply_plane)


def operators() -> dict[str, Operator]:
    """Every blend mode by name, with its family and a line on what it does."""
    return dict(OPERATORS)


def merge(operator: str, front: Array, back: Array, mix: float = 1.0, *, out: Array | None = None) -> Array:
    """``front`` meets ``back`` by an operator of `operators`; both premultiplied, same shape.

    ``mix`` 0 returns the back, 1 the operator in full; linear between, which for ``over`` and
    the blend modes is the same as the front's opacity. ``out`` takes the result, so that no memory
    is asked for.

    >>> f = np.array([[[0.5, 0, 0, 0.5]]], np.float32); b = np.ones((1, 1, 4), np.float32)
    >>> merge("over", f, b).ravel().tolist()
    [1.0, 0.5, 0.5, 1.0]
    """
    operator_named(operator)
    f, b = _checked(front, "front"), _checked(back, "back")
    if f.shape != b.shape:
        raise ValueRefused(f"front is {f.shape} and back is {b.shape}; expected the same shape.")
    if out is None:
        out = np.empty_like(f)
    elif out.shape != f.shape or out.dtype != np.float32 or not out.flags.c_contiguous:
        raise ValueRefused(f"out is {out.dtype} {out.shape}; expected contiguous float32 {f.shape}.")
    if not f.size:
        return out
    target = out

    def strip(y0: int, y1: int) -> None:
        if operator == "over":
            over_interleaved(
                f[y0:y1].reshape(-1), b[y0:y1].reshape(-1), target[y0:y1].reshape(-1), np.float32(mix)
            )
        else:
            target[y0:y1] = merge_values(operator, f[y0:y1], b[y0:y1], mix)

    # `over` is bound by the memory, not the cache: few large strips cost the least beside it
    share = 0.25 if operator == "over" else 4
    for_strips(f.shape[0], max(1, int(f.shape[1] * share)), strip)
    return out


def levels(
    rgba: Array,
    in_black: float = 0.0,
    in_white: float = 1.0,
    gamma: float = 1.0,
    out_black: float = 0.0,
    out_white: float = 1.0,
    channels: str = "rgb",
) -> Array:
    """Levels on straight colour (or on alpha): unpremultiply, change, premultiply.

    ``channels`` is any of the letters r, g, b, a. See `neatveil.steps.levels` for the formula.
    """
    step = LevelsStep(
        in_black=in_black, in_white=in_white, gamma=gamma,
        out_black=out_black, out_white=out_white, channels=channels,
    )  # fmt: skip
    return _stepped(rgba, step)


def _stepped(rgba: Array, step: Step) -> Array:
    given = _checked(rgba, "rgba")
    if not given.size:
        return given.copy()
    picture = PremultipliedPicture.from_rgba(given)
    return whole_frame(apply_steps(picture, [step], 0, 0)).rgba()


def grow_shrink(alpha: Plane, radius: float) -> Plane:
    """An alpha ``(H, W)`` grown by a disc of ``radius`` pixels, or shrunk where it is below 0.

    Radii between two whole ones are the weighted mean of both. See `neatveil.mattes.morphology`.
    """
    plane = _floats(alpha, "alpha", "(H, W)", lambda s: len(s) == 2)
    return grown(plane, radius) if plane.size else plane.copy()


def suggest_reading(stored: Array, encoding: str = "srgb", top: float = 255.0) -> Suggestion:
    """What the pixels say of how ``stored`` (code values as a file holds them) is to be read.

    ``top`` is the largest code of the file's samples. See `neatveil.alpha.suggest.suggest`.
    """
    given = _checked(stored, "stored")
    if not given.size:
        raise ValueRefused(f"stored is {given.shape}; expected at least one pixel.")
    return suggest([StoredPicture.from_rgba(given)], encoding, top)


def _colour(rgb: Array) -> Array:
    return _floats(rgb, "rgb", "(H, W, 3 or 4)", lambda s: len(s) == 3 and s[2] in {3, 4})


def difference_key(rgb: Array, screen: str = "green", strength: float = 1.0) -> Array:
    """``(H, W)`` matte of what stands before a screen: 1 keeps. ``1 - max(0, S - max(others)) / strength``.

    ``rgb``: ``(H, W, 3 or 4)``; ``strength``: the difference of the clean screen, which becomes 0. Clipped to
    0..1. Source: Vlahos 1971 [Vlahos1971].

    >>> screen = np.array([[[0.1, 0.6, 0.2], [0.5, 0.4, 0.3]]], np.float32)
    >>> difference_key(screen, strength=0.4).tolist()
    [[0.0, 1.0]]
    """
    if screen not in SCREENS:
        raise unknown_name("screen", screen, list(SCREENS))
    given = _colour(rgb)
    if not given.size:
        return np.empty(given.shape[:2], np.float32)
    planes = {n: np.ascontiguousarray(given[..., i]) for i, n in enumerate("RGB")}
    difference = picked(planes, f"{screen}-difference", code=None)
    return np.asarray(np.clip(1 - difference / np.float32(strength), 0, 1), np.float32)


def despill(rgb: Array, screen: str = "green", amount: float = 1.0) -> Array:
    """``(H, W, 3 or 4)`` with the screen's channel held down to the greater of the other two; a new array."""
    if screen not in SCREENS:
        raise unknown_name("screen", screen, list(SCREENS))
    out = _colour(rgb).copy()
    if not out.size:
        return out
    at, one, two = SCREENS[screen]
    flat = [np.ascontiguousarray(out[..., i]).reshape(-1) for i in range(3)]
    result = np.empty_like(flat[0])
    despilled(flat[at], flat[one], flat[two], result, np.float32(amount), np.float32(0.5), True)
    out[..., at] = result.reshape(out.shape[:-1])
    return out
