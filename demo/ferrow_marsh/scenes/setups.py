"""The demo's render set-ups: what each scene is rendered with, and the classic mistakes on purpose.

``python -m ferrow_marsh.scenes.setups FOLDER`` writes the scenes, the sky and the set-ups there.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from .dusk import dusk_sky
from .geese import geese
from .glass_lantern import glass_lantern
from .paper_kite import paper_kite
from .shore_stool import shore_stool
from .waymark import waymark

#: The sky's name in set-ups that lie beside it.
SKY = "dusk_sky.exr"

DUSK = {"picture": SKY, "strength": 0.5}
GLOW = {"strength": 0.25, "size": 0.12, "over": 1.0}
LIGHT = ["beauty", "diffuse", "reflection", "emission"]


@dataclass(frozen=True)
class DemoScene:
    """A scene's file name, who writes it, and its set-ups by name."""

    file: str
    write: Callable[[Path], Path]
    setups: dict[str, dict[str, Any]]


def _setup(passes: list[str], **more: Any) -> dict[str, Any]:
    usual = {
        "neatveil_scene": 1, "rate": "25", "first": 1, "last": 48, "width": 960, "height": 540,
        "samples": 32, "firefly_clamp": 1.5,
    }  # fmt: skip
    return {**usual, "passes": passes, **more}


SCENES = (
    DemoScene(
        "glass_lantern.glb", glass_lantern,
        {
            "Lantern, all passes": _setup(
                [*LIGHT, "transmission", "glare", "depth", "normals", "position", "motion", "masks", "ids"],
                environment=DUSK, numbers={"glass": 1, "iron": 2, "wick": 3, "post": 4}, glare=GLOW,
            ),
            "Mistake: opaque glass": _setup(
                ["beauty"], environment=DUSK, refraction_in_alpha=False,
            ),
            "Mistake: the sky in the picture": _setup(
                ["beauty"], environment={**DUSK, "visible": True},
            ),
            "Mistake: glow in a straight file": _setup(
                ["beauty"], environment=DUSK, alpha="straight",
                glare=GLOW, output={"format": "png8"},
            ),
        },
    ),
    DemoScene(
        "waymark.glb", waymark,
        {
            "Waymark, for changing its board": _setup(
                [*LIGHT, "uv", "masks", "occlusion", "depth", "motion"],
                numbers={"board": 1, "bracket": 2, "post": 3}, shadow_catchers=["shore"], shadows="in-alpha",
            ),
            "Mistake: passes that carry the alpha": _setup(
                ["diffuse", "reflection", "occlusion"], shadow_catchers=["shore"],
                output={"format": "exr-each", "alpha_with_passes": True},
            ),
            "Mistake: UV in 8 bits": _setup(
                ["beauty", "uv"], shadow_catchers=["shore"], output={"format": "png8"},
            ),
        },
    ),
    DemoScene(
        "paper_kite.glb", paper_kite,
        {
            "Kite, with vectors": _setup(
                [*LIGHT, "motion", "motion_encoded", "depth", "masks"], numbers={"kite": 1}
            ),
            "Kite, shutter open": _setup(["beauty"], shutter={"angle": 180, "samples": 16}, samples=64),
            "Mistake: over sky blue": _setup(["beauty"], over=[0.25, 0.45, 0.8], output={"format": "png8"}),
        },
    ),
    DemoScene(
        "shore_stool.glb", shore_stool,
        {
            "Stool, shadow apart": _setup(
                [*LIGHT, "shadow", "occlusion", "caught", "depth"], last=1, shadow_catchers=["shore"],
                environment=DUSK, samples=64,
            ),
            "Stool, shadow in the alpha": _setup(
                ["beauty"], last=1, shadow_catchers=["shore"], shadows="in-alpha",
                environment=DUSK, samples=64,
            ),
        },
    ),
    DemoScene(
        "geese.glb", geese,
        {
            "Geese, numbered": _setup(
                ["beauty", "masks", "ids", "depth"], shadow_catchers=["shore"], shadows="in-alpha",
                numbers={"goose 1": 1, "goose 2": 2, "goose 3": 3},
            ),
            "Geese, one layer each": _setup(
                ["beauty", "depth", "caught"], shadow_catchers=["shore"],
                layers=[
                    {"name": "goose 3", "objects": ["goose 3"]},
                    {"name": "goose 1", "objects": ["goose 1"]},
                    {"name": "goose 2", "objects": ["goose 2"]},
                ],
            ),
        },
    ),
)  # fmt: skip


def file_name(setup: str) -> str:
    """A set-up's name as that of a file."""
    return "".join(c if c.isalnum() else "_" for c in setup.lower()).strip("_").replace("__", "_") + ".json"


def write_all(folder: Path) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    dusk_sky(folder / SKY)
    for scene in SCENES:
        scene.write(folder / scene.file)
        for name, setup in scene.setups.items():
            text = json.dumps({**setup, "name": file_name(name).removesuffix(".json")}, indent=1)
            (folder / file_name(name)).write_text(text + "\n", encoding="utf-8")


if __name__ == "__main__":
    write_all(Path(sys.argv[1]))
