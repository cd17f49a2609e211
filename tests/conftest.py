"""The whole application, once a run: its own var folder and database, real web process and workers."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path

import pytest

DEMO_FRAMES = 12


@pytest.fixture(scope="session")
def application() -> Iterator[object]:
    from application import Application
    from cluster import Cluster

    # inside the cluster's folder: a run that is killed is swept away with it by the next one
    folder = Path(os.environ["NEATVEIL_TEST_CLUSTER"])
    whole = Application(folder / "application", Cluster(folder, durable=False), "application")
    whole.prepare(demo=True, demo_frames=DEMO_FRAMES)
    whole.start(_free_port())
    yield whole
    whole.stop()


def _free_port() -> int:
    from cluster import free_port

    return free_port()


@pytest.fixture(scope="session")
def password(application: object) -> str:
    text: str = (application.var / "secret" / "demo-password").read_text()  # type: ignore[attr-defined]
    return text
