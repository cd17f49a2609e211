"""A project's own configurations of colour: kept, asked for the space of an imported file, taken out."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path, PurePosixPath
from secrets import token_hex

from config.errors import Conflict
from config.events import announce
from django.conf import settings
from django.db import transaction
from neatveil.colour import configurations as core
from neatveil.colour import working as core_working
from neatveil.colour.checked_apart import check_apart
from neatveil.errors import NameUnknown, ValueRefused
from people.models import Person
from projects.models import Project

from elements.models import ColourConfiguration
from elements.uses import USES

from .receive_file import Body, safe_name, store_file


def folder() -> Path:
    """Where the files of all projects lie, each under its key."""
    return Path(settings.MEDIA) / "colour"


def bring(project: Project, person: Person, name: str, body: Body) -> ColourConfiguration:
    """Keep a configuration once it is known to be whole; the same one again is the one that is there.

    Raises `ConfigurationRefused`, `ValueRefused` for another kind of file or one that is too large.
    """
    name = safe_name(name)
    ending = PurePosixPath(name).suffix.lower()
    if ending not in core.ENDINGS:
        raise ValueRefused(
            f"{name} is no configuration of OpenColorIO.",
            advice="Take an .ocio file, or an .ocioz archive that holds its tables too.", where=name,
        )  # fmt: skip
    arriving = folder() / f".{token_hex(8)}{ending}"
    try:
        store_file(arriving, _Limited(body, name))
        check_apart(arriving, name)
        key = core.key_of(arriving.read_bytes())
        arriving.replace(folder() / f"{key}{ending}")
    finally:
        arriving.unlink(missing_ok=True)
    row, _ = ColourConfiguration.objects.get_or_create(
        project=project, key=key, defaults={"name": name, "person": person}
    )
    announce(project.pk, "elements", 0)
    return row


@dataclass
class _Limited:
    """A body that is refused once it is larger than a configuration may be."""

    body: Body
    name: str
    count: int = 0

    def read(self, size: int, /) -> bytes:
        piece = self.body.read(size)
        self.count += len(piece)
        if self.count > core.MOST_BYTES:
            raise ValueRefused(
                f"{self.name} is larger than {core.MOST_BYTES >> 20} MB.",
                advice="Leave tables out that none of its spaces needs.", where=self.name,
            )  # fmt: skip
        return piece


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
    if users:
        raise Conflict(
            f"{row.name} is in use by {', '.join(users[:5])}.",
            advice="Give them another colour space first.", where=row.name,
        )  # fmt: skip
    with transaction.atomic():
        row.delete()
        if not ColourConfiguration.objects.filter(key=row.key).exists():
            for ending in core.ENDINGS:
                (folder() / f"{row.key}{ending}").unlink(missing_ok=True)
        announce(row.project_id, "elements", 0)
