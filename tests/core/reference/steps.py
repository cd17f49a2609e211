"""Every step as a function of a whole picture."""

from __future__ import annotations

import numpy as np
import scipy.ndimage as ndi
from neatveil.alpha.extend import extended_colour
from scipy.interpolate import PchipInterpolator

from . import shapes
from .data_steps import depth_blur, fog, motion_blur, relight
from .pixels import BT709, decoded, encoded, halved, limited, sampled, straight
from .second import combine, patch
from .uv import uv_map

LETTERS = "rgba"


def done(picture, step, level, find):
    """``find``: what a step names; see `comp.Find`."""
    if step.extra_channel:  # it acts on one further plane, as if that were an opaque grey picture
        plane = find.plane("", step.extra_channel, picture, "stretch")
        grey = np.stack([plane, plane, plane, np.ones_like(plane)], -1)
        alone = step.model_copy(update={"extra_channel": ""})
        find.extra = {**find.extra, step.extra_channel: done(grey, alone, level, find)[..., 0]}
        return picture
    weight = step.mix * acting(picture, step, level, find)
    if step.kind in POINT:
        return point(picture, step, weight)
    if step.on_straight:
        after = field(np.concatenate([straight(picture), picture[..., 3:]], -1), step, level, find)
        after = np.concatenate([after[..., :3] * after[..., 3:], after[..., 3:]], -1)
    else:
        after = field(picture, step, level, find)
    alpha = np.clip(after[..., 3:], 0, 1)
    after = np.concatenate([after[..., :3] / np.maximum(after[..., 3:], 1), alpha], -1)
    return picture + weight[..., None] * (after - picture)


def acting(picture, step, level, find):
    """``(H, W)`` 0..1: where a step acts."""
    through, (height, width) = step.through, picture.shape[:2]
    if through.by == "everywhere":
        return np.ones((height, width))
    if through.by == "matte":
        found = find.matte(through.matte)
    elif through.by == "channel":
        rows = {"alpha": picture[..., 3], "luma": picture[..., :3] @ BT709}
        rows |= {n: picture[..., i] for i, n in enumerate(("red", "green", "blue"))}
        found = np.clip(rows[through.channel], 0, 1)
    else:
        found = shapes.weights(
            through.by, (through.x, through.y), (through.width, through.height), through.rotation,
            through.soft, (width, height), level,
        )  # fmt: skip
    return 1 - found if through.inverted else found


# --- steps on one pixel ---


def point(picture, step, weight):
    """Surface under an alpha above 0; light where it is 0; nothing where there is neither."""
    alpha = picture[..., 3:]
    plain = step.on_premultiplied
    before = picture if plain else np.concatenate([straight(picture), alpha], -1)
    codes = getattr(step, "space", "light") == "codes"
    given = np.concatenate([encoded(before[..., :3]), alpha], -1) if codes else before
    after = POINT[step.kind](given, step)
    after = np.concatenate([after[..., :3], np.clip(after[..., 3:], 0, 1)], -1)
    changed = np.array([letter in step.channels for letter in LETTERS])
    after = np.where(changed, after, given)
    w = weight[..., None]
    if codes and step.mixed == "codes":
        mixed = given + w * (after - given)
        mixed = np.concatenate([decoded(mixed[..., :3], "srgb"), mixed[..., 3:]], -1)
    else:
        back = np.concatenate([decoded(after[..., :3], "srgb"), after[..., 3:]], -1) if codes else after
        mixed = before + w * (back - before)
    mixed = np.where(changed, mixed, before)
    if plain:
        return mixed
    now = mixed[..., 3:]
    there = np.where(alpha > 0, now, np.abs(picture[..., :3]).sum(-1, keepdims=True) > 0)
    return np.concatenate([mixed[..., :3] * there, now], -1)


def levels(x, s):
    t = (x - s.in_black) / (s.in_white - s.in_black)
    bent = np.where(t > 0, np.abs(t) ** (1 / s.gamma), t)
    return s.out_black + (s.out_white - s.out_black) * bent


