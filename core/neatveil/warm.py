"""Compile every kernel now, so that no one waits for it later: ``python -m neatveil.warm``."""

from __future__ import annotations

import numpy as np

from .alpha import Reading, premultiply, read, store, unpremultiply
from .arrays import levels, merge
from .colour import ENCODINGS
from .evaluate.placing import limit_overshoot
from .merge import OPERATORS, merge_planes
from .picture import RGBA, StoredPicture, trimmed
from .view import CHANNELS, Look, display


def main() -> None:
    """Call each kernel once on a tiny picture; with the cache on disk it is read from there."""
    rgba = np.full((2, 2, 4), 0.5, np.float32)
    stored = StoredPicture.from_rgba(rgba)
    for encoding in ENCODINGS:
        for alpha in ("straight", "premultiplied"):
            reading = Reading(alpha=alpha, multiplied="after-encoding")
            picture = read(stored, reading, encoding)
            store(picture, reading, encoding)
    premultiply(unpremultiply(picture))
    trimmed(picture)
    for name in OPERATORS:
        merge(name, rgba, rgba)
        merge_planes(name, picture.planes, picture.planes, dict(picture.planes), 1.0)
    levels(rgba, gamma=1.5, channels="rgba")
    limit_overshoot(*(picture[n].reshape(-1) for n in RGBA))
    for channel in CHANNELS:
        display(picture, Look(channel=channel))  # type: ignore[arg-type]


if __name__ == "__main__":
    main()
