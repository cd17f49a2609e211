"""Names of what goes out, made from tokens in braces."""

from __future__ import annotations

import re
from collections.abc import Mapping

from .errors import ValueRefused

#: What stands for each, for who writes a name.
TOKENS = {
    "project": "the project's name",
    "comp": "the comp's or element's name",
    "layer": "the layer's name, where one is taken",
    "version": "v001 and on: the next that is free",
    "format": "the file format's short name",
    "date": "today, as 2026-01-31",
    "row": "the number of the list's row",
    "frame": "the frame number, where it is not to stand at the end",
}
_TOKEN = re.compile(r"\{([^{}]+)\}")
#: What a pattern of frames has for the number.
FRAME = "####"


def plain_name(text: str) -> str:
    """A name that every file system takes: letters, digits and ``. _ -``.

    Parameters
    ----------
    text : any.

    Returns
    -------
    The name; empty where nothing of it can stay.

    Examples
    --------
    >>> plain_name("Boardwalk, dusk")
    'Boardwalk_dusk'
    """
    return re.sub(r"[^\w.-]+", "_", text).strip("_.")


def named_by(pattern: str, values: Mapping[str, str]) -> str:
    """A name with its tokens filled in.

    Parameters
    ----------
    pattern : such as ``{comp}_{version}``.
    values : by the tokens' names; ``frame`` is always known.

    Returns
    -------
    The name; ``{frame}`` has become the mark of a frame number.

    Raises
    ------
    ValueRefused
        A token is none of `TOKENS`, or has no value here.

    Examples
    --------
    >>> named_by("{comp}_{version}", {"comp": "Boardwalk, dusk", "version": "v002"})
    'Boardwalk_dusk_v002'
    """

    def value(match: re.Match[str]) -> str:
        name = match[1]
        if name == "frame":
            return FRAME
        if found := plain_name(values.get(name, "")):
            return found
        known = ", ".join(f"{{{t}}}" for t in [*dict.fromkeys([*values, "frame"])])
        raise ValueRefused(
            f"{match[0]} has no value here.",
            advice=f"Use any of {known}, or write the name out.",
            where="name",
        )

    return _TOKEN.sub(value, pattern)
