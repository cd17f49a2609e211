"""The application with the demo, for cases that are measured in a browser."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from application import Application
from cluster import free_port


@contextmanager
def demo_running() -> Iterator[tuple[str, str]]:
    """Its address and the demo's password; one that a test has running already is taken as it is."""
    if address := os.environ.get("NEATVEIL_BENCH_ADDRESS"):
        yield address, os.environ["NEATVEIL_BENCH_PASSWORD"]
        return
    with tempfile.TemporaryDirectory(prefix="neatveil-bench-") as name:
        Path(name).chmod(0o711)
        application = Application(Path(name))
        try:
            application.prepare(demo=True, demo_frames=12)
            application.start(free_port())
            yield application.address, (application.var / "secret" / "demo-password").read_text()
        finally:
            application.stop()
