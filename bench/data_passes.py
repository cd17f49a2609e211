"""Data passes: a picture on a UV pass, blur by motion and by depth, a list of versions."""

from __future__ import annotations

import tempfile
from pathlib import Path

import cv2
import numpy as np
from measure import Row, best_of, ms, sized
from neatveil.arrays import uv_mapped
from neatveil.cli import main
from neatveil.comp import Comp, Element, Layer
from neatveil.delivery import Target, format_for_file, write_frames
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.numeric.blocks import new_array
from neatveil.numeric.defocus import defocused
from neatveil.numeric.pool import for_each, for_strips
from neatveil.numeric.pyramid import pyramid_of
from neatveil.numeric.texture import LookUp, Map, looked_up
from neatveil.numeric.vector_blur import moments_of, vector_blurred
from neatveil.steps.blur import disc
from numba import njit

HEIGHT, WIDTH = sized((2160, 3840), (108, 192))
#: Of the pictures that are blurred.
TALL, WIDE = sized((1080, 1920), (90, 160))


def data_passes() -> list[Row]:
    return [*_uv_map(), _zone_plate(), *_motion(), *_depth(), *_versions()]


def _uv_map() -> list[Row]:
    rng = np.random.default_rng(1)
    art = rng.random((HEIGHT, WIDTH, 4), np.float32)
    art[..., 3] = 1
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    u = (x + 0.5) / np.float32(WIDTH) * np.float32(0.9) + np.float32(0.004) * np.sin(y / 50)
    v = (y + 0.5) / np.float32(HEIGHT) * np.float32(0.9) + np.float32(0.004) * np.cos(x / 70)
    share = np.ones((HEIGHT, WIDTH), np.float32)
    share[:40], share[-40:] = 0, 0
    art, u, v, share = (_kept(p) for p in (art, u, v, share))
    there = Map.of(u, v, share)
    places, spread = (
        (
            _kept(u * np.float32(k * WIDTH) - np.float32(0.5)),
            _kept(v * np.float32(k * HEIGHT) - np.float32(0.5)),
        )
        for k in (1, 3)
    )
    remapped = _kept(art)
    planes = [_kept(art[..., i]) for i in range(4)]

    ready = pyramid_of(planes, True)

    def ours(filtered: bool, small: float, still: bool = True) -> None:
        """``small``: how many pixels of the picture one of the result is long.

        ``still``: a picture that was seen in frames before; its pyramid is kept with it.
        """
        matrix = np.array([[small, 0, 0], [0, small, 0]], np.float32)
        pyramid = ready if still else pyramid_of(planes, filtered)
        looked_up(there, pyramid, LookUp(matrix, filtered, "linear", "wrap"))

    def theirs(x: np.ndarray, y: np.ndarray) -> None:  # type: ignore[type-arg]
        def strip(a: int, b: int) -> None:
            cv2.remap(art, x[a:b], y[a:b], cv2.INTER_LINEAR, dst=remapped[a:b], borderMode=cv2.BORDER_WRAP)

        for_strips(HEIGHT, WIDTH * 4, strip)

    times = best_of(
        {
            "plain": lambda: ours(False, 1.0), "filtered": lambda: ours(True, 1.0),
            "small": lambda: ours(True, 3.0), "plain, first": lambda: ours(False, 1.0, still=False),
            "filtered, first": lambda: ours(True, 1.0, still=False), "remap": lambda: theirs(*places),
            "remap small": lambda: theirs(*spread),
        },
        rounds=5,
    )  # fmt: skip
    reference = f"OpenCV's remap {ms(times['remap'])}"
    rows = []
    for name, what, most in (
        ("plain", "UV map, 4K, unfiltered", 1.2), ("filtered", "the same, filtered", 4),
        ("small", "the same, three times smaller", 4),
        ("plain, first", "unfiltered, its first frame", 1.2),
        ("filtered, first", "filtered, its first frame", 4),
    ):  # fmt: skip
        ratio = times[name] / times["remap"]
        # what a smaller picture costs OpenCV, which filters nothing: memory is read all over
        note = f"OpenCV by the same places {ms(times['remap small'])}" if name == "small" else ""
        rows.append(Row(what, ms(times[name]), reference, ratio, f"<= {most}", ratio <= most, note))
    return rows


