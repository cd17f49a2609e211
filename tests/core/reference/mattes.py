"""Mattes: each part as a grey picture over the layer's own, put together and refined."""

from __future__ import annotations

import numpy as np
import scipy.ndimage as ndi
from neatveil.mattes.screen_surface import surface_of

from . import shapes
from .models import LUMA
from .pixels import encoded
from .steps import extended, grown, line

WEIGHTS = {**LUMA, "mean": (1 / 3, 1 / 3, 1 / 3)}
CARDS = {"green": (1, 0, 2), "blue": (2, 0, 1)}


def picked(picture, part):
    """One channel of the picture over black, in light or in sRGB codes."""
    colour = encoded(picture[..., :3]) if part.space == "codes" else picture[..., :3]
    r, g, b = (colour[..., i] for i in range(3))
    low, high = colour.min(-1), colour.max(-1)
    rows = {
        "alpha": picture[..., 3], "red": r, "green": g, "blue": b, "min": low, "max": high,
        "luma": colour @ np.array(WEIGHTS[part.weights]), "lightness": (low + high) / 2,
        "red-green": r - g, "red-blue": r - b, "green-blue": g - b,
        "green-difference": np.maximum(0, g - np.maximum(r, b)),
        "blue-difference": np.maximum(0, b - np.maximum(r, g)),
    }  # fmt: skip
    return rows[part.channel]


def counted(x, part):
    """Values of a channel to what is kept of them."""
    if part.shape == "range":
        away = np.maximum(part.low - x, x - part.high)
        kept = np.clip(1 - away / part.soft, 0, 1) if part.soft > 0 else (away <= 0).astype(float)
    elif part.passes == 1:
        kept = np.clip((x - part.low) / (part.high - part.low), 0, 1)
    else:
        width = part.high - part.low
        kept = np.clip((x - part.low + width / 2) / (2 * width), 0, 1)
        for _ in range(2):
            kept = kept * kept * (3 - 2 * kept)
    return 1 - kept if part.inverted else kept


def excess(picture, part):
    card, one, two = CARDS["green" if part.screen_colour[1] >= part.screen_colour[2] else "blue"]
    c = np.asarray(picture)
    high, low = np.maximum(c[..., one], c[..., two]), np.minimum(c[..., one], c[..., two])
    return np.maximum(0, c[..., card] - (high + part.balance * (low - high)))


def surface(part, whole, shape):
    """How far the clean card stands out at every pixel; ``whole``: the full picture that it is found in."""
    clean = excess(np.array(part.screen_colour), part)
    factors = surface_of(excess(whole, part).astype(np.float32), float(clean))
    y, x = ((2 * np.mgrid[: shape[0], : shape[1]].astype(float)[i] + 1) / shape[i] - 1 for i in range(2))
    terms = np.stack([np.ones(shape), x, y, x * x, x * y, y * y])
    return np.maximum(0.1 * clean, np.tensordot(factors, terms, 1))


def key_share(picture, part, plate, whole):
    """Vlahos 1971: one less the share of the card's own difference; or the distance from a clean plate."""
    if part.by == "plate":
        return np.abs(encoded(picture[..., :3]) - encoded(plate[..., :3])).max(-1)
    clean = excess(np.array(part.screen_colour), part)
    if part.evenness == "plate":
        return 1 - excess(picture, part) / np.maximum(0.1 * clean, excess(plate, part))
    if part.evenness == "uneven":
        return 1 - excess(picture, part) / surface(part, whole, picture.shape[:2])
    return 1 - excess(picture, part) / clean


def keyed(x, part):
    kept = np.clip((x - part.black) / (part.white - part.black), 0, 1)
    return 1 - kept if part.inverted else kept


def without_screen(picture, part, plate, whole):
    """``(C - (1 - a) B) / a`` of every pixel."""
    a = np.clip(key_share(picture, part, plate, whole), 0, 1)[..., None]
    if part.evenness == "plate":
        card = plate[..., :3]
    elif part.evenness == "uneven":
        clean = excess(np.array(part.screen_colour), part)
        card = (surface(part, whole, picture.shape[:2]) / clean)[..., None] * np.array(part.screen_colour)
    else:
        card = np.array(part.screen_colour)
    colour = np.maximum(0, picture[..., :3] - (1 - a) * card * picture[..., 3:]) / np.maximum(a, 1 / 64)
    return np.concatenate([colour, picture[..., 3:]], -1)


