"""Processes of one installation beside each other: two that answer, a worker on another machine."""

import hashlib
import http.client
import json
import os
import signal
import subprocess
import sys
import time
from contextlib import contextmanager
from pathlib import Path
from urllib.parse import quote

import pytest
from cluster import free_port
from system.over_http import Person
from system.test_resilience import FRAMES, order, workers

pytestmark = pytest.mark.system

SERVER = Path(__file__).parents[2] / "server"


@contextmanager
def process(role, var, **settings):
    """One process with these settings and none of whoever starts it."""
    plain = {k: v for k, v in os.environ.items() if not k.startswith("NEATVEIL_")}
    env = {**plain, "NEATVEIL_VAR": str(var), **{f"NEATVEIL_{k}": str(v) for k, v in settings.items()}}
    started = subprocess.Popen([sys.executable, "-m", "config.roles", role], cwd=SERVER, env=env)
    try:
        yield started
    finally:
        started.terminate()
        started.wait(30)


@pytest.fixture
def installation(application):
    """What every process of it must know."""
    env = application.environment()
    return {"DATABASE": env["NEATVEIL_DATABASE"], "SECRET": env["NEATVEIL_SECRET"]}


@pytest.fixture
def pair(application, installation):
    """The addresses of two web processes of one machine."""
    ports = [free_port(), free_port()]
    shared = {**installation, "CACHE_MB": 256}
    with process("web", application.var, PORT=ports[0], **shared), process(
        "web", application.var, PORT=ports[1], **shared
    ):  # fmt: skip
        addresses = [f"http://127.0.0.1:{port}/" for port in ports]
        for port in ports:
            answers(port)
        yield addresses


def answers(port, seconds=90):
    deadline = time.monotonic() + seconds
    while time.monotonic() < deadline:
        try:
            line = http.client.HTTPConnection("127.0.0.1", port, timeout=5)
            line.request("GET", "/health/ready")
            if line.getresponse().status == 200:
                return
        except OSError:
            time.sleep(0.1)
    raise AssertionError("the web process does not answer")


def at(person, address):
    """The same signed-in person, on another process."""
    twin = object.__new__(Person)
    twin.host, twin.cookies = address.split("/")[2], person.cookies
    return twin


def test_a_newer_request_answered_elsewhere_ends_an_older_one(pair, password):
    first = Person(pair[0], "warden", password)
    second = at(first, pair[1])
    _, comps = first("GET", "projects/1/comps")
    ask = {"frame": 1, "level": 3, "viewer": "one page"}
    path = f"comps/{comps[0]['id']}/picture"
    assert first("POST", path, {**ask, "sequence": 8})[0] == 200
    assert second("POST", path, {**ask, "sequence": 7})[1]["code"] == "cancelled"
    assert second("POST", path, {**ask, "sequence": 9})[0] == 200
    assert first("POST", path, {**ask, "sequence": 8})[1]["code"] == "cancelled"
    assert first("POST", path, {**ask, "viewer": "another page", "sequence": 1})[0] == 200


def test_who_signs_out_of_one_is_signed_out_of_the_other(pair, password):
    first = Person(pair[0], "warden", password)
    second = at(first, pair[1])
    assert second("GET", "projects")[0] == 200
    cookies = dict(first.cookies)
    assert first("DELETE", "session")[0] == 200
    second.cookies = cookies
    assert second("GET", "projects")[0] == 401


def test_wrong_passwords_are_counted_together(pair, application):
    """Eight in all, wherever they were tried."""
    statuses = []
    for n in range(10):
        person = object.__new__(Person)
        person.host, person.cookies = pair[n % 2].split("/")[2], {}
        person("GET", "session")
        statuses.append(person("POST", "session", {"name": "stranger", "password": f"guess {n}"})[0])
    assert statuses[:7] == [403] * 7
    assert statuses[8:] == [429] * 2


