"""What happens when a worker is killed or the database goes away: nothing that was there is lost."""

import os
import signal
import socket
import threading
import time
from pathlib import Path

import pytest
from neatveil.io import LocalDecoder
from system.over_http import Person

pytestmark = pytest.mark.system


#: Of a delivery: enough to be killed in the middle.
FRAMES = 6


@pytest.fixture
def warden(application, password):
    return Person(application.address, "warden", password)


def order(person, folder, format="png16-straight", **change):
    _, comps = person("GET", "projects/1/comps")
    body = {
        "comps": [comps[0]["id"]],
        "formats": [format],
        "take": {"frames": f"1-{FRAMES}"},
        "folder": folder,
        "name": "dusk",
        **change,
    }
    status, rows = person("POST", "projects/1/deliveries", body)
    assert status == 201, rows
    return rows[0]


def children(pid: int) -> dict[int, str]:
    found = {}
    for entry in Path("/proc").glob("[0-9]*"):
        try:
            stat = (entry / "stat").read_text().rsplit(")", 1)[1].split()
            if int(stat[1]) == pid:
                found[int(entry.name)] = (entry / "cmdline").read_text().replace("\0", " ")
        except (OSError, IndexError):
            continue
    return found


def workers(application):
    return [p for p, command in children(application.running()).items() if "procrastinate worker" in command]


def test_killed_worker_in_the_middle_of_a_delivery(application, warden):
    row = order(warden, "killed")
    deadline = time.monotonic() + 240
    while warden("GET", f"deliveries/{row['id']}")[1]["job"]["written"] < 2:
        assert time.monotonic() < deadline, "nothing is written"
        time.sleep(0.05)
    for pid in workers(application):
        os.kill(pid, signal.SIGKILL)
    folder = application.var / row["path"]
    for path in folder.glob("dusk.*.png"):
        assert LocalDecoder().read(str(path), 0)["A"].shape == (1080, 1920), "whole, or not there"
    row = warden.wait_for_delivery(row["id"])
    assert (row["job"]["state"], row["good"], row["proof"]["frames_found"]) == ("done", True, FRAMES)
    assert not list(folder.glob(".*")), "what the killed one had begun is swept away"


def test_killed_worker_in_the_middle_of_a_render(application, warden):
    """It goes on at the frame it was on: what was whole is not rendered again."""
    _, scenes = warden("GET", "projects/1/scenes")
    scene = next(s for s in scenes if s["name"] == "waymark")
    document = {"rate": "25", "last": 10, "width": 400, "height": 226, "samples": 20, "passes": ["beauty"]}
    status, row = warden("POST", f"scenes/{scene['id']}/renders", {"name": "killed", "document": document})
    assert status == 201, row
    deadline = time.monotonic() + 300
    while warden("GET", f"renders/{row['id']}")[1]["job"]["written"] < 3:
        assert time.monotonic() < deadline, "nothing is rendered"
        time.sleep(0.05)
    for pid in workers(application):
        os.kill(pid, signal.SIGKILL)
    folder = application.var / row["folder"]
    whole = {p.name: p.stat().st_mtime_ns for p in folder.glob("killed.*.exr")}
    assert len(whole) >= 3
    while warden("GET", f"renders/{row['id']}")[1]["job"]["state"] != "done":
        assert time.monotonic() < deadline + 300, "it does not go on"
        time.sleep(0.2)
    assert {p.name: p.stat().st_mtime_ns for p in folder.glob("killed.*.exr")}.items() >= whole.items()
    assert len(list(folder.glob("killed.*.exr"))) == 10
    assert not list(folder.glob(".*")), "what the killed one had begun is swept away"


