"""Pytest plugin: a throwaway PostgreSQL cluster for this run, made before Django reads its settings.

Loaded by pyproject.toml. Clusters of runs that were killed are swept away first. Tests of the core
alone start none.
"""

from __future__ import annotations

import os
import sys
import tempfile
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "tools"), str(ROOT / "server")]

from application import Application  # noqa: E402
from cluster import Cluster  # noqa: E402

PREFIX = "neatveil-test-"
#: In a run's folder: the applications of its test processes, each with a database of its own.
APPLICATIONS = "applications"
_own: list[Cluster] = []


def _needed(arguments: list[str]) -> bool:
    paths = [a for a in arguments if "tests" in a]
    return not paths or not all("tests/core" in p for p in paths)


def application_in(var: Path) -> Application:
    """A test process's application, with a fast database whose data is thrown away."""
    return Application(var, Cluster(var / "postgres", durable=False))


def end(application: Application) -> None:
    application.stop()
    application.cluster.remove()


def _sweep() -> None:
    for folder in Path(tempfile.gettempdir()).glob(f"{PREFIX}*"):
        pid = folder.name.removeprefix(PREFIX)
        if not pid.isdigit() or not Path(f"/proc/{pid}").exists():
            for var in folder.glob(f"{APPLICATIONS}/*/"):
                end(application_in(var))
            Cluster(folder, durable=False).remove()


@pytest.hookimpl(tryfirst=True)
def pytest_load_initial_conftests(early_config: pytest.Config, args: list[str]) -> None:
    """Runs before pytest-django looks for settings."""
    if not _needed(args):
        return
    if "NEATVEIL_TEST_CLUSTER" not in os.environ:
        _sweep()
        folder = Path(tempfile.gettempdir()) / f"{PREFIX}{os.getpid()}"
        folder.mkdir(mode=0o711)
        cluster = Cluster(folder, durable=False)
        cluster.start()
        _own.append(cluster)
        var = folder / "var"
        for name in ("media", "tmp", "log"):
            (var / name).mkdir(parents=True)
        cluster.create_database("neatveil")
        os.environ.update(
            NEATVEIL_TEST_CLUSTER=str(folder),
            NEATVEIL_VAR=str(var),
            NEATVEIL_SECRET="for tests only",
            NEATVEIL_DATABASE=cluster.url("neatveil"),
            NEATVEIL_CACHE_MB="512",
        )
    os.environ["DJANGO_SETTINGS_MODULE"] = "config.settings"


def pytest_unconfigure(config: pytest.Config) -> None:
    for cluster in _own:
        cluster.remove()
    _own.clear()
