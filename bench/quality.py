"""How near mattes come to the true ones: the demo's puppet and reeds, and a photograph laid over a card.

    PYTHONPATH=demo:tests python bench/quality.py [--markdown FILE]

The demo draws its shots from pictures whose alpha is known, then adds the screen's light, noise and eight
bits. The photograph is scikit-image's picture of a cat, cut by a soft matte that is drawn: no package was
found that carries a photograph with its true matte.
"""

from __future__ import annotations

import argparse
import sys
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

import numpy as np
from core.mattes.shots import eight_bit, keyed, light_of
from ferrow_marsh import puppet, reeds
from neatveil.colour.codes import lit
from neatveil.evaluate.matting import part_matte
from neatveil.mattes import ChannelPart, KeyPart, Matte, Rows
from neatveil.mattes.board import board
from neatveil.mattes.key import black_point_of, white_point_of
from neatveil.mattes.natural import edge_found
from neatveil.mattes.part import Drawn
from neatveil.mattes.scores import MatteErrors, matte_errors
from neatveil.picture import Box, Plane

Planes = dict[str, Plane]
#: Clean card, as a person would drag over it.
CARD = Box(180, 300, 420, 520)
#: What stays and what goes of the reeds.
STALKS = [
    Box(212, 996, 217, 1034),
    Box(523, 638, 527, 674),
    Box(891, 708, 895, 744),
    Box(1012, 326, 1016, 360),
]
SKY = [Box(60, 30, 1800, 130), Box(140, 830, 176, 880), Box(1010, 745, 1042, 783), Box(1760, 890, 1796, 1000)]


class Row(NamedTuple):
    shot: str
    way: str
    errors: MatteErrors


def picked_colour(planes: Planes) -> tuple[float, float, float]:
    r, g, b = (float(np.median(planes[n][CARD.y0 : CARD.y1, CARD.x0 : CARD.x1])) for n in "RGB")
    return r, g, b


def refined(plane: Plane, matte: Matte) -> Plane:
    return matte.refined(matte.model_copy(update={"parts": (ChannelPart(),)}).joined([Drawn(plane)]), 0)


def keys_of(shot: str, planes: Planes, true: Plane, plate: Planes | None) -> list[Row]:
    colour = picked_colour(planes)
    bare = KeyPart(screen_colour=colour, evenness="uneven", balance=0.25)  # as the desk makes it
    kept = keyed(planes, bare)
    noise = black_point_of(kept[CARD.y0 : CARD.y1, CARD.x0 : CARD.x1])
    fitted = bare.model_copy(update={"black": noise, "white": white_point_of(kept, noise)})
    best = fitted.model_copy(update={"balance": 0.5, "black": 0.05, "white": 0.98})
    ways: list[tuple[str, Callable[[], Plane]]] = [
        ("even card: one drag over it", lambda: keyed(planes, KeyPart(screen_colour=colour))),
        ("one drag, the card evened out, no ends", lambda: keyed(planes, bare)),
        ("default key: one drag, evened out, both ends from the picture", lambda: keyed(planes, fitted)),
        ("after ten clicks: balance 0.5, ends 0.05 and 0.98, specks of 20 px",
         lambda: refined(keyed(planes, best), Matte(specks=20))),
    ]  # fmt: skip
    if plate is not None:
        even = best.model_copy(update={"evenness": "plate", "plate": "empty"})
        ways.append(("the same with the clean plate", lambda: keyed(planes, even, plate)))
    ways.append(("the default key's edge found in the picture, band of 6 px",
                 lambda: edge_found(planes, keyed(planes, fitted), 6.0, 0.001)))  # fmt: skip
    return [Row(shot, name, matte_errors(make(), true)) for name, make in ways]


