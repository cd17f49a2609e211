"""A project's own font files: brought in, texts set in them, kept while they are used, given to another."""

import threading
import time

import pytest
from core.drawn.made_fonts import HEBREW, save_font
from django.db import connection
from elements.actions.fonts import folder
from elements.actions.kept_by_key import nobody_else
from elements.models import FontFile
from projects.models import Project
from server.test_comp_looks import problems
from webclient import Web


@pytest.fixture
def own(ada, project, tmp_path):
    answer = ada.put_bytes(
        f"projects/{project.pk}/fonts?name=marsh.ttf", save_font(tmp_path / "m.ttf").read_bytes()
    )
    assert answer.status_code == 200, answer.content
    return answer.json()


def text_layer(font, text="沼地"):
    made = {"kind": "text", "text": text, "size": 20, "font": font}
    return {"id": "t", "name": "Caption", "kind": "made", "made": made}


def comp_with(ada, project, *layers):
    made = ada("POST", f"projects/{project.pk}/comps", {"name": "Dusk", "width": 64, "height": 32}).json()
    saved = ada(
        "PUT", f"comps/{made['id']}",
        {"document": {**made["document"], "layers": list(layers)}, "base": made["revision"], "what": "text"},
    )  # fmt: skip
    return made["id"], saved


def test_it_is_listed_to_members_with_what_is_in_it(ada, project, own):
    (font,) = own["fonts"]
    assert (own["name"], font["title"], font["lightest"], own["problem"]) == (
        "marsh.ttf", "Marsh Display Regular", 0, "",
    )  # fmt: skip
    assert Web("ben")("GET", f"projects/{project.pk}/fonts").json() == [own]
    other = ada("POST", "projects", {"name": "another"}).json()["id"]
    assert ada("GET", f"projects/{other}/fonts").json() == []


def test_the_same_again_is_the_one_that_is_there(ada, project, own, tmp_path):
    again = ada.put_bytes(f"projects/{project.pk}/fonts?name=copy.ttf", (tmp_path / "m.ttf").read_bytes())
    assert again.json() == own
    assert [p.name for p in folder().iterdir()] == [f"{own['key']}.ttf"]


def test_a_text_is_set_in_it_and_keeps_it(ada, project, own):
    number, saved = comp_with(ada, project, text_layer(own["key"]))
    assert saved.status_code == 200, saved.content
    seen = ada("POST", f"comps/{number}/values", {"frame": 1, "x": 26, "y": 18})
    assert seen.status_code == 200, seen.content
    assert seen.json()["result"][3] == pytest.approx(1, abs=1e-3)
    refused = ada("DELETE", f"projects/{project.pk}/fonts/{own['key']}")
    assert (refused.status_code, refused.json()["message"]) == (409, "marsh.ttf is in use by Dusk.")
    ada("DELETE", f"comps/{number}")
    refused = ada("DELETE", f"projects/{project.pk}/fonts/{own['key']}")
    assert refused.json()["message"] == "marsh.ttf is in use by Dusk (a deleted comp)."


def test_what_no_text_is_set_in_is_taken_out(ada, project, own):
    assert ada("DELETE", f"projects/{project.pk}/fonts/{own['key']}").status_code == 204
    assert not list(folder().iterdir())
    assert ada("DELETE", f"projects/{project.pk}/fonts/{own['key']}").status_code == 404


def test_another_project_is_given_it(ada, project, own):
    other = ada("POST", "projects", {"name": "another"}).json()["id"]
    given = ada(
        "POST", f"projects/{other}/fonts/bring-over", {"project": project.pk, "fonts": [own["key"], "own-0"]}
    )
    assert given.status_code == 204
    assert ada("GET", f"projects/{other}/fonts").json() == [own]
    assert ada("DELETE", f"projects/{project.pk}/fonts/{own['key']}").status_code == 204
    assert list(folder().iterdir()), "the other one still has it"


def test_a_font_that_is_gone_is_named_with_its_layer_and_the_rest_shows(ada, project, own):
    solid = {"id": "s", "name": "Card", "kind": "made", "made": {"kind": "solid", "colour": [0.5, 0.5, 0.5]}}
    # a text that no other test has drawn: what this process keeps is drawn without its font file
    number, _ = comp_with(ada, project, solid, text_layer(own["key"], "Mar"))
    (folder() / f"{own['key']}.ttf").unlink()
    assert own["key"] in ada("GET", f"projects/{project.pk}/fonts").json()[0]["problem"]
    (problem,) = problems(ada("POST", f"comps/{number}/picture", {"frame": 1}))
    assert (problem["code"], "Caption" in problem["message"] + problem["where"]) == ("font-missing", True)
    seen = ada("POST", f"comps/{number}/values", {"frame": 1, "x": 4, "y": 4}).json()
    assert seen["result"] == pytest.approx([0.5, 0.5, 0.5, 1], abs=1e-3)
    assert FontFile.objects.count() == 1


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("marsh.woff2", b"wOF2", "no font file"),
        ("marsh.ttf", b"x", "no OpenType font"),
        ("marsh.ttf", HEBREW.read_bytes()[:400], "no font that text"),
        ("..", b"x", "cannot be a file's name"),
    ],
)
def test_what_is_none_is_refused_and_leaves_nothing(ada, project, name, data, said):
    answer = ada.put_bytes(f"projects/{project.pk}/fonts?name={name}", data)
    assert (answer.status_code, said in answer.json()["message"]) == (422, True), answer.content
    assert not FontFile.objects.exists()
    assert not folder().exists() or not list(folder().iterdir())


def test_one_that_is_too_large_is_refused(ada, project, monkeypatch):
    monkeypatch.setattr("neatveil.drawn.font_files.MOST_BYTES", 1000)
    answer = ada.put_bytes(f"projects/{project.pk}/fonts?name=m.ttf", HEBREW.read_bytes())
    assert (answer.status_code, answer.json()["code"]) == (422, "value-refused")


@pytest.mark.django_db(transaction=True)
def test_a_file_that_another_project_adds_meanwhile_is_not_lost(ada, people, project, own):
    other = Project.objects.create(name="another")
    begun = threading.Event()

    def add():
        with nobody_else(own["key"]):
            begun.set()
            time.sleep(0.4)  # the row is not written yet
            FontFile.objects.create(
                project=other, key=own["key"], name="m.ttf", person=people["ada"], fonts=[]
            )
        connection.close()

    adding = threading.Thread(target=add)
    adding.start()
    begun.wait()
    assert ada("DELETE", f"projects/{project.pk}/fonts/{own['key']}").status_code == 204
    adding.join()
    assert [p.name for p in folder().iterdir()] == [f"{own['key']}.ttf"]
