"""Folders on disk: registered where they lie, watched, never written to."""

import os
import shutil

import numpy as np
import pytest
from core.pictures import save_png, soft_disc
from elements.actions.library import watch_all
from webclient import run_jobs


@pytest.fixture
def shelf(tmp_path, settings):
    """A folder that may be registered, with a sequence and a still."""
    root = tmp_path / "shelf"
    for n in (1, 2):
        save_png(root / "marsh" / f"kite.{n:04d}.png", soft_disc())
    save_png(root / "marsh" / "deep" / "sky.png", soft_disc())
    settings.LIBRARY_ROOTS = [root]
    return root / "marsh"


@pytest.fixture
def library(ada, project, shelf):
    answer = ada("POST", f"projects/{project.pk}/libraries", {"path": str(shelf)})
    assert answer.status_code == 201, answer.content
    run_jobs()
    return answer.json()


def elements(web, project):
    return {e["name"]: e for e in web("GET", f"projects/{project.pk}/elements").json()}


def look(shelf):
    watch_all()
    run_jobs()


def listing(folder):
    return sorted((str(p), p.stat().st_mtime_ns) for p in [folder, *folder.rglob("*")])


def test_a_folder_is_registered_without_copying_and_left_as_it_is(ada, project, library, shelf, settings):
    before = listing(shelf)
    rows = elements(ada, project)
    assert set(rows) == {"kite.####.png", "sky.png"}
    assert rows["sky.png"]["folder"] == "marsh/deep"
    assert rows["kite.####.png"]["facts"]["count"] == 2
    assert ada("POST", f"elements/{rows['sky.png']['id']}/picture", {"frame": 0}).status_code == 200
    assert not any(settings.MEDIA.rglob("*.png"))
    for row in rows.values():
        assert ada("DELETE", f"elements/{row['id']}").status_code == 204
    assert listing(shelf) == before


def test_new_frames_and_new_files_are_found(ada, project, library, shelf):
    save_png(shelf / "kite.0003.png", soft_disc())
    save_png(shelf / "new.png", soft_disc())
    look(shelf)
    rows = elements(ada, project)
    assert rows["kite.####.png"]["facts"]["last"] == 3
    assert not rows["kite.####.png"]["replaced"]
    assert rows["new.png"]["state"] == "ready"


def test_a_file_replaced_under_its_name_waits_for_a_yes(ada, project, library, shelf):
    row = elements(ada, project)["sky.png"]
    save_png(shelf / "deep" / "sky.png", soft_disc(20, 30))
    os.utime(shelf / "deep" / "sky.png", ns=(1, 10**18))
    look(shelf)
    assert elements(ada, project)["sky.png"]["replaced"]
    answer = ada("POST", f"elements/{row['id']}/picture", {"frame": 0})
    assert answer.json()["code"] == "element-replaced"
    assert "sky.png" in answer.json()["message"]
    assert ada("POST", f"elements/{row['id']}/accept").status_code == 200
    run_jobs()
    now = elements(ada, project)["sky.png"]
    assert (now["replaced"], now["facts"]["width"]) == (False, 30)
    assert ada("POST", f"elements/{row['id']}/picture", {"frame": 0}).status_code == 200


def test_a_folder_that_vanishes_is_said_and_comes_back(ada, project, library, shelf, tmp_path):
    row = elements(ada, project)["sky.png"]
    shutil.move(shelf, tmp_path / "away")
    look(shelf)
    (seen,) = ada("GET", f"projects/{project.pk}/libraries").json()
    assert not seen["there"]
    answer = ada("POST", f"elements/{row['id']}/picture", {"frame": 0, "level": 1})
    assert answer.json()["code"] == "file-missing"
    assert "sky.png" in answer.json()["message"]
    shutil.move(tmp_path / "away", shelf)
    look(shelf)
    assert ada("GET", f"projects/{project.pk}/libraries").json()[0]["there"]
    assert ada("POST", f"elements/{row['id']}/picture", {"frame": 0}).status_code == 200


def test_a_first_frame_becomes_its_sequence_and_its_uses_follow(ada, project, library, shelf):
    save_png(shelf / "reeds.0007.png", soft_disc())
    look(shelf)
    still = elements(ada, project)["reeds.0007.png"]
    save_png(shelf / "reeds.0008.png", soft_disc())
    look(shelf)
    rows = elements(ada, project)
    assert rows["reeds.####.png"]["id"] == still["id"]
    assert "reeds.0007.png" not in rows


def test_nothing_outside_the_roots_can_be_looked_at(ada, project, shelf, tmp_path):
    (tmp_path / "private").mkdir()
    (shelf.parent / "way-out").symlink_to(tmp_path / "private")
    for path in (
        "/",
        "/etc",
        str(tmp_path / "private"),
        str(shelf.parent / "way-out"),
        f"{shelf}/../../private",
    ):
        answer = ada("POST", f"projects/{project.pk}/libraries", {"path": path})
        assert answer.status_code == 422, path
        assert ada("GET", f"projects/{project.pk}/folders?inside={path}").status_code == 422
    names = [f["name"] for f in ada("GET", f"projects/{project.pk}/folders?inside={shelf}").json()]
    assert names == ["deep"]