def _kept(array: np.ndarray) -> np.ndarray:  # type: ignore[type-arg]
    """A copy in memory as planes have it in an evaluation, for ours and theirs."""
    copy = new_array(array.shape, array.dtype)
    copy[:] = array
    return copy


def _zone_plate() -> Row:
    """A floor of rings that runs away, against 16 x 16 samples a pixel."""
    size = 512
    y, x = (np.mgrid[:size, :size] + 0.5) / size - 0.5
    grey = 0.5 + 0.5 * np.cos(np.pi * size * 0.9 * (x * x + y * y))
    plate = np.stack([grey, grey, grey, np.ones_like(grey)], -1).astype(np.float32)

    def seen(scale: int) -> np.ndarray:  # type: ignore[type-arg]
        b, a = (np.mgrid[: 64 * scale, : 96 * scale] + 0.5) / scale
        depth = 1 + 2.5 * b / 64
        u, v = 0.5 + (a / 96 - 0.5) * 0.9 * depth / 3.5 * 1.8, 0.05 + 0.9 * b / 64
        return np.stack([u, v], -1).astype(np.float32)

    fine = uv_mapped(plate, seen(16), filtered=False, between="linear", beyond="clamp")
    truth = fine.reshape(64, 16, 96, 16, 4).mean((1, 3))

    def decibels(filtered: bool) -> float:
        got = uv_mapped(plate, seen(1), filtered=filtered, between="linear", beyond="clamp")
        return float(-10 * np.log10(((got - truth)[..., 0] ** 2).mean()))

    ours, plain = decibels(True), decibels(False)
    return Row(
        "zone plate in perspective", f"{ours:.1f} dB", f"unfiltered {plain:.1f} dB", ours - plain,
        ">= 12 dB more", ours - plain >= 12,
    )  # fmt: skip


@njit(nogil=True, cache=True)
def _gather(planes, vx, vy, moments, first, end, out):  # type: ignore[no-untyped-def]
    """The plain way: of every pixel the nearest samples along its own vector."""
    height, width = vx.shape
    share = np.float32(1 / moments.size)
    for y in range(first, end):
        for x in range(width):
            r, g, b, a = np.float32(0), np.float32(0), np.float32(0), np.float32(0)
            for t in moments:
                j = min(max(int(y - t * vy[y, x] + np.float32(0.5)), 0), height - 1)
                i = min(max(int(x - t * vx[y, x] + np.float32(0.5)), 0), width - 1)
                r += planes[0, j, i]
                g += planes[1, j, i]
                b += planes[2, j, i]
                a += planes[3, j, i]
            out[0, y, x], out[1, y, x], out[2, y, x], out[3, y, x] = (
                r * share,
                g * share,
                b * share,
                a * share,
            )


def _picture() -> np.ndarray:  # type: ignore[type-arg]
    planes = np.random.default_rng(3).random((4, TALL, WIDE), np.float32)
    planes[3] = 1
    return planes


