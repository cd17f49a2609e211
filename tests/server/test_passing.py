"""The line on which pictures come while something is dragged: what comes by HTTP, for the same people."""

import asyncio
import json
import re
from concurrent.futures import ThreadPoolExecutor

import pytest
from comps import passing
from comps.passing import PassingLine
from config import lines
from config.errors import NotSignedIn, NotThere
from projects.models import Member
from webclient import Web


def scope_of(web, **headers):
    cookies = "; ".join(f"{k}={v.value}" for k, v in web.client.cookies.items())
    told = {"host": "testserver", "origin": "http://testserver", "cookie": cookies, **headers}
    return {
        "type": "websocket", "path": "/api/comps/1/passing", "query_string": b"",
        "headers": [(k.encode(), v.encode()) for k, v in told.items()],
    }  # fmt: skip


def moved(document, x):
    layer = document["layers"][0]
    return {**layer, "transform": {"x": x}}


class Page:
    """A page with a line open to a comp."""

    def __init__(self, web, comp):
        self.line, self.count = PassingLine(scope_of(web), comp["id"]), 0

    def sent(self, message):
        data = self.line.answer(message)
        length = int.from_bytes(data[:4], "little")
        return json.loads(data[4 : 4 + length]), data[4 + length :]

    def draw(self, base=0, changed=(), document=None, **ask):
        self.count += 1
        asked = {"frame": 1, "quality": "fast", "passing": True, "document": document, **ask}
        message = {"number": self.count, "ask": asked, "base": base, "changed": list(changed)}
        head, jpeg = self.sent(json.dumps(message))
        assert head["number"] == self.count
        return head, jpeg


@pytest.fixture
def page(ada, comp):
    return Page(ada, comp)


def by_http(web, comp, document, **ask):
    asked = {"frame": 1, "quality": "fast", "passing": True, "document": document, **ask}
    answer = web("POST", f"comps/{comp['id']}/picture", asked)
    assert answer.status_code == 200, answer.content
    return answer


@pytest.mark.parametrize(
    "ask", [{}, {"level": 1}, {"region": [3, 5, 40, 30]}, {"layer": "a", "extent": "layer"}]
)
def test_a_picture_is_what_comes_by_http(page, ada, comp, ask):
    document = comp["document"]
    head, jpeg = page.draw(1, document=document, **ask)
    plain = by_http(ada, comp, document, **ask)
    assert jpeg == plain.content
    assert head["region"] == [int(x) for x in plain["X-Region"].split(",")]
    assert head["frame"] == [int(x) for x in plain["X-Frame-Size"].split(",")]
    for x in (5, 7.5, 400):
        _, jpeg = page.draw(1, [moved(document, x)], **ask)
        there = {**document, "layers": [moved(document, x)]}
        assert jpeg == by_http(ada, comp, there, **ask).content, x
    assert page.draw(1, **ask)[1] == plain.content, "back where it was"


def test_what_cannot_be_drawn_is_told_and_the_line_stays(page, comp):
    document = comp["document"]

    def code(**asked):
        return page.draw(**asked)[0]["problem"]["code"]

    assert code(base=1) == "document-refused", "nothing was sent yet"
    page.draw(1, document=document)
    assert code(base=2) == "document-refused", "of another document"
    assert code(base=1, changed=[{**moved(document, 1), "id": "b"}]) == "document-refused"
    circle = {"parts": [{"kind": "channel", "source": "layer:a", "channel": "alpha"}]}
    assert code(base=1, changed=[{**moved(document, 1), "matte": circle}]) == "document-refused"
    assert code(base=1, changed=[{"id": "a"}]) == "value-refused"
    assert code(base=1, row=1) == "value-refused"
    assert code(base=1, quality="exact") == "value-refused", "it answers in JPEG alone"
    assert code(base=1, level=99) == "value-refused"
    for message, expected in (
        ("{", "request-refused"),
        ("[1]", "value-refused"),
        (b"\xff", "request-refused"),
    ):
        head, jpeg = page.sent(message)
        assert (head["problem"]["code"], jpeg) == (expected, b"")
    gone = {**document, "layers": [*document["layers"], {"id": "g", "name": "gone", "element": "e999"}]}
    head, jpeg = page.draw(3, document=gone)
    assert [p["where"] for p in head["problems"]] == ["gone"]
    assert jpeg, "the rest is shown"


def test_what_the_comp_uses_and_who_asks_is_looked_up_again(page, ada, comp, disc, project, monkeypatch):
    document = comp["document"]
    before = page.draw(1, document=document)[1]
    ada("POST", "elements/reading", {"elements": [disc["id"]], "encoding": "linear"})
    monkeypatch.setattr(passing, "FRESH", 0.0)
    after = page.draw(1)[1]
    assert after != before
    assert after == by_http(ada, comp, document).content
    member = Member.objects.get(project=project, person__username="ada")
    member.delete()
    assert page.draw(1)[0]["problem"]["code"] == "not-there"
    member.save(force_insert=True)
    assert page.draw(1)[1] == after
    ada("DELETE", "session")
    head, _ = page.draw(1)
    assert (head["status"], head["problem"]["code"]) == (401, "not-signed-in")


def test_whoever_may_not_see_the_comp_gets_no_line(people, comp):
    with pytest.raises(NotThere):
        PassingLine(scope_of(Web("eve")), comp["id"])
    with pytest.raises(NotSignedIn):
        PassingLine(scope_of(Web()), comp["id"])


class Echo:
    def answer(self, message):
        return message.encode()


def connect(scope, messages, opens=lambda scope, number: Echo()):
    """What a server sends to a page that connects, sends these messages and leaves."""
    sent = []
    rows = [
        {"type": "websocket.connect"}, *({"type": "websocket.receive", "text": m} for m in messages),
        {"type": "websocket.disconnect", "code": 1001},
    ]  # fmt: skip

    async def receive():
        return rows.pop(0)

    async def send(message):
        sent.append(message)

    with ThreadPoolExecutor(1) as threads:
        known = {re.compile(r"/api/comps/([0-9]+)/passing"): opens}
        asyncio.run(lines.serve(scope, receive, send, threads, known))
    return sent


def test_only_our_own_page_is_let_in_and_those_that_the_settings_trust(people, settings):
    scope = scope_of(Web("ada"))
    opened, *answers = connect(scope, ["one", "two"])
    assert opened == {"type": "websocket.accept"}
    assert sorted(a["bytes"] for a in answers) == [b"one", b"two"]
    for refused in (
        scope_of(Web("ada"), origin="https://evil.example"), scope_of(Web("ada"), origin=""),
        scope_of(Web("ada"), host="evil.example", origin="http://evil.example"),
        {**scope, "path": "/api/other"},
    ):  # fmt: skip
        assert connect(refused, ["one"]) == [lines.REFUSED]
    nameless = scope_of(Web("ada"))
    nameless["headers"] = [row for row in nameless["headers"] if row[0] != b"origin"]
    assert connect(nameless, ["one"]) == [lines.REFUSED]
    settings.CSRF_TRUSTED_ORIGINS = ["https://desk.example"]
    trusted = scope_of(Web("ada"), origin="https://desk.example")
    assert len(connect(trusted, ["one"])) == 2


def test_whoever_is_refused_a_line_is_told_at_once(people):
    def opens(scope, number):
        raise NotThere("This comp is not there.")

    assert connect(scope_of(Web("ada")), [], opens) == [lines.REFUSED]
