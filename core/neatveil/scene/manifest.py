"""The manifest of a render: what each file and channel is, and the camera and lights of every frame."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from .frames import camera_at, seconds_of
from .model import Scene
from .motion import places_at
from .output import FORMS, Written, written_of
from .passes import pass_named
from .placed import scene_with_lamps
from .render_layers import render_layers_of
from .setup import RenderSetup


def manifest(scene: Scene, setup: RenderSetup, frames: Iterable[int]) -> dict[str, Any]:
    """Plain data; ``setup`` is the one that was given, ``frames`` are those that are there."""
    used = setup.effective()
    camera, _ = camera_at(scene, used, 0.0)
    given, scene = scene, scene_with_lamps(scene, used.lamps, used.first)
    lights = [(i, n.light) for i, n in enumerate(scene.nodes) if n.light is not None]
    rows = {}
    for frame in frames:
        seconds = seconds_of(used, frame)
        places = places_at(scene_with_lamps(given, used.lamps, frame), seconds)
        seen_by, place = camera_at(scene, used, seconds)
        rows[str(frame)] = {
            "camera": place.tolist(),
            "yfov": seen_by.yfov,
            "lights": {scene.nodes[i].name: places[i].tolist() for i, _ in lights},
        }
    return {
        "neatveil_render": 1,
        "scene": scene.name,
        "setup": setup.model_dump(mode="json"),
        "rate": str(used.rate),
        "size": [used.width, used.height],
        "alpha": used.reading.model_dump(mode="json"),
        "files": [_file(x) for s in render_layers_of(scene, used) for x in written_of(scene, used, s)],
        "passes": {p: _pass(p, used) for p in used.passes},
        "camera": {"name": camera.name, "yfov": camera.yfov, "near": camera.near},
        "lights": {
            scene.nodes[i].name: {"kind": x.kind, "colour": x.colour, "intensity": x.intensity}
            for i, x in lights
        },
        "frames": rows,
        "not_rendered": list(scene.notes),
    }


def _file(row: Written) -> dict[str, Any]:
    return {
        "pattern": row.pattern, "layer": row.layer, "passes": list(row.passes), "kind": row.kind,
        "reading": row.reading.model_dump(mode="json"), "encoding": row.encoding,
    }  # fmt: skip


def _pass(name: str, setup: RenderSetup) -> dict[str, Any]:
    one, codes = pass_named(name), FORMS[setup.output.format].codes
    row: dict[str, Any] = {
        "help": one.help, "kind": one.kind, "channels": one.channel_layer, "filtered": one.filtered,
        "sample": codes or one.sample, "unit": one.unit,
    }  # fmt: skip
    if codes and one.coded == "range":
        row["codes"] = {"0": setup.output.depth_range and setup.output.depth_range[0],
                        "1": setup.output.depth_range and setup.output.depth_range[1]}  # fmt: skip
    elif codes and one.coded == "way":
        row["codes"] = "0.5 + value / 2"
    elif codes and one.coded == "light":
        row["codes"] = "sRGB encoding"
    if name == "motion_encoded":
        row["most_motion"] = setup.most_motion
    return row
