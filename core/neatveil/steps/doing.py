"""Doing a layer's steps.

Runs of point steps are done strip by strip: colour is taken out of the alpha once, each step changes it, and
it is multiplied by the alpha again once. Where alpha is 0 what is there is light: it is changed as it
stands, and where there is no light either, nothing comes in. A field step works on the whole picture
between two runs.
"""

from __future__ import annotations

import threading
from collections.abc import Iterator, Sequence

import numpy as np

from ..alpha import premultiply, unpremultiply
from ..errors import NeatVeilError
from ..numeric.jit import kernel
from ..numeric.pool import for_strips
from ..picture import RGBA, Box, Plane, PremultipliedPicture, StraightPicture, cut, new_planes
from .base import Fetch, FieldStep, Flat, PointStep, Step
from .foreign import ForeignStep
from .further import keeping, on_plane

_scratch = threading.local()


@kernel
def out_of_alpha(c, a, out):  # type: ignore[no-untyped-def]
    one, zero = np.float32(1), np.float32(0)
    for i in range(c.size):
        out[i] = c[i] / (a[i] if a[i] > zero else one)


@kernel
def into_alpha(s, c, a, now, out):  # type: ignore[no-untyped-def]
    """``s``: surface colour, or light where ``a``, the alpha before, is 0; ``c``: what was there."""
    one, zero = np.float32(1), np.float32(0)
    for i in range(s.size):
        k = now[i] if a[i] > zero else one
        v = s[i] * k
        out[i] = v if (a[i] > zero or c[i] != zero) else zero


@kernel
def _towards(before, after, weight, mix, out):  # type: ignore[no-untyped-def]
    for i in range(before.size):
        out[i] = before[i] + mix * weight[i] * (after[i] - before[i])


@kernel
def _part_of(before, after, mix, out):  # type: ignore[no-untyped-def]
    for i in range(before.size):
        out[i] = before[i] + mix * (after[i] - before[i])


def do_steps(
    picture: PremultipliedPicture, steps: Sequence[Step], level: int, frame: int, fetch: Fetch | None = None
) -> PremultipliedPicture:
    """All steps of a layer on its whole picture at a level; ``frame`` of the comp.

    ``fetch``: finds what steps name; without it they work on the layer alone.
    """
    for run in runs_of(steps):
        try:
            picture = _one_run(picture, run, level, frame, fetch)
        except NeatVeilError as error:
            if not isinstance(run, list) and run.title:
                error.message = f"Step {run.title}: {error.message}"
            raise
    return picture


def _one_run(
    picture: PremultipliedPicture, run: Step | list[PointStep], level: int, frame: int, fetch: Fetch | None
) -> PremultipliedPicture:
    if isinstance(run, list):
        done = _points(picture, run, level)
    elif run.further:
        return on_plane(picture, run.further, fetch, lambda p: _alone(p, run, level, frame, fetch))
    else:
        done = _alone(picture, run, level, frame, fetch)
    return keeping(done, picture)


def _alone(
    picture: PremultipliedPicture, step: Step, level: int, frame: int, fetch: Fetch | None
) -> PremultipliedPicture:
    if isinstance(step, PointStep):
        return _points(picture, [step], level, _mattes([step], fetch))
    return _field(picture, step, level, frame, fetch)


def runs_of(steps: Sequence[Step]) -> Iterator[Step | list[PointStep]]:
    """Steps on whole pictures one by one, and the point steps between two of them together."""
    run: list[PointStep] = []
    for step in steps:
        if isinstance(step, PointStep) and step.by_rows:
            run.append(step)
            continue
        if run:
            yield run
        run = []
        yield step
    if run:
        yield run


def steps_key(steps: Sequence[Step], frame: int) -> list[object]:
    """What tells one list of steps from another; with the frame where a step is other in every one."""
    dumped: list[object] = [s.model_dump() for s in steps]
    return [*dumped, frame] if any(isinstance(s, FieldStep) and s.by_frame for s in steps) else dumped


