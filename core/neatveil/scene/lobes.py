"""Where a ray goes on from a surface: scattered evenly, mirrored, or through it; and what is left of it.

Source: glTF 2.0, appendix B, for what the lobes are; KHR_materials_transmission and _volume for light
that goes through [glTF2]; facets by Dupuy & Benyoub 2023 [DupuyBenyoub2023]; Fresnel's equations of bodies
by Born & Wolf, 1.5.2 [BornWolf1999].
"""

from __future__ import annotations

import numpy as np

from ..numeric.jit import inline, kernel
from .bundle import off_surface

#: The lobes; `ANY` draws one by lot, by what each has to give.
DIFFUSE, MIRROR, THROUGH, ANY = 0, 1, 2, -1


@inline
def square_to(nx, ny, nz):  # type: ignore[no-untyped-def]
    """Two ways square to a normal and to each other [Duff2017]."""
    side = np.float32(1) if nz >= 0 else np.float32(-1)
    a = np.float32(-1) / (side + nz)
    b = nx * ny * a
    return np.float32(1) + side * nx * nx * a, side * b, -side * nx, b, side + ny * ny * a, -ny


@inline
def fresnel_of_bodies(cosine, ratio):  # type: ignore[no-untyped-def]
    """Unpolarised light mirrored where the index of refraction changes; ``ratio`` = before / behind."""
    squared = 1 - ratio * ratio * (1 - cosine * cosine)
    if squared <= 0:
        return np.float32(1), np.float32(0)
    inner = np.float32(np.sqrt(squared))
    parallel = (cosine - ratio * inner) / (cosine + ratio * inner)
    square = (ratio * cosine - inner) / (ratio * cosine + inner)
    return np.float32(0.5) * (parallel * parallel + square * square), inner


@inline
def hidden_share(n_v, n_l, a2):  # type: ignore[no-untyped-def]
    """Smith's joint shadowing over that of the view alone: G2 / G1."""
    one = np.float32(1)
    seen = np.sqrt(n_v * n_v * (one - a2) + a2)
    arrives = np.sqrt(n_l * n_l * (one - a2) + a2)
    return n_l * (n_v + seen) / (n_v * arrives + n_l * seen)


