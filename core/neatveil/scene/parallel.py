"""Rendering a range on all processors: each renders whole frames by itself.

Threads wait for each other's Python between the rays; processes do not.
"""

from __future__ import annotations

import multiprocessing
from collections.abc import Callable, Sequence
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from pathlib import Path

from ..io import LocalDecoder
from ..numeric.pool import in_this_thread
from ..numeric.threads import workers
from .gltf import read_scene
from .model import Scene
from .pictures import LocalPictures
from .rendering import check_render, render_checked, write_manifest
from .setup import RenderSetup, parse_setup


@dataclass(frozen=True)
class Order:
    """A range to render, from files to files."""

    scene: Path
    setup: RenderSetup
    pictures: Path
    folder: Path


def render_order(
    order: Order, frames: Sequence[int], *, processes: int | None = None,
    progress: Callable[[int], None] | None = None,
) -> None:  # fmt: skip
    """Frames that are not there yet, and the manifest. Raises before any work as `check_render`."""
    scene = read_scene(order.scene)
    pictures = LocalPictures(LocalDecoder(), order.pictures, order.setup)
    check_render(scene, order.setup, pictures)
    count = min(processes or workers(), len(frames))
    if count <= 1:
        render_checked(scene, order.setup, frames, order.folder, pictures=pictures, progress=progress)
    else:
        _share_out(order, frames, count, progress)
    write_manifest(scene, order.setup, order.folder)


def _share_out(
    order: Order, frames: Sequence[int], count: int, progress: Callable[[int], None] | None
) -> None:
    given = order.setup.model_dump(mode="json")
    # started afresh: what a copied process holds of threads and locks is not safe
    context = multiprocessing.get_context("spawn")
    with ProcessPoolExecutor(count, context, _begin, (order.scene, given, order.pictures)) as pool:
        waiting = [pool.submit(_render, order.folder, f) for f in frames]
        try:
            for done in as_completed(waiting):
                frame = done.result()
                if progress is not None:
                    progress(frame)
        except BaseException:
            pool.shutdown(wait=False, cancel_futures=True)
            raise


_held: list[tuple[Scene, RenderSetup, LocalPictures]] = []


def _begin(scene: Path, given: object, folder: Path) -> None:
    setup = parse_setup(given)
    _held[:] = [(read_scene(scene), setup, LocalPictures(LocalDecoder(), folder, setup))]


def _render(folder: Path, frame: int) -> int:
    scene, setup, pictures = _held[0]
    with in_this_thread():
        render_checked(scene, setup, [frame], folder, pictures=pictures)
    return frame
