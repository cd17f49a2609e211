"""Readings of an element side by side: which frames are judged, what they say, where they differ most."""

from __future__ import annotations

from collections.abc import Sequence

from ..alpha import Reading
from ..alpha.suggest import Suggestion, suggest
from ..alpha.suggest.places import Spot, worst_places
from ..comp import Element
from ..errors import NeatVeilError
from ..io import Facts
from ..picture import RGB, StoredPicture, rgb_planes
from .evaluator import Evaluator

#: Frames that are looked at, and places that are shown.
FRAMES, PLACES = 3, 4
#: Largest code of samples that are not integers: the 11 bits of a half's mantissa.
HALF = 2048.0


def trial_frames(facts: Facts) -> list[int]:
    """Up to three frames that are there, away from both ends: fades begin and end with nothing."""
    if facts.kind == "still":
        return [facts.first]
    gone = {*facts.missing, *facts.odd_sizes}
    span = facts.last - facts.first
    wished = [facts.first + round(span * share) for share in (0.5, 0.15, 0.85)]
    there = [f for f in dict.fromkeys(wished) if f not in gone]
    return there[:FRAMES] or [next(f for f in range(facts.first, facts.last + 1) if f not in gone)]


def largest_code(facts: Facts) -> float:
    """Of the samples that hold R, G, B and A."""
    if facts.pixel_format in {"half", "float", "double"}:
        return HALF
    return float((1 << min(facts.bit_depth, 16)) - 1)


def frames_on_trial(evaluator: Evaluator, element: Element, facts: Facts) -> dict[int, StoredPicture]:
    """The frames to judge by, with R, G, B and A; empty where there is no alpha or no colour."""
    found: dict[int, StoredPicture] = {}
    for frame in trial_frames(facts):
        try:
            picture = evaluator.stored(element, frame)
        except NeatVeilError:
            continue
        colour = rgb_planes(picture)
        if not picture.has_alpha or colour is None or picture.data_planes & {*RGB}:
            return {}
        found[frame] = picture.with_planes({**colour, "A": picture["A"]})
    return found


def suggestion_for(evaluator: Evaluator, element: Element, facts: Facts) -> Suggestion | None:
    """What the pixels say; None for what has no alpha."""
    frames = frames_on_trial(evaluator, element, facts)
    return suggest(list(frames.values()), element.encoding, largest_code(facts)) if frames else None


def places_for(
    evaluator: Evaluator, element: Element, facts: Facts, readings: Sequence[Reading]
) -> list[Spot]:
    """Where these readings differ most: the worst of each frame first, then the worst of what is left."""
    frames = frames_on_trial(evaluator, element, facts)
    if not frames:
        return []
    spots = worst_places(frames, readings, element.encoding, count=PLACES * len(frames))
    leading = [next(s for s in spots if s.frame == f) for f in dict.fromkeys(s.frame for s in spots)]
    return [*leading, *(s for s in spots if s not in leading)][:PLACES]
