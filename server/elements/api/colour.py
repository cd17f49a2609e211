"""Colour spaces and views of a project: of the configurations that ship, and of its own."""

from __future__ import annotations

from config.auth import person_of
from config.errors import NotThere, Problem
from django.http import HttpRequest
from neatveil.colour import encoding_name
from neatveil.colour.configurations import BUILT_IN, TITLES
from neatveil.colour.primaries import PRIMARIES
from neatveil.colour.spaces import spaces_of, views_of
from neatveil.colour.working import role_of
from neatveil.errors import NeatVeilError
from ninja import Router, Schema, Status
from projects.access import project_for

from elements.actions.configurations import bring, take_out, working_space_of
from elements.models import ColourConfiguration

router = Router()
#: What ACES calls linear light in its primaries [S2014004] [ST2065].
_ACES = {"ap0": "ACES2065-1 (linear, AP0)", "ap1": "ACEScg (linear, AP1)"}


class SpaceOut(Schema):
    """``name``: as an encoding names it."""

    name: str
    title: str
    group: str


class ConfigurationOut(Schema):
    """``own``: brought by the project. ``reads``: its file rules give imported files their space.

    ``problem``: why nothing of it can be used.
    """

    key: str
    title: str
    own: bool
    reads: bool
    spaces: int
    views: int
    problem: str = ""


class ReadsIn(Schema):
    reads: bool


class ColourOut(Schema):
    """``working``: spaces that comps can work in; ``new_comps``: the one that new comps begin with."""

    configurations: list[ConfigurationOut]
    spaces: list[SpaceOut]
    views: list[SpaceOut]
    working: list[SpaceOut]
    new_comps: str


@router.get("projects/{project_id}/colour", response={200: ColourOut, 404: Problem})
def project_colour(request: HttpRequest, project_id: int) -> ColourOut:
    """Spaces that files may be in, and views that pictures may be shown and delivered through."""
    project = project_for(request.user, project_id)
    own = [_out(row) for row in project.configurations.all()]
    known = [_counted(ConfigurationOut(key=k, title=TITLES[k], own=False, reads=False, spaces=0, views=0))
             for k in BUILT_IN]  # fmt: skip
    spaces, views = [], []
    seen: set[str] = set()

    def new(name: str, title: str, own: bool) -> bool:
        """What both of those that ship have is offered once, what a project brings always."""
        mark = name if own else title
        offered = mark in seen
        seen.add(mark)
        return not offered

    for configuration in [*own, *known]:
        key, title, brought = configuration.key, configuration.title, configuration.own
        if configuration.problem:
            continue
        for space in spaces_of(key):
            if new(space.name, space.title, brought):
                spaces.append(SpaceOut(name=space.name, title=space.title, group=title))
        for view in views_of(key):
            if new(view.name, f"{view.display}|{view.title}", brought):
                group = f"{title}, {view.display}" if brought else view.display
                views.append(SpaceOut(name=view.name, title=view.title, group=group))
    # of those that ship the most usual display comes first
    ordered = sorted(
        views, key=lambda v: (v.name.startswith(tuple(BUILT_IN)), not v.group.startswith("sRGB"), v.group)
    )
    return ColourOut(
        configurations=[*own, *known], spaces=spaces, views=ordered,
        working=_working(own), new_comps=working_space_of(project),
    )  # fmt: skip


def _working(own: list[ConfigurationOut]) -> list[SpaceOut]:
    """Linear light in the primaries that are known, and where the project's configurations ask for it."""
    found = {
        name: SpaceOut(name=name, title=_ACES.get(one.name, f"Linear, {one.title}"), group="")
        for one in PRIMARIES.values()
        for name in [encoding_name("linear", one.name)]
    }
    for row in own:
        role = None if row.problem else role_of(row.key)
        if role is not None and role not in found:
            title = role.partition("/")[2]
            found[role] = SpaceOut(name=role, title=title, group=row.title)
    return list(found.values())


def _out(row: ColourConfiguration) -> ConfigurationOut:
    return _counted(
        ConfigurationOut(key=row.key, title=row.name, own=True, reads=row.reads, spaces=0, views=0)
    )


def _counted(found: ConfigurationOut) -> ConfigurationOut:
    try:
        found.spaces, found.views = len(spaces_of(found.key)), len(views_of(found.key))
    except NeatVeilError as error:  # its file is gone
        found.problem = error.message
    return found


@router.put(
    "projects/{project_id}/colour",
    response={200: ConfigurationOut, 404: Problem, 422: Problem, 507: Problem},
)
def bring_configuration(request: HttpRequest, project_id: int, name: str) -> ConfigurationOut:
    """A configuration of OpenColorIO as the request's body, .ocio or .ocioz by its ``name``."""
    project = project_for(request.user, project_id)
    return _out(bring(project, person_of(request), name, request))


@router.patch(
    "projects/{project_id}/colour/{key}", response={200: ConfigurationOut, 404: Problem, 422: Problem}
)
def let_it_read(request: HttpRequest, project_id: int, key: str, body: ReadsIn) -> ConfigurationOut:
    """Whether its file rules give files that are imported from now on their space."""
    row = _row(request, project_id, key)
    row.reads = body.reads
    row.save(update_fields=["reads"])
    return _out(row)


@router.delete("projects/{project_id}/colour/{key}", response={204: None, 404: Problem, 409: Problem})
def remove_configuration(request: HttpRequest, project_id: int, key: str) -> Status[None]:
    """Take it out of the project; no element may be in one of its spaces."""
    take_out(_row(request, project_id, key))
    return Status(204, None)


def _row(request: HttpRequest, project_id: int, key: str) -> ColourConfiguration:
    project = project_for(request.user, project_id)
    row = project.configurations.filter(key=key).first()
    if row is None:
        raise NotThere("The project has no such configuration.")
    return row
