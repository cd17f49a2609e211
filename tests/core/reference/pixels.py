"""Reading stored values, halving, resampling and merging, by their formulas."""

from __future__ import annotations

import numpy as np

BT709 = np.array([0.2126, 0.7152, 0.0722])


def decoded(codes, encoding):
    """IEC 61966-2-1 (sRGB) and ITU-R BT.709-6, continued below 0 by point symmetry."""
    x = np.abs(codes)
    if encoding == "srgb":
        light = np.where(x <= 0.04045, x / 12.92, ((x + 0.055) / 1.055) ** 2.4)
    elif encoding == "rec709":
        light = np.where(x < 0.081, x / 4.5, ((x + 0.099) / 1.099) ** (1 / 0.45))
    else:
        light = x
    return np.sign(codes) * light


def encoded(light):
    x = np.abs(light)
    return np.sign(light) * np.where(x <= 0.0031308, x * 12.92, 1.055 * x ** (1 / 2.4) - 0.055)


def read(stored, reading, encoding):
    """Stored ``(H, W, 4)`` to premultiplied light; `Reading` says what the stored values are."""
    codes = stored[..., :3].astype(float)
    alpha = np.clip(1 - stored[..., 3:] if reading.inverted else stored[..., 3:], 0, 1).astype(float)
    matte = np.array(reading.matte)
    if reading.alpha == "none":
        return np.concatenate([decoded(codes, encoding), np.ones_like(alpha)], -1)
    if reading.alpha == "straight":
        return np.concatenate([decoded(codes, encoding) * alpha, alpha], -1)
    if reading.multiplied == "linear" or encoding == "linear":
        light = decoded(codes, encoding) - decoded(matte, encoding) * (1 - alpha)
        return np.concatenate([light, alpha], -1)
    surface = (codes - matte * (1 - alpha)) / np.where(alpha > 0, alpha, 1)
    light = decoded(surface, encoding) * np.where(alpha > 0, alpha, 1)
    return np.concatenate([light, alpha], -1)