def test_a_link_that_leads_out_is_passed_over_and_one_that_stays_is_followed(
    ada, project, library, shelf, tmp_path
):
    save_png(tmp_path / "private" / "secret.png", soft_disc())
    (shelf / "out.png").symlink_to(tmp_path / "private" / "secret.png")
    (shelf / "in.png").symlink_to(shelf / "deep" / "sky.png")
    look(shelf)
    rows = elements(ada, project)
    assert "in.png" in rows
    assert "out.png" not in rows


def test_two_libraries_cannot_claim_one_file(ada, project, library, shelf):
    for path in (shelf, shelf / "deep", shelf.parent):
        answer = ada("POST", f"projects/{project.pk}/libraries", {"path": str(path)})
        assert (answer.status_code, answer.json()["code"]) == (409, "conflict")


def test_forgetting_a_library_leaves_its_files_and_refuses_while_used(ada, project, library, shelf):
    row = elements(ada, project)["sky.png"]
    layers = [{"id": "a", "name": "sky", "element": row["key"]}]
    comp = ada("POST", f"projects/{project.pk}/comps", {"name": "dusk", "layers": layers}).json()
    refused = ada("DELETE", f"libraries/{library['id']}")
    assert (refused.status_code, "dusk" in refused.json()["message"]) == (409, True)
    ada("DELETE", f"comps/{comp['id']}")
    assert ada("DELETE", f"libraries/{library['id']}").status_code == 204
    assert elements(ada, project) == {}
    assert np.all([p.exists() for p in (shelf / "kite.0001.png", shelf / "deep" / "sky.png")])


def test_one_bad_entry_is_passed_over_and_said_and_everything_else_is_found(
    ada, project, library, shelf, tmp_path
):
    """A link to itself, a name that is not UTF-8, a path beyond the limit; and another library beside it."""
    other = tmp_path / "shelf" / "other"
    save_png(other / "gull.png", soft_disc())
    ada("POST", f"projects/{project.pk}/libraries", {"path": str(other)})
    (shelf / "loop.png").symlink_to(shelf / "loop.png")
    (shelf / "nowhere.png").symlink_to(tmp_path / "gone.png")
    with open(os.fsencode(shelf) + b"/bad\xff.png", "wb") as file:
        file.write(b"x")
    deep = shelf
    for _ in range(4):
        deep = deep / ("d" * 200)
    save_png(deep / "far.png", soft_disc())
    save_png(shelf / "late.png", soft_disc())
    save_png(other / "later.png", soft_disc())
    look(shelf)
    rows = elements(ada, project)
    assert {"late.png", "later.png"} <= set(rows)
    assert not {"loop.png", "far.png"} & set(rows)
    said = {r["name"]: r["passed_over"] for r in ada("GET", f"projects/{project.pk}/libraries").json()}
    words = " ".join(said["marsh"])
    assert "not valid text" in words
    assert "too long" in words
    assert said["other"] == []


def test_a_library_that_breaks_the_looking_keeps_no_other_waiting(
    ada, project, library, shelf, tmp_path, monkeypatch
):
    from elements.actions import library as acting

    other = tmp_path / "shelf" / "other"
    save_png(other / "gull.png", soft_disc())
    ada("POST", f"projects/{project.pk}/libraries", {"path": str(other)})
    save_png(other / "later.png", soft_disc())
    real = acting._files

    def broken(root, passed):
        if root == shelf:
            raise RuntimeError("a mistake of ours")
        return real(root, passed)

    monkeypatch.setattr(acting, "_files", broken)
    look(shelf)
    assert "later.png" in elements(ada, project)
    said = {r["name"]: r["passed_over"] for r in ada("GET", f"projects/{project.pk}/libraries").json()}
    assert "RuntimeError" in said["marsh"][0]


def test_registering_that_fails_leaves_no_row(ada, project, shelf, monkeypatch):
    from elements.actions import library as acting
    from elements.models import Library

    monkeypatch.setattr(acting, "grouped", lambda names: 1 / 0)
    answer = ada("POST", f"projects/{project.pk}/libraries", {"path": str(shelf)})
    assert answer.status_code == 500
    assert not Library.objects.exists()


def test_many_bad_entries_are_said_once_and_not_at_every_look(ada, library, shelf, monkeypatch):
    """A library is looked through every few seconds: pages are told only where something changed."""
    from elements.actions import library as acting

    for n in range(acting.SHOWN + 5):
        with open(os.fsencode(shelf) + b"/bad%d\xff.png" % n, "wb") as file:
            file.write(b"x")
    told = []
    monkeypatch.setattr(acting, "announce", lambda *what: told.append(what))
    look(shelf)
    assert told
    told.clear()
    look(shelf)
    assert told == []