def reeds_by_board() -> list[Row]:
    planes, true = light_of(eight_bit(reeds.shot(3))), reeds.true_reeds(3)[..., 3]
    small = {n: np.ascontiguousarray(p[4::8, 4::8]) for n, p in planes.items()}
    best = board(planes, small, STALKS, SKY)[0]
    rows = []
    for passes in (1, 2):
        part = ChannelPart(
            channel=best.channel, low=best.low, high=best.high, inverted=best.inverted, passes=passes
        )  # type: ignore[arg-type]
        found = part_matte(part, Rows(planes))
        way = f"board: {best.channel}, {'one pass' if passes == 1 else 'two gentle passes'}"
        rows.append(Row("reeds against sky", way, matte_errors(found, true)))
        if passes == 1:
            natural = edge_found(planes, found, 3.0, 0.001)
            rows.append(
                Row("reeds against sky", "the first one's edge found in the picture, band of 3 px",
                    matte_errors(natural, true))
            )  # fmt: skip
    luma = part_matte(ChannelPart(channel="luma", inverted=True), Rows(planes))
    return [*rows, Row("reeds against sky", "luma as it is, inverted", matte_errors(luma, true))]


def photograph() -> list[Row]:
    """A cat before the demo's card: its fur's colours are real, its outline is drawn, soft and hairy."""
    from ferrow_marsh.brushes import line
    from skimage.data import chelsea

    cat = lit(np.ascontiguousarray(chelsea()[:, :440].astype(np.float32) / 255).reshape(-1)).reshape(
        300, 440, 3
    )
    true = np.zeros(puppet.SHAPE, np.float32)
    y, x = np.mgrid[:300, :440].astype(np.float32)
    true[500:800, 700:1140] = np.clip((1 - np.hypot((x - 220) / 185, (y - 150) / 125)) * 14 + 0.5, 0, 1)
    rng = np.random.default_rng(8)
    for turn in rng.uniform(0, 2 * np.pi, 220):
        ends = np.array([[920 + r * np.cos(turn) * 185, 650 + r * np.sin(turn) * 125] for r in (0.9, 1.12)])
        hair = line(puppet.SHAPE, ends, rng.uniform(1, 2), 4)
        part = true[hair.where]
        np.maximum(part, hair.values * 0.9, out=part)
    front = np.zeros((*puppet.SHAPE, 3), np.float32)
    front[...] = cat.mean((0, 1))
    front[500:800, 700:1140] = cat
    light = front * true[..., None] + (1 - true[..., None]) * puppet.card()
    noise = rng.normal(0, 1, light.shape).astype(np.float32) * (0.0015 + 0.004 * np.sqrt(light))
    return keys_of(
        "photograph of a cat, drawn matte", light_of(eight_bit(puppet.srgb(light + noise))), true, None
    )


def measured() -> list[Row]:
    shot, true = light_of(eight_bit(puppet.shot(4))), puppet.true_puppet(4)[..., 3]
    plate = light_of(eight_bit(puppet.empty_shot()))
    return [*keys_of("puppet before the green screen", shot, true, plate), *reeds_by_board(), *photograph()]


def table(rows: list[Row]) -> str:
    lines = ["| Shot | Matte | SAD / 1000 | MSE | gradient / 1000 | connectivity / 1000 |",
             "|---|---|---:|---:|---:|---:|"]  # fmt: skip
    for shot, way, e in rows:
        lines.append(
            f"| {shot} | {way} | {e.sad:.2f} | {e.mse:.5f} | {e.gradient:.2f} | {e.connectivity:.2f} |"
        )
    return "\n".join(lines) + "\n"


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--markdown", type=Path)
    options = parser.parse_args()
    found = table(measured())
    sys.stdout.write(found)
    if options.markdown:
        text = options.markdown.read_text("utf-8")
        head, _, rest = text.partition("<!-- figures -->\n")
        _, _, tail = rest.partition("<!-- end of figures -->")
        options.markdown.write_text(f"{head}<!-- figures -->\n{found}<!-- end of figures -->{tail}", "utf-8")


if __name__ == "__main__":
    main()
