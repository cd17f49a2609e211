"""Colour spaces and views of the configurations that are there."""

from __future__ import annotations

from django.http import HttpRequest
from neatveil.colour.spaces import CONFIGURATIONS, TITLES, spaces_of, views_of
from ninja import Router, Schema

router = Router()


class SpaceOut(Schema):
    """``name``: as an encoding names it."""

    name: str
    title: str
    group: str


class ColourOut(Schema):
    spaces: list[SpaceOut]
    views: list[SpaceOut]


@router.get("colour-spaces", response=ColourOut)
def colour_spaces(request: HttpRequest) -> ColourOut:
    """Spaces that files may be in, and views that pictures may be shown and delivered through."""
    spaces, views = [], []
    known: set[str] = set()
    for key in CONFIGURATIONS:
        for space in spaces_of(key):
            # what both configurations have is offered once
            if space.title not in known:
                known.add(space.title)
                spaces.append(SpaceOut(name=space.name, title=space.title, group=TITLES[key]))
        for view in views_of(key):
            shown = f"{view.display}|{view.title}"
            if shown not in known:
                known.add(shown)
                views.append(SpaceOut(name=view.name, title=view.title, group=view.display))
    return ColourOut(spaces=spaces, views=sorted(views, key=lambda v: v.group))
