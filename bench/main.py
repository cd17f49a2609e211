"""Run the cases that are asked for, print the table, write JSON."""

from __future__ import annotations

import argparse
import json
import os
import platform
from collections.abc import Callable
from pathlib import Path

from measure import Row


def _cases() -> dict[str, Callable[[], list[Row]]]:
    from arithmetic import chain, over
    from brush import brush
    from delivery import delivery
    from desk import desk
    from elements import elements
    from mattes import mattes
    from memory import memory
    from readings import readings
    from scene import scene
    from steps import steps
    from viewer import viewer

    return {
        "over": over,
        "chain": chain,
        "memory": memory,
        "scene": scene,
        "steps": steps,
        "desk": desk,
        "mattes": mattes,
        "delivery": delivery,
        "elements": elements,
        "readings": readings,
        "viewer": viewer,
        "brush": brush,
    }


def stolen() -> tuple[int, int]:
    """Jiffies that the host took away, and all of them: a busy host makes every figure worse."""
    numbers = [int(v) for v in Path("/proc/stat").read_text().splitlines()[0].split()[1:]]
    return numbers[7], sum(numbers[:8])


def main() -> None:
    parser = argparse.ArgumentParser(prog="bench/run")
    cases = _cases()
    parser.add_argument("cases", nargs="*", metavar="CASE", help=", ".join(cases))
    parser.add_argument("--json", type=Path, metavar="FILE")
    options = parser.parse_args()
    unknown = set(options.cases) - set(cases)
    if unknown:
        parser.error(f"no case named {', '.join(sorted(unknown))}; valid: {', '.join(cases)}")
    rows: list[dict[str, object]] = []
    print(f"{'case':36}{'ours':>12}  {'reference':30}{'ratio':>7}  target")
    for name in options.cases or list(cases):
        before = stolen()
        made = cases[name]()
        after = stolen()
        share = (after[0] - before[0]) / max(1, after[1] - before[1])
        for row in made:
            sign = "reached" if row.reached else "NOT reached"
            print(
                f"{row.case:36}{row.ours:>12}  {row.reference:30}{row.ratio:7.3f}  "
                f"{row.target} {sign}; {row.note}"
            )
            rows.append({**row.as_dict(), "stolen_by_host": round(share, 3)})
        print(f"{'':36}(the host took {share:.0%} of the processors meanwhile)")
    if options.json:
        machine = {"processors": len(os.sched_getaffinity(0)), "python": platform.python_version()}
        options.json.write_text(json.dumps({"machine": machine, "rows": rows}, indent=2) + "\n")


if __name__ == "__main__":
    main()
