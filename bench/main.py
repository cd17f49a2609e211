"""Run the cases that are asked for, print the table, write JSON."""

from __future__ import annotations

import argparse
import importlib
import json
import os
import platform
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from measure import Row


#: Every case and the file it is in; the function bears the case's name.
CASES = {
    "over": "arithmetic",
    "chain": "arithmetic",
    "layering": "layering",
    "memory": "memory",
    "scene": "scene",
    "steps": "steps",
    "data_passes": "data_passes",
    "desk": "desk",
    "made": "made",
    "mattes": "mattes",
    "delivery": "delivery",
    "proof": "proof",
    "archive": "archive",
    "elements": "elements",
    "readings": "readings",
    "views": "views",
    "viewer": "viewer",
    "brush": "brush",
    "hands": "hands",
    "surface": "surface",
}


def stolen() -> tuple[int, int]:
    """Jiffies that the host took away, and all of them: a busy host makes every figure worse."""
    numbers = [int(v) for v in Path("/proc/stat").read_text().splitlines()[0].split()[1:]]
    return numbers[7], sum(numbers[:8])


def main() -> None:
    parser = argparse.ArgumentParser(prog="bench/run")
    parser.add_argument("cases", nargs="*", metavar="CASE", help=", ".join(CASES))
    parser.add_argument("--json", type=Path, metavar="FILE")
    parser.add_argument(
        "--small", action="store_true", help="only whether each case runs: its figures say nothing"
    )
    options = parser.parse_args()
    unknown = set(options.cases) - set(CASES)
    if unknown:
        parser.error(f"no case named {', '.join(sorted(unknown))}; valid: {', '.join(CASES)}")
    if options.small:  # before the cases are imported: their sizes depend on it
        os.environ["NEATVEIL_BENCH"] = "small"
    rows: list[dict[str, object]] = []
    print(f"{'case':36}{'ours':>12}  {'reference':30}{'ratio':>7}  target")
    for name in options.cases or list(CASES):
        before = stolen()
        made: list[Row] = getattr(importlib.import_module(CASES[name]), name)()
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
