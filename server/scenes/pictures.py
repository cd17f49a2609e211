"""Pictures that set-ups name: elements of the project, by their keys."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from config.engine import evaluator
from elements.models import Element
from elements.resolve import core_element
from neatveil.comp import Element as CoreElement
from neatveil.errors import SceneRefused
from neatveil.picture import whole_frame
from neatveil.scene.model import Floats
from neatveil.scene.setup import RenderSetup


def element_pictures(project_id: int, setup: RenderSetup) -> Callable[[str, int], Floats]:
    """The port that renders read pictures through; only elements of the project are found."""
    found: dict[str, CoreElement] = {}

    def picture(name: str, frame: int) -> Floats:
        if name not in found:
            found[name] = _element(project_id, name)
        element = found[name]
        shown = whole_frame(evaluator().source(element, _own_frame(element, setup, frame)))
        return np.ascontiguousarray(shown.rgba()[..., :3])

    return picture


def _own_frame(element: CoreElement, setup: RenderSetup, frame: int) -> int:
    """The element's frame at one of the render: it begins with the render, at its own rate, and is held."""
    if element.still:
        return element.first
    pace = (element.rate or setup.rate) / setup.rate
    return min(element.first + int((frame - setup.first) * pace), element.last)


def _element(project_id: int, name: str) -> CoreElement:
    number = int(name[1:]) if name[1:].isdecimal() and name.startswith("e") else 0
    row = Element.objects.filter(project_id=project_id, pk=number).first()
    if row is None:
        raise SceneRefused(
            f"The picture {name} is not an element of this project.",
            advice="Choose one of its elements.",
            where=name,
        )
    return core_element(row)
