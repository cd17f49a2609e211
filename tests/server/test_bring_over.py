"""Elements of one project used in another."""

import pytest
from elements.models import ColourConfiguration, Element, Library
from projects.models import Member, Project


@pytest.fixture
def other(people, project):
    row = Project.objects.create(name="Another film")
    Member.objects.create(project=row, person=people["ada"])
    return row


def brought(ada, other, *elements):
    return ada("POST", f"projects/{other.pk}/elements/bring-over", {"elements": [e["id"] for e in elements]})


def test_the_same_files_read_in_the_same_way(ada, project, other, disc):
    ada("POST", "elements/reading", {"elements": [disc["id"]], "encoding": "linear"})
    (row,) = brought(ada, other, disc).json()
    (there,) = ada("GET", f"projects/{other.pk}/elements").json()
    assert row == {"element": disc["id"], "key": there["key"]}
    assert there["key"] != disc["key"]
    assert (there["name"], there["encoding"], there["rate"]) == (disc["name"], "linear", "25")
    shown = {"frame": 2, "level": 0}
    pictures = [ada("POST", f"elements/{e['id']}/picture", shown).content for e in (disc, there)]
    assert pictures[0] == pictures[1]


def test_once_is_enough(ada, other, disc):
    first, second = (brought(ada, other, disc).json() for _ in range(2))
    assert first == second
    assert Element.objects.filter(project=other).count() == 1


def test_its_files_stay_until_both_projects_are_done_with_them(ada, other, disc):
    (row,) = brought(ada, other, disc).json()
    assert ada("DELETE", f"elements/{disc['id']}").status_code == 204
    number = int(row["key"][1:])
    assert ada("POST", f"elements/{number}/picture", {"frame": 1, "level": 0}).status_code == 200


def test_what_it_carries_comes_along(ada, other, project, disc, png):
    mask = ada.bring(project.pk, {"mask.png": png(9)})[0]
    assert ada("POST", f"elements/{disc['id']}/parts", {"source": mask["id"], "name": "A"}).status_code == 200
    rows = {r["element"]: r["key"] for r in brought(ada, other, disc).json()}
    assert set(rows) == {disc["id"], mask["id"]}
    there = Element.objects.get(pk=int(rows[disc["id"]][1:]))
    assert [f"e{p['element']}" for p in there.parts] == [rows[mask["id"]]]


def test_neither_project_may_be_a_strangers(ada, people, other, disc, project):
    hidden = Project.objects.create(name="Not hers")
    assert brought(ada, hidden, disc).status_code == 404
    Member.objects.filter(project=project, person=people["ada"]).delete()
    assert brought(ada, other, disc).status_code == 404
    assert not Element.objects.filter(project=other).exists()


def test_what_the_other_project_has_not_is_named(ada, other, project, disc):
    own = ColourConfiguration.objects.create(project=project, key="c0ffee", name="marsh.ocio")
    Element.objects.filter(pk=disc["id"]).update(encoding=f"{own.key}/marsh log")
    answer = brought(ada, other, disc)
    assert answer.status_code == 409
    assert "marsh.ocio" in answer.json()["message"]
    assert "Another film" in answer.json()["message"]
    library = Library.objects.create(project=project, name="disk", path="/nowhere/disk")
    Element.objects.filter(pk=disc["id"]).update(encoding="srgb", library=library)
    assert "the folder disk" in brought(ada, other, disc).json()["message"]
    assert not Element.objects.filter(project=other).exists()
