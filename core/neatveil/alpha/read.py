"""Applying a reading: stored code values to scene-linear light premultiplied over black."""

from __future__ import annotations

import numpy as np

from ..colour import encoding_named
from ..colour.encodings import decode_value
from ..colour.primaries import to_bt709
from ..colour.spaces import is_by_pixel
from ..errors import ValueRefused
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import RGB, RGBA, Plane, PremultipliedPicture, StoredPicture, new_planes, seen_planes
from ..picture.coverage import is_coverage, limit_coverage
from .reading import Reading
from .spaces import read_in_space

_STRAIGHT, _PREMULTIPLIED_LINEAR, _PREMULTIPLIED_ENCODED = 0, 1, 2


@kernel
def _read_colour(c, a, out, mode, matte, slope, offset, exponent, b_lin, b_enc, linear):  # type: ignore[no-untyped-def]
    """One colour plane with its alpha; ``matte`` in code value (mode 2) or light (mode 1)."""
    one = np.float32(1)
    zero = np.float32(0)
    tiny = np.float32(1e-30)
    for i in range(c.size):
        alpha = a[i]
        x = c[i]
        light = np.float32(0)
        if mode == 2:
            # F = (C - M(1-a)) / a in code values; what is left where a is 0 is light.
            x = x - matte * (one - alpha)
            x = x / (alpha if alpha > 0 else one)
        y = x if linear else decode_value(x, slope, offset, exponent, b_lin, b_enc)
        if mode == 0:
            light = y * alpha
        elif mode == 1:
            light = y - matte * (one - alpha)
        else:
            light = y * alpha if alpha > 0 else y
        # Denormal numbers would make every later step many times slower and show nothing.
        out[i] = light if abs(light) > tiny else zero


def read(stored: StoredPicture, reading: Reading, encoding: str) -> PremultipliedPicture:
    """Scene-linear, premultiplied-over-black picture from stored code values.

    Parameters
    ----------
    stored : code values 0..1 (floating-point files as they are). A picture without RGB but with
        one grey plane ``Y`` uses it for R, G and B; one of data alone has one plane as grey, or its first
        two or three as R, G and B; one without alpha is opaque.
    reading : what the stored alpha means.
    encoding : name as in `neatveil.colour.encodings`; the matte colour is in the same encoding.

    Returns
    -------
    R, G, B in BT.709's primaries, A, and every extra plane as it was stored; so are R, G and B where they
    are data: never decoded, never multiplied. A is coverage and is brought within 0..1, since filters of
    renderers overshoot; RGB stays as it is. RGB above 0 where alpha is 0 is kept, except in the straight
    reading, where it has no meaning.

    Raises
    ------
    ValueRefused
        There is neither colour nor alpha.
    NameUnknown
        There is no such encoding.

    Notes
    -----
    Source: Porter & Duff 1984 [PorterDuff1984]; ISO 32000-1:2008, 11.6.5.3 [ISO32000].

    Examples
    --------
    >>> from neatveil.alpha import Reading
    >>> stored = StoredPicture.from_rgba(np.array([[[1, 0.5, 0, 0.5]]], np.float32))
    >>> read(stored, Reading(alpha="straight"), "linear").rgba().ravel().tolist()
    [0.5, 0.25, 0.0, 0.5]
    """
    e = encoding_named(encoding)
    plain = e.name == "linear" and e.primaries == "bt709"
    if plain and _is_light_already(stored, reading) and is_coverage(stored["A"]):
        return PremultipliedPicture(
            stored.planes, stored.data_window, stored.display_window, data_planes=stored.data_planes
        )
    shape = (stored.data_window.height, stored.data_window.width)
    colour, data = _colour_planes(stored)
    one = np.ones(shape, np.float32)
    alpha = one if reading.alpha == "none" else stored.planes.get("A", one)
    if reading.inverted and reading.alpha != "none" and stored.has_alpha:
        alpha = np.float32(1) - alpha
    if is_by_pixel(encoding) and not data:
        limited = np.ascontiguousarray(alpha).copy()
        limit_coverage(limited.reshape(-1))
        own = reading if stored.has_alpha else reading.model_copy(update={"alpha": "none"})
        light = read_in_space(colour, limited, own, encoding)
        return _with_extra(stored, {**light, "A": limited})
    mode = _mode(reading, stored.has_alpha, e.name)
    numbers = e.numbers()
    # the alpha is copied: as a view of the stored planes it would keep all of them in memory
    planes = new_planes(RGBA, *shape)
    mattes = [np.float32(_matte_value(m, mode, numbers, e.name)) for m in reading.matte]

    def strip(y0: int, y1: int) -> None:
        planes["A"][y0:y1] = alpha[y0:y1]
        flat_alpha = planes["A"][y0:y1].reshape(-1)
        limit_coverage(flat_alpha)
        for name, matte in zip(RGB, mattes, strict=True):
            if name in data:
                planes[name][y0:y1] = colour[name][y0:y1]
                continue
            _read_colour(
                colour[name][y0:y1].reshape(-1), flat_alpha, planes[name][y0:y1].reshape(-1),
                mode, matte, *numbers, e.name == "linear",
            )  # fmt: skip

    for_strips(*shape, strip)
    if e.primaries != "bt709" and not data:
        planes |= to_bt709(planes, e.primaries)
    return _with_extra(stored, planes)


