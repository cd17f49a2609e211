"""A run of point steps, prepared once and done strip by strip.

Colour is taken out of the alpha once, each step changes it, and it goes into the alpha again once. Steps that
are one matrix each are multiplied together; steps on code values share the way to codes and back.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

import numpy as np

from ..colour.codes import code_of, coded, light_of
from ..numeric.jit import kernel
from ..numeric.scratch import scratch_planes
from ..picture import Box, Plane
from ..picture.coverage import limit_coverage
from .base import Flat, PointStep, Step
from .linear import Linear
from .surface import into_alpha, out_of_alpha
from .value import CodedStep, ValueStep


@kernel
def mix_by_weights(before, after, weight, mix, out):  # type: ignore[no-untyped-def]
    for i in range(before.size):
        out[i] = before[i] + mix * weight[i] * (after[i] - before[i])


@kernel
def mix_by_share(before, after, mix, out):  # type: ignore[no-untyped-def]
    for i in range(before.size):
        out[i] = before[i] + mix * (after[i] - before[i])


class StepRegion:
    """Pixels of a layer's picture at a level: ``box`` in the same coordinates as its ``frame``."""

    def __init__(self, box: Box, frame: Box, level: int, mattes: dict[int, Plane] | None = None) -> None:
        self.box, self.frame, self.level = box, frame, level
        self.mattes = mattes or {}

    def rows(self, y0: int, y1: int) -> StepRegion:
        """Some rows of the box, counted from its top."""
        b = self.box
        return StepRegion(Box(b.x0, b.y0 + y0, b.x1, b.y0 + y1), self.frame, self.level, self.mattes)

    def weights(self, step: Step, given: Flat) -> Plane | None:
        box = self.box.shift(-self.frame.x0, -self.frame.y0)
        size = self.frame.width, self.frame.height
        return step.through.weights(given, box, size, self.level, self.mattes.get(id(step)))


class PointRun:
    """Steps in their order; ``channels``: letters of those that may come out other than they were."""

    def __init__(self, steps: Sequence[PointStep]) -> None:
        self.channels = "".join(c for c in "rgba" if any(c in s.channels for s in steps))
        self._groups = [_Group(not group[0].on_premultiplied, group) for group in _groups(steps)]

    def apply(self, given: Flat, where: StepRegion, out: Flat | None = None) -> Flat:
        """On flat premultiplied planes, in this thread; ``given`` is not changed.

        What changes is returned in ``out``, or else in this thread's scratch planes, which the next call uses
        again; what does not, as it came.
        """
        out = scratch_planes("back", given[0].size) if out is None else out
        done: Flat = given
        for group in self._groups:
            done = group.apply(done, where, out)
        return done


def _groups(steps: Sequence[PointStep]) -> list[list[PointStep]]:
    """Steps that the colour stays out of the alpha for: on one footing, alpha changed by the last at most.

    What a pixel is, surface, light or nothing, goes by the alpha that a step is given. A step that acts
    through a channel begins a group, because it reads that channel as the steps before have left it.
    """
    found: list[list[PointStep]] = []
    for step in steps:
        last = found[-1][-1] if found else None
        same = last is not None and last.on_premultiplied == step.on_premultiplied
        if last and same and "a" not in last.channels and step.through.by != "channel":
            found[-1].append(step)
        else:
            found.append([step])
    return found


class _Operation(Protocol):
    """As the methods of `PointStep`."""

    def values(self, given: Flat, scratch: Flat, /) -> Flat: ...

    def direct(self, given: Flat, out: Flat, /) -> Flat | None: ...


class _Group:
    """Steps on one footing."""

    def __init__(self, straight: bool, steps: list[PointStep]) -> None:
        self.straight = straight
        self.operations = _operations(steps)
        only = self.operations[0]
        alone = len(self.operations) == 1 and not (isinstance(only, PointStep) and not only.in_full)
        self._alone = only if alone else None

    def apply(self, given: Flat, where: StepRegion, out: Flat) -> Flat:
        if not self.straight:
            return _copy_changed(_sequence(self.operations, given, given, where, "plain"), given, out)
        given = [g.copy() if g is o else g for g, o in zip(given, out, strict=True)]  # of a group before
        direct = self._alone.direct(given, out) if self._alone else None
        return self._on_straight(given, where, out) if direct is None else direct

    def _on_straight(self, given: Flat, where: StepRegion, out: Flat) -> Flat:
        alpha = given[3]
        straight = scratch_planes("straight", alpha.size)
        surface: list[Plane] = [*straight[:3], alpha]
        for c, s in zip(given[:3], straight, strict=False):
            out_of_alpha(c, alpha, s)
        changed = _sequence(self.operations, surface, given, where, "straight")
        now = changed[3]
        done = list(given)
        for i in range(3):
            if changed[i] is surface[i] and now is alpha:
                continue  # untouched: bit for bit as it was
            into_alpha(changed[i], *given, now, np.float32(0), out[i])
            done[i] = out[i]
        if now is not alpha:
            out[3][:] = now
            done[3] = out[3]
        return done