def head_of(steps: Sequence[Step]) -> int:
    """How many steps come before the last run of point steps, which may be done strip by strip."""
    count = len(steps)
    while count and isinstance(steps[count - 1], PointStep) and steps[count - 1].by_rows:
        count -= 1
    return count


def _mattes(steps: Sequence[Step], fetch: Fetch | None) -> dict[int, Plane]:
    """The matte of every step that acts through one which removes anything, by the step's identity."""
    if fetch is None:
        return {}
    through = [s for s in steps if s.through.by == "matte" and s.through.matte.works]
    return {id(s): fetch.matte(s.through.matte) for s in through}


def _points(
    picture: PremultipliedPicture, run: list[PointStep], level: int, mattes: dict[int, Plane] | None = None
) -> PremultipliedPicture:
    window = picture.data_window
    planes = new_planes(RGBA, window.height, window.width)
    where = Where(window, picture.display_window, level, mattes)

    def strip(y0: int, y1: int) -> None:
        given = [picture[n][y0:y1].reshape(-1) for n in RGBA]
        rows = where.rows(y0, y1)
        for name, result in zip(RGBA, apply_points(run, given, rows), strict=True):
            planes[name][y0:y1].reshape(-1)[:] = result

    for_strips(window.height, window.width, strip)
    return picture.with_planes({**picture.planes, **planes})


class Where:
    """Pixels of a layer's picture at a level: ``box`` in the same coordinates as its ``frame``."""

    def __init__(self, box: Box, frame: Box, level: int, mattes: dict[int, Plane] | None = None) -> None:
        self.box, self.frame, self.level = box, frame, level
        self.mattes = mattes or {}

    def rows(self, y0: int, y1: int) -> Where:
        """Some rows of the box, counted from its top."""
        b = self.box
        return Where(Box(b.x0, b.y0 + y0, b.x1, b.y0 + y1), self.frame, self.level, self.mattes)

    def weights(self, step: Step, given: Flat) -> Plane | None:
        box = self.box.shift(-self.frame.x0, -self.frame.y0)
        size = self.frame.width, self.frame.height
        return step.through.weights(given, box, size, self.level, self.mattes.get(id(step)))


def apply_points(steps: Sequence[PointStep], given: Flat, where: Where) -> Flat:
    """A run of point steps on flat premultiplied planes, in this thread; ``given`` is not changed.

    What changes is returned in this thread's scratch planes, which the next call uses again.
    """
    if len(steps) == 1 and steps[0].in_full and not steps[0].on_premultiplied:
        direct = steps[0].direct(given, scratch_planes("back", given[0].size))
        if direct is not None:
            return direct
    done: Flat = given
    for straight, group in _by_footing(steps):
        done = _straight_group(group, done, where) if straight else _plain_group(group, done, where)
    return done


def _by_footing(steps: Sequence[PointStep]) -> Iterator[tuple[bool, list[PointStep]]]:
    group: list[PointStep] = []
    for step in steps:
        if group and group[-1].on_premultiplied != step.on_premultiplied:
            yield not group[-1].on_premultiplied, group
            group = []
        group.append(step)
    if group:
        yield not group[-1].on_premultiplied, group


def _straight_group(steps: list[PointStep], given: Flat, where: Where) -> Flat:
    size, alpha = given[0].size, given[3]
    held = scratch_planes("straight", size)
    surface: list[Plane] = [*held[:3], alpha]
    for c, s in zip(given[:3], held, strict=False):
        out_of_alpha(c, alpha, s)
    changed = _sequence(steps, surface, given, where)
    now = changed[3]
    out = scratch_planes("back", size)
    done = list(given)
    for i in range(3):
        if changed[i] is surface[i] and now is alpha:
            continue  # untouched: bit for bit as it was
        into_alpha(changed[i], given[i], alpha, now, out[i])
        done[i] = out[i]
    if now is not alpha:
        out[3][:] = now
        done[3] = out[3]
    return done


