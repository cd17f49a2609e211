"""All files of a delivery as one archive, packed while it is sent, beside reading the same files."""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Sequence
from pathlib import Path

from django.conf import settings
from measure import Row, best_of, of_another_process, sized

FILES = 16
FILE_MB = sized(64, 1)

#: What a web process does with the archive, and the memory that it takes for it.
SCRIPT = """
import sys
from pathlib import Path
from django.conf import settings
settings.configure()
sys.path.insert(0, sys.argv[1])
from config.downloads import fetched
for _ in fetched(sorted(Path(sys.argv[2]).iterdir()), "all").streaming_content:
    pass
print(int(open("/proc/self/status").read().split("VmHWM:")[1].split()[0]))
"""
SERVER = Path(__file__).parents[1] / "server"


def archive() -> list[Row]:
    sys.path.append(str(SERVER))
    settings.configure()
    with tempfile.TemporaryDirectory() as name:
        paths = [Path(name) / f"frame.{n:04d}.exr" for n in range(FILES)]
        for path in paths:
            with path.open("wb") as file:
                file.write(os.urandom(FILE_MB << 20))
                os.fsync(file.fileno())
        total = FILES * FILE_MB
        times = best_of({"ours": lambda: _packed(paths), "disk": lambda: _read(paths)}, rounds=3)
        peaks = [of_another_process(SCRIPT, str(SERVER), name) / 1024]
        for path in paths[4:]:
            path.unlink()
        peaks.append(of_another_process(SCRIPT, str(SERVER), name) / 1024)
    ratio = times["disk"] / times["ours"]
    return [
        Row(f"archive of {FILES} files, {total} MB", f"{total / times['ours']:.0f} MB/s",
            f"read from disk {total / times['disk']:.0f} MB/s", ratio, ">= 0.8", ratio >= 0.8),
        Row("memory of the process", f"{peaks[0]:.0f} MB", f"for a quarter of it {peaks[1]:.0f} MB",
            peaks[0] / peaks[1], "<= 1.05", peaks[0] <= 1.05 * peaks[1]),
    ]  # fmt: skip


def _packed(paths: Sequence[Path]) -> None:
    from config.downloads import fetched

    _forget(paths)
    for _ in fetched(paths, "all").streaming_content:  # type: ignore[union-attr]
        pass


def _read(paths: Sequence[Path]) -> None:
    _forget(paths)
    for path in paths:
        with path.open("rb") as file:
            while file.read(1 << 20):
                pass


def _forget(paths: Sequence[Path]) -> None:
    """The system keeps nothing of the files in memory: they come from the disk."""
    for path in paths:
        with path.open("rb") as file:
            os.posix_fadvise(file.fileno(), 0, 0, os.POSIX_FADV_DONTNEED)
