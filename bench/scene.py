"""The lantern: rays against the intersection library alone, passes beside the beauty, workers, drafts."""

from __future__ import annotations

import shutil
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import numpy as np
from ferrow_marsh.scenes.setups import SCENES, SKY, file_name, write_all
from measure import Row, best_of, sized
from neatveil.io import LocalDecoder
from neatveil.numeric.pool import in_this_thread
from neatveil.numeric.threads import workers
from neatveil.scene import read_scene
from neatveil.scene.frames import lens_at, render_frame
from neatveil.scene.parallel import Order, render_order
from neatveil.scene.passes import PASSES
from neatveil.scene.pictures import LocalPictures
from neatveil.scene.samples import Grid
from neatveil.scene.setup import load_setup
from neatveil.scene.world import World

WIDTH, HEIGHT, SAMPLES = sized((1280, 720, 16), (160, 90, 2))
#: Frames of the range that is shared out.
FRAMES = sized(16, 2)


def scene() -> list[Row]:
    with tempfile.TemporaryDirectory() as made:
        folder = Path(made)
        write_all(folder)
        assert (folder / SKY).exists()
        return [*_rays_and_passes(folder), _workers(folder)]


def _rays_and_passes(folder: Path) -> list[Row]:
    held = read_scene(folder / SCENES[0].file)
    kept = load_setup(folder / file_name("Lantern, all passes"))
    setup = kept.model_copy(update={"width": WIDTH, "height": HEIGHT, "samples": SAMPLES})
    pictures = LocalPictures(LocalDecoder(), folder, setup)
    world, lens = World(held, 0.2), lens_at(held, setup, 0.2)
    grid = Grid(0, 0, WIDTH, HEIGHT, SAMPLES)
    rays = lens.rays(grid.offsets("box", alone=True), grid)
    parts = np.array_split(np.arange(len(rays[0])), workers())
    every = tuple(n for n, p in PASSES.items() if p.needs in {None, "uv", "later", "glare"})

    def alone() -> None:
        """The same rays in one batch a processor, nothing done with what they meet."""
        with ThreadPoolExecutor(workers()) as pool:
            list(pool.map(lambda p: world.everything._embree.run(rays[0][p], rays[1][p], output=1), parts))

    def passes(*names: str, **more: object) -> None:
        render_frame(held, setup.model_copy(update={"passes": names, **more}), 6, pictures)

    times = best_of(
        {
            "alone": alone,
            # glass opaque in the alpha: what is timed is first rays, not the way through the panes
            "alpha": lambda: passes("alpha", refraction_in_alpha=False, glare=None),
            "clear": lambda: passes("alpha", glare=None),
            "draft": lambda: passes("alpha", samples=1, glare=None),
            "beauty": lambda: passes("beauty"),
            "all": lambda: passes(*every),
        },
        rounds=2,
    )
    count = len(rays[0]) / 1e6
    each = count / times["alpha"] / workers()
    share = times["alone"] / times["alpha"]
    cost, faster = times["all"] / times["beauty"], times["beauty"] / times["draft"]
    note = f"lantern {WIDTH}x{HEIGHT}, {SAMPLES} samples, {count:.1f} million first rays"
    library = f"Embree alone {count / times['alone']:.1f} M/s"
    rate, clear = f"{count / times['alpha']:.1f} M/s", f"through glass {times['clear']:.2f} s"
    beauty = f"beauty {times['beauty']:.2f} s"
    whole, each_note = f"{times['all']:.2f} s", "ratio: million a second"
    draft = f"{times['draft'] * 1e3:.0f} ms"
    return [
        Row("rays, alpha", rate, library, share, ">= 0.7", share >= 0.7, f"{note}; {clear}"),
        Row("rays, a processor", f"{each:.1f} M/s", library, each, ">= 3", each >= 3, each_note),
        Row("all passes", whole, beauty, cost, "<= 1.6", cost <= 1.6, f"{len(every)} passes"),
        Row("alpha draft", draft, beauty, faster, ">= 20", faster >= 20, "one sample; ratio: times as fast"),
    ]


def _workers(folder: Path) -> Row:
    """A range by one process and by two, each with whole frames to itself."""
    kept = load_setup(folder / file_name("Lantern, all passes"))
    setup = kept.model_copy(update={"width": 640, "height": 360, "samples": 8, "last": FRAMES})
    order = Order(folder / SCENES[0].file, setup, folder, folder / "out")

    def seconds(processes: int) -> float:
        shutil.rmtree(order.folder, ignore_errors=True)
        begun = time.perf_counter()
        with in_this_thread():
            render_order(order, range(1, FRAMES + 1), processes=processes)
        return time.perf_counter() - begun

    one, two = seconds(1), seconds(2)
    one, two = min(one, seconds(1)), min(two, seconds(2))
    note = f"{FRAMES} frames of 640x360, 8 samples, 12 passes; starting the processes counts"
    return Row("two workers", f"{two:.1f} s", f"one {one:.1f} s", one / two, ">= 1.7", one / two >= 1.7, note)