def _plain_group(steps: list[PointStep], given: Flat, where: Where) -> Flat:
    changed = _sequence(steps, given, given, where)
    out = scratch_planes("back", given[0].size)
    done = list(given)
    for i in range(4):
        if changed[i] is not given[i]:
            out[i][:] = changed[i]
            done[i] = out[i]
    return done


def _sequence(steps: list[PointStep], start: Flat, given: Flat, where: Where) -> Flat:
    """Steps one after another between two sets of scratch planes."""
    size = start[0].size
    one, other = scratch_planes("one", size), scratch_planes("other", size)
    now = list(start)
    for step in steps:
        free = [b if plane is a else a for plane, a, b in zip(now, one, other, strict=True)]
        after = step.values(now, free)
        now = list(after) if step.in_full else _mixed(step, now, after, given, where)
    return now


def _mixed(step: Step, before: Flat, after: Flat, given: Flat, where: Where) -> list[Plane]:
    weights = where.weights(step, given)
    found = []
    for b, a in zip(before, after, strict=True):
        if a is not b:
            if weights is None:
                _part_of(b, a.copy(), np.float32(step.mix), a)
            else:
                _towards(b, a.copy(), weights, np.float32(step.mix), a)
        found.append(a)
    return found


def _field(
    picture: PremultipliedPicture, step: Step, level: int, frame: int, fetch: Fetch | None
) -> PremultipliedPicture:
    if isinstance(step, ForeignStep):
        raise step.refused()
    assert isinstance(step, FieldStep)
    if step.nothing(level):
        return picture
    picture = _sound(picture)
    if step.on_straight:
        straight = unpremultiply(picture)
        as_if = PremultipliedPicture(straight.planes, picture.data_window, picture.display_window)
        done = step.fetched(as_if, level, frame, fetch)
        back = StraightPicture(done.planes, done.data_window, done.display_window)
        done = premultiply(back)
    else:
        done = step.fetched(picture, level, frame, fetch)
    return done if step.in_full else _mixed_pictures(step, picture, done, level, _mattes([step], fetch))


def _sound(picture: PremultipliedPicture) -> PremultipliedPicture:
    """Without NaN and infinities, which would spread: 0 in their place."""
    bad = [n for n in RGBA if not np.isfinite(picture[n].sum())]
    if not bad:
        return picture
    tamed = {n: np.nan_to_num(picture[n], nan=0, posinf=0, neginf=0) for n in bad}
    return picture.with_planes({**picture.planes, **tamed})


def _mixed_pictures(
    step: Step,
    before: PremultipliedPicture,
    after: PremultipliedPicture,
    level: int,
    mattes: dict[int, Plane],
) -> PremultipliedPicture:
    """Part of a field step's result, over all that either picture covers."""
    area = before.data_window.around(after.data_window)
    old, new = cut(before, area), cut(after, area)
    where = Where(area, before.display_window, level, mattes)
    planes = new_planes(RGBA, area.height, area.width)

    def strip(y0: int, y1: int) -> None:
        given = [old[n][y0:y1].reshape(-1) for n in RGBA]
        weights = where.rows(y0, y1).weights(step, given)
        for n, b in zip(RGBA, given, strict=True):
            target = planes[n][y0:y1].reshape(-1)
            a = new[n][y0:y1].reshape(-1)
            if weights is None:
                _part_of(b, a, np.float32(step.mix), target)
            else:
                _towards(b, a, weights, np.float32(step.mix), target)

    for_strips(area.height, area.width, strip)
    return PremultipliedPicture(planes, area, before.display_window, data_planes=before.data_planes)


def scratch_planes(name: str, size: int) -> list[Plane]:
    """Four flat planes of this thread under a name, used again and again."""
    held = getattr(_scratch, name, None)
    if held is None or held[0].size < size:
        held = [np.empty(size, np.float32) for _ in RGBA]
        setattr(_scratch, name, held)
    return [plane[:size] for plane in held]
