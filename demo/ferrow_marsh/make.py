"""Write the film's elements into a folder:  python -m ferrow_marsh.make FOLDER [LAST FRAME]"""

from __future__ import annotations

import multiprocessing
import os
import sys
from concurrent.futures import ProcessPoolExecutor
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
from neatveil.io.backends import oiio_writing
from neatveil.io.backends.av_writing import MovieWriter

from . import arrivals, boards, cards
from .brushes import FRAMES, RATE
from .caption import caption
from .kite import HEIGHT, WIDTH, kite
from .lantern import lantern
from .mark import FILES as MARK
from .mark import write_mark
from .plate import plate

FILES = {
    "plate": "boardwalk_dusk.####.png",
    "lantern": "lantern_beauty.####.exr",
    "kite": "paper_kite.mov",
    "caption": "caption_strap.####.png",
}


def frame_files(folder: Path, frame: int) -> None:
    """One frame of everything that is a sequence."""
    cv2.setNumThreads(1)
    code = np.rint(plate(frame) * 255).astype(np.uint8)
    name = folder / f"boardwalk_dusk.{frame:04d}.png"
    cv2.imwrite(str(name), cv2.cvtColor(code, cv2.COLOR_RGB2BGR), [cv2.IMWRITE_PNG_COMPRESSION, 2])
    oiio_writing.write(
        folder / f"lantern_beauty.{frame:04d}.exr", lantern(frame), sample="half", alpha_straight=False,
        encoding="linear", compression="zip",
    )  # fmt: skip
    caption(frame).save(folder / f"caption_strap.{frame:04d}.png", compress_level=2)


def kite_movie(folder: Path, last: int) -> None:
    """The kite as one movie."""
    writer = MovieWriter(
        folder / "paper_kite.mov", WIDTH, HEIGHT, Fraction(RATE), codec="prores_ks",
        pixel_format="yuva444p10le", options={"profile": "4444", "alpha_bits": "16"},
        encoding="rec709", container="mov",
    )  # fmt: skip
    for frame in range(1, last + 1):
        writer.write(kite(frame))
    writer.close()


def make(folder: Path, last: int = FRAMES[-1]) -> dict[str, Path]:
    """Everything; returns the element's files and patterns by name."""
    folder.mkdir(parents=True, exist_ok=True)
    boards.write_boards(folder)
    write_mark(folder)
    # spawned, not forked: a fork would inherit locks that threads of the picture libraries hold
    own = multiprocessing.get_context("spawn")
    with ProcessPoolExecutor(len(os.sched_getaffinity(0)), mp_context=own) as pool:
        jobs = [pool.submit(kite_movie, folder, last)]
        jobs += [pool.submit(frame_files, folder, f) for f in range(1, last + 1)]
        jobs += [pool.submit(arrivals.frame_files, folder, f) for f in arrivals.FRAMES]
        jobs += [pool.submit(cards.frame_files, folder, f) for f in cards.FRAMES]
        for job in jobs:
            job.result()
    files = FILES | arrivals.FILES | cards.FILES | boards.FILES | MARK
    return {name: folder / file for name, file in files.items()}


if __name__ == "__main__":
    make(Path(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else FRAMES[-1])