def curve(x, s):
    """Fritsch & Butland 1984, by SciPy; straight on beyond the ends."""
    px, py = (np.array([p[i] for p in s.points], float) for i in (0, 1))
    cubic = PchipInterpolator(px, py)
    below, above = cubic.derivative()(px[0]), cubic.derivative()(px[-1])
    beyond = below * np.minimum(x - px[0], 0) + above * np.maximum(x - px[-1], 0)
    return cubic(np.clip(x, px[0], px[-1])) + beyond


def grade(x, s):
    gain, offset = np.array([*s.gain, 1.0]), np.array([*s.offset, 0.0])
    y = (x * gain + offset - s.pivot) * s.contrast + s.pivot
    y = np.where([letter in s.channels for letter in LETTERS], y, x)
    luma = (y[..., :3] @ BT709)[..., None]
    return np.concatenate([luma + s.saturation * (y[..., :3] - luma), y[..., 3:]], -1)


def hue(x, s):
    """W3C Filter Effects, hueRotate."""
    c, n = np.cos(np.radians(s.rotation)), np.sin(np.radians(s.rotation))
    m = np.array([
        [0.213 + c * 0.787 - n * 0.213, 0.715 - c * 0.715 - n * 0.715, 0.072 - c * 0.072 + n * 0.928],
        [0.213 - c * 0.213 + n * 0.143, 0.715 + c * 0.285 + n * 0.140, 0.072 - c * 0.072 - n * 0.283],
        [0.213 - c * 0.213 - n * 0.787, 0.715 - c * 0.715 + n * 0.715, 0.072 + c * 0.928 + n * 0.072],
    ])  # fmt: skip
    return np.concatenate([x[..., :3] @ m.T, x[..., 3:]], -1)


def despill(x, s):
    at, one, two = (1, 0, 2) if s.screen == "green" else (2, 0, 1)
    r, g = x[..., one], x[..., two]
    limit = np.maximum(r, g) if s.limit == "greater" else s.balance * r + (1 - s.balance) * g
    out = x.copy()
    if "rgb"[at] in s.channels:
        out[..., at] = x[..., at] - s.amount * np.maximum(0, x[..., at] - limit)
    return out


POINT = {
    "levels": levels, "curve": curve, "tone": grade, "hue": hue, "despill": despill,
    "exposure": lambda x, s: x * 2.0**s.stops, "invert": lambda x, s: 1 - x,
    "clamp": lambda x, s: np.minimum(np.maximum(x, s.low), s.high),
}  # fmt: skip


# --- steps that need neighbours or places ---


def field(picture, step, level, find):
    after = FIELD[step.kind](picture, step, 0.5**level, find)
    if "channels" not in type(step).model_fields or step.kind == "patch":
        return after
    if step.channels == "a" and step.kind in NEAR:
        return under_alpha(picture, after[..., 3])
    chosen = step.channels + ("a" if step.kind == "combine" else "")  # its alpha has a choice of its own
    return np.where([letter in chosen for letter in LETTERS], after, picture)


def under_alpha(picture, alpha):
    """The same surface under another alpha; light stays."""
    colour = extended(picture, 1e-5)
    light = np.where(picture[..., 3:] > 0, 0, picture[..., :3])
    return np.concatenate([colour * alpha[..., None] + light, alpha[..., None]], -1)


def extended(picture, least):
    planes = {n: np.ascontiguousarray(picture[..., i], np.float32) for i, n in enumerate("RGBA")}
    found = extended_colour(planes, least)
    return np.stack([found[n] for n in "RGB"], -1).astype(float)


def edge(step):
    return "nearest" if step.border == "continue" else "constant"


def line(sigma):
    x = np.arange(-np.ceil(4 * sigma), np.ceil(4 * sigma) + 1)
    w = np.exp(-0.5 * (x / sigma) ** 2)
    return w / w.sum()


def smooth(picture, down, across, mode):
    picture = ndi.correlate1d(picture, down, 0, mode=mode)
    return ndi.correlate1d(picture, across, 1, mode=mode)


def blur(p, s, share, find):
    size = s.size * share
    if size < 0.02:
        return p
    if s.kernel == "disc" and s.axes == "both":
        return ndi.correlate(p, shapes.disc(size)[..., None], mode=edge(s))
    if s.kernel == "gaussian":
        weights = line(size)
    else:
        x = np.arange(-np.ceil(size + 0.5), np.ceil(size + 0.5) + 1)
        weights = np.clip(np.minimum(x + 0.5, size) - np.maximum(x - 0.5, -size), 0, 1)
        weights = weights / weights.sum()
    one = np.ones(1)
    return smooth(p, one if s.axes == "across" else weights, one if s.axes == "down" else weights, edge(s))


