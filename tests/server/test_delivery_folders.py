"""Deliveries into folders of the server: only those that are registered, each project in one of its own."""

import pytest
from deliveries.actions import write_piece as writing
from deliveries.models import Delivery
from projects.models import Project
from server.test_deliveries import order, ordered
from server.test_orders import check
from webclient import run_jobs


@pytest.fixture
def out(settings, tmp_path):
    """The only folder that deliveries may go to."""
    folder = tmp_path / "out"
    folder.mkdir()
    settings.DELIVERY_FOLDERS = [folder]
    return folder


def test_it_is_written_proved_and_fetched_there(ada, comp, out):
    assert ada("GET", "delivery-folders").json() == [{"path": str(out), "there": True}]
    row = ordered(ada, comp, server=str(out), folder="{comp}/{version}")
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    assert (row["job"]["state"], row["good"], row["proof"]["frames_found"]) == ("done", True, 3)
    folder = next(out.iterdir())
    assert (
        folder.name
        == f"{''.join(c if c.isalnum() else '_' for c in comp_project(comp).name)}_{comp['project']}"
    )
    assert row["path"] == str(folder / row["folder"])
    assert sorted(p.name for p in (folder / row["folder"]).glob("*.png")) == [
        "dusk.0001.png", "dusk.0002.png", "dusk.0003.png",
    ]  # fmt: skip
    data = b"".join(ada("GET", f"deliveries/{row['id']}/files/dusk.0002.png").streaming_content)
    assert data == (folder / row["folder"] / "dusk.0002.png").read_bytes()
    assert ada("POST", f"deliveries/{row['id']}/verify").json()["files"] == 3


def comp_project(comp):
    return Project.objects.get(pk=comp["project"])


def test_what_is_there_is_found_and_versions_go_up_in_each_place_by_itself(ada, comp, out):
    here = ordered(ada, comp, folder="{version}", frames="1")
    there = [ordered(ada, comp, server=str(out), folder="{version}", frames="1") for _ in range(2)]
    assert [here["folder"], *(r["folder"] for r in there)] == ["v001", "v001", "v002"]
    run_jobs()
    assert check(ada, comp, server=str(out), folder="v001", frames="1")["taken"] == ["v001/dusk.0001.png"]
    assert order(ada, comp, server=str(out), folder="v002", frames="1").status_code == 409
    # the same name elsewhere is another file
    assert check(ada, comp, folder="v002", frames="1")["taken"] == []


def test_one_that_is_still_to_be_written_has_its_name_already(ada, comp, out):
    ordered(ada, comp, server=str(out), folder="a")
    assert order(ada, comp, server=str(out), folder="a").status_code == 409
    assert order(ada, comp, folder="a").status_code == 201


@pytest.mark.parametrize("path", ["/etc", "{out}/..", "{out}/deeper", "out", "/"])
def test_no_other_folder_can_be_written_to(ada, comp, out, path):
    answer = order(ada, comp, server=path.format(out=out))
    assert (answer.status_code, answer.json()["where"]) == (422, "server")
    assert str(out) in answer.json()["advice"]
    assert not Delivery.objects.exists()
    assert check(ada, comp, server=path.format(out=out))["problem"]["where"] == "server"


def test_projects_of_one_name_have_folders_of_their_own(ada, comp, out):
    ordered(ada, comp, server=str(out), folder="a", frames="1")
    twin = ada("POST", "projects", {"name": comp_project(comp).name}).json()["id"]
    new = {"name": "dusk", "width": 64, "height": 48, "rate": "25", "first": 1, "last": 3}
    other = ada("POST", f"projects/{twin}/comps", new).json()
    ordered(ada, other, server=str(out), folder="a", frames="1")
    run_jobs()
    assert [[p.name for p in f.rglob("*.png")] for f in sorted(out.iterdir())] == [["dusk.0001.png"]] * 2


def test_a_folder_that_vanished_is_not_made_anew_and_the_order_goes_on_when_it_is_back(ada, comp, out):
    row = ordered(ada, comp, server=str(out))
    away = out.rename(out.with_name("away"))
    run_jobs()
    job = ada("GET", f"deliveries/{row['id']}").json()["job"]
    assert (job["state"], job["problem"]["code"]) == ("failed", "file-missing")
    assert str(out) in job["problem"]["message"]
    assert not out.exists()
    assert order(ada, comp, server=str(out), folder="later").json()["where"] == "server"
    assert ada("GET", "delivery-folders").json() == [{"path": str(out), "there": False}]
    away.rename(out)
    assert ada("POST", f"jobs/{job['id']}/retry").status_code == 200
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    assert (row["job"]["state"], row["good"]) == ("done", True)


def test_one_that_vanishes_before_the_proof_leaves_the_files_to_be_proved_later(ada, comp, out, monkeypatch):
    row, real, away = ordered(ada, comp, server=str(out)), writing.write_together, out.with_name("away")

    def written_then_gone(*given, **more):
        real(*given, **more)
        out.rename(away)

    monkeypatch.setattr(writing, "write_together", written_then_gone)
    run_jobs()
    job = ada("GET", f"deliveries/{row['id']}").json()["job"]
    assert (job["state"], job["problem"]["code"], out.exists()) == ("failed", "file-missing", False)
    away.rename(out)
    monkeypatch.setattr(writing, "write_together", real)
    assert ada("POST", f"jobs/{job['id']}/retry").status_code == 200
    run_jobs()
    assert ada("GET", f"deliveries/{row['id']}").json()["good"] is True


def test_a_preset_keeps_the_folder(ada, comp, out):
    preset = {
        "name": "to the edit", "purpose": "editor", "form": {"codec": "png16"}, "server": str(out),
        "folder": "{comp}/{version}", "file_name": "{comp}",
    }  # fmt: skip
    path = f"projects/{comp['project']}/delivery-presets"
    assert ada("POST", path, preset).status_code == 200
    assert [p["server"] for p in ada("GET", path).json()] == [str(out)]
