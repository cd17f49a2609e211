"""Groups, pass stacks and crowds at 1080p, each beside its reference."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
from measure import Row, best_of, ms, sized
from neatveil.alpha import Reading
from neatveil.comp import Comp, Element, Group, GroupAlpha, Layer, Transform
from neatveil.comp.layers import with_copies
from neatveil.comp.repeat import Repeat
from neatveil.evaluate import Evaluator
from neatveil.numeric.jit import kernel
from neatveil.numeric.pool import for_strips
from neatveil.picture import Box, StoredPicture

HD = sized((1080, 1920), (108, 192))
#: Of one figure of the crowd.
FIGURE = sized((160, 96), (16, 10))
PASSES, COPIES = 12, sized(200, 20)


class InMemory:
    """A decoder of pictures that are there: what is measured is the compositing."""

    def __init__(self, pictures: dict[str, Any]) -> None:
        self.pictures = pictures

    def read(self, source: str, frame: int, planes: list[str] | None = None) -> StoredPicture:
        rgba = self.pictures[source]
        found = {n: np.ascontiguousarray(rgba[..., i]) for i, n in enumerate("RGBA")}
        return StoredPicture(found, Box.sized(rgba.shape[1], rgba.shape[0]))

    def read_halved(self, source: str, frame: int) -> None:
        return None


def soft(height: int, width: int, seed: int) -> Any:
    rng = np.random.default_rng(seed)
    rgba = rng.random((height, width, 4), np.float32)
    y, x = np.mgrid[:height, :width]
    away = np.hypot((x - width / 2) / width, (y - height / 2) / height)
    rgba[..., 3] = np.clip((0.45 - away) * 20, 0, 1)
    rgba[..., :3] *= rgba[..., 3:]
    return rgba


def comp_of(pictures: dict[str, Any], *layers: Any) -> tuple[Comp, Evaluator]:
    reading = Reading(alpha="premultiplied")
    elements = {n: Element(file=n, still=True, reading=reading, encoding="linear") for n in pictures}
    comp = Comp(width=HD[1], height=HD[0], elements=elements, layers=layers)
    return comp, Evaluator(InMemory(pictures), 3 << 30)  # type: ignore[arg-type]


@kernel
def _fused(stack, count, alpha, out):  # type: ignore[no-untyped-def]
    """The same stack by hand: half of the passes added, half multiplied, inside the first one's alpha."""
    for i in range(alpha.size):
        a = alpha[i]
        r, g, b = np.float32(0), np.float32(0), np.float32(0)
        for k in range(count):
            share = np.float32(1) / a if a > 0 else np.float32(1)
            fr, fg, fb = stack[k, 0, i] * share, stack[k, 1, i] * share, stack[k, 2, i] * share
            if k % 2 == 0:
                r, g, b = r + fr, g + fg, b + fb
            else:
                r, g, b = r * fr, g * fg, b * fb
        times = a if a > 0 else np.float32(1)
        out[0, i], out[1, i], out[2, i], out[3, i] = r * times, g * times, b * times, a


def layering() -> list[Row]:
    return [*_stack(), *_folded(), *_crowd(), *_in_a_comp(), *_between_frames()]


