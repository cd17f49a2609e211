"""The server's own handling of a request: how much is taken of whom, dropped lines, streams that end."""

import asyncio
import json
from concurrent.futures import ThreadPoolExecutor

import pytest
from config import asgi
from django.conf import settings as django_settings
from django.db import connections

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture(autouse=True)
def _one_thread(monkeypatch):
    """Requests in a thread whose connection can be closed before the test's database goes."""
    pool = ThreadPoolExecutor(1)
    monkeypatch.setattr(asgi.application, "threads", pool)
    yield
    pool.submit(connections.close_all).result()
    pool.shutdown()


class Line:
    """One request over a line: what is received comes from a list, what is sent is kept."""

    def __init__(self, method, path, pieces=(b"",), cookie="", headers=()):
        self.scope = {
            "type": "http", "method": method, "path": path, "raw_path": path.encode(), "query_string": b"",
            "headers": [(b"host", b"localhost"), (b"cookie", cookie.encode()), *headers], "scheme": "http",
            "server": ("localhost", 80), "client": ("127.0.0.1", 1), "http_version": "1.1", "root_path": "",
        }  # fmt: skip
        self.pieces = list(pieces)
        self.taken = 0
        self.sent = []
        self.gone = asyncio.Event()

    async def receive(self):
        if not self.pieces:
            await self.gone.wait()
            return {"type": "http.disconnect"}
        piece = self.pieces.pop(0)
        if piece is None:
            return {"type": "http.disconnect"}
        self.taken += len(piece)
        return {"type": "http.request", "body": piece, "more_body": bool(self.pieces)}

    async def send(self, message):
        self.sent.append(message)

    @property
    def status(self):
        return next(m["status"] for m in self.sent if m["type"] == "http.response.start")

    @property
    def body(self):
        return b"".join(m.get("body", b"") for m in self.sent if m["type"] == "http.response.body")


@pytest.fixture
def ask(tmp_path, settings):
    settings.FILE_UPLOAD_TEMP_DIR = str(tmp_path)

    def one(*arguments, **more):
        async def whole():
            line = Line(*arguments, **more)
            await asyncio.wait_for(asgi.application(line.scope, line.receive, line.send), 20)
            return line

        return asyncio.run(whole())

    return one


def cookie_of(web):
    return "; ".join(f"{k}={v.value}" for k, v in web.client.cookies.items())


def test_a_request_is_answered_with_its_id(ask):
    line = ask("GET", "/health/live")
    assert (line.status, json.loads(line.body)) == (200, {"live": True})
    assert b"x-request-id" in {k.lower() for k, _ in line.sent[0]["headers"]}


def test_a_stranger_is_refused_before_much_of_a_body_is_taken(ask):
    piece = b"x" * (256 << 10)
    line = ask("PUT", "/api/arrivals/1/files", pieces=[piece] * 400)
    assert (line.status, json.loads(line.body)["code"]) == (401, "not-signed-in")
    assert line.taken <= django_settings.LARGEST_UNSIGNED + len(piece)


def test_a_member_sends_more_and_no_more_than_is_stated(ask, ada, monkeypatch):
    monkeypatch.setattr(asgi, "LARGEST_OTHER", 2 << 20)
    piece = b"x" * (256 << 10)
    line = ask("POST", "/api/projects", pieces=[piece] * 40, cookie=cookie_of(ada))
    assert (line.status, json.loads(line.body)["code"]) == (413, "too-large")
    assert line.taken <= (2 << 20) + len(piece)


def test_a_forged_cookie_is_a_stranger(ask):
    piece = b"x" * (256 << 10)
    line = ask("POST", "/api/projects", pieces=[piece] * 40, cookie="sessionid=forged")
    assert line.status == 401


def test_a_line_that_drops_in_the_middle_of_a_body_leaves_nothing(ask, tmp_path):
    line = ask("POST", "/api/session", pieces=[b"{", None])
    assert line.sent == []
    assert list(tmp_path.iterdir()) == []


def test_only_http_and_websockets_are_served(ask):
    async def lifespan():
        await asgi.application({"type": "lifespan"}, None, None)

    with pytest.raises(ValueError, match="lifespan"):
        asyncio.run(lifespan())


def test_a_stream_of_events_tells_what_changed_and_ends_with_its_line(ada, project):
    """Announced in one process, passed on to every browser of the project, and to no other."""
    from config.events import _hub, announce

    def tell(*what):
        announce(*what)
        connections.close_all()

    async def both():
        line = Line("GET", f"/api/projects/{project.pk}/events", cookie=cookie_of(ada))
        running = asyncio.create_task(asgi.application(line.scope, line.receive, line.send))
        for _ in range(200):
            if b'"everything"' in line.body:
                break
            await asyncio.sleep(0.05)
        await asyncio.to_thread(tell, project.pk, "comps", 7)
        await asyncio.to_thread(tell, project.pk + 1, "comps", 8)
        for _ in range(200):
            if b'"id": 7' in line.body:
                break
            await asyncio.sleep(0.05)
        await asyncio.sleep(0.2)
        line.gone.set()
        await asyncio.wait_for(running, 20)
        left = len(_hub.listeners)
        if _hub.task is not None:
            _hub.task.cancel()
        return line, left

    line, left = asyncio.run(both())
    assert line.status == 200
    assert b'"kind": "comps", "id": 7' in line.body
    assert b'"id": 8' not in line.body
    assert left == 0


def test_events_are_for_members(ask, people):
    from webclient import Web

    assert ask("GET", "/api/projects/1/events").status == 401
    assert ask("GET", "/api/projects/1/events", cookie=cookie_of(Web("eve"))).status == 404