@kernel
def go_on(  # type: ignore[no-untyped-def]
    lobe, chance, pairs, directions, position, normal, front, colour, metallic, roughness, ior,
    transmission, solid, begin, way, weight, took,
):  # fmt: skip
    """One way on for each ray.

    ``lobe`` says which, or `ANY`; ``chance`` ``(N,)`` and ``pairs`` ``(N, 2)`` are numbers in 0..1.
    Filled: where it begins, its way (length 1), what is left of each colour, and which lobe it took.
    """
    one, zero = np.float32(1), np.float32(0)
    for i in range(lobe.size):
        nx, ny, nz = normal[i, 0], normal[i, 1], normal[i, 2]
        vx, vy, vz = -directions[i, 0], -directions[i, 1], -directions[i, 2]
        size = one / np.sqrt(vx * vx + vy * vy + vz * vz)
        vx, vy, vz = vx * size, vy * size, vz * size
        tx, ty, tz, bx, by, bz = square_to(nx, ny, nz)
        n_v = max(nx * vx + ny * vy + nz * vz, np.float32(1e-4))
        metal = metallic[i]
        glance = ((one - ior[i]) / (one + ior[i])) ** 2
        ratio = one / ior[i] if front[i] else ior[i]
        body = solid[i] and transmission[i] > 0
        u, v = pairs[i, 0], pairs[i, 1]

        # one facet of the rough surface, of those that the ray can meet
        rough = max(roughness[i], np.float32(0.02)) ** 2
        px, py = (vx * tx + vy * ty + vz * tz) * rough, (vx * bx + vy * by + vz * bz) * rough
        size = one / np.sqrt(px * px + py * py + n_v * n_v)
        px, py, pz = px * size, py * size, n_v * size
        turn = np.float32(2 * np.pi) * u
        cz = (one - v) * (one + pz) - pz
        flat = np.sqrt(max(zero, one - cz * cz))
        fx, fy = (flat * np.cos(turn) + px) * rough, (flat * np.sin(turn) + py) * rough
        fz = max(cz + pz, np.float32(1e-7))
        size = one / np.sqrt(fx * fx + fy * fy + fz * fz)
        fx, fy, fz = fx * size, fy * size, fz * size
        if roughness[i] <= np.float32(0.02):
            fx, fy, fz = zero, zero, one
        hx = fx * tx + fy * bx + fz * nx
        hy = fx * ty + fy * by + fz * ny
        hz = fx * tz + fy * bz + fz * nz
        v_h = min(max(vx * hx + vy * hy + vz * hz, np.float32(1e-4)), one)
        inner = zero
        if body:
            mirrored, inner = fresnel_of_bodies(v_h, ratio)
        else:
            mirrored = glance + (one - glance) * (one - v_h) ** 5

        chosen = lobe[i]
        scale = one
        if chosen == -1:
            tint = (colour[i, 0] + colour[i, 1] + colour[i, 2]) / np.float32(3)
            mirrors = mirrored * (one - metal) + metal * max(tint, mirrored)
            passes = (one - mirrored) * (one - metal) * transmission[i] * tint
            evenly = (one - mirrored) * (one - metal) * (one - transmission[i]) * tint
            whole = mirrors + passes + evenly
            drawn = chance[i] * whole
            if whole <= 0:
                chosen, scale = 0, zero
            elif drawn < mirrors:
                chosen, scale = 1, whole / mirrors
            elif drawn < mirrors + passes:
                chosen, scale = 2, whole / passes
            else:
                chosen, scale = 0, whole / evenly
        took[i] = chosen
        side = one
        kept = scale * (one - mirrored) * (one - metal)
        if chosen == 0:
            turn = np.float32(2 * np.pi) * v
            flat, up = np.sqrt(u), np.sqrt(max(zero, one - u))
            p, q = flat * np.cos(turn), flat * np.sin(turn)
            wx, wy, wz = p * tx + q * bx + up * nx, p * ty + q * by + up * ny, p * tz + q * bz + up * nz
            # as for light from lamps, Fresnel's share is that of the facet half-way between
            hx, hy, hz = vx + wx, vy + wy, vz + wz
            size = one / max(np.sqrt(hx * hx + hy * hy + hz * hz), np.float32(1e-9))
            v_h = min(max((vx * hx + vy * hy + vz * hz) * size, zero), one)
            if not body:
                mirrored = glance + (one - glance) * (one - v_h) ** 5
            kept = scale * (one - mirrored) * (one - metal) * (one - transmission[i])
            for k in range(3):
                weight[i, k] = kept * colour[i, k]
        elif chosen == 1 or (body and inner == 0):
            wx, wy, wz = 2 * v_h * hx - vx, 2 * v_h * hy - vy, 2 * v_h * hz - vz
            n_l = nx * wx + ny * wy + nz * wz
            share = scale * hidden_share(n_v, n_l, rough * rough) if n_l > 0 else zero
            for k in range(3):
                straight_on = colour[i, k] + (one - colour[i, k]) * (one - v_h) ** 5
                weight[i, k] = share * (mirrored * (one - metal) + straight_on * metal)
        else:
            side = -one
            if body:
                # Snell, about the facet
                a, b = ratio * v_h - inner, -ratio
                wx, wy, wz = a * hx + b * vx, a * hy + b * vy, a * hz + b * vz
            else:
                # a sheet: the mirrored way, turned over to the other side
                wx, wy, wz = 2 * v_h * hx - vx, 2 * v_h * hy - vy, 2 * v_h * hz - vz
                n_l = nx * wx + ny * wy + nz * wz
                wx, wy, wz = wx - 2 * n_l * nx, wy - 2 * n_l * ny, wz - 2 * n_l * nz
            n_l = -(nx * wx + ny * wy + nz * wz)
            share = kept * transmission[i]
            share = share * hidden_share(n_v, n_l, rough * rough) if n_l > 0 else zero
            for k in range(3):
                weight[i, k] = share * colour[i, k]
        way[i, 0], way[i, 1], way[i, 2] = wx, wy, wz
        off = side * off_surface(position[i, 0], position[i, 1], position[i, 2])
        for k in range(3):
            begin[i, k] = position[i, k] + normal[i, k] * off