def test_a_file_sent_in_pieces_to_both_is_whole(pair, password):
    first = Person(pair[0], "warden", password)
    people = (first, at(first, pair[1]))
    body = (SERVER.parent / "docs" / "screenshots" / "comp.png").read_bytes()
    status, arrival = first("POST", "projects/1/arrivals", {})
    assert status == 201, arrival
    third = len(body) // 3 + 1
    for n in range(3):
        last = n == 2
        address = (
            f"/api/arrivals/{arrival['id']}/files?name={quote('pieces.png')}&offset={n * third}"
            f"&last={str(last).lower()}" + (f"&sha256={hashlib.sha256(body).hexdigest()}" if last else "")
        )
        status, answer = put(people[n % 2], address, body[n * third : (n + 1) * third])
        assert status == 200, answer
    # what does not match is found out, too
    status, answer = put(
        people[0], f"/api/arrivals/{arrival['id']}/files?name=bad.png&offset=0&last=false", body[:third]
    )
    address = f"/api/arrivals/{arrival['id']}/files?name=bad.png&offset={third}&last=true&sha256={'0' * 64}"
    assert put(people[1], address, body[third:])[1]["code"] == "broken-in-transit"


def put(person, address, body):
    line = http.client.HTTPConnection(person.host, timeout=60)
    headers = {
        "Content-Type": "application/octet-stream", "X-CSRFToken": person.cookies["csrftoken"],
        "Cookie": "; ".join(f"{k}={v}" for k, v in person.cookies.items()),
    }  # fmt: skip
    line.request("PUT", address, body, headers)
    answer = line.getresponse()
    return answer.status, json.loads(answer.read())


#: Stops for good in the middle of saying that workers are alive, one of whom was not heard of for a minute.
FROZEN = """
import time
import django
from django.db import connection, transaction
django.setup()
with connection.cursor() as cursor:
    cursor.execute("INSERT INTO procrastinate_workers (last_heartbeat) VALUES (now() - interval '1 minute')")
with transaction.atomic(), connection.cursor() as cursor:
    cursor.execute("UPDATE procrastinate_workers SET last_heartbeat = now()")
    print("frozen", flush=True)
    time.sleep(900)
"""


@contextmanager
def frozen_in_a_transaction(var, **settings):
    env = {**os.environ, "DJANGO_SETTINGS_MODULE": "config.settings", "NEATVEIL_VAR": str(var)}
    env |= {f"NEATVEIL_{k}": str(v) for k, v in settings.items()}
    held = subprocess.Popen(
        [sys.executable, "-c", FROZEN], cwd=SERVER, env=env, stdout=subprocess.PIPE, text=True
    )
    try:
        assert held.stdout.readline() == "frozen\n"
        yield
    finally:
        held.kill()
        held.wait()


def test_a_worker_on_another_machine_joins_and_leaves(application, installation, password, tmp_path):
    """It has the database and the media folder, and nothing else of the first machine, whose processes all
    froze, one of them with rows of the queue locked."""
    warden = Person(application.address, "warden", password)
    here = workers(application)
    var = tmp_path / "elsewhere"
    elsewhere = {**installation, "MEDIA": application.var / "media", "QUEUES": "deliveries", "CACHE_MB": 256}
    for pid in here:
        os.kill(pid, signal.SIGSTOP)
    try:
        with frozen_in_a_transaction(var, **installation), process(
            "worker", var, LOG=var / "log" / "worker.log", **elsewhere
        ) as worker:  # fmt: skip
            row = order(warden, "elsewhere")
            row = warden.wait_for_delivery(row["id"], 240)
            assert (row["job"]["state"], row["proof"]["frames_found"]) == ("done", FRAMES)
            # and leaves in the middle of the next one
            again = order(warden, "left")
            deadline = time.monotonic() + 120
            while warden("GET", f"deliveries/{again['id']}")[1]["job"]["written"] < 1:
                assert time.monotonic() < deadline, "nothing is written"
                time.sleep(0.05)
            worker.terminate()
            assert worker.wait(30) == 0
        lines = [json.loads(text) for text in (var / "log" / "worker.log").read_text().splitlines()]
        assert f"job {row['job']['id']}, delivery: done" in {line["message"] for line in lines}
        assert all(line["request"] for line in lines if line["message"].startswith("job "))
    finally:
        for pid in here:
            os.kill(pid, signal.SIGCONT)
    assert warden.wait_for_delivery(again["id"], 240)["job"]["state"] == "done"
    assert not (var / "media").exists()
