"""Rays against the intersection library alone, and what the passes cost beside the beauty."""

from __future__ import annotations

import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import numpy as np
from ferrow_marsh.scenes.waymark import waymark
from measure import Row, best_of
from neatveil.numeric.threads import workers
from neatveil.scene import read_scene
from neatveil.scene.film import Sampling, render
from neatveil.scene.frames import lens_at
from neatveil.scene.passes import PASSES
from neatveil.scene.samples import Grid
from neatveil.scene.setup import RenderSetup
from neatveil.scene.shot import Later
from neatveil.scene.world import World

WIDTH, HEIGHT, SAMPLES = 1280, 720, 16


def scene() -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        held = read_scene(waymark(Path(folder) / "waymark.glb"))
    setup = RenderSetup(rate="25", width=WIDTH, height=HEIGHT, samples=SAMPLES)  # type: ignore[arg-type]
    world, lens = World(held, 0.2), lens_at(held, setup, 0.2)
    later = Later.of(world, 0.24, lens_at(held, setup, 0.24))
    grid = Grid(0, 0, WIDTH, HEIGHT, SAMPLES)
    rays = lens.rays(grid.offsets("box", alone=True), grid)
    parts = np.array_split(np.arange(len(rays[0])), workers())

    def alone() -> None:
        """The same rays in one batch a processor, nothing done with what they meet."""
        with ThreadPoolExecutor(workers()) as pool:
            list(pool.map(lambda p: world.everything._embree.run(rays[0][p], rays[1][p], output=1), parts))

    def passes(*names: str, samples: int = SAMPLES) -> None:
        render(world, lens, names, Sampling(samples), {"board": 1}, later)

    times = best_of(
        {
            "alone": alone,
            "alpha": lambda: passes("alpha"),
            "draft": lambda: passes("alpha", samples=1),
            "beauty": lambda: passes("beauty"),
            "all": lambda: passes(*(n for n, p in PASSES.items() if p.needs in {None, "uv", "later"})),
        },
        rounds=3,
    )
    count = len(rays[0]) / 1e6
    each = count / times["alpha"] / workers()
    share = times["alone"] / times["alpha"]
    cost = times["all"] / times["beauty"]
    note = f"waymark {WIDTH}x{HEIGHT}, {SAMPLES} samples, {count:.1f} million first rays"
    library = f"Embree alone {count / times['alone']:.1f} M/s"
    rate, seconds = f"{count / times['alpha']:.1f} M/s", f"{times['all']:.2f} s"
    each_note, beauty = "ratio: million a second", f"beauty {times['beauty']:.2f} s"
    faster = times["beauty"] / times["draft"]
    draft = f"{times['draft'] * 1e3:.0f} ms"
    draft_note = "one sample a pixel; ratio: times as fast"
    return [
        Row("rays, alpha", rate, library, share, ">= 0.7", share >= 0.7, note),
        Row("rays, a processor", f"{each:.1f} M/s", library, each, ">= 3", each >= 3, each_note),
        Row("all passes", seconds, beauty, cost, "<= 1.6", cost <= 1.6, note),
        Row("alpha draft", draft, beauty, faster, ">= 20", faster >= 20, draft_note),
    ]