def test_killed_worker_while_edges_are_found_ahead(application, warden):
    """It goes on: what was found is kept, and each frame is there in the end."""
    _, comps = warden("GET", "projects/1/comps")
    document = warden("GET", f"comps/{comps[0]['id']}")[1]["document"]
    plate = document["layers"][0]
    ellipse = {"kind": "shape", "shape": "ellipse", "width": 300, "height": 200}
    cut = {**plate, "matte": {"parts": [ellipse], "edge": "natural", "band": 20}}
    body = {**document, "name": "killed edges", "layers": [cut]}
    status, comp = warden("POST", "projects/1/comps", body)
    assert status == 201, comp
    edges = f"comps/{comp['id']}/edges"
    ask = {"layer": plate["id"], "first": document["first"], "last": document["last"]}
    status, ordered = warden("POST", edges, ask)
    assert status == 201, ordered
    deadline = time.monotonic() + 300

    def job():
        assert time.monotonic() < deadline, "it does not go on"
        time.sleep(0.05)
        return warden("GET", edges)[1][0]["job"]

    while job()["written"] < 2:
        pass
    kept = application.var / "media" / "edges"
    before = {p.name: p.stat().st_ino for p in kept.glob("*.z")}
    for pid in workers(application):
        os.kill(pid, signal.SIGKILL)
    while (done := job())["state"] not in {"done", "failed"}:
        pass
    frames = document["last"] - document["first"] + 1
    assert (done["state"], done["written"]) == ("done", frames)
    after = {p.name: p.stat().st_ino for p in kept.glob("*.z")}
    assert after.items() >= before.items(), "what was found is not found again"
    assert len(before) >= 6, "two frames, each in full, half and quarter size"
    assert len(after) >= 3 * frames
    assert warden("DELETE", f"comps/{comp['id']}")[0] == 204


def test_database_restarted_under_load(application, warden, password):
    """Every write that was answered with success is there afterwards; every other is told clearly."""
    row = order(warden, "restart", format="exr-half-premultiplied")
    status, comp = warden("POST", "projects/1/comps", {"name": "load", "width": 64, "height": 64, "last": 9})
    assert status == 201
    stop, accepted, told = threading.Event(), [], set()

    def write(person):
        while not stop.is_set():
            status, body = person("GET", f"comps/{comp['id']}")
            if status != 200:
                told.add((status, body["code"] if isinstance(body, dict) else None))
                time.sleep(0.05)
                continue
            document = {**body["document"], "name": f"load {len(accepted)}"}
            status, body = person(
                "PUT", f"comps/{comp['id']}", {"base": body["revision"], "what": "load", "document": document}
            )
            if status == 200:
                accepted.append(body["revision"])
            else:
                told.add((status, body["code"] if isinstance(body, dict) else None))

    people = [Person(application.address, "warden", password) for _ in range(2)]
    threads = [threading.Thread(target=write, args=(p,)) for p in people]
    for thread in threads:
        thread.start()
    time.sleep(1)
    application.cluster.stop()
    time.sleep(1)
    application.cluster.start()
    time.sleep(3)
    before = len(accepted)
    deadline = time.monotonic() + 180
    while len(accepted) <= before and time.monotonic() < deadline:
        time.sleep(0.2)
    stop.set()
    for thread in threads:
        thread.join()
    assert len(accepted) > before, f"writing goes on after the restart; told: {told}"
    assert len(set(accepted)) == len(accepted), "no revision was given twice"
    _, now = warden("GET", f"comps/{comp['id']}")
    assert now["revision"] >= max(accepted)
    assert told <= {(503, "database-away"), (409, "stale"), (0, None)}, told
    row = warden.wait_for_delivery(row["id"])
    assert (row["job"]["state"], row["good"]) == ("done", True)


def test_changes_are_told_by_events(application, warden):
    cookies = "; ".join(f"{k}={v}" for k, v in warden.cookies.items())
    with socket.create_connection(warden.host.split(":"), timeout=60) as line:
        head = f"GET /api/projects/1/events HTTP/1.1\r\nHost: {warden.host}\r\nCookie: {cookies}\r\n\r\n"
        line.sendall(head.encode())
        text = ""
        while "here" not in text:
            text += line.recv(4096).decode()
        time.sleep(0.5)
        warden("POST", "projects/1/comps", {"name": "told", "width": 8, "height": 8})
        while '"comps"' not in text:
            text += line.recv(4096).decode()


def test_started_again_it_is_the_same_application(application, warden):
    _, before = warden("GET", "projects/1/elements")
    application.stop(keep_database=True)
    application.start(application.port)
    _, after = warden("GET", "projects/1/elements")
    assert after == before, "data and session are kept"
