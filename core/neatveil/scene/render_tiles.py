"""Rendering passes: rays are traced once, and every pass is filled from what they met."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import Cancelled, ValueRefused
from ..numeric.pool import for_strips
from ..picture import Box, Plane, StoredPicture
from .illumination import Illumination
from .lens import Lens
from .moment_samples import Later, Moment, MomentSamples
from .object_roles import CATCHER
from .passes import PassSettings, pass_named
from .passes.base import Pass
from .pixel_samples import PixelSamples
from .samples import Grid, PixelFilter
from .world import World

#: Most pixels of a picture and samples of a pixel.
MAX_PIXELS, MAX_SAMPLES = 16384 * 16384, 4096
#: Columns of a tile, where each tile has as many samples as it needs, and the samples of its first round.
TILE, FIRST_ROUND = 64, 8
#: A strip holds so many times the samples that fit the cache: most of them meet nothing, and each bounce
#: is a call of its own.
LARGER = 4


@dataclass(frozen=True)
class Sampling:
    """How finely a pixel is looked at.

    Attributes
    ----------
    noise : standard error on the screen's scale of 0..1, below which a tile needs no more samples;
        0: every pixel has them all.
    """

    samples: int = 16
    pixel_filter: PixelFilter = "box"
    seed: int = 0
    noise: float = 0.0


def render(
    world: World, lens: Lens, passes: Iterable[str], sampling: Sampling | None = None,
    numbers: dict[str, int] | None = None, later: Later | None = None,
    light: Illumination | None = None,
) -> StoredPicture:  # fmt: skip
    """The named passes of one moment, as one picture with a plane for each channel.

    ``numbers`` gives objects their numbers, by the names of their nodes; ``later`` is needed by
    passes that tell how things move.

    Raises `ValueRefused` (size, samples, a UV pass of a mesh without UVs), `NameUnknown`.
    """
    return render_moments([Moment(world, lens, later)], passes, sampling, PassSettings(numbers or {}), light)


def render_moments(
    moments: Sequence[Moment], passes: Iterable[str], sampling: Sampling | None = None,
    settings: PassSettings | None = None, light: Illumination | None = None,
    cancelled: Callable[[], bool] | None = None, window: Box | None = None,
) -> StoredPicture:  # fmt: skip
    """The named passes, their samples shared out over the moments that the shutter is open.

    ``window``: these pixels of the frame alone, each as in the whole picture; glare knows of no others.

    Raises as `render`, and `Cancelled` soon after ``cancelled`` says yes.
    """
    sampling, light = sampling or Sampling(), light or Illumination()
    chosen = [pass_named(n) for n in passes]
    settings = settings or PassSettings({})
    check(moments[0], chosen, sampling, light, settings)
    lens = moments[0].lens
    frame = Box.sized(lens.width, lens.height)
    box = frame if window is None else window.intersect(frame)
    job = _Job(moments, chosen, sampling, light, settings, cancelled, box)
    for_strips(box.height, max(1, box.width * sampling.samples // LARGER), job.strip)
    data = {name for name, one in job.of.items() if one.kind == "data"}
    return StoredPicture(job.finished(), box, frame, data_planes=data)


class _Job:
    """One picture that is being rendered by strips on many threads."""

    def __init__(
        self, moments: Sequence[Moment], passes: list[Pass], sampling: Sampling, light: Illumination,
        settings: PassSettings, cancelled: Callable[[], bool] | None, box: Box,
    ) -> None:  # fmt: skip
        self.moments, self.passes, self.sampling = moments, passes, sampling
        self.light, self.settings, self.cancelled = light, settings, cancelled
        self.box = box
        self.planes: dict[str, Plane] = {}
        self.of: dict[str, Pass] = {}
        self._lock = threading.Lock()

    def strip(self, y0: int, y1: int) -> None:
        box = self.box
        step = TILE if self.sampling.noise > 0 else box.width
        for x0 in range(box.x0, box.x1, step):
            if self.cancelled is not None and self.cancelled():
                raise Cancelled("The picture is not wanted any more.")
            self._tile(x0, box.y0 + y0, min(x0 + step, box.x1), box.y0 + y1)

    def _tile(self, x0: int, y0: int, x1: int, y1: int) -> None:
        pixels, box = self._looked_at(x0, y0, x1, y1), self.box
        for one in self.passes:
            for name, values in one.fill(pixels, self.settings).items():
                plane = self._plane(name, one)
                plane[y0 - box.y0 : y1 - box.y0, x0 - box.x0 : x1 - box.x0] = values

    def _plane(self, name: str, one: Pass) -> Plane:
        with self._lock:
            if name not in self.planes:
                self.planes[name] = np.zeros((self.box.height, self.box.width), np.float32)
                self.of[name] = one
            return self.planes[name]

    def finished(self) -> dict[str, Plane]:
        """The channels once every strip is done."""
        planes = dict(self.planes)
        for one in self.passes:
            if one.finish is not None:
                own = {n: p for n, p in planes.items() if self.of[n] is one}
                planes |= one.finish(own, self.settings)
        return planes

    def _looked_at(self, x0: int, y0: int, x1: int, y1: int) -> PixelSamples:
        """All samples at once, or round after round until the noise is small enough."""
        most, noise = self.sampling.samples, self.sampling.noise
        first = most if noise <= 0 else min(most, max(FIRST_ROUND, len(self.moments)))
        moments = self._round(x0, y0, x1, y1, 0, first)
        begun = first
        while begun < most and PixelSamples(tuple(moments)).noise > noise:
            more = min(begun, most - begun)
            moments += self._round(x0, y0, x1, y1, begun, more)
            begun += more
        # in the order of the moments, so that the middle one is found
        order = {id(m): i for i, m in enumerate(self.moments)}
        return PixelSamples(tuple(sorted(moments, key=lambda s: order[id(s.moment)])))

    def _round(self, x0: int, y0: int, x1: int, y1: int, begun: int, count: int) -> list[MomentSamples]:
        moments = []
        shares = np.diff(np.linspace(0, count, len(self.moments) + 1).round().astype(int))
        for moment, share in zip(self.moments, shares.tolist(), strict=True):
            if share:
                grid = Grid(x0, y0, x1, y1, share, self.sampling.seed, begun)
                alone = self.sampling.samples == 1
                moments.append(
                    MomentSamples.through(moment, grid, self.light, self.sampling.pixel_filter, alone)
                )
                begun += share
        return moments


def check(
    moment: Moment, passes: Sequence[Pass], sampling: Sampling, light: Illumination, settings: PassSettings
) -> None:
    """Raise `ValueRefused` for what cannot be rendered, before any work."""
    world, lens = moment.world, moment.lens
    if not 0 < lens.width * lens.height <= MAX_PIXELS:
        raise ValueRefused(
            f"{lens.width} x {lens.height} cannot be rendered; at most {MAX_PIXELS:,} pixels can."
        )
    if not 0 < sampling.samples <= MAX_SAMPLES:
        raise ValueRefused(f"{sampling.samples} samples a pixel; 1 to {MAX_SAMPLES} are possible.")
    needs: Mapping[str, Pass] = {p.needs: p for p in passes if p.needs}
    if "later" in needs and moment.later is None:
        raise ValueRefused(f"The {needs['later'].name} pass needs to know where things are one frame later.")
    if "catcher" in needs and not (world.part_role == CATCHER).any():
        raise ValueRefused(
            "The caught pass needs a shadow catcher.",
            advice="Name one as a catcher, or leave the pass out.",
            where="caught",
        )
    if "plate" in needs and light.plate is None:
        raise ValueRefused(
            "The composite pass needs a plate.",
            advice="Give one, or leave the pass out.",
            where="composite",
        )
    if "glare" in needs and not settings.glare.strength:
        raise ValueRefused(
            "The glare pass needs a glare.",
            advice="Set its strength, or leave the pass out.",
            where="glare",
        )
    if "uv" in needs and not world.part_has_uv.all():
        part = int(np.argmin(world.part_has_uv))
        node = world.scene.nodes[world.part_node[part]].name
        raise ValueRefused(
            f"Node {node} has no UVs, which the UV pass needs.",
            advice="Give its mesh UVs, or leave the UV pass out.",
            where=node,
        )
