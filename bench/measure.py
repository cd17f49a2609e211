"""How everything here is timed: the best of several, alternating with the reference."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import asdict, dataclass


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
    for _ in range(rounds):
        for name, function in functions.items():
            begun = time.perf_counter()
            function()
            best[name] = min(best[name], time.perf_counter() - begun)
    return best


def ms(seconds: float) -> str:
    return f"{seconds * 1e3:.1f} ms"
