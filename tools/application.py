"""Starting and stopping the whole application in a var folder: database, web process, workers."""

from __future__ import annotations

import hashlib
import os
import secrets
import signal
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from cluster import Cluster, free_port, port_free

ROOT = Path(__file__).resolve().parents[1]
SERVER = ROOT / "server"
DEFAULT_PORT = 8760
WORKERS = 2


class ApplicationError(Exception):
    """What went wrong, in a sentence."""


class Application:
    """The application whose data lives in ``var``; ``cluster`` is its own unless one is given."""

    def __init__(self, var: Path, cluster: Cluster | None = None, database: str = "neatveil") -> None:
        self.var = var
        self.cluster = cluster or Cluster(var / "postgres")
        self.own_cluster = cluster is None
        self.database = database

    # --- set-up ----------------------------------------------------------------------------

    def environment(self) -> dict[str, str]:
        return {
            **os.environ,
            "NEATVEIL_VAR": str(self.var),
            "NEATVEIL_DATABASE": self.cluster.url(self.database),
            **({"NEATVEIL_CLUSTER": str(self.cluster.folder)} if self.own_cluster else {}),
            "NEATVEIL_SECRET": self._secret("django-secret", 50),
            "DJANGO_SETTINGS_MODULE": "config.settings",
            "NUMBA_CACHE_DIR": os.environ.get("NUMBA_CACHE_DIR") or str(self.var / "numba"),
            # many small arenas would keep freed pictures from going back to the system
            "MALLOC_ARENA_MAX": "4",
        }

    def _secret(self, name: str, length: int) -> str:
        path = self.var / "secret" / name
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        if not path.exists():
            path.touch(mode=0o600)
            path.write_text(secrets.token_urlsafe(length))
        return path.read_text()

    def manage(self, *command: str) -> str:
        """Run a Django command; `ApplicationError` with its last line where it fails."""
        done = subprocess.run(
            [sys.executable, "manage.py", *command], cwd=SERVER, env=self.environment(),
            capture_output=True, text=True,
        )  # fmt: skip
        if done.returncode:
            lines = (done.stderr or done.stdout).strip().splitlines() or ["no reason given"]
            raise ApplicationError(f"{command[0]} failed: {lines[-1]}")
        return done.stdout

    def prepare(self, *, demo: bool, demo_frames: int = 48) -> None:
        """Database, tables and demo; quick when nothing has changed."""
        for folder in ("media", "tmp", "log", "run"):
            (self.var / folder).mkdir(parents=True, exist_ok=True)
        self.cluster.start()
        self.cluster.create_database(self.database)
        stamp, want = self.var / "migrated", _migrations_hash()
        if not stamp.exists() or stamp.read_text() != want:
            self.manage("migrate", "--verbosity", "0")
            stamp.write_text(want)
        if demo and not (self.var / "demo").exists():
            password = self._secret("demo-password", 9)
            self.manage("load_demo", f"--password={password}", "--frames", str(demo_frames))
            (self.var / "demo").write_text("loaded\n")

    # --- running ---------------------------------------------------------------------------

    @property
    def _pid_file(self) -> Path:
        return self.var / "run" / "supervisor.pid"

    def running(self) -> int | None:
        """Process number of the supervisor, where it runs."""
        try:
            pid = int(self._pid_file.read_text().split()[0])
            command = Path(f"/proc/{pid}/cmdline").read_bytes()
        except (OSError, ValueError, IndexError):
            return None
        return pid if b"supervisor.py" in command else None

    def _children(self) -> list[int]:
        """What the supervisor wrote down that it started."""
        try:
            rows = (self.var / "run" / "children").read_text().splitlines()
        except OSError:
            return []
        return [int(row.split()[0]) for row in rows if row.split()[:1] and row.split()[0].isdecimal()]

    def _is_ours(self, pid: int) -> bool:
        """Whether it is still the process that was started, with this application's data."""
        try:
            words = Path(f"/proc/{pid}/environ").read_bytes().split(b"\0")
        except OSError:
            return False
        return f"NEATVEIL_VAR={self.var}".encode() in words and _runs(pid)

    @property
    def port(self) -> int:
        return int((self.var / "run" / "port").read_text())

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}/"

    def start(self, port: int | None = None, workers: int = WORKERS) -> None:
        """Start supervisor, web processes, scheduler and workers, and wait until the page answers.

        What runs already stays, unless the code has changed since it was started.
        """
        stamp = self.var / "run" / "code"
        code = _code_hash()
        current = stamp.exists() and stamp.read_text() == code
        if self.running() and port in {None, self.port} and current:
            return
        self.stop(keep_database=True)
        chosen = self._choose_port(port)
        log = (self.var / "log" / "supervisor.log").open("ab")
        process = subprocess.Popen(
            [sys.executable, str(ROOT / "tools" / "supervisor.py"), str(chosen), str(workers)],
            env=self.environment(), stdin=subprocess.DEVNULL, stdout=log, stderr=log, start_new_session=True,
        )  # fmt: skip
        log.close()
        self._pid_file.write_text(f"{process.pid}\n")
        (self.var / "run" / "port").write_text(str(chosen))
        stamp.write_text(code)
        self._wait(process)

    def _choose_port(self, port: int | None) -> int:
        if port is not None:
            if not _becomes_free(port):
                raise ApplicationError(f"Port {port} is in use; choose another with --port.")
            return port
        known = self.var / "run" / "port"
        wanted = int(known.read_text()) if known.exists() else DEFAULT_PORT
        return (
            next((p for p in (wanted, *range(DEFAULT_PORT, DEFAULT_PORT + 20)) if port_free(p)), None)
            or free_port()
        )

    def _wait(self, process: subprocess.Popen[bytes], seconds: float = 180) -> None:
        deadline = time.monotonic() + seconds
        while time.monotonic() < deadline:
            try:
                with urllib.request.urlopen(f"{self.address}api/session", timeout=2):
                    return
            except (urllib.error.URLError, OSError):
                if process.poll() is not None:
                    break
                time.sleep(0.05)
        words = self.var / "log" / "web.out"
        last = words.read_text(errors="replace").strip().splitlines()[-1:] if words.exists() else []
        said = f"; its last words: {last[0]}" if last else ""
        raise ApplicationError(f"The web process does not answer{said}. See {words}.")

    def stop(self, *, keep_database: bool = False) -> None:
        """End everything that was started; all data stays.

        Raises `ApplicationError` where something goes on all the same.
        """
        pid = self.running()
        known = self._children()
        if pid is not None:
            os.kill(pid, signal.SIGTERM)
            _wait_for([pid], 30)  # it gives its processes 8 seconds, and then ends them
        left = [child for child in known if self._is_ours(child)]
        for child in left:  # of a supervisor that is gone
            os.kill(child, signal.SIGTERM)
        left = _wait_for(left, 10)
        for child in left:
            os.kill(child, signal.SIGKILL)
        left = _wait_for(left, 5)
        if left or self.running():
            numbers = ", ".join(str(n) for n in [*left, *([pid] if self.running() and pid else [])])
            raise ApplicationError(f"These processes could not be ended: {numbers}.")
        self._pid_file.unlink(missing_ok=True)
        (self.var / "run" / "children").unlink(missing_ok=True)
        if self.own_cluster and not keep_database:
            self.cluster.stop()


