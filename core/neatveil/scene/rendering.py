"""Rendering a range: one multi-channel OpenEXR file a frame, and a manifest beside them."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import Any

from ..alpha import store
from ..errors import Cancelled, SceneRefused
from ..io.backends import oiio_stills
from ..io.whole import whole_file
from ..picture import RGBA, PremultipliedPicture, StoredPicture
from .film import Sampling, render
from .identity import metadata
from .lens import Lens
from .model import Scene
from .motion import places_at
from .passes import pass_named
from .setup import RenderSetup
from .shot import Later
from .world import World


def camera_node(scene: Scene, setup: RenderSetup) -> int:
    """The node of the set-up's camera; `SceneRefused` where there is none."""
    if not scene.cameras:
        raise SceneRefused(
            f"{scene.name} has no camera.",
            advice="Put one into the scene and export it again.",
            where=scene.name,
        )
    if setup.camera is None:
        return scene.cameras[0]
    for number in scene.cameras:
        if scene.nodes[number].name == setup.camera:
            return number
    names = ", ".join(scene.nodes[n].name for n in scene.cameras)
    raise SceneRefused(f"{scene.name} has no camera {setup.camera}; it has {names}.", where=setup.camera)


def seconds_of(setup: RenderSetup, frame: int) -> float:
    """The scene's moment of a frame."""
    return float((frame - setup.first) / setup.rate)


def lens_at(scene: Scene, setup: RenderSetup, seconds: float) -> Lens:
    number = camera_node(scene, setup)
    camera = scene.nodes[number].camera
    assert camera is not None
    return Lens.of(camera, places_at(scene, seconds)[number], setup.width, setup.height)


def render_frame(scene: Scene, setup: RenderSetup, frame: int) -> StoredPicture:
    """All passes of one frame: the beauty as the set-up says, light premultiplied, data as it is."""
    seconds, after = seconds_of(setup, frame), seconds_of(setup, frame + 1)
    world = World(scene, seconds)
    lens = lens_at(scene, setup, seconds)
    later = Later.of(world, after, lens_at(scene, setup, after)) if "motion" in setup.passes else None
    sampling = Sampling(setup.samples, setup.pixel_filter, setup.seed + frame)
    picture = render(world, lens, setup.passes, sampling, setup.numbers, later)
    if "beauty" not in setup.passes:
        return picture
    beauty = PremultipliedPicture({n: picture[n] for n in RGBA})
    stored = store(beauty, setup.reading, "linear")
    return picture.with_planes({**picture.planes, **stored.planes})


def notes(scene: Scene) -> list[str]:
    """What the scene asks for and is not rendered."""
    return list(scene.notes)


def frame_path(scene: Scene, setup: RenderSetup, folder: Path, frame: int) -> Path:
    return folder / f"{setup.name or scene.name}.{frame:04d}.exr"


def render_range(
    scene: Scene, setup: RenderSetup, frames: Iterable[int], folder: Path,
    *, progress: Callable[[int], None] | None = None, cancelled: Callable[[], bool] | None = None,
) -> None:  # fmt: skip
    """Frames that are not there yet, each whole or not at all; then the manifest.

    So a render that was ended goes on at the frame it was on. Raises before any work for a scene
    without the camera, and `Cancelled` once ``cancelled`` says yes; finished frames stay.
    """
    camera_node(scene, setup)
    samples = channel_samples(setup)
    names = [n.name for n in scene.nodes if n.meshes]
    attributes = metadata(names) if "ids" in setup.passes else {}
    done = []
    for frame in frames:
        if cancelled is not None and cancelled():
            raise Cancelled("The render was cancelled.")
        path = frame_path(scene, setup, folder, frame)
        if not path.exists():
            picture = render_frame(scene, setup, frame)
            types = {c: samples[_layer(c)] for c in picture.planes}
            with whole_file(path) as part:
                oiio_stills.write(
                    part, picture, sample="half", alpha_straight=False, encoding="linear",
                    compression=setup.compression, samples=types,
                    attributes={**attributes, "framesPerSecond": str(setup.rate)},
                )  # fmt: skip
        done.append(frame)
        if progress is not None:
            progress(frame)
    with whole_file(folder / f"{setup.name or scene.name}.json") as part:
        part.write_text(json.dumps(manifest(scene, setup, done), indent=1) + "\n", encoding="utf-8")


def _layer(channel: str) -> str:
    """The pass's part of a channel's name: ``objects`` of ``objects01.R``, nothing of ``A``."""
    return channel.rpartition(".")[0].rstrip("0123456789")


def channel_samples(setup: RenderSetup) -> dict[str, str]:
    """Sample type by layer: what a pass needs so that half does not round it."""
    return {p.channel_layer: p.sample for p in map(pass_named, setup.passes)}


def manifest(scene: Scene, setup: RenderSetup, frames: list[int]) -> dict[str, Any]:
    """What each pass is, the alpha's state, the rate, and the camera and lights of every frame."""
    number = camera_node(scene, setup)
    camera = scene.nodes[number].camera
    assert camera is not None
    lights = [(i, n.light) for i, n in enumerate(scene.nodes) if n.light is not None]
    rows = {}
    for frame in frames:
        places = places_at(scene, seconds_of(setup, frame))
        rows[str(frame)] = {
            "camera": places[number].tolist(),
            "lights": {scene.nodes[i].name: places[i].tolist() for i, _ in lights},
        }
    return {
        "neatveil_render": 1,
        "scene": scene.name,
        "setup": setup.model_dump(mode="json"),
        "rate": str(setup.rate),
        "alpha": setup.reading.model_dump(mode="json"),
        "encoding": "linear, BT.709 primaries",
        "passes": {
            p.name: {"help": p.help, "kind": p.kind, "filtered": p.filtered, "sample": p.sample}
            for p in map(pass_named, setup.passes)
        },
        "camera": {"name": scene.nodes[number].name, "yfov": camera.yfov, "near": camera.near},
        "lights": {
            scene.nodes[i].name: {"kind": x.kind, "colour": x.colour, "intensity": x.intensity}
            for i, x in lights
        },
        "frames": rows,
        "not_rendered": notes(scene),
    }
