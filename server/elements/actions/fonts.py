"""A project's own font files: checked and kept, taken out."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from config.events import announce
from django.conf import settings
from neatveil.drawn import font_files as core
from people.models import Person
from projects.models import Project

from elements.models import FontFile
from elements.uses import USES

from .kept_by_key import arriving, named_as, nobody_else, remove_kept
from .receive_file import Body

#: What pages are told that changed.
KIND = "fonts"


def folder() -> Path:
    """Where the files of all projects lie, each under its key."""
    return Path(settings.MEDIA) / "fonts"


def bring(project: Project, person: Person, name: str, body: Body) -> FontFile:
    """Keep a font file once it is known to be good; the same one again is the one that is there.

    Raises `FontRefused`, `ValueRefused` for another kind of file or one that is too large.
    """
    name = named_as(name, core.ENDINGS, "font file", "Take a .ttf, .otf or .ttc file.")
    too_large = "Leave letters out that no text needs."
    with arriving(folder(), name, body, most=core.MOST_BYTES, too_large=too_large) as path:
        fonts = core.fonts_apart(path, name)
        key = fonts[0].key
        with nobody_else(key):
            path.replace(folder() / f"{key}{path.suffix}")
            row, _ = FontFile.objects.get_or_create(
                project=project, key=key,
                defaults={"name": name, "person": person, "fonts": [font._asdict() for font in fonts]},
            )  # fmt: skip
            announce(project.pk, KIND, row.pk)
    return row


def bring_over(other: Project, keys: Sequence[str], project: Project) -> None:
    """Give a project font files of another by the keys of their fonts; what the other has not is left out."""
    for row in other.fonts.all():
        if not {font["key"] for font in row.fonts} & set(keys):
            continue
        with nobody_else(row.key):
            if not other.fonts.filter(pk=row.pk).exists():
                continue  # taken out just now
            FontFile.objects.get_or_create(
                project=project, key=row.key,
                defaults={"name": row.name, "person": row.person, "fonts": row.fonts},
            )  # fmt: skip
    announce(project.pk, KIND, 0)


def take_out(row: FontFile) -> None:
    """Remove it from its project; `Conflict` where texts of comps are set in it."""
    users = [name for use in USES for name in use.set_in(row.project_id, row.key)]
    remove_kept(row, users, "Give their texts another font first.", folder(), core.ENDINGS, KIND)
