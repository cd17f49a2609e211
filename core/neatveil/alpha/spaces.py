"""Readings of pictures in a colour space that mixes R, G and B: whole pixels at a time."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ..colour.spaces import space_codes, space_light
from ..picture import RGB, Plane
from .reading import Reading


def read_in_space(
    colour: Mapping[str, Plane], alpha: Plane, reading: Reading, space: str
) -> dict[str, Plane]:
    """R, G, B as premultiplied light of code values in a space; as `read` does it plane by plane.

    Parameters
    ----------
    colour : R, G, B as they are stored.
    alpha : coverage, within 0..1; all 1 where the reading has none.
    reading : what the stored alpha means; its matte colour is in code values of the space.
    space : name as in `neatveil.colour.spaces`.

    Examples
    --------
    >>> code = dict.fromkeys("RGB", np.full((1, 1), 0.4135884, np.float32))
    >>> half = np.full((1, 1), 0.5, np.float32)
    >>> round(float(read_in_space(code, half, Reading(alpha="straight"), "cg/ACEScct")["R"][0, 0]), 4)
    0.09
    """
    if reading.alpha != "premultiplied":
        light = space_light(colour, space)
        return {n: light[n] * alpha for n in RGB}
    uncovered = np.float32(1) - alpha
    if reading.multiplied == "encoded":
        part = np.where(alpha > 0, alpha, np.float32(1))
        mattes = zip(RGB, reading.matte, strict=True)
        codes = {n: np.asarray((colour[n] - np.float32(m) * uncovered) / part, np.float32) for n, m in mattes}
        light = space_light(codes, space)
        return {n: light[n] * part for n in RGB}
    light, matte = space_light(colour, space), _matte_light(reading, space)
    return {n: light[n] - matte[n] * uncovered for n in RGB}


def store_in_space(light: Mapping[str, Plane], alpha: Plane, target: Reading, space: str) -> dict[str, Plane]:
    """The code values of which `read_in_space` makes this light; as `store` does it plane by plane.

    Parameters
    ----------
    light : R, G, B premultiplied over black.
    alpha : coverage.
    target, space : as of `read_in_space`; a view too.

    Examples
    --------
    >>> light = dict.fromkeys("RGB", np.full((1, 1), 0.09, np.float32))
    >>> half = np.full((1, 1), 0.5, np.float32)
    >>> round(float(store_in_space(light, half, Reading(alpha="straight"), "cg/ACEScct")["R"][0, 0]), 4)
    0.4136
    """
    if target.alpha == "none":
        return space_codes(light, space)
    uncovered = np.float32(1) - alpha
    if target.alpha == "premultiplied" and target.multiplied == "linear":
        if not any(target.matte):
            return space_codes(light, space)
        matte = _matte_light(target, space)
        return space_codes({n: light[n] + matte[n] * uncovered for n in RGB}, space)
    part = np.where(alpha != 0, alpha, np.float32(1))
    codes = space_codes({n: np.asarray(light[n] / part, np.float32) for n in RGB}, space)
    if target.alpha == "straight":
        return {n: np.where(alpha != 0, codes[n], np.float32(0)) for n in RGB}
    mattes = dict(zip(RGB, target.matte, strict=True))
    return {n: codes[n] * part + np.float32(mattes[n]) * uncovered for n in RGB}


def _matte_light(reading: Reading, space: str) -> dict[str, np.float32]:
    if not any(reading.matte):
        return dict.fromkeys(RGB, np.float32(0))
    codes = {n: np.full((1, 1), m, np.float32) for n, m in zip(RGB, reading.matte, strict=True)}
    return {n: np.float32(p[0, 0]) for n, p in space_light(codes, space).items()}
