"""Readings on trial: which are plausible, where they differ most, and how they look there."""

from __future__ import annotations

from collections.abc import Sequence

from neatveil.alpha import Reading
from neatveil.alpha.suggest import Suggestion, suggest
from neatveil.alpha.suggest.places import Spot, worst_places
from neatveil.comp import Element as CoreElement
from neatveil.errors import NeatVeilError
from neatveil.evaluate import Evaluator
from neatveil.io import Facts
from neatveil.picture import RGB, StoredPicture

#: Frames that are looked at, and places that are shown.
FRAMES, PLACES = 3, 4
#: Largest code of samples that are not integers: the 11 bits of a half's mantissa.
HALF = 2048.0


def trial_frames(facts: Facts) -> list[int]:
    """First, middle and last frame but a few: fades begin and end with nothing."""
    if facts.kind == "still":
        return [facts.first]
    gone = {*facts.missing, *facts.odd_sizes}
    span = facts.last - facts.first
    wished = [facts.first + round(span * share) for share in (0.5, 0.15, 0.85)]
    there = [f for f in dict.fromkeys(wished) if f not in gone]
    return there[:FRAMES] or [next(f for f in range(facts.first, facts.last + 1) if f not in gone)]


def top_of(facts: Facts) -> float:
    """Largest code of the samples that hold R, G, B and A."""
    if facts.pixel_format in {"half", "float", "double"}:
        return HALF
    return float((1 << min(facts.bit_depth, 16)) - 1)


def stored_frames(evaluator: Evaluator, element: CoreElement, facts: Facts) -> dict[int, StoredPicture]:
    """The frames to judge by, with R, G, B and A; empty where there is no alpha or no colour."""
    found: dict[int, StoredPicture] = {}
    for frame in trial_frames(facts):
        try:
            picture = evaluator.stored(element, frame)
        except NeatVeilError:
            continue
        if not picture.has_alpha or ("Y" not in picture.planes and "R" not in picture.planes):
            return {}
        if picture.data_planes & {*RGB}:
            return {}
        colour = {n: picture.planes[n if n in picture.planes else "Y"] for n in RGB}
        found[frame] = picture.with_planes({**colour, "A": picture["A"]})
    return found


def suggestion_for(evaluator: Evaluator, element: CoreElement, facts: Facts) -> Suggestion | None:
    """What the pixels say; None for what has no alpha."""
    frames = stored_frames(evaluator, element, facts)
    return suggest(list(frames.values()), element.encoding, top_of(facts)) if frames else None


def places_for(
    evaluator: Evaluator, element: CoreElement, facts: Facts, readings: Sequence[Reading]
) -> list[Spot]:
    """Where these readings differ most, over several frames."""
    frames = stored_frames(evaluator, element, facts)
    if not frames:
        return []
    spots = worst_places(frames, readings, element.encoding, count=PLACES * len(frames))
    return _spread_out(spots)


def _spread_out(spots: list[Spot]) -> list[Spot]:
    """The worst of each frame first, then the worst of what is left."""
    seen: set[int] = set()
    leading = [s for s in spots if s.frame not in seen and not seen.add(s.frame)]  # type: ignore[func-returns-value]
    rest = [s for s in spots if s not in leading]
    return [*leading, *rest][:PLACES]
