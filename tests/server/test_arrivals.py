"""Bringing in what is large or many: broken off, gone on with, checked, with its folders."""

import hashlib

import pytest
from core.pictures import save_png, soft_disc
from elements.actions.finish_arrival import FEW
from elements.models import Arrival, Element
from procrastinate.contrib.django.models import ProcrastinateJob
from webclient import Web


@pytest.fixture
def arrival(ada, project):
    body = {"files": [{"name": "shot/a.png", "bytes": 10}]}
    return ada("POST", f"projects/{project.pk}/arrivals", body).json()


def test_a_file_goes_on_where_it_broke_off_and_is_whole(ada, project, arrival, png):
    data, number = png(), arrival["id"]
    third = len(data) // 3
    first = ada.put_file(number, "shot/a.png", data[:third], last="false")
    assert first.json()["bytes"] == third
    # the page was closed; another one asks what is there
    (seen,) = ada("GET", f"projects/{project.pk}/arrivals").json()
    assert seen["files"] == [{"name": "shot/a.png", "bytes": third, "whole": False}]
    digest = hashlib.sha256(data).hexdigest()
    rest = ada.put_file(number, "shot/a.png", data[third:], offset=third, sha256=digest)
    assert rest.status_code == 200, rest.content
    (row,) = ada("POST", f"arrivals/{number}/finish").json()
    assert (row["name"], row["folder"]) == ("a.png", "shot")
    assert Element.objects.get(pk=row["id"]).place.read_bytes() == data
    assert ada("GET", f"projects/{project.pk}/arrivals").json() == []


def test_the_same_files_take_up_what_this_person_left(ada, project, arrival):
    def begun(person, *files):
        body = {"files": [{"name": n, "bytes": b} for n, b in files]}
        return person("POST", f"projects/{project.pk}/arrivals", body).json()["id"]

    ours = arrival["id"]
    assert begun(ada, ("shot/a.png", 10)) == ours
    assert begun(ada, ("shot/a.png", 11)) != ours
    assert begun(ada, ("a.png", 10)) != ours
    assert begun(ada, ("shot/a.png", 10), ("shot/b.png", 3)) != ours
    assert begun(Web("ben"), ("shot/a.png", 10)) != ours
    assert begun(ada) != begun(ada)


def test_whoever_drops_a_few_files_gets_their_facts_with_the_answer(ada, project, arrival, png):
    ada.put_file(arrival["id"], "a.png", png())
    ada.put_file(arrival["id"], "torn.png", png()[:60])
    fine, torn = ada("POST", f"arrivals/{arrival['id']}/finish").json()
    assert (fine["state"], fine["facts"]["format"], torn["state"]) == ("ready", "PNG", "refused")
    assert "torn.png" in torn["problem"]["message"]
    tasks = [job.task_name for job in ProcrastinateJob.objects.order_by("id")]
    assert tasks == ["elements.tasks.look_closer_at_element"]
    many = ada("POST", f"projects/{project.pk}/arrivals").json()["id"]
    for n in range(FEW + 1):
        ada.put_file(many, f"still_{'abcdef'[n]}.png", png(n))
    assert {e["state"] for e in ada("POST", f"arrivals/{many}/finish").json()} == {"arriving"}


def test_a_byte_changed_on_the_way_is_noticed_and_the_file_is_not_kept(ada, arrival, png):
    data = png()
    answer = ada.put_file(arrival["id"], "a.png", data, sha256=hashlib.sha256(data + b"x").hexdigest())
    assert (answer.status_code, answer.json()["code"]) == (422, "broken-in-transit") or (
        answer.json()["code"] == "broken-in-transit"
    )
    assert ada("GET", f"arrivals/{arrival['id']}").json()["files"] == []


def test_the_hash_is_found_also_when_the_server_forgot_the_first_pieces(ada, arrival, png, monkeypatch):
    from elements.actions import receive_file

    data = png()
    ada.put_file(arrival["id"], "a.png", data[:50], last="false")
    monkeypatch.setattr(receive_file, "_running", receive_file._Running())
    wrong = ada.put_file(arrival["id"], "a.png", data[50:], offset=50, sha256="0" * 64)
    assert wrong.json()["code"] == "broken-in-transit"
    ada.put_file(arrival["id"], "a.png", data[:50], last="false")
    monkeypatch.setattr(receive_file, "_running", receive_file._Running())
    digest = hashlib.sha256(data).hexdigest()
    assert ada.put_file(arrival["id"], "a.png", data[50:], offset=50, sha256=digest).status_code == 200


def test_a_piece_that_leaves_a_hole_and_a_name_that_came_already(ada, arrival, png):
    hole = ada.put_file(arrival["id"], "a.png", b"xx", offset=7)
    assert (hole.status_code, "0 are there" in hole.json()["message"]) == (409, True)
    assert ada.put_file(arrival["id"], "a.png", png()).status_code == 200
    again = ada.put_file(arrival["id"], "a.png", png())
    assert (again.status_code, "arrived already" in again.json()["message"]) == (409, True)


def test_a_piece_sent_twice_after_a_lost_answer_does_no_harm(ada, arrival, png):
    data = png()
    for _ in range(2):
        ada.put_file(arrival["id"], "a.png", data[:40], last="false")
    digest = hashlib.sha256(data).hexdigest()
    assert ada.put_file(arrival["id"], "a.png", data[40:], offset=40, sha256=digest).status_code == 200


def test_a_folder_dropped_whole_keeps_its_folders_apart(ada, project, tmp_path):
    def frame(colour):
        return save_png(tmp_path / "f.png", soft_disc(colour=colour)).read_bytes()

    files = {f"marsh/{side}/kite.{n:04d}.png": frame((n / 9, 0, 0)) for side in "ab" for n in (1, 2)}
    rows = ada.bring(project.pk, {**files, "marsh/notes.png": frame((1, 1, 1))})
    found = {(r["folder"], r["name"]) for r in rows}
    assert found == {("marsh/a", "kite.####.png"), ("marsh/b", "kite.####.png"), ("marsh", "notes.png")}


def test_giving_up_leaves_nothing(ada, project, arrival, png):
    from elements.actions.receive_file import folder_of

    ada.put_file(arrival["id"], "a.png", png())
    folder = folder_of(Arrival.objects.get(pk=arrival["id"]))
    assert ada("DELETE", f"arrivals/{arrival['id']}").status_code == 204
    assert not folder.exists()
    assert ada("GET", f"projects/{project.pk}/arrivals").json() == []