def edge_from_inside(cut, picture, matte, inside):
    """The colour of what is kept in part from what is kept in full nearby."""
    sure = (matte >= inside)[..., None]
    colour = extended(np.where(sure, cut, 0), 0.0)
    edge = (matte > 0)[..., None] & ~sure & (picture[..., 3:] > 0)
    return np.concatenate([np.where(edge, colour * cut[..., 3:], cut[..., :3]), cut[..., 3:]], -1)


def joined(parts):
    """``parts``: rows of how, grey, cover (None where it is combined)."""
    how, total, cover = parts[0]
    total = 1 - total if how == "subtract" and cover is None else total
    for how, grey, cover in parts[1:]:
        if cover is not None:
            total = total * (1 - cover) + grey
        elif how == "add":
            total = np.minimum(1, total + grey)
        elif how == "subtract":
            total = np.maximum(0, total - grey)
        else:
            total = np.minimum(total, grey) if how == "intersect" else np.abs(total - grey)
    return total


def laplacian(light):
    """Levin and others 2008, equation 12, of every window of 3 x 3; a matrix that holds all of it."""
    height, width = light.shape[:2]
    whole = np.zeros((height * width, height * width))
    for y in range(1, height - 1):
        for x in range(1, width - 1):
            at = [(y + b) * width + x + a for b in (-1, 0, 1) for a in (-1, 0, 1)]
            colours = light.reshape(-1, 3)[at]
            away = colours - colours.mean(0)
            inverse = np.linalg.inv(away.T @ away / 9 + 1e-6 / 9 * np.eye(3))
            whole[np.ix_(at, at)] += np.eye(9) - (1 + away @ inverse @ away.T) / 9
    return whole


def edge_found(picture, rough, band, trust):
    """The edge of a rough matte found in a picture: all its equations solved at once."""
    core, gone = grown(rough, -band) >= 0.95, grown(rough, band) <= 0.05
    unknown = ~(core | gone).reshape(-1)
    if not unknown.any():
        return core.astype(float)
    if not core.any() or not gone.any():
        return edge_found(picture, rough, band / 2, trust) if band >= 1 else np.clip(rough, 0, 1)
    alpha = picture[..., 3:]
    light = np.divide(picture[..., :3], alpha, out=picture[..., :3].copy(), where=alpha > 0)
    light = np.nan_to_num(light, posinf=0, neginf=0)
    light = np.clip(light / max(1.0, np.quantile(light[::4, ::4], 0.999)), 0, 1)
    system = laplacian(light) + trust * np.eye(unknown.size)
    found = core.reshape(-1).astype(float)
    wanted = trust * np.clip(rough, 0, 1).reshape(-1) - system @ np.where(unknown, 0, found)
    found[unknown] = np.linalg.solve(system[np.ix_(unknown, unknown)], wanted[unknown])
    return np.clip(found, 0, 1).reshape(rough.shape)


def regions(inside, area, *, at_border):
    """Where connected regions (8 neighbours) of fewer than ``area`` pixels lie."""
    labels, count = ndi.label(inside, np.ones((3, 3)))
    found = np.zeros(inside.shape, bool)
    for i in range(1, count + 1):
        one = labels == i
        touches = one[0].any() or one[-1].any() or one[:, 0].any() or one[:, -1].any()
        if one.sum() < area and (at_border or not touches):
            found |= one
    return found


def refined(plane, matte, level):
    share = 0.5**level
    if matte.specks:
        plane = np.where(regions(plane > 0.02, matte.specks * share**2, at_border=True), 0, plane)
    if matte.holes:
        plane = np.where(regions(plane < 0.98, matte.holes * share**2, at_border=False), 1, plane)
    if matte.grow:
        plane = grown(plane, matte.grow * share)
    if matte.soften * share > 0.05:
        weights = line(matte.soften * share)
        plane = ndi.correlate1d(
            ndi.correlate1d(plane, weights, 0, mode="nearest"), weights, 1, mode="nearest"
        )
    return 1 - plane if matte.inverted else plane


def drawn(part, frame, level):
    """Grey and cover of what is drawn, over a frame (W, H)."""
    if part.kind == "paint":
        grey, cover = shapes.painted(part.strokes, frame, level)
        return (cover - grey if part.inverted else grey), cover
    soft, outwards = part.soft_inside + part.soft_outside, (part.soft_outside - part.soft_inside) / 2
    grey = shapes.weights(
        part.shape, (part.x, part.y), (part.width, part.height), part.rotation, soft, frame, level, outwards
    )
    return (1 - grey if part.inverted else grey), None
