"""Doing a layer's steps.

Runs of point steps are done strip by strip: colour is taken out of the alpha once, each step changes it, and
it is multiplied by the alpha again once. Where alpha is 0 what is there is light: it is changed as it
stands, and where there is no light either, nothing comes in. A field step works on the whole picture
between two runs.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from ..alpha import premultiply, unpremultiply
from ..errors import NeatVeilError
from ..numeric.pool import for_strips
from ..picture import RGBA, Plane, PremultipliedPicture, StraightPicture, cut, new_planes
from ..picture.coverage import is_coverage
from ..picture.finite import finite_picture
from .base import Fetch, FieldStep, PointStep, Step
from .extra_channels import apply_to_extra_channel, filling_frame, with_extra_planes_of
from .foreign import ForeignStep
from .points import PointRun, StepRegion, mix_by_share, mix_by_weights
from .surface import limited_pixels


def apply_steps(
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
    if any(s.fills for s in (run if isinstance(run, list) else [run])):
        picture = filling_frame(picture)
    if isinstance(run, list):
        done = _points(picture, run, level)
    elif run.extra_channel:
        return apply_to_extra_channel(
            picture, run.extra_channel, fetch, lambda p: _alone(p, run, level, frame, fetch)
        )
    else:
        done = _alone(picture, run, level, frame, fetch)
    return with_extra_planes_of(done, picture)


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
    dumped: list[object] = [s.model_dump_json() for s in steps]
    return [*dumped, frame] if any(isinstance(s, FieldStep) and s.by_frame for s in steps) else dumped


def head_of(steps: Sequence[Step]) -> int:
    """How many steps come before the last run of point steps, which may be done strip by strip."""
    count = len(steps)
    while count and _by_strips(steps[count - 1]):
        count -= 1
    return count


def _by_strips(step: Step) -> bool:
    """Strips know the picture's data window alone, so what fills the frame is done before."""
    return isinstance(step, PointStep) and step.by_rows and not step.fills


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
    points = PointRun(run)
    # an alpha that changes changes the colour it holds
    changing = RGBA if "a" in points.channels else [n for n in RGBA if n.lower() in points.channels]
    planes = {**picture.planes, **new_planes(changing, window.height, window.width)}
    where = StepRegion(window, picture.display_window, level, mattes)

    def strip(y0: int, y1: int) -> None:
        given = [picture[n][y0:y1].reshape(-1) for n in RGBA]
        out = [planes[n][y0:y1].reshape(-1) for n in RGBA]
        done = points.apply(given, where.rows(y0, y1), out)
        for target, result in zip(out, done, strict=True):
            if not np.may_share_memory(target, result):
                target[:] = result

    for_strips(window.height, window.width, strip)
    return picture.with_planes(planes)


def _field(
    picture: PremultipliedPicture, step: Step, level: int, frame: int, fetch: Fetch | None
) -> PremultipliedPicture:
    if isinstance(step, ForeignStep):
        raise step.refused()
    assert isinstance(step, FieldStep)
    if step.changes_nothing(level):
        return picture
    picture = finite_picture(picture)
    if step.on_straight:
        straight = unpremultiply(picture)
        as_if = PremultipliedPicture(straight.planes, picture.data_window, picture.display_window)
        done = step.apply_with_sources(as_if, level, frame, fetch)
        back = StraightPicture(done.planes, done.data_window, done.display_window)
        done = premultiply(back)
    else:
        done = step.apply_with_sources(picture, level, frame, fetch)
    done = _limited(picture, done)
    return done if step.in_full else _mixed_pictures(step, picture, done, level, _mattes([step], fetch))


def _limited(before: PremultipliedPicture, after: PremultipliedPicture) -> PremultipliedPicture:
    """With an alpha within 0..1, whatever a step made of it."""
    if after["A"] is before["A"] or is_coverage(after["A"]):
        return after
    planes = {n: after[n].copy() for n in RGBA}
    height, width = after["A"].shape
    for_strips(height, width, lambda a, b: limited_pixels(*(planes[n][a:b].reshape(-1) for n in RGBA)))
    return after.with_planes({**after.planes, **planes})


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
    where = StepRegion(area, before.display_window, level, mattes)
    planes = new_planes(RGBA, area.height, area.width)

    def strip(y0: int, y1: int) -> None:
        given = [old[n][y0:y1].reshape(-1) for n in RGBA]
        weights = where.rows(y0, y1).weights(step, given)
        for n, b in zip(RGBA, given, strict=True):
            target = planes[n][y0:y1].reshape(-1)
            a = new[n][y0:y1].reshape(-1)
            if weights is None:
                mix_by_share(b, a, np.float32(step.mix), target)
            else:
                mix_by_weights(b, a, weights, np.float32(step.mix), target)

    for_strips(area.height, area.width, strip)
    return PremultipliedPicture(planes, area, before.display_window, data_planes=before.data_planes)
