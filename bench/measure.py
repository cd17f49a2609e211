"""How everything here is timed: the best of several, alternating with the reference."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import TypeVar

#: Set by ``--small``: every case runs, on little and once, so that a test sees that it still does.
SMALL = os.environ.get("NEATVEIL_BENCH") == "small"
T = TypeVar("T")


def sized(full: T, small: T) -> T:
    """What a case measures on: ``full`` for figures, ``small`` for a look at whether it runs."""
    return small if SMALL else full


@dataclass
class Row:
    """One line of the table. ``ratio`` is ours / reference; ``target`` is what it should be."""

    case: str
    ours: str
    reference: str
    ratio: float
    target: str
    reached: bool
    note: str = ""

    def as_dict(self) -> dict[str, object]:
        return asdict(self)


def best_of(functions: dict[str, Callable[[], object]], rounds: int = 9) -> dict[str, float]:
    """Seconds of the fastest round of each; they take turns, so that a busy moment hits all."""
    best = {name: float("inf") for name in functions}
    for function in functions.values():
        function()
    for _ in range(sized(rounds, 1)):
        for name, function in functions.items():
            begun = time.perf_counter()
            function()
            best[name] = min(best[name], time.perf_counter() - begun)
    return best


def ms(seconds: float) -> str:
    return f"{seconds * 1e3:.1f} ms"


def of_another_process(script: str, *arguments: str) -> int:
    """The number that a Python script prints; memory is measured in a process that did nothing before.

    Raises RuntimeError with what the script said.
    """
    run = subprocess.run([sys.executable, "-c", script, *arguments], capture_output=True, text=True)
    if run.returncode:
        raise RuntimeError(f"the measured process ended with {run.returncode}: {run.stderr.strip()[-2000:]}")
    return int(run.stdout)
