"""Who asks, from where, how much: limits that hold before anything is done."""

import asyncio

import pytest
from config.asgi import OneHopHandler
from django.core.management import CommandError, call_command
from django.test import Client
from elements.actions.receive_file import partial_path, safe_name
from elements.models import Element
from people.models import Person
from webclient import PASSWORD, Web


def tries(web, count, **headers):
    return [
        web("POST", "session", {"name": "ada", "password": f"wrong {i}"}, **headers).status_code
        for i in range(count)
    ]


def test_a_header_that_anybody_can_write_does_not_turn_throttling_off(people):
    web = Web()
    answers = [tries(web, 1, **{"X-Forwarded-For": f"10.0.0.{i}"})[0] for i in range(12)]
    assert 429 in answers
    right = web("POST", "session", {"name": "ada", "password": PASSWORD}, **{"X-Forwarded-For": "10.9.9.9"})
    assert right.status_code == 429, "it is the line that counts"


def test_behind_a_proxy_of_ours_its_word_counts_and_no_other(people, settings):
    settings.PROXIES = 1
    web = Web()
    # what stands before the proxy's own entry is anybody's word
    answers = [tries(web, 1, **{"X-Forwarded-For": f"10.0.0.{i}, 192.0.2.7"})[0] for i in range(12)]
    assert 429 in answers
    other = web("POST", "session", {"name": "ada", "password": PASSWORD}, **{"X-Forwarded-For": "192.0.2.8"})
    assert other.status_code == 200


def test_a_host_that_the_settings_do_not_name_is_refused(people):
    answer = Client().get("/api/session", headers={"Host": "evil.example"})
    assert (answer.status_code, answer.json()["code"]) == (400, "host-refused")


def test_a_document_of_several_megabytes_is_taken_and_one_beyond_the_limit_is_refused(ada, comp, settings):
    layer = comp["document"]["layers"][0]
    stroke = {"points": [0.123456789] * 4000}
    paint = {"kind": "paint", "strokes": [stroke] * 60}
    document = {**comp["document"], "layers": [{**layer, "matte": {"parts": [paint]}}]}
    answer = ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": document})
    assert answer.status_code == 200, answer.content[:300]
    settings.DATA_UPLOAD_MAX_MEMORY_SIZE = 1 << 20
    answer = ada("PUT", f"comps/{comp['id']}", {"base": 2, "document": document})
    assert (answer.status_code, answer.json()["code"]) == (413, "too-large")


def test_passwords_must_keep_to_the_rules(db):
    for weak in ("short", "password123"):
        with pytest.raises(CommandError):
            call_command("add_person", "kit", "--password", weak)
    assert not Person.objects.filter(username="kit").exists()
    call_command("add_person", "kit", "--password", PASSWORD)
    assert Person.objects.filter(username="kit").exists()


def test_long_names_that_begin_alike_have_hidden_names_of_their_own(tmp_path):
    names = [("k" * 215) + f"{i}.png" for i in range(3)]
    parts = {partial_path(tmp_path / safe_name(n)) for n in names}
    assert len(parts) == 3
    for part in parts:
        part.write_bytes(b"")  # short enough for the disk


@pytest.mark.parametrize(
    "name", ["kite\r\n.png", "kite\u202egnp.png", "\u2066kite\u2069.png", "kite\x1b.png"]
)
def test_names_are_one_line_in_one_direction(name, ada):
    assert safe_name(name).isprintable()
    made = ada("POST", "projects", {"name": name}).json()
    assert made["name"].isprintable()


def test_pictures_of_more_pixels_than_an_8k_frame_are_asked_for_in_parts(ada, comp):
    document = {**comp["document"], "width": 16384, "height": 16384}
    ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": document})
    answer = ada("POST", f"comps/{comp['id']}/picture", {"frame": 1})
    assert answer.status_code == 422
    assert "region" in answer.json()["advice"]
    part = ada("POST", f"comps/{comp['id']}/picture", {"frame": 1, "region": [8000, 8000, 8400, 8300]})
    assert part.status_code == 200


def test_a_comp_is_made_of_elements_of_its_own_project_only(ada, comp):
    other = ada("POST", "projects", {"name": "other"}).json()
    answer = ada("POST", f"projects/{other['id']}/comps", comp["document"])
    assert (answer.status_code, answer.json()["code"]) == (422, "document-refused")


def test_many_elements_are_listed_and_read_otherwise_in_few_questions(
    ada, project, disc, django_assert_max_num_queries
):
    """However many there are: neither the list nor a reading for all of them asks once an element."""
    first = Element.objects.get(pk=disc["id"])
    rows = [
        Element(
            project=project,
            name=f"e{i}",
            file=first.file,
            state=first.state,
            facts=first.facts,
            reading=first.reading,
        )
        for i in range(60)
    ]
    Element.objects.bulk_create(rows)
    with django_assert_max_num_queries(12):
        listed = ada("GET", f"projects/{project.pk}/elements").json()
    assert len(listed) == 61
    numbers = [e["id"] for e in listed]
    with django_assert_max_num_queries(20):
        answer = ada("POST", "elements/reading", {"elements": numbers, "reading": {"alpha": "none"}})
    assert [e["reading"]["alpha"] for e in answer.json()] == ["none"] * 61
    assert all(e["changes"] >= 1 for e in answer.json())
    foreign = ada("POST", "elements/reading", {"elements": [*numbers, 999999], "reading": {"alpha": "none"}})
    assert foreign.status_code == 404


@pytest.mark.parametrize("method", ["POST", "PUT"])
def test_the_body_of_nobody_is_read_no_further_than_a_megabyte(method):
    """The web process answers while the rest is still to come: nothing of it is kept on disk."""
    pieces = [{"type": "http.request", "body": b"0" * (256 << 10), "more_body": True} for _ in range(64)]
    left, sent = iter(pieces), []

    async def receive():
        return next(left)

    async def send(message):
        sent.append(message)

    scope = {
        "type": "http", "method": method, "path": "/api/projects/1/elements", "root_path": "",
        "raw_path": b"", "query_string": b"", "headers": [(b"host", b"127.0.0.1")],
        "server": ("127.0.0.1", 80),
    }  # fmt: skip
    asyncio.run(OneHopHandler()(scope, receive, send))
    assert sent[0]["status"] == 401
    assert b"signed" in b"".join(m.get("body", b"") for m in sent)
    assert len(list(left)) > 56


def test_an_error_outside_the_api_is_answered_in_its_form(client, monkeypatch, settings):
    """Such as by a session that cannot be read while the database is away."""
    from django.contrib.sessions.backends.db import SessionStore
    from django.db import OperationalError

    client.raise_request_exception = False

    def away(self):
        raise OperationalError("connection refused")

    monkeypatch.setattr(SessionStore, "load", away)
    client.cookies[settings.SESSION_COOKIE_NAME] = "some-session"
    for path in ("/api/session", "/api/projects"):
        answer = client.get(path)
        assert (answer.status_code, answer.json()["code"]) == (503, "database-away")

    def broken(self):
        raise RuntimeError("ours")

    monkeypatch.setattr(SessionStore, "load", broken)
    answer = client.get("/api/session")
    assert (answer.status_code, answer.json()["code"]) == (500, "unforeseen")
