"""The pictures of docs/guide/readings.md, made from the demo's data by the program's own arithmetic."""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np
from ferrow_marsh.arrivals import PAPER, feather, title
from neatveil.alpha import Reading
from neatveil.picture import Box, StoredPicture
from neatveil.view import trial_sheet

TARGET = Path(__file__).resolve().parents[1] / "docs" / "guide" / "pictures"
BLACK, PAPER_MATTE = Reading(alpha="premultiplied"), tuple(float(v) for v in PAPER)
READINGS = {
    "title": [
        Reading(alpha="straight"), BLACK,
        Reading(alpha="premultiplied", matte=PAPER_MATTE),  # type: ignore[arg-type]
        Reading(alpha="premultiplied", matte=PAPER_MATTE, multiplied="encoded"),  # type: ignore[arg-type]
    ],
    "feather": [
        Reading(alpha="straight"), BLACK, Reading(alpha="straight", inverted=True), Reading(alpha="none"),
    ],
}  # fmt: skip


def main() -> None:
    TARGET.mkdir(parents=True, exist_ok=True)
    _save("title", StoredPicture.from_rgba(title(12)), Box(858, 958, 938, 1018))
    straight = feather(6)
    over_black = np.dstack([straight[..., :3] * straight[..., 3:], straight[..., 3]])
    _save("feather", StoredPicture.from_rgba(over_black), Box(930, 480, 1010, 540))


def _save(name: str, stored: StoredPicture, box: Box) -> None:
    """A row a reading, a column a background, three times the size and parted by a line."""
    readings = READINGS[name]
    sheet = trial_sheet(stored, readings, "srgb", box)[..., :3]
    rows, columns = len(readings), sheet.shape[1] // box.width
    large = cv2.resize(sheet, None, fx=3, fy=3, interpolation=cv2.INTER_NEAREST)
    height, width = box.height * 3, box.width * 3
    for r in range(1, rows):
        large[r * height - 2 : r * height + 2] = 120
    for c in range(1, columns):
        large[:, c * width - 2 : c * width + 2] = 120
    codes = cv2.cvtColor(large, cv2.COLOR_RGB2BGR)
    cv2.imwrite(str(TARGET / f"{name}.png"), codes, [cv2.IMWRITE_PNG_COMPRESSION, 9])


if __name__ == "__main__":
    main()
