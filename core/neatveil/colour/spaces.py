"""Colour spaces and views of OpenColorIO's configurations [OpenColorIO].

A space's name is its configuration's short name and its own, such as ``cg/ACEScct``; a view's has the display
before it: ``cg/sRGB - Display|ACES 1.0 - SDR Video``. Light is scene-linear in BT.709's primaries.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np
import PyOpenColorIO as ocio
from numpy.typing import NDArray

from ..errors import unknown_name
from ..numeric.pool import for_strips
from ..picture import RGB, Plane
from .configurations import KEY_PATTERN, configuration, shows_light, to_codes, to_light, to_view
from .curves import CURVES, curve_codes, curve_light
from .primaries import from_bt709, to_bt709

#: What a name of a space or a view looks like.
SPACE_PATTERN = rf"{KEY_PATTERN}/[ -~]{{1,160}}"
_NAME = re.compile(r"[ -{}~]{1,160}")  # "|" stands between a display and a view
_KEY = re.compile(KEY_PATTERN)
#: Without the library's quick logarithms and powers, which are off by some 2e-5.
_EXACT = ocio.OPTIMIZATION_LOSSLESS


class Space(NamedTuple):
    """A space as people choose it. ``linear``: light in other primaries, not codes."""

    name: str
    title: str
    family: str
    linear: bool


class View(NamedTuple):
    name: str
    display: str
    title: str


def is_space(name: str) -> bool:
    """Whether an encoding's name is that of a space or a view of a configuration."""
    return _KEY.fullmatch(name.partition("/")[0]) is not None and "/" in name


def is_by_pixel(name: str) -> bool:
    """Whether whole pixels are read of it: a space, a view, or a curve that is no power."""
    return is_space(name) or name.partition("@")[0] in CURVES


def is_view(name: str) -> bool:
    """Whether it is a view: what is shown, of which no light can be read."""
    return is_space(name) and "|" in name


@lru_cache(maxsize=16)
def spaces_of(key: str) -> tuple[Space, ...]:
    """Spaces of a configuration that hold colour, in its own order; without those of displays.

    Parameters
    ----------
    key : of a configuration.

    Returns
    -------
    Each with its name, title and family.

    Examples
    --------
    >>> [s.title for s in spaces_of("cg")][:3]
    ['ACES2065-1', 'ACEScc', 'ACEScct']
    """
    found = []
    for space in configuration(key).getColorSpaces():
        scene = space.getReferenceSpaceType() == ocio.REFERENCE_SPACE_SCENE
        name = space.getName()
        if scene and not space.isData() and _NAME.fullmatch(name):
            linear = space.getEncoding() == "scene-linear"
            found.append(Space(f"{key}/{name}", name, space.getFamily(), linear))
    return tuple(found)


@lru_cache(maxsize=16)
def views_of(key: str) -> tuple[View, ...]:
    """Every view of every display of a configuration; raw ones are left out.

    Parameters
    ----------
    key : of a configuration.

    Returns
    -------
    Each with its name.

    Examples
    --------
    >>> views_of("cg")[0].name
    'cg/sRGB - Display|ACES 1.0 - SDR Video'
    """
    config = configuration(key)
    return tuple(
        View(f"{key}/{display}|{view}", display, view)
        for display in config.getDisplays()
        for view in config.getViews(display)
        if shows_light(config, display, view) and _NAME.fullmatch(display + view)
    )


def is_linear_space(name: str) -> bool:
    """Whether a space holds light."""
    key = name.partition("/")[0]
    return is_space(name) and any(s.linear for s in spaces_of(key) if s.name == name)


def space_light(planes: Mapping[str, Plane], name: str) -> dict[str, Plane]:
    """Code values of a space, or of a curve that is no power, as light.

    Parameters
    ----------
    planes : R, G, B, ``(H, W)`` each, straight.
    name : of the space.

    Returns
    -------
    R, G, B, scene-linear in BT.709's primaries, not clamped.

    Raises
    ------
    NameUnknown
        The configuration has no such space, or it is a view.

    Notes
    -----
    Source: the configuration's own transforms, by OpenColorIO [OpenColorIO].

    Examples
    --------
    >>> grey = dict.fromkeys("RGB", np.full((1, 1), 0.4135884, np.float32))
    >>> round(float(space_light(grey, "cg/ACEScct")["G"][0, 0]), 4)
    0.18
    """
    transfer, _, primaries = name.partition("@")
    if transfer in CURVES:
        light = {n: curve_light(planes[n], transfer) for n in RGB}
        return to_bt709(light, primaries) if primaries else light
    return _through(planes, _processor(name, "to light"))


def space_codes(planes: Mapping[str, Plane], name: str) -> dict[str, Plane]:
    """Light as code values of a space, or through a view.

    Parameters
    ----------
    planes : R, G, B, ``(H, W)`` each: straight light in BT.709's primaries.
    name : of a space or a view.

    Returns
    -------
    R, G, B in code values, not clamped.

    Raises
    ------
    NameUnknown
        The configuration has no such space or view.

    Notes
    -----
    Source: as of `space_light`.

    Examples
    --------
    >>> grey = dict.fromkeys("RGB", np.full((1, 1), 0.18, np.float32))
    >>> round(float(space_codes(grey, "cg/ACEScct")["G"][0, 0]), 4)
    0.4136
    """
    transfer, _, primaries = name.partition("@")
    if transfer in CURVES:
        light = from_bt709(planes, primaries) if primaries else planes
        return {n: curve_codes(light[n], transfer) for n in RGB}
    return _through(planes, _processor(name, "to codes"))


def known_space(name: str) -> None:
    """Refuse the name of a space or a view that there is not; `NameUnknown` lists those there are.

    >>> known_space("cg/ACEScct")
    """
    key, _, own = name.partition("/")
    views = [v.name for v in views_of(key)]
    if "|" in own and name not in views:
        raise unknown_name("view", name, views)
    spaces = [s.name for s in spaces_of(key)]
    if "|" not in own and name not in spaces:
        raise unknown_name("colour space", name, spaces)


@lru_cache(maxsize=64)
def _processor(name: str, way: str) -> Any:
    known_space(name)
    key, _, own = name.partition("/")
    display, _, view = own.partition("|")
    if view and way == "to codes":
        return to_view(key, display, view).getOptimizedCPUProcessor(_EXACT)
    if view:  # of what is shown no light can be read
        raise unknown_name("colour space", own, [s.title for s in spaces_of(key)])
    made = to_light(key, own) if way == "to light" else to_codes(key, own)
    return made.getOptimizedCPUProcessor(_EXACT)


def _through(planes: Mapping[str, Plane], processor: Any) -> dict[str, Plane]:
    height, width = planes["R"].shape
    out: NDArray[np.float32] = np.stack([np.asarray(planes[n], np.float32) for n in RGB])

    def strip(y0: int, y1: int) -> None:
        r, g, b = (np.ascontiguousarray(out[c, y0:y1]) for c in range(3))
        processor.apply(ocio.PlanarImageDesc(r, g, b, width, y1 - y0))
        out[0, y0:y1], out[1, y0:y1], out[2, y0:y1] = r, g, b

    for_strips(height, width * 3, strip)
    return dict(zip(RGB, out, strict=True))