def _copy_changed(changed: Flat, given: Flat, out: Flat) -> Flat:
    done = list(given)
    for i in range(4):
        if changed[i] is not given[i]:
            out[i][:] = changed[i]
            done[i] = out[i]
    return done


def _operations(steps: Sequence[PointStep]) -> list[_Operation]:
    found: list[_Operation] = []
    for step in steps:
        if not isinstance(step, CodedStep) or step.through.by != "everywhere":
            found.append(step)
        elif step.space == "light":
            linear = step.linear()
            # alpha is limited before it is mixed, which no matrix does
            alone = linear is None or (step.mix != 1 and linear.changed[3])
            _append(found, step if linear is None or alone else linear.mixed(step.mix))
        elif step.mix == 1:
            last = found[-1] if found else None
            codes = last if isinstance(last, _OnCodes) else _OnCodes()
            if codes is not last:
                found.append(codes)
            codes.add(step)
        else:
            found.append(step)
    return found


def _append(operations: list[_Operation], one: _Operation) -> None:
    last = operations[-1] if operations else None
    if isinstance(one, Linear) and isinstance(last, Linear):
        operations[-1] = last.then(one)
    else:
        operations.append(one)


class _OnCodes:
    """Steps in full on sRGB codes, one after another."""

    def __init__(self) -> None:
        self._inner: list[_Operation] = []
        self._letters = ""

    def add(self, step: CodedStep) -> None:
        # what is a function of each channel alone asks for no codes of the others
        self._letters += step.channels if isinstance(step, ValueStep) else "rgb"
        linear = step.linear()
        _append(self._inner, _Coded(step) if linear is None else linear)

    def values(self, given: Flat, scratch: Flat) -> Flat:
        size = given[0].size
        codes = list(given)
        for i, letter in enumerate("rgb"):
            if letter in self._letters:
                codes[i] = code_of(given[i], scratch_planes("codes", size)[i])
        found = _sequence(self._inner, codes, given, None, "codes")
        done = list(given)
        for i in range(3):
            if found[i] is not codes[i]:
                light_of(found[i], scratch[i])
                done[i] = scratch[i]
        if found[3] is not given[3]:
            scratch[3][:] = found[3]
            done[3] = scratch[3]
        return done

    def direct(self, given: Flat, out: Flat) -> Flat | None:
        return None


class _Coded:
    """A step on codes that are codes already."""

    def __init__(self, step: CodedStep) -> None:
        self._step = step

    def values(self, given: Flat, scratch: Flat) -> Flat:
        return self._step.coded(given, scratch)

    def direct(self, given: Flat, out: Flat) -> Flat | None:
        return None


def _sequence(
    operations: Sequence[_Operation], start: Flat, given: Flat, where: StepRegion | None, name: str
) -> Flat:
    """Operations one after another between two sets of scratch planes of that name."""
    size = start[0].size
    one, other = scratch_planes(f"{name} one", size), scratch_planes(f"{name} other", size)
    now = list(start)
    for operation in operations:
        free = [b if plane is a else a for plane, a, b in zip(now, one, other, strict=True)]
        after = operation.values(now, free)
        if after[3] is not now[3]:
            limit_coverage(after[3])
        if isinstance(operation, PointStep) and not operation.in_full:
            assert where is not None
            after = _mixed(operation, now, after, given, where)
        now = list(after)
    return now


def _mixed(step: Step, before: Flat, after: Flat, given: Flat, where: StepRegion) -> list[Plane]:
    weights = where.weights(step, given)
    in_codes = isinstance(step, CodedStep) and step.mixes_codes
    found = []
    for i, (b, a) in enumerate(zip(before, after, strict=True)):
        if a is not b:
            if in_codes and i < 3:
                codes = coded(b), coded(a)
                mix_by_weights(
                    *codes, np.ones_like(b) if weights is None else weights, np.float32(step.mix), a
                )
                light_of(a.copy(), a)
            elif weights is None:
                mix_by_share(b, a.copy(), np.float32(step.mix), a)
            else:
                mix_by_weights(b, a.copy(), weights, np.float32(step.mix), a)
        found.append(a)
    return found