def _motion() -> list[Row]:
    """A camera that moves in, all of it alike; and with something in front that moves across."""
    planes, out = _picture(), np.empty((4, TALL, WIDE), np.float32)
    y, x = np.mgrid[:TALL, :WIDE].astype(np.float32)
    vx, vy = (x - WIDE / 2) * np.float32(0.05), (y - TALL / 2) * np.float32(0.05)
    front = np.zeros((TALL, WIDE), np.float32)
    front[TALL // 4 : TALL * 3 // 4, WIDE // 3 : WIDE * 2 // 3] = 1
    moments = moments_of(16, 0.5, 0.0)

    def theirs() -> None:
        for_strips(TALL, WIDE, lambda a, b: _gather(planes, vx, vy, moments, a, b, out))

    def ours(jump: float) -> None:
        vector_blurred(list(planes), vx + front * np.float32(jump), vy, front, moments, clear=False)

    times = best_of({"even": lambda: ours(0), "front": lambda: ours(60), "gather": theirs}, rounds=5)
    reference = f"plain gather of 16 nearest samples {ms(times['gather'])}"
    return [
        Row(what, ms(times[name]), reference, ratio, "<= 2", ratio <= 2)
        for name, what in (
            ("even", "motion blur, 1080p, 16 samples, a move of the camera"),
            ("front", "the same, with something in front"),
        )
        for ratio in [times[name] / times["gather"]]
    ]


def _depth() -> list[Row]:
    """One depth, and a floor that runs away with something near before it; how it grows with the disc."""
    planes = _picture()
    y, x = np.mgrid[:TALL, :WIDE].astype(np.float32)
    round_ = np.hypot(x - WIDE / 2, y - TALL / 2) < TALL / 4
    scene = np.where(round_, np.float32(-12), (1 - y / TALL) * np.float32(24)).astype(np.float32)
    even = {r: np.full((TALL, WIDE), r, np.float32) for r in (6, 12, 24)}
    found: list[np.ndarray] = [np.empty(0)] * 4  # type: ignore[type-arg]

    def theirs() -> None:
        def one(i: int) -> None:
            found[i] = cv2.filter2D(planes[i], -1, disc(24.0), borderType=cv2.BORDER_REPLICATE)

        for_each(range(4), one)

    def ours(coc: np.ndarray) -> None:  # type: ignore[type-arg]
        defocused(list(planes), coc, disc, clear=False)

    runs = {f"even {r}": (lambda c=c: ours(c)) for r, c in even.items()}  # type: ignore[misc]
    times = best_of({**runs, "scene": lambda: ours(scene), "opencv": theirs}, rounds=5)
    reference = f"OpenCV's disc of 24 px {ms(times['opencv'])}"
    rows = []
    for name, what in (
        ("even 24", "depth blur, 1080p, one depth, 24 px"),
        ("scene", "the same, depths up to 24 px"),
    ):
        ratio = times[name] / times["opencv"]
        rows.append(Row(what, ms(times[name]), reference, ratio, "<= 4", ratio <= 4))
    growth = times["even 24"] / times["even 6"]
    rows.append(
        Row(
            "24 px beside 6 px",
            ms(times["even 24"]),
            f"6 px {ms(times['even 6'])}",
            growth,
            "< 16",
            growth < 16,
        )
    )
    return rows


def _versions() -> list[Row]:
    """Twelve versions of a sign, written, beside the same frames evaluated and encoded by themselves."""
    frames, size = sized((48, (960, 540)), (1, (96, 54)))
    rng = np.random.default_rng(5)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for i in range(12):
            board = cv2.resize(rng.random((8, 16, 3), np.float32), size)
            cv2.imwrite(str(folder / f"board_{i}.png"), np.rint(board * 255).astype(np.uint8))
        layers = (
            Layer(id="a", name="a", element="a"),
            Layer(id="b", name="b", element="a", transform={"scale": 0.5, "rotation": 8}),
        )
        slots = tuple({"name": "board", "layer": x, "field": "element"} for x in "ab")
        first = Element(
            name="board_0.png", file=str(folder / "board_0.png"), still=True, reading={"alpha": "none"}
        )
        comp = Comp(
            width=size[0],
            height=size[1],
            first=1,
            last=frames,
            elements={"a": first},
            layers=layers,
            slots=slots,
        )
        (folder / "sign.json").write_text(comp.model_dump_json())
        (folder / "list.csv").write_text("board\n" + "".join(f"board_{i}.png\n" for i in range(12)))

        def by_list() -> None:
            call = ["render", str(folder / "sign.json"), "--list", str(folder / "list.csv")]
            assert main([*call, "--to", str(folder / "{row}.####.png")]) == 0

        def by_hand() -> None:
            decoder = LocalDecoder()
            evaluator = Evaluator(decoder)
            delivery_format = format_for_file("x.####.png")
            for i in range(12):
                element = first.model_copy(update={"file": str(folder / f"board_{i}.png")})
                one = comp.model_copy(update={"elements": {"a": element}})
                write_frames(
                    lambda f, c=one: evaluator.picture(c, f, keep=False),  # type: ignore[misc]
                    delivery_format, Target(folder / f"hand_{i}.####.png"), list(range(1, frames + 1)),
                )  # fmt: skip

        times = best_of({"list": by_list, "hand": by_hand}, rounds=2)
    ratio = times["list"] / times["hand"]
    return [
        Row(
            f"12 versions of {frames} frames", ms(times["list"]),
            f"evaluator and encoder {ms(times['hand'])}",
            ratio, "<= 1.1", ratio <= 1.1,
        )
    ]  # fmt: skip
