"""The whole application, once a test process: var folder, database, web process and workers of its own."""

from __future__ import annotations

import fcntl
import os
import subprocess
from collections.abc import Iterator
from pathlib import Path

import pytest

DEMO_FRAMES = 12


@pytest.fixture(scope="session")
def application() -> Iterator[object]:
    from cluster import free_port

    from tools.pytest_cluster import APPLICATIONS, application_in, end

    # inside the run's folder: what a killed run leaves is swept away with it by the next one
    folder = Path(os.environ["NEATVEIL_TEST_CLUSTER"]) / APPLICATIONS
    folder.mkdir(exist_ok=True)
    var = folder / os.environ.get("PYTEST_XDIST_WORKER", "alone")
    _copy_of_the_demo(folder, var)
    (var / "out").mkdir(exist_ok=True)
    os.environ["NEATVEIL_DELIVERY_FOLDERS"] = str(var / "out")
    whole = application_in(var)
    whole.prepare(demo=True, demo_frames=DEMO_FRAMES)
    whole.start(free_port())
    yield whole
    end(whole)


def _copy_of_the_demo(folder: Path, var: Path) -> None:
    """An application's var folder with the demo; the first test process makes what all copy."""
    from tools.pytest_cluster import application_in

    first, made = application_in(folder / "first"), folder / "first-made"
    with (folder / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not made.exists():
            first.prepare(demo=True, demo_frames=DEMO_FRAMES)
            first.cluster.stop()
            made.touch()
    copy = application_in(var)
    subprocess.run(["cp", "-a", str(first.var), str(var)], check=True)
    if not copy.cluster.folder.exists():  # the database lies elsewhere where its user cannot reach this
        subprocess.run(["cp", "-a", str(first.cluster.folder), str(copy.cluster.folder)], check=True)
    (copy.cluster.folder / "port").unlink()  # each has one of its own


@pytest.fixture(scope="session")
def password(application: object) -> str:
    text: str = (application.var / "secret" / "demo-password").read_text()  # type: ignore[attr-defined]
    return text
