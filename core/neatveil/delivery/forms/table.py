"""The table of forms."""

from __future__ import annotations

import importlib
import pkgutil
from pathlib import Path, PurePath

from ...errors import unknown_name
from .base import Form


def _find() -> dict[str, Form]:
    package = __name__.rpartition(".")[0]
    found = {}
    for module in pkgutil.iter_modules([str(Path(__file__).parent)]):
        if module.name not in {"base", "table"}:
            form: Form = importlib.import_module(f"{package}.{module.name}").FORM
            found[form.name] = form
    return found


FORMS: dict[str, Form] = _find()


def form_named(name: str) -> Form:
    """The form of that name; `NameUnknown` with the valid names otherwise."""
    try:
        return FORMS[name]
    except KeyError:
        raise unknown_name("form of delivery", name, list(FORMS)) from None


def form_for_file(path: str | PurePath) -> Form:
    """The form that a file's ending stands for; `NameUnknown` with the endings otherwise."""
    ending = PurePath(path).suffix.lower()
    for form in FORMS.values():
        if form.ending == ending:
            return form
    raise unknown_name("form of delivery for files ending in", ending, [f.ending for f in FORMS.values()])
