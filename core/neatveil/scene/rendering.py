"""Rendering a range: files of every frame, whole or not at all, and a manifest beside them."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable
from pathlib import Path

from ..errors import Cancelled
from ..io.whole import whole_file
from .frames import Pictures, camera_at, check_scene, no_pictures, render_layer
from .manifest import manifest
from .model import Scene
from .output import write_layer, written_of
from .render_layers import render_layers_of
from .setup import RenderSetup


def check_render(scene: Scene, setup: RenderSetup, pictures: Pictures | None = None) -> None:
    """Raise what is wrong with a scene or a set-up, before any long work."""
    used = setup.effective()
    camera_at(scene, used, 0.0)
    check_scene(scene, used, pictures or no_pictures)


def render_range(
    scene: Scene, setup: RenderSetup, frames: Iterable[int], folder: Path,
    *, pictures: Pictures | None = None, progress: Callable[[int], None] | None = None,
    cancelled: Callable[[], bool] | None = None,
) -> None:  # fmt: skip
    """Frames that are not there yet, each file whole or not at all.

    So a render that was ended goes on at the frame it was on. Raises before any work what
    `check_render` raises, and `Cancelled` once ``cancelled`` says yes; finished frames stay.
    """
    check_render(scene, setup, pictures)
    render_checked(scene, setup, frames, folder, pictures=pictures, progress=progress, cancelled=cancelled)


def render_checked(
    scene: Scene, setup: RenderSetup, frames: Iterable[int], folder: Path,
    *, pictures: Pictures | None = None, progress: Callable[[int], None] | None = None,
    cancelled: Callable[[], bool] | None = None,
) -> None:  # fmt: skip
    """As `render_range`, for who has called `check_render` before."""
    used = setup.effective()
    for frame in frames:
        if cancelled is not None and cancelled():
            raise Cancelled("The render was cancelled.")
        for layer in render_layers_of(scene, used):
            files = [x.path(folder, frame) for x in written_of(scene, used, layer)]
            if not all(f.exists() for f in files):
                picture = render_layer(scene, used, layer, frame, pictures or no_pictures, cancelled)
                write_layer(scene, used, layer, frame, picture, folder)
        if progress is not None:
            progress(frame)


def frames_there(scene: Scene, setup: RenderSetup, folder: Path) -> list[int]:
    """Frames of the set-up's range whose files are all there."""
    used = setup.effective()
    rows = [x for s in render_layers_of(scene, used) for x in written_of(scene, used, s)]
    frames = range(used.first, used.last + 1)
    return [f for f in frames if all(x.path(folder, f).exists() for x in rows)]


def manifest_path(scene: Scene, setup: RenderSetup, folder: Path) -> Path:
    return folder / f"{setup.name or scene.name}.json"


def write_manifest(scene: Scene, setup: RenderSetup, folder: Path) -> Path:
    """The manifest of every frame that is there, whichever render made it."""
    path = manifest_path(scene, setup, folder)
    listing = manifest(scene, setup, frames_there(scene, setup, folder))
    with whole_file(path) as part:
        part.write_text(json.dumps(listing, indent=1) + "\n", encoding="utf-8")
    return path