def sharpen(p, s, share, find):
    if s.size * share < 0.02:
        return p
    weights = line(s.size * share)
    return p + s.amount * (p - smooth(p, weights, weights, edge(s)))


def median(p, s, share, find):
    reach = min(2, round(s.size * share))
    return ndi.median_filter(p, (2 * reach + 1, 2 * reach + 1, 1), mode=edge(s)) if reach else p


def grown(plane, size, mode="nearest"):
    """Grey morphology by discs; between two whole radii their weighted mean."""
    work = ndi.grey_dilation if size > 0 else ndi.grey_erosion
    low, high = int(np.floor(abs(size))), int(np.ceil(abs(size)))
    rows = []
    for radius in (low, high):
        y, x = np.mgrid[-radius : radius + 1, -radius : radius + 1]
        rows.append(work(plane, footprint=x * x + y * y <= radius * radius, mode=mode) if radius else plane)
    return rows[0] + (abs(size) - low) * (rows[1] - rows[0])


def grow_shrink(p, s, share, find):
    return np.stack([grown(p[..., i], s.size * share, edge(s)) for i in range(4)], -1)


def crop(p, s, share, find):
    height, width = p.shape[:2]

    def part(count, low, high):
        at = np.arange(count)
        return np.clip(np.minimum(at + 1, high) - np.maximum(at, low), 0, 1)

    down = part(height, s.top * share, height - s.bottom * share)
    across = part(width, s.left * share, width - s.right * share)
    return p * (down[:, None] * across[None])[..., None]


def falloff(p, s, share, find):
    w = shapes.weights(
        s.shape, (s.x, s.y), (s.width, s.height), s.rotation, s.soft, p.shape[1::-1], round(-np.log2(share))
    )
    return p * (1 - w if s.inverted else w)[..., None]


def flip(p, s, share, find):
    return p[:: -1 if s.down else 1, :: -1 if s.across else 1]


def moved(p, matrices, name):
    """The mean of the picture under ``matrices``, halved first while it would shrink below half."""
    height, width = p.shape[:2]
    shrink, base = np.sqrt(abs(np.linalg.det(matrices[0][:2, :2]))), np.eye(3)
    while shrink < 0.5 and max(p.shape[:2]) > 1:
        p, base, shrink = halved(p), np.diag([0.5, 0.5, 1]) @ base, shrink * 2
    rows = [base @ np.linalg.inv(m) for m in matrices]
    plain = [warped_raw(p, back, (width, height), name) for back in rows]
    mean = np.mean(plain, axis=0)
    return limited(mean) if name in {"cubic", "lanczos"} else mean


def warped_raw(p, back, size, name):
    y, x = np.mgrid[: size[1], : size[0]] + 0.5
    u, v, w = (back[i, 0] * x + back[i, 1] * y + back[i, 2] for i in range(3))
    return sampled(p, np.where(w > 0, u / w, -1e6) - 0.5, np.where(w > 0, v / w, -1e6) - 0.5, name)


def transform(p, s, share, find):
    height, width = p.shape[:2]
    anchor = np.array([width / 2 + s.anchor_x * share, height / 2 + s.anchor_y * share])
    matrices = []
    for x, y, scale, stretch, rotation in s.path or ((s.x, s.y, s.scale, s.stretch, s.rotation),):
        c, n = np.cos(np.radians(rotation)), np.sin(np.radians(rotation))
        linear = np.array([[c, -n], [n, c]]) @ np.diag([scale * stretch, scale])
        m = np.eye(3)
        m[:2, :2], m[:2, 2] = linear, anchor + np.array([x, y]) * share - linear @ anchor
        matrices.append(m)
    return moved(p, matrices, s.filter)


