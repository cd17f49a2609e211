"""Every case of the bench runs, on little: what it says about speed is not looked at here."""

import subprocess
import sys

import pytest
from bench_cases import BENCH, CASES, IN_A_BROWSER, runs

pytestmark = pytest.mark.system


@pytest.mark.parametrize("case", sorted(set(CASES) - IN_A_BROWSER))
def test_every_case_runs(case, tmp_path):
    runs(case, tmp_path / "rows.json")


def test_what_a_measured_process_said_is_told(monkeypatch):
    """Its message would be lost with the pipe."""
    monkeypatch.setenv("PYTHONPATH", str(BENCH))
    script = "import measure; measure.of_another_process('raise SystemExit(\"no desk\")')"
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True)
    assert done.returncode != 0
    assert "no desk" in done.stderr