def _stack() -> list[Row]:
    """Twelve passes inside the alpha of the first, from kept pictures."""
    alpha = soft(*HD, 0)[..., 3]
    pictures = {}
    for n in range(PASSES):
        rgba = soft(*HD, n)
        rgba[..., 3] = alpha
        rgba[..., :3] *= alpha[..., None]
        pictures[f"p{n}"] = rgba
    members = [
        Layer(id=n, name=n, element=n, operator="plus" if i % 2 == 0 else "multiply")
        for i, n in enumerate(pictures)
    ]
    given = GroupAlpha(by="member", member="p0")
    comp, evaluator = comp_of(pictures, Group(id="g", name="g", layers=tuple(members), alpha=given))
    evaluator.picture(comp, 1)
    stack = np.ascontiguousarray(np.stack([p.transpose(2, 0, 1).reshape(4, -1) for p in pictures.values()]))
    flat, out = np.ascontiguousarray(alpha.reshape(-1)), np.empty((4, alpha.size), np.float32)

    def by_hand() -> None:
        def strip(y0: int, y1: int) -> None:
            a, b = y0 * HD[1], y1 * HD[1]
            _fused(stack[:, :, a:b], PASSES, flat[a:b], out[:, a:b])

        for_strips(HD[0], HD[1] * 4 * PASSES, strip)

    def ours() -> None:
        # another opacity: nothing of the group is kept, its members' pictures are
        ours.opacity *= 0.999  # type: ignore[attr-defined]
        last = members[-1].model_copy(update={"opacity": ours.opacity})  # type: ignore[attr-defined]
        evaluator.picture(comp.with_layer("g", {"layers": (*members[:-1], last)}), 1, keep=False)

    ours.opacity = 1.0  # type: ignore[attr-defined]
    by_hand()
    got = evaluator.picture(comp, 1).rgba()
    np.testing.assert_allclose(got[..., :3].reshape(-1, 3).T, out[:3], atol=1e-4)
    times = best_of({"ours": ours, "hand": by_hand}, rounds=9)
    ratio = times["ours"] / times["hand"]
    seconds = times["ours"]
    return [
        Row(
            "stack of 12 passes, 1080p", ms(seconds), "limit 350 ms", seconds / 0.35,
            "<= 1", seconds <= 0.35,
        ),
        Row(
            "the same beside one fused loop", ms(seconds), f"by hand {ms(times['hand'])}", ratio,
            "<= 1.5", ratio <= 1.5,
        ),
    ]  # fmt: skip


def _folded() -> list[Row]:
    """Something changes above a group: with the group, and with its kept picture as a layer."""
    pictures = {f"p{n}": soft(*HD, n) for n in range(4)}
    members = tuple(Layer(id=n, name=n, element=n, operator="screen") for n in list(pictures)[:3])
    above = Layer(id="above", name="above", element="p3")
    comp, evaluator = comp_of(pictures, Group(id="g", name="g", layers=members), above)
    flat, other = comp_of(pictures, Layer(id="g", name="g", element="p0"), above)

    def change(document: Comp, engine: Evaluator, state: list[float]) -> None:
        state[0] *= 0.999
        engine.picture(document.with_layer("above", {"opacity": state[0]}), 1, keep=False)

    one, two = [1.0], [1.0]
    times = best_of(
        {"ours": lambda: change(comp, evaluator, one), "layer": lambda: change(flat, other, two)}, rounds=9
    )
    ratio = times["ours"] / times["layer"]
    return [
        Row(
            "change above a group, 1080p", ms(times["ours"]), f"above one layer {ms(times['layer'])}", ratio,
            "<= 1.1", ratio <= 1.1,
        )
    ]  # fmt: skip


def _in_a_comp() -> list[Row]:
    """Three layers, of which one changes, in a comp inside the comp: against the same layers as a group."""
    pictures = {f"p{n}": soft(*HD, n) for n in range(3)}
    members = tuple(Layer(id=n, name=n, element=n) for n in pictures)
    grouped, evaluator = comp_of(pictures, Group(id="g", name="g", layers=members))
    inner, _ = comp_of(pictures, *members)
    outer, other = comp_of(pictures, Layer(id="inner", name="inner", element="inner"))
    opacity = [1.0, 1.0]

    def as_group() -> None:
        opacity[0] *= 0.999
        evaluator.picture(grouped.with_layer("p2", {"opacity": opacity[0]}), 1, keep=False)

    def as_comp() -> None:
        opacity[1] *= 0.999
        changed = inner.with_layer("p2", {"opacity": opacity[1]})
        other.picture(outer.model_copy(update={"comps": {"inner": changed}}), 1, keep=False)

    times = best_of({"ours": as_comp, "group": as_group}, rounds=9)
    ratio = times["ours"] / times["group"]
    return [
        Row(
            "a comp in a comp, 1080p", ms(times["ours"]), f"the same as a group {ms(times['group'])}", ratio,
            "<= 1.1", ratio <= 1.1,
        )
    ]  # fmt: skip


