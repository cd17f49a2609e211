"""A configuration that is not trusted yet, tried in a limited process: what it does to us ends there."""

from __future__ import annotations

import json
import resource
import subprocess
import sys
from pathlib import Path

from ..errors import NeatVeilError, describe, told_again
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
    command = [sys.executable, "-m", __name__, str(path.absolute()), called, str(memory)]
    try:
        done = subprocess.run(command, capture_output=True, timeout=seconds, check=False, cwd="/")
    except subprocess.TimeoutExpired:
        raise _gave_up(called, f"trying it took longer than {seconds:g} s") from None
    lines = done.stdout.splitlines()
    if done.returncode or not lines:
        raise _gave_up(called, "trying it ended the process that did")
    told = json.loads(lines[-1])
    if told:
        raise told_again(told, ConfigurationRefused)


def _gave_up(name: str, why: str) -> ConfigurationRefused:
    return ConfigurationRefused(
        f"{name} cannot be used: {why}.",
        advice="Leave out tables and spaces that are not needed, or export it again.",
        where=name,
    )


def _main() -> None:
    path, called, memory = sys.argv[1], sys.argv[2], int(sys.argv[3])
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    told: dict[str, str] = {}
    try:
        check(Path(path), called)
    except NeatVeilError as error:
        told = describe(error)
    except MemoryError:
        told = describe(_gave_up(called, "trying it needs too much memory"))
    print(json.dumps(told))


if __name__ == "__main__":
    _main()
