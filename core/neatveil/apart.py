"""A file that is not trusted yet, tried in a limited process: what it does to us ends there."""

from __future__ import annotations

import json
import resource
import subprocess
import sys
from collections.abc import Callable
from importlib import import_module
from pathlib import Path
from typing import Any

from .errors import NeatVeilError, describe, told_again


def tried_apart(
    check: Callable[[Path, str], Any],
    path: Path,
    called: str,
    refused: type[NeatVeilError],
    advice: str,
    *,
    seconds: float,
    memory: int,
) -> Any:
    """What a check tells of a file, as plain data, tried in a process of its own.

    Parameters
    ----------
    check : a function of a module, given the file and its name.
    path : of the file.
    called : its name as people know it.
    refused, advice : the error, and what to do, where the process ended badly.
    seconds, memory : time and bytes after which it is given up.

    Raises
    ------
    NeatVeilError
        What the check raised, or ``refused`` with why it was given up.
    """

    def gave_up(why: str) -> NeatVeilError:
        return refused(f"{called} cannot be used: {why}.", advice=advice, where=called)

    what = f"{check.__module__}:{check.__name__}"
    command = [sys.executable, "-m", __name__, what, str(path.absolute()), called, str(memory)]
    try:
        done = subprocess.run(command, capture_output=True, timeout=seconds, check=False, cwd="/")
    except subprocess.TimeoutExpired:
        raise gave_up(f"trying it took longer than {seconds:g} s") from None
    lines = done.stdout.splitlines()
    if done.returncode or not lines:
        raise gave_up("trying it ended the process that did")
    told = json.loads(lines[-1])
    if "error" in told:
        if told["error"] is None:
            raise gave_up("trying it needs too much memory")
        raise told_again(told["error"], refused)
    return told["found"]


def _main() -> None:
    what, path, called, memory = sys.argv[1], sys.argv[2], sys.argv[3], int(sys.argv[4])
    module, _, name = what.partition(":")
    check = getattr(import_module(module), name)
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    told: dict[str, Any]
    try:
        told = {"found": check(Path(path), called)}
    except NeatVeilError as error:
        told = {"error": describe(error)}
    except MemoryError:
        told = {"error": None}
    print(json.dumps(told))


if __name__ == "__main__":
    _main()
