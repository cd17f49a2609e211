"""`over` at 4K and a chain of steps at 1080p, against NumPy, OpenImageIO and the memory."""

from __future__ import annotations

from typing import Any

import numpy as np
import OpenImageIO as oiio
from measure import Row, best_of, ms, sized
from neatveil import arrays
from neatveil.merge import merge_planes
from neatveil.numeric.pool import for_strips
from neatveil.numeric.threads import workers
from neatveil.picture import RGBA, Box, PremultipliedPicture, new_planes
from neatveil.steps.levels import LevelsStep
from neatveil.steps.points import PointRun, StepRegion
from neatveil.view import Look, display

GAMMA = 1.5
FOUR_K = sized((2160, 3840), (216, 384))
HD = sized((1080, 1920), (108, 192))


def _pair(height: int, width: int) -> tuple[Any, Any]:
    rng = np.random.default_rng(1)
    front = rng.random((height, width, 4), np.float32)
    front[..., :3] *= front[..., 3:]
    back = rng.random((height, width, 4), np.float32)
    back[..., 3] = 1
    return front, back


def _buffer(pixels: Any) -> oiio.ImageBuf:
    buffer = oiio.ImageBuf(oiio.ImageSpec(pixels.shape[1], pixels.shape[0], 4, "float"))
    buffer.set_pixels(oiio.ROI.All, pixels)
    return buffer


def over() -> list[Row]:
    front, back = _pair(*FOUR_K)
    out = np.empty_like(front)
    a, b, c = _buffer(front), _buffer(back), _buffer(back)
    flat_in, flat_out = front.reshape(FOUR_K[0], -1), np.empty_like(front).reshape(FOUR_K[0], -1)

    def copy() -> None:
        def strip(y0: int, y1: int) -> None:
            np.copyto(flat_out[y0:y1], flat_in[y0:y1])

        for_strips(FOUR_K[0], FOUR_K[1] * 4, strip)

    times = best_of(
        {
            "ours": lambda: arrays.merge("over", front, back, out=out),
            "oiio": lambda: oiio.ImageBufAlgo.over(c, a, b, nthreads=workers()),
            "copy": copy,
        },
        rounds=25,
    )
    np.testing.assert_allclose(out, c.get_pixels(oiio.FLOAT), atol=1e-6)
    # two pictures read and one written, against one read and one written
    share = (3 * front.nbytes / times["ours"]) / (2 * front.nbytes / times["copy"])
    ratio = times["ours"] / times["oiio"]
    return [
        Row(
            "over 3840x2160",
            ms(times["ours"]),
            f"OpenImageIO {ms(times['oiio'])}",
            ratio,
            "<= 1.0",
            ratio <= 1.0,
        ),
        Row(
            "over, share of copy bandwidth",
            ms(times["ours"]),
            f"copy {ms(times['copy'])}",
            share,
            ">= 0.6",
            share >= 0.6,
        ),
    ]


def _numpy_chain(front: Any, back: Any) -> Any:
    alpha = front[..., 3:]
    colour = np.divide(front[..., :3], alpha, out=np.zeros_like(front[..., :3]), where=alpha > 0)
    colour = np.clip(colour - np.float32(0.02), 0, None) / np.float32(0.96)
    colour = colour ** np.float32(1 / GAMMA) * alpha
    out = np.empty_like(back)
    out[..., :3] = colour + back[..., :3] * (1 - alpha)
    out[..., 3:] = alpha + back[..., 3:] * (1 - alpha)
    return out


def _numpy_display(picture: Any) -> Any:
    v = np.clip(picture[..., :3], 0, 1)
    e = np.where(v <= 0.0031308, v * 12.92, 1.055 * v ** (1 / 2.4) - 0.055)
    return np.rint(e * 255).astype(np.uint8)


def _oiio_chain(front: oiio.ImageBuf, back: oiio.ImageBuf) -> oiio.ImageBuf:
    threads = workers()
    algo = oiio.ImageBufAlgo
    colour = algo.unpremult(front, nthreads=threads)
    colour = algo.mad(colour, (1 / 0.96,) * 3 + (1.0,), (-0.02 / 0.96,) * 3 + (0.0,), nthreads=threads)
    colour = algo.max(colour, (0.0,) * 4, nthreads=threads)
    colour = algo.pow(colour, (1 / GAMMA,) * 3 + (1.0,), nthreads=threads)
    colour = algo.premult(colour, nthreads=threads)
    return algo.over(colour, back, nthreads=threads)


def chain() -> list[Row]:
    front, back = _pair(*HD)
    f, b = (PremultipliedPicture.from_rgba(p) for p in (front, back))
    out = new_planes(RGBA, *HD)
    result = PremultipliedPicture(out)
    points = PointRun([LevelsStep(in_black=0.02, in_white=0.98, gamma=GAMMA)])

    def ours() -> None:
        def strip(y0: int, y1: int) -> None:
            rows = (y1 - y0, HD[1])
            where = StepRegion(Box(0, y0, HD[1], y1), f.display_window, 0)
            done = points.apply([f[n][y0:y1].reshape(-1) for n in RGBA], where)
            merge_planes(
                "over",
                {n: p.reshape(rows) for n, p in zip(RGBA, done, strict=True)},
                {n: b[n][y0:y1] for n in RGBA},
                {n: out[n][y0:y1] for n in RGBA},
                1.0,
            )

        for_strips(*HD, strip)

    a_buffer, b_buffer = _buffer(front), _buffer(back)
    times = best_of(
        {
            "ours": ours,
            "numpy": lambda: _numpy_chain(front, back),
            "oiio": lambda: _oiio_chain(a_buffer, b_buffer),
            "ours8": lambda: (ours(), display(result, Look(background="black"))),
            "numpy8": lambda: _numpy_display(_numpy_chain(front, back)),
        },
        rounds=5,
    )
    error = float(np.abs(result.rgba() - _exact(front, back)).max())
    rows = []
    for name, mine, other, words, most in (
        ("chain 1920x1080", "ours", "numpy", "NumPy", 0.12),
        ("chain 1920x1080", "ours", "oiio", "OpenImageIO", 0.08),
        ("chain and 8-bit display", "ours8", "numpy8", "NumPy", 0.15),
    ):
        ratio = times[mine] / times[other]
        rows.append(
            Row(
                name,
                ms(times[mine]),
                f"{words} {ms(times[other])}",
                ratio,
                f"<= {most}",
                ratio <= most,
                f"largest error {error:.1e}",
            )
        )
    return rows


def _exact(front: Any, back: Any) -> Any:
    """The chain in float64; where the level goes below black the value is kept linear."""
    alpha = front[..., 3:].astype(float)
    t = (front[..., :3] / np.where(alpha > 0, alpha, 1) - 0.02) / 0.96
    colour = np.where(t > 0, np.abs(t) ** (1 / GAMMA), t) * alpha
    out = np.empty(back.shape)
    out[..., :3] = colour + back[..., :3] * (1 - alpha)
    out[..., 3:] = alpha + back[..., 3:] * (1 - alpha)
    return out
