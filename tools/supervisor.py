"""Keeps the web processes, the scheduler and the workers running: one that ends is started again.

Called by tools/start.py, with the environment set:  supervisor.py PORT WORKERS

NEATVEIL_CLUSTER names the folder of the database's cluster where that is ours to keep running too. What was
started ends with the supervisor, however that ends: the kernel sends it a signal.
"""

from __future__ import annotations

import ctypes
import os
import signal
import subprocess
import sys
import time
from pathlib import Path
from types import FrameType
from typing import IO

from cluster import Cluster, ClusterError

SERVER = Path(__file__).resolve().parents[1] / "server"
#: Seconds between looks at the database.
LOOK_AFTER = 1.0
#: The longest wait before one that never lasts is started again; the page is waited for by people.
LONGEST = {"web": 2.0}
#: Bytes that one process's words may have before they are begun anew.
MOST_WORDS = 1 << 20
_PR_SET_PDEATHSIG = 1
_libc = ctypes.CDLL(None, use_errno=True)


def roles(workers: int) -> dict[str, str]:
    """Every process by its name, and its role (`config.roles`)."""
    beside = int(os.environ.get("NEATVEIL_WEB_PROCESSES") or 1)
    webs = ["web", *(f"web-{n + 2}" for n in range(beside - 1))]
    return {
        **dict.fromkeys(webs, "web"),
        "scheduler": "scheduler",
        # What has just arrived is looked at while the others write and render: people wait for it.
        "intake": "worker",
        **{f"worker-{n + 1}": "worker" for n in range(workers)},
    }


def environment(name: str, port: int, workers: int) -> dict[str, str]:
    var = Path(os.environ["NEATVEIL_VAR"])
    env = {**os.environ, "NEATVEIL_PORT": str(port), "NEATVEIL_LOG": str(var / "log" / f"{name}.log")}
    if not name.startswith("web"):
        # Together the workers use every processor once, and less memory than the web process.
        processors = len(os.sched_getaffinity(0))
        env["NEATVEIL_THREADS"] = str(max(1, processors // workers))
        env["NEATVEIL_CACHE_MB"] = "768"
    if name == "intake":
        env["NEATVEIL_QUEUES"] = "arrivals"
    return env


def bring_back(cluster: Cluster) -> None:
    """Start the database again where it ended, under the address that everybody knows."""
    if cluster.running():
        return
    try:
        cluster.start(keep_port=True)
        print("the database had ended; it runs again", file=sys.stderr, flush=True)
    except ClusterError as error:
        print(error, file=sys.stderr, flush=True)  # tried again at the next look


def command(role: str) -> list[str]:
    return [sys.executable, "-m", "config.roles", role]


def _words_of(name: str) -> IO[bytes]:
    """Where a process writes what it says before and beside its log; begun anew once it is long."""
    path = Path(os.environ["NEATVEIL_VAR"]) / "log" / f"{name}.out"
    long = path.exists() and path.stat().st_size > MOST_WORDS
    return path.open("wb" if long else "ab")


class Supervisor:
    def __init__(self, port: int, workers: int) -> None:
        self.roles = roles(workers)
        self.port, self.workers = port, workers
        self.running: dict[str, subprocess.Popen[bytes]] = {}
        self.started: dict[str, float] = {}
        self.last_wait: dict[str, float] = {}
        self.waits: dict[str, float] = {}
        self.stopping = False
        folder = os.environ.get("NEATVEIL_CLUSTER")
        self.cluster = Cluster(Path(folder)) if folder else None

    def start(self, name: str) -> None:
        role = self.roles[name]

        def lower() -> None:
            _libc.prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)
            if role != "web":
                os.nice(10)  # people who look come before files that are written

        with _words_of(name) as words:
            self.running[name] = subprocess.Popen(
                command(role), cwd=SERVER, env=environment(name, self.port, self.workers),
                stdin=subprocess.DEVNULL, stdout=words, stderr=words, preexec_fn=lower,
            )  # fmt: skip
        self._write_down()
        self.started[name] = time.monotonic()
        self.waits.pop(name, None)

    def _write_down(self) -> None:
        """Process numbers of what runs, for `./start --stop` should this process be gone by then."""
        rows = [f"{p.pid} {n}\n" for n, p in self.running.items()]
        run = Path(os.environ["NEATVEIL_VAR"]) / "run"
        run.mkdir(parents=True, exist_ok=True)
        (run / "children").write_text("".join(rows))

    def again_at(self, name: str) -> float:
        """When one that has ended is started again: at once, but later and later if it never lasts."""
        if name not in self.waits:
            lasted = time.monotonic() - self.started[name]
            before = 0.0 if lasted > 60 else self.last_wait.get(name, 0.0)
            self.last_wait[name] = (
                0.2 if before == 0 else min(LONGEST.get(self.roles[name], 30.0), before * 2)
            )
            self.waits[name] = time.monotonic() + self.last_wait[name]
        return self.waits[name]

    def stop(self, signum: int, frame: FrameType | None) -> None:
        self.stopping = True

    def run(self) -> None:
        for each in (signal.SIGTERM, signal.SIGINT):
            signal.signal(each, self.stop)
        for name in self.roles:
            self.start(name)
        looked = time.monotonic()
        while not self.stopping:
            time.sleep(0.2)
            if self.cluster is not None and time.monotonic() - looked > LOOK_AFTER:
                looked = time.monotonic()
                bring_back(self.cluster)
            for name, process in list(self.running.items()):
                if process.poll() is not None and time.monotonic() >= self.again_at(name):
                    self.start(name)
        self.end_all()

    def end_all(self) -> None:
        for process in self.running.values():
            process.terminate()
        deadline = time.monotonic() + 8
        for process in self.running.values():
            try:
                process.wait(max(0.1, deadline - time.monotonic()))
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()


if __name__ == "__main__":
    Supervisor(int(sys.argv[1]), int(sys.argv[2])).run()