def _between_frames() -> list[Row]:
    """Two frames blended, against OpenCV's weighted sum of the same four planes and one layer's merge."""
    pictures = {"a": soft(*HD, 1), "b": soft(*HD, 2)}
    halves = Layer(id="l", name="l", element="clip", own_frame=1.5, between="blend")
    reading = Reading(alpha="premultiplied")
    clip = Element(file="clip", first=1, last=2, reading=reading, encoding="linear")
    comp = Comp(width=HD[1], height=HD[0], elements={"clip": clip}, layers=(halves,))

    class Clip(InMemory):
        def read(self, source: str, frame: int, planes: list[str] | None = None) -> StoredPicture:
            return super().read("ab"[frame - 1], frame, planes)

    evaluator = Evaluator(Clip(pictures), 3 << 30)  # type: ignore[arg-type]
    share = [1.4]

    def ours() -> None:
        share[0] += 0.001
        evaluator.picture(comp.with_layer("l", {"own_frame": share[0]}), 1, keep=False)

    def by_sum() -> None:
        mixed = cv2.addWeighted(pictures["a"], 0.5, pictures["b"], 0.5, 0)
        out = np.zeros_like(mixed)
        np.add(mixed, out * (1 - mixed[..., 3:]), out=out)

    times = best_of({"ours": ours, "sum": by_sum}, rounds=9)
    ratio = times["ours"] / times["sum"]
    return [
        Row(
            "two frames blended, 1080p", ms(times["ours"]), f"OpenCV's sum, NumPy's over {ms(times['sum'])}",
            ratio, "<= 1", ratio <= 1,
        )
    ]  # fmt: skip


def _crowd() -> list[Row]:
    """A crowd from one picture, against placing as many pictures by the library's warp alone."""
    figure = soft(*FIGURE, 5)
    repeat = Repeat(
        count=COPIES, chance_x=HD[1] * 0.45, chance_y=HD[0] * 0.4, chance_scale=0.3, chance_rotation=8,
        order="larger-in-front",
    )  # fmt: skip
    still = Transform(filter="cubic")
    layer = Layer(id="crowd", name="crowd", element="figure", repeat=repeat, transform=still)
    comp, evaluator = comp_of({"figure": figure}, layer)
    group = with_copies(layer)
    assert isinstance(group, Group)

    def ours() -> None:
        ours.seed += 1  # type: ignore[attr-defined]
        other = repeat.model_copy(update={"seed": ours.seed})  # type: ignore[attr-defined]
        evaluator.picture(comp.with_layer("crowd", {"repeat": other}), 1, keep=False)

    def by_warp() -> None:
        pile = np.zeros((*HD, 4), np.float32)
        for copy in group.layers:
            t = copy.transform
            size = int(max(FIGURE) * t.scale * 1.2) + 4
            turn = cv2.getRotationMatrix2D((FIGURE[1] / 2, FIGURE[0] / 2), -t.rotation, t.scale)
            turn[:, 2] += size / 2 - np.array([FIGURE[1] / 2, FIGURE[0] / 2])
            moved = cv2.warpAffine(figure, turn, (size, size), flags=cv2.INTER_CUBIC)
            x, y = int(HD[1] / 2 + t.x - size / 2), int(HD[0] / 2 + t.y - size / 2)
            x0, y0, x1, y1 = max(0, x), max(0, y), min(HD[1], x + size), min(HD[0], y + size)
            if x0 < x1 and y0 < y1:
                part = moved[y0 - y : y1 - y, x0 - x : x1 - x]
                pile[y0:y1, x0:x1] = part + pile[y0:y1, x0:x1] * (1 - part[..., 3:])

    ours.seed = 0  # type: ignore[attr-defined]
    ours()
    times = best_of({"ours": ours, "warp": by_warp}, rounds=7)
    ratio = times["ours"] / times["warp"]
    return [
        Row(
            f"crowd of {COPIES}, 1080p", ms(times["ours"]), f"OpenCV's warps {ms(times['warp'])}", ratio,
            "<= 1.5", ratio <= 1.5,
        )
    ]  # fmt: skip