@contextmanager
def demo_for_a_while(frames: int) -> Iterator[tuple[str, str]]:
    """An application of its own, gone with its data afterwards: its address and the demo's password."""
    with tempfile.TemporaryDirectory(prefix="neatveil-demo-") as folder:
        Path(folder).chmod(0o711)
        application = Application(Path(folder))
        try:
            application.prepare(demo=True, demo_frames=frames)
            application.start(free_port())
            yield application.address, (application.var / "secret" / "demo-password").read_text()
        finally:
            application.stop()


def _wait_for(pids: list[int], seconds: float) -> list[int]:
    """Those of these processes that still run after so long."""
    deadline = time.monotonic() + seconds
    while True:
        for pid in pids:
            _reap(pid)
        pids = [p for p in pids if _runs(p)]
        if not pids or time.monotonic() > deadline:
            return pids
        time.sleep(0.05)


def _runs(pid: int) -> bool:
    """Whether the process is there and no mere entry that nobody has asked for."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except (OSError, IndexError):
        return False


def _reap(pid: int) -> None:
    try:
        os.waitpid(pid, os.WNOHANG)
    except ChildProcessError:
        return


def _becomes_free(port: int, seconds: float = 3) -> bool:
    """Whether one can listen there at once or soon: a connection that is being closed holds it a moment."""
    deadline = time.monotonic() + seconds
    while not port_free(port):
        if time.monotonic() > deadline:
            return False
        time.sleep(0.1)
    return True


def _code_hash() -> str:
    """Changes when a file of what runs changes: core, server, tools and the built pages."""
    digest = hashlib.sha256()
    for root, pattern in (("core", "*.py"), ("server", "*.py"), ("tools", "*.py"), ("web/dist", "*")):
        for path in sorted((ROOT / root).rglob(pattern)):
            stat = path.stat()
            digest.update(f"{path} {stat.st_mtime_ns} {stat.st_size}\n".encode())
    return digest.hexdigest()


def _migrations_hash() -> str:
    digest = hashlib.sha256((ROOT / "requirements.txt").read_bytes())
    for path in sorted(SERVER.glob("*/migrations/*.py")):
        digest.update(path.read_bytes())
    return digest.hexdigest()