def corner_pin(p, s, share, find):
    if not np.any(s.corners):  # nothing is resampled
        return p
    height, width = p.shape[:2]
    rest = np.array([[0, 0], [width, 0], [width, height], [0, height]], float)
    to = rest + np.array(s.corners) * share
    rows = []
    for (x, y), (u, v) in zip(rest, to, strict=True):
        rows.append([x, y, 1, 0, 0, 0, -u * x, -u * y])
        rows.append([0, 0, 0, x, y, 1, -v * x, -v * y])
    return moved(p, [np.append(np.linalg.solve(rows, to.reshape(-1)), 1).reshape(3, 3)], s.filter)


def tile(p, s, share, find):
    height, width = p.shape[:2]
    one = moved(p, [np.diag([1 / s.columns, 1 / s.rows, 1])], "linear")
    cell = one[: -(-height // s.rows), : -(-width // s.columns)]

    def turned(part, number, axis):
        return np.flip(part, axis) if s.mirrored and number % 2 else part

    row = np.concatenate([turned(cell, i, 1) for i in range(s.columns)], 1)
    return np.concatenate([turned(row, i, 0) for i in range(s.rows)], 0)[:height, :width]


def glow(p, s, share, find):
    bright = np.maximum(p[..., :3] - s.threshold * np.clip(p[..., 3:], 0, 1), 0)
    weights = line(max(s.size * share, 0.02))
    light = smooth(bright, weights, weights, "nearest") * s.gain * np.array(s.tint)
    return np.concatenate([p[..., :3] + light, p[..., 3:]], -1)


def light_wrap(p, s, share, find):
    if not s.second:
        return p
    other, alpha = find.picture(s.second, p, s.fit), np.clip(p[..., 3:], 0, 1)
    weights = line(max(s.size * share, 0.02))
    more = s.gain * alpha * smooth(other[..., :3] * (1 - alpha), weights, weights, "nearest")
    screened = 1 - np.clip(p[..., :3], 0, 1) if s.blend == "screen" else 1
    return np.concatenate([p[..., :3] + more * screened, p[..., 3:]], -1)


def grain(p, s, share, find):
    """Normal deviates of a seed for every 64 rows, smoothed to grains of unit deviation, times alpha."""
    height, width = p.shape[:2]
    weights = line(s.size * share) if s.size * share > 0.2 else np.ones(1)
    reach, unit = len(weights) // 2, 1 / (weights**2).sum()
    if share < 1:  # a pixel of a draft is the mean of many
        unit /= 1 + (share**-2 - 1) / (24 * max(s.size, 0.3) ** 2)
    bands = range(-1 - reach // 64, (height + reach) // 64 + 1)
    out = p.copy()
    for i, n in enumerate("rgb"):
        if n not in s.channels:
            continue
        drawn = [
            np.random.default_rng([s.seed, find.number + 1000000, i, band + 1000000])
            .standard_normal((64, width), np.float32) for band in bands
        ]  # fmt: skip
        noise = ndi.correlate1d(np.concatenate(drawn).astype(float), weights, 0)
        noise = ndi.correlate1d(noise, weights, 1, mode="mirror")[-64 * bands[0] :][:height]
        surface = straight(p)[..., i]
        middle = np.clip(4 * surface * (1 - surface), 0, 1)
        amount = s.amount[i] * unit * (1 - s.tone * (1 - middle)) * p[..., 3]
        out[..., i] += np.where(p[..., 3] > 0, amount * noise, 0)
    return out


def extend(p, s, share, find):
    colour = extended(p, s.inside)
    alpha = p[..., 3:]
    edge_pixels = (alpha > 0) & (alpha <= s.inside)
    return np.concatenate([np.where(edge_pixels, colour * alpha, p[..., :3]), alpha], -1)


FIELD = {
    "blur": blur, "sharpen": sharpen, "median": median, "grow_shrink": grow_shrink, "crop": crop,
    "falloff": falloff, "flip": flip, "transform": transform, "corner_pin": corner_pin, "tile": tile,
    "glow": glow, "extend": extend, "patch": patch, "combine": combine, "grain": grain,
    "light_wrap": light_wrap, "uv_map": uv_map, "motion_blur": motion_blur,
    "depth_blur": depth_blur, "fog": fog, "relight": relight,
}  # fmt: skip

#: Those that take a colour past its edge where alpha alone changes.
NEAR = {"blur", "sharpen", "median", "grow_shrink"}
