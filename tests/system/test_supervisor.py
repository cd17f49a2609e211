"""What the supervisor started ends with it, is found again by --stop, and the database is brought back."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from application import Application, ApplicationError
from cluster import Cluster
from supervisor import LONGEST, Supervisor, bring_back

pytestmark = pytest.mark.system

TOOLS = Path(__file__).parents[2] / "tools"
#: A supervisor of processes that only wait.
SCRIPT = """
import sys
sys.path.insert(0, sys.argv[1])
import supervisor
wait = [sys.executable, "-c", "import time; time.sleep(600)"]
supervisor.roles = lambda workers: {"web": "web", "worker-1": "worker"}
supervisor.command = lambda role: wait
supervisor.Supervisor(1, 1).run()
"""


def begin(var):
    for folder in ("log", "run"):
        (var / folder).mkdir(parents=True, exist_ok=True)
    env = {**os.environ, "NEATVEIL_VAR": str(var)}
    env.pop("NEATVEIL_CLUSTER", None)
    process = subprocess.Popen([sys.executable, "-c", SCRIPT, str(TOOLS)], env=env, start_new_session=True)
    until(lambda: len(children(var)) == 2)
    return process


def children(var):
    try:
        return [int(row.split()[0]) for row in (var / "run" / "children").read_text().splitlines()]
    except OSError:
        return []


def runs(pid):
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except OSError:
        return False


def until(holds, seconds=20):
    deadline = time.monotonic() + seconds
    while not holds():
        assert time.monotonic() < deadline, "it did not come to that"
        time.sleep(0.05)


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGKILL])
def test_nothing_outlives_the_supervisor(tmp_path, how):
    process = begin(tmp_path)
    started = children(tmp_path)
    assert all(runs(p) for p in started)
    process.send_signal(how)
    process.wait(20)
    until(lambda: not any(runs(p) for p in started))


def test_stop_ends_what_a_supervisor_that_is_gone_left_and_spares_everything_else(tmp_path):
    (tmp_path / "run").mkdir()
    sleep = [sys.executable, "-c", "import time; time.sleep(600)"]
    ours = subprocess.Popen(sleep, env={**os.environ, "NEATVEIL_VAR": str(tmp_path)})
    other = subprocess.Popen(sleep)
    try:
        (tmp_path / "run" / "children").write_text(f"{ours.pid} web\n{other.pid} worker-1\n")
        Application(tmp_path, cluster=Cluster(tmp_path / "pg")).stop()
        assert not runs(ours.pid)
        assert runs(other.pid), "a number that is somebody else's by now"
    finally:
        other.kill()
        other.wait()


def test_stop_says_what_could_not_be_ended(tmp_path, monkeypatch):
    import application

    (tmp_path / "run").mkdir()
    monkeypatch.setattr(Application, "_children", lambda self: [os.getpid()])
    monkeypatch.setattr(Application, "_is_ours", lambda self, pid: True)
    monkeypatch.setattr(application, "_wait_for", lambda pids, seconds: pids)
    monkeypatch.setattr(os, "kill", lambda pid, number: None)
    with pytest.raises(ApplicationError, match=str(os.getpid())):
        Application(tmp_path, cluster=Cluster(tmp_path / "pg")).stop()


def test_a_database_that_is_killed_comes_back_under_its_address(tmp_path):
    cluster = Cluster(tmp_path / "pg", durable=False)
    cluster.start()
    try:
        port, first = cluster.port, (cluster.data / "postmaster.pid").read_text().split()[0]
        os.kill(int(first), signal.SIGKILL)
        until(lambda: not cluster.running())
        deadline = time.monotonic() + 40
        while not cluster.running() and time.monotonic() < deadline:
            bring_back(cluster)
        assert cluster.running()
        assert cluster.port == port
    finally:
        cluster.stop()


def test_the_page_is_never_waited_for_longer_than_two_seconds(tmp_path, monkeypatch):
    monkeypatch.setenv("NEATVEIL_VAR", str(tmp_path))
    monkeypatch.delenv("NEATVEIL_CLUSTER", raising=False)
    supervisor = Supervisor(1, 1)
    waits = []
    for _ in range(10):
        supervisor.started["web"] = time.monotonic()
        waits.append(supervisor.again_at("web") - time.monotonic())
        supervisor.waits.pop("web")
    assert max(waits) <= LONGEST["web"] == 2.0
