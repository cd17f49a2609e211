"""The whole application, once a test process: var folder, database, web process and workers of its own."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path

import pytest

DEMO_FRAMES = 12


@pytest.fixture(scope="session")
def application() -> Iterator[object]:
    from cluster import free_port

    from tools.pytest_cluster import APPLICATIONS, application_in, end

    # inside the run's folder: what a killed run leaves is swept away with it by the next one
    process = os.environ.get("PYTEST_XDIST_WORKER", "alone")
    var = Path(os.environ["NEATVEIL_TEST_CLUSTER"]) / APPLICATIONS / process
    var.mkdir(parents=True)
    whole = application_in(var)
    whole.prepare(demo=True, demo_frames=DEMO_FRAMES)
    whole.start(free_port())
    yield whole
    end(whole)


@pytest.fixture(scope="session")
def password(application: object) -> str:
    text: str = (application.var / "secret" / "demo-password").read_text()  # type: ignore[attr-defined]
    return text
