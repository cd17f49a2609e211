"""The cases of the bench, and a run of one on little."""

from __future__ import annotations

import importlib.util
import json
import os
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
BENCH = ROOT / "bench"
IN_A_BROWSER = {"viewer", "brush", "hands", "surface"}

_spec = importlib.util.spec_from_file_location("bench_main", BENCH / "main.py")
assert _spec is not None
assert _spec.loader is not None
_main = importlib.util.module_from_spec(_spec)
_spec.loader.exec_module(_main)
CASES: tuple[str, ...] = tuple(_main.CASES)


def runs(case: str, report: Path, **more: str) -> None:
    """Run a case; fails unless it ends well and reports rows with figures."""
    path = os.pathsep.join(str(ROOT / n) for n in ("bench", "demo", "tools", "tests"))
    done = subprocess.run(
        [sys.executable, str(BENCH / "main.py"), case, "--small", "--json", str(report)],
        env={**os.environ, "PYTHONPATH": path, **more}, capture_output=True, text=True, timeout=300,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-3000:]
    rows = json.loads(report.read_text())["rows"]
    assert rows
    for row in rows:
        assert 0 < row["ratio"] < float("inf"), row
        assert all(row[n] for n in ("ours", "reference", "target")), row