def _with_extra(stored: StoredPicture, planes: dict[str, Plane]) -> PremultipliedPicture:
    extra = {n: p for n, p in stored.planes.items() if n not in RGBA and n != "Y"}
    return PremultipliedPicture(
        {**planes, **extra},
        stored.data_window,
        stored.display_window,
        data_planes=stored.data_planes,
    )


def _is_light_already(stored: StoredPicture, reading: Reading) -> bool:
    """Linear, premultiplied over black, with an alpha: what is stored is what it is read as."""
    return (
        reading.alpha == "premultiplied"
        and not reading.inverted
        and not any(reading.matte)
        and all(n in stored.planes for n in RGBA)
        and not stored.data_planes & set(RGB)
    )


def light_planes(stored: StoredPicture, reading: Reading) -> tuple[str, ...] | None:
    """Stored planes that tell where a picture is empty: no light is read where all of them are 0.

    Parameters
    ----------
    stored : code values.
    reading : what the stored alpha means.

    Returns
    -------
    Names of planes. None where 0 does not mean empty: without alpha, inverted, over another matte colour than
    black, or with extra planes, which may hold data anywhere.

    Examples
    --------
    >>> from neatveil.alpha import Reading
    >>> stored = StoredPicture.from_rgba(np.ones((1, 1, 4), np.float32))
    >>> light_planes(stored, Reading(alpha="straight"))
    ('A',)
    """
    names = set(stored.planes)
    if reading.inverted or reading.alpha == "none" or names != set(RGBA) or stored.data_planes:
        return None
    if reading.alpha == "straight":
        return ("A",)
    return RGBA if not any(reading.matte) else None


def _colour_planes(stored: StoredPicture) -> tuple[dict[str, Plane], frozenset[str]]:
    """What is seen as R, G and B, and which of them are data."""
    seen = seen_planes(stored)
    if seen is not None:
        return seen
    if stored.has_alpha:  # a matte by itself: shown as white under its alpha
        white = np.ones_like(stored.planes["A"])
        return dict.fromkeys(RGB, white), frozenset()
    raise ValueRefused(
        f"The picture has the planes {', '.join(stored.planes)} and none of R, G, B, Y or A.",
        advice="Choose which planes are its colour.",
    )


def _mode(reading: Reading, has_alpha: bool, encoding: str) -> int:
    if reading.alpha != "premultiplied" or not has_alpha:
        return _STRAIGHT
    if reading.multiplied == "encoded" and encoding != "linear":
        return _PREMULTIPLIED_ENCODED
    return _PREMULTIPLIED_LINEAR


def _matte_value(code: float, mode: int, numbers: tuple[np.float32, ...], encoding: str) -> float:
    if mode != _PREMULTIPLIED_LINEAR or encoding == "linear":
        return code
    one = np.full(1, code, np.float32)
    out = np.empty(1, np.float32)
    zero = np.ones(1, np.float32)
    _read_colour(one, zero, out, _STRAIGHT, np.float32(0), *numbers, False)
    return float(out[0])
