"""A configuration that is not trusted yet, tried in a limited process."""

from __future__ import annotations

from pathlib import Path

from ..apart import tried_apart
from .configurations import ConfigurationRefused, check

#: Bytes that the process may have, and seconds that it may take: the largest that ships takes a quarter.
MEMORY = 4 << 30
SECONDS = 60.0


def check_apart(path: Path, called: str, *, seconds: float = SECONDS, memory: int = MEMORY) -> None:
    """As `configurations.check`, in a process of its own.

    Parameters
    ----------
    path : of the file.
    called : its name as people know it.
    seconds, memory : time and bytes after which it is given up.

    Raises
    ------
    ConfigurationRefused
        It is none that can be used, or trying it ended badly.
    """
    advice = "Leave out tables and spaces that are not needed, or export it again."
    tried_apart(check, path, called, ConfigurationRefused, advice, seconds=seconds, memory=memory)
