"""Light through a view: by its table for what passes, by its transforms for what stands; and the library."""

from __future__ import annotations

import numpy as np
import PyOpenColorIO as ocio
from measure import Row, best_of, ms, sized
from neatveil.colour.baked import baked_view
from neatveil.colour.configurations import BUILT_IN
from neatveil.colour.spaces import space_codes
from neatveil.picture import Box, PremultipliedPicture
from neatveil.view import Look, Screen, show
from skimage.color import deltaE_ciede2000, rgb2lab

WIDTH, HEIGHT = sized(960, 96), sized(540, 54)
VIEWS = ("cg2/sRGB - Display|ACES 2.0 - SDR 100 nits (Rec.709)", "cg/sRGB - Display|ACES 1.0 - SDR Video",
         "cg/sRGB - Display|Un-tone-mapped")  # fmt: skip


def _picture() -> PremultipliedPicture:
    """Soft shapes of every hue with a little grain, up to eight times white."""
    y, x = np.mgrid[:HEIGHT, :WIDTH] / HEIGHT
    rng = np.random.default_rng(3)
    waves = [np.sin(7 * x + 2 * i) * np.cos(6 * y + i) for i in range(3)]
    light = np.stack([2.0 ** (3 * wave) for wave in waves], -1) * (
        1 + rng.normal(0, 0.02, (HEIGHT, WIDTH, 3))
    )
    return PremultipliedPicture.from_rgba(np.dstack([light, np.ones((HEIGHT, WIDTH))]).astype(np.float32))


def views() -> list[Row]:
    picture = _picture()
    return [row for view in VIEWS for row in _one(picture, view)]


def _one(picture: PremultipliedPicture, view: str) -> list[Row]:
    look, key = Look(channel="rgb", through=view), view.partition("/")[0]
    title = view.partition("|")[2]
    display, _, own = view.partition("/")[2].partition("|")
    config = ocio.Config.CreateFromBuiltinConfig(BUILT_IN[key])
    processor = config.getProcessor(
        ocio.DisplayViewTransform("Linear Rec.709 (sRGB)", display, own)
    ).getOptimizedCPUProcessor(ocio.OPTIMIZATION_LOSSLESS)
    packed = np.dstack([picture[n] for n in "RGBA"])
    planes = {n: picture[n] for n in "RGB"}
    shown: dict[str, np.ndarray] = {}

    def screen(layout: str) -> None:
        found = Screen(look, Box.sized(WIDTH, HEIGHT), layout)  # type: ignore[arg-type]
        show(picture, found)
        shown[layout] = found.out

    def library() -> None:
        work = packed.copy()
        processor.applyRGBA(work)

    baked_view.cache_clear()
    baking = best_of({"table": lambda: (baked_view.cache_clear(), baked_view(view))}, rounds=2)["table"]
    times = best_of({
        "passing": lambda: screen("bgr"), "standing": lambda: screen("rgbx"), "library": library,
        "conversion": lambda: space_codes(planes, view),
    }, rounds=7)  # fmt: skip
    off = deltaE_ciede2000(rgb2lab(shown["bgr"][..., ::-1]), rgb2lab(shown["rgbx"][..., :3]))
    note = (
        f"Delta E 2000 {off.mean():.3f} in the mean, {np.percentile(off, 99.9):.2f} for 99.9 in 100; "
        f"at rest {ms(times['standing'])}; the table takes {ms(baking)} once"
    )
    alone = f"the library, one thread {ms(times['library'])}"
    return [
        Row(f"view while it passes, {title}", ms(times["passing"]), alone,
            times["passing"] / times["library"], "< 6 ms at 960 x 540", times["passing"] < 0.006, note),
        Row(f"conversion, {title}", ms(times["conversion"]), alone, times["conversion"] / times["library"],
            "<= 1.3", times["conversion"] <= 1.3 * times["library"]),
    ]  # fmt: skip