def halved(picture):
    """The mean of 2 x 2 pixels; an odd edge goes on with nothing."""
    height, width = picture.shape[:2]
    even = np.pad(picture, ((0, height % 2), (0, width % 2), (0, 0)))
    return even.reshape(even.shape[0] // 2, 2, even.shape[1] // 2, 2, -1).mean((1, 3))


def fitted(picture, shape, fit):
    """Over a frame of another shape (H, W): stretched, by shares of area or in straight lines; or centred."""
    if picture.shape[:2] == tuple(shape):
        return picture
    if fit == "stretch":
        shrinks = picture.shape[1] > shape[1]
        down, across = (_stretch(n, m, shrinks) for n, m in zip(picture.shape, shape, strict=False))
        return np.einsum("ya,abc,xb->yxc", down, picture, across)
    out = np.zeros((*shape, picture.shape[2]))
    for y in range(shape[0]):
        for x in range(shape[1]):
            v = y - (shape[0] - picture.shape[0]) // 2
            u = x - (shape[1] - picture.shape[1]) // 2
            if 0 <= v < picture.shape[0] and 0 <= u < picture.shape[1]:
                out[y, x] = picture[v, u]
    return out


def _stretch(count, wanted, shrinks):
    """Weights ``(wanted, count)`` of a line of pixels: borders are repeated."""
    place, share = np.arange(wanted), count / wanted
    if shrinks:
        low, high, at = place[:, None] * share, (place[:, None] + 1) * share, np.arange(count)
        return np.clip(np.minimum(high, at + 1) - np.maximum(low, at), 0, None) / share
    centre = np.clip((place + 0.5) * share - 0.5, 0, count - 1)
    return np.maximum(0, 1 - np.abs(centre[:, None] - np.arange(count)))


def keys_cubic(t):
    t = np.abs(t)
    far = np.where(t < 2, -0.5 * t**3 + 2.5 * t**2 - 4 * t + 2, 0)
    return np.where(t < 1, 1.5 * t**3 - 2.5 * t**2 + 1, far)


def tap_weights(share, name):
    """Weights of the pixels -2 to 3 around a place that lies ``share`` beyond pixel 0."""
    away = np.arange(-2, 4) - share[..., None]
    if name == "nearest":
        return (np.arange(-2, 4) == np.floor(share[..., None] + 0.5)).astype(float)
    if name == "linear":
        return np.maximum(0, 1 - np.abs(away))
    if name == "cubic":
        return keys_cubic(away)
    weights = np.sinc(away) * np.sinc(away / 3) * (np.abs(away) < 3)
    weights /= weights.sum(-1, keepdims=True)
    # the first moment is made right by the least change there is
    spread = away - away.mean(-1, keepdims=True)
    weights -= (weights * away).sum(-1, keepdims=True) * spread / (spread**2).sum(-1, keepdims=True)
    return np.where(np.abs(weights) < 1e-12, 0, weights)  # sin(pi n) is 0, not the 1e-16 of double precision


def sampled(picture, u, v, name):
    """Values at places in pixel coordinates (centres are whole numbers); nothing beyond the border."""
    height, width = picture.shape[:2]
    iu, iv = np.floor(u).astype(int), np.floor(v).astype(int)
    wu, wv = tap_weights(u - iu, name), tap_weights(v - iv, name)
    total = np.zeros((*u.shape, picture.shape[2]))
    for j in range(6):
        for i in range(6):
            x, y = iu + i - 2, iv + j - 2
            inside = (x >= 0) & (x < width) & (y >= 0) & (y < height)
            values = picture[np.clip(y, 0, height - 1), np.clip(x, 0, width - 1)]
            total += (wu[..., i] * wv[..., j] * inside)[..., None] * values
    return total


def limited(picture):
    """Alpha within 0..1: above 1 the straight colour stays; without any the colour is left as light."""
    alpha = picture[..., 3:]
    colour = np.where(alpha < 1e-6, np.maximum(picture[..., :3], 0), picture[..., :3])
    return np.concatenate([colour / np.maximum(alpha, 1), np.clip(alpha, 0, 1)], -1)


def warped(picture, back, size, name):
    """``back``: from corner coordinates of the result, of a ``size`` (W, H), to those of the picture."""
    y, x = np.mgrid[: size[1], : size[0]] + 0.5
    u, v, w = (back[i, 0] * x + back[i, 1] * y + back[i, 2] for i in range(3))
    result = sampled(picture, np.where(w > 0, u / w, -1e6) - 0.5, np.where(w > 0, v / w, -1e6) - 0.5, name)
    return limited(result) if name in {"cubic", "lanczos"} else result


# --- merging: Porter & Duff 1984; W3C Compositing and Blending Level 1 ---

FRACTIONS = {
    "clear": (lambda a, b: 0, lambda a, b: 0), "copy": (lambda a, b: 1, lambda a, b: 0),
    "dest": (lambda a, b: 0, lambda a, b: 1), "over": (lambda a, b: 1, lambda a, b: 1 - a),
    "dest-over": (lambda a, b: 1 - b, lambda a, b: 1), "in": (lambda a, b: b, lambda a, b: 0),
    "dest-in": (lambda a, b: 0, lambda a, b: a), "out": (lambda a, b: 1 - b, lambda a, b: 0),
    "dest-out": (lambda a, b: 0, lambda a, b: 1 - a), "atop": (lambda a, b: b, lambda a, b: 1 - a),
    "dest-atop": (lambda a, b: 1 - b, lambda a, b: a), "xor": (lambda a, b: 1 - b, lambda a, b: 1 - a),
}  # fmt: skip


def _hard_light(cb, cs):
    return np.where(cs <= 0.5, cb * 2 * cs, cb + (2 * cs - 1) - cb * (2 * cs - 1))


def _soft_light(cb, cs):
    d = np.where(cb <= 0.25, ((16 * cb - 12) * cb + 4) * cb, np.sqrt(np.maximum(cb, 0)))
    return np.where(cs <= 0.5, cb - (1 - 2 * cs) * cb * (1 - cb), cb + (2 * cs - 1) * (d - cb))


def _dodge(cb, cs):
    bright = np.minimum(1, cb / np.where(cs < 1, 1 - cs, 1))
    return np.where(cb == 0, 0, np.where(cs >= 1, 1, bright))


def _burn(cb, cs):
    dark = 1 - np.minimum(1, (1 - cb) / np.where(cs > 0, cs, 1))
    return np.where(cb >= 1, 1, np.where(cs <= 0, 0, dark))


SEPARABLE = {
    "multiply": lambda cb, cs: cb * cs, "screen": lambda cb, cs: cb + cs - cb * cs,
    "overlay": lambda cb, cs: _hard_light(cs, cb), "darken": np.minimum, "lighten": np.maximum,
    "color-dodge": _dodge, "color-burn": _burn, "hard-light": _hard_light, "soft-light": _soft_light,
    "difference": lambda cb, cs: np.abs(cb - cs), "exclusion": lambda cb, cs: cb + cs - 2 * cb * cs,
}  # fmt: skip


def _lum(c):
    return (c * (0.3, 0.59, 0.11)).sum(-1, keepdims=True)


def _clip_color(c):
    """As the recommendation writes it: least and greatest are those before either is clipped."""
    light, low, high = _lum(c), c.min(-1, keepdims=True), c.max(-1, keepdims=True)
    c = np.where(low < 0, light + (c - light) * np.maximum(0, light / np.maximum(light - low, 1e-20)), c)
    return np.where(
        high > 1, light + (c - light) * np.maximum(0, (1 - light) / np.maximum(high - light, 1e-20)), c
    )


def _set_lum(c, light):
    return _clip_color(c + light - _lum(c))


def _sat(c):
    return c.max(-1, keepdims=True) - c.min(-1, keepdims=True)


def _set_sat(c, sat):
    low, span = c.min(-1, keepdims=True), _sat(c)
    return (c - low) * np.where(span > 0, sat / np.where(span > 0, span, 1), 0)


WHOLE = {
    "hue": lambda cb, cs: _set_lum(_set_sat(cs, _sat(cb)), _lum(cb)),
    "saturation": lambda cb, cs: _set_lum(_set_sat(cb, _sat(cs)), _lum(cb)),
    "color": lambda cb, cs: _set_lum(cs, _lum(cb)),
    "luminosity": lambda cb, cs: _set_lum(cb, _lum(cs)),
}

ARITHMETIC = {
    "add": lambda f, b: f + b, "subtract": lambda f, b: b - f,
    "divide": lambda f, b: np.where(f != 0, b / np.where(f != 0, f, 1), 0),
    "min": np.minimum, "max": np.maximum, "average": lambda f, b: (f + b) / 2,
}  # fmt: skip


def straight(picture):
    return picture[..., :3] / np.where(picture[..., 3:] != 0, picture[..., 3:], 1)


def merged(name, front, back, mix):
    fa, ba = front[..., 3:], back[..., 3:]
    over = fa + ba * (1 - fa)
    if name == "plus":
        full = np.concatenate([front[..., :3] + back[..., :3], np.minimum(1, fa + ba)], -1)
    elif name in FRACTIONS:
        keep_front, keep_back = FRACTIONS[name]
        full = front * keep_front(fa, ba) + back * keep_back(fa, ba)
    elif name in ARITHMETIC:
        full = ARITHMETIC[name](front, back)
        if name in {"add", "subtract", "divide"}:
            full = np.concatenate([full[..., :3], over], -1)
    else:
        blend = {**SEPARABLE, **WHOLE}[name](straight(back), straight(front))
        colour = front[..., :3] * (1 - ba) + back[..., :3] * (1 - fa) + fa * ba * blend
        full = np.concatenate([colour, over], -1)
    return back + mix * (full - back)
