"""The table of formats: every module of this folder that has a ``FORMAT``."""

from __future__ import annotations

import importlib
import pkgutil
from pathlib import Path, PurePath

from ...errors import unknown_name
from .base import DeliveryFormat


def _find() -> dict[str, DeliveryFormat]:
    package = __name__.rpartition(".")[0]
    found = {}
    for module in pkgutil.iter_modules([str(Path(__file__).parent)]):
        if module.name not in {"base", "form", "table"}:
            one: DeliveryFormat = importlib.import_module(f"{package}.{module.name}").FORMAT
            found[one.name] = one
    return found


DELIVERY_FORMATS: dict[str, DeliveryFormat] = _find()


def format_named(name: str) -> DeliveryFormat:
    """The format of that name.

    Parameters
    ----------
    name : as in `DELIVERY_FORMATS`.

    Returns
    -------
    The format.

    Raises
    ------
    NameUnknown
        There is none; the error lists the names.

    Examples
    --------
    >>> format_named("png16-straight").ending
    '.png'
    """
    try:
        return DELIVERY_FORMATS[name]
    except KeyError:
        raise unknown_name("format of delivery", name, list(DELIVERY_FORMATS)) from None


def format_for_file(path: str | PurePath) -> DeliveryFormat:
    """The format that a file's ending stands for.

    Parameters
    ----------
    path : of the file to be written.

    Returns
    -------
    The format.

    Raises
    ------
    NameUnknown
        There is none; the error lists the endings.

    Examples
    --------
    >>> format_for_file("dusk.####.png").name
    'png16-straight'
    """
    ending = PurePath(path).suffix.lower()
    for one in DELIVERY_FORMATS.values():
        if one.ending == ending and one.contents == "rgba":
            return one
    raise unknown_name(
        "format of delivery for files ending in", ending, [f.ending for f in DELIVERY_FORMATS.values()]
    )
