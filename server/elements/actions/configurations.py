"""A project's own configurations of colour: kept, asked for the space of an imported file, taken out."""

from __future__ import annotations

from pathlib import Path

from config.events import announce
from django.conf import settings
from neatveil.colour import configurations as core
from neatveil.colour import working as core_working
from neatveil.colour.checked_apart import check_apart
from neatveil.errors import NameUnknown
from neatveil.keyed_files import key_of
from people.models import Person
from projects.models import Project

from elements.models import ColourConfiguration
from elements.uses import USES

from .kept_by_key import arriving, named_as, nobody_else, remove_kept
from .receive_file import Body

#: What pages are told that changed.
KIND = "colour"


def folder() -> Path:
    """Where the files of all projects lie, each under its key."""
    return Path(settings.MEDIA) / "colour"


def bring(project: Project, person: Person, name: str, body: Body) -> ColourConfiguration:
    """Keep a configuration once it is known to be whole; the same one again is the one that is there.

    Raises `ConfigurationRefused`, `ValueRefused` for another kind of file or one that is too large.
    """
    name = named_as(
        name, core.ENDINGS, "configuration of OpenColorIO",
        "Take an .ocio file, or an .ocioz archive that holds its tables too.",
    )  # fmt: skip
    too_large = "Leave tables out that none of its spaces needs."
    with arriving(folder(), name, body, most=core.MOST_BYTES, too_large=too_large) as path:
        check_apart(path, name)
        key = key_of(path.read_bytes())
        with nobody_else(key):
            path.replace(folder() / f"{key}{path.suffix}")
            row, _ = ColourConfiguration.objects.get_or_create(
                project=project, key=key, defaults={"name": name, "person": person}
            )
            announce(project.pk, KIND, row.pk)
    return row


def space_of(project: Project, place: str) -> str | None:
    """The space that file rules of the project's own configurations give a file, as an encoding names it."""
    for row in project.configurations.filter(reads=True):
        try:
            own = core.by_file_rules(row.key, place)
        except NameUnknown:  # its file is gone, which its project is told where configurations are listed
            continue
        if own is not None:
            return f"{row.key}/{own}"
    return None


def working_space_of(project: Project) -> str:
    """The working space that new comps begin with: of the first own configuration whose file rules count."""
    for row in project.configurations.filter(reads=True):
        try:
            own = core_working.role_of(row.key)
        except NameUnknown:
            continue
        if own is not None:
            return own
    return core_working.LIGHT


def take_out(row: ColourConfiguration) -> None:
    """Remove it from its project; `Conflict` where elements or comps are in one of its spaces."""
    named = f"{row.key}/"
    users = list(row.project.elements.filter(encoding__startswith=named).values_list("name", flat=True))
    users += [name for use in USES for name in use.working_in(row.project_id, row.key)]
    remove_kept(row, users, "Give them another colour space first.", folder(), core.ENDINGS, KIND)
