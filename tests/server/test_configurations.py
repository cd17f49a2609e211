"""A project's own configurations of colour: brought in, offered, asked for the space of imported files."""

import numpy as np
import pytest
from core.colour.made_configurations import SPACE, archive, config_with_a_table
from core.pictures import save_png
from elements.actions.configurations import folder
from elements.models import ColourConfiguration
from webclient import Web


@pytest.fixture
def held(tmp_path):
    (tmp_path / "made").mkdir()
    return archive(tmp_path / "made").read_bytes()


@pytest.fixture
def own(ada, project, held):
    answer = ada.put_bytes(f"projects/{project.pk}/colour?name=marsh.ocioz", held)
    assert answer.status_code == 200, answer.content
    return answer.json()


def listed(person, project):
    return person("GET", f"projects/{project.pk}/colour").json()


def test_its_spaces_and_views_are_offered_to_its_members(ada, project, own):
    assert (own["title"], own["own"], own["reads"], own["spaces"], own["views"]) == (
        "marsh.ocioz", True, True, 2, 1,
    )  # fmt: skip
    there = listed(Web("ben"), project)
    assert [c["title"] for c in there["configurations"]] == [
        "marsh.ocioz", "ACES 1.3 for CG", "ACES 1.3 for studios", "ACES 2.0 for CG", "ACES 2.0 for studios",
    ]  # fmt: skip
    assert {"name": f"{own['key']}/{SPACE}", "title": SPACE, "group": "marsh.ocioz"} in there["spaces"]
    assert there["views"][0]["name"] == f"{own['key']}/desk|squared"
    other = ada("POST", "projects", {"name": "another"}).json()
    spaces = ada("GET", f"projects/{other['id']}/colour").json()["spaces"]
    assert SPACE not in {s["title"] for s in spaces}, "what a project brings is its own"


def test_its_file_rules_give_imported_files_their_space_but_data_none(ada, project, own, tmp_path):
    def brought(name):
        grey = np.full((8, 8, 4), 1, np.float32)
        (row,) = ada.bring(project.pk, {name: save_png(tmp_path / "p.png", grey).read_bytes()})
        return row["encoding"]

    space = f"{own['key']}/{SPACE}"
    assert brought("sky_marsh.png") == space
    assert brought("sky.png") == "srgb"
    said = ada("PATCH", f"projects/{project.pk}/colour/{own['key']}", {"reads": False})
    assert said.json()["reads"] is False
    assert brought("wide_marsh.png") == "srgb"
    # a rule of the project's own comes first
    ada("PATCH", f"projects/{project.pk}/colour/{own['key']}", {"reads": True})
    rule = {"pattern": "*_marsh*", "reading": {"alpha": "straight"}, "encoding": "linear"}
    assert ada("POST", f"projects/{project.pk}/reading-rules", rule).status_code == 201
    assert brought("tall_marsh.png") == "linear"


def test_the_same_one_again_is_the_one_that_is_there(ada, project, own, held):
    again = ada.put_bytes(f"projects/{project.pk}/colour?name=copy.ocioz", held).json()
    assert again == own
    assert ColourConfiguration.objects.count() == 1
    assert [p.name for p in folder().iterdir()] == [f"{own['key']}.ocioz"]


def test_what_an_element_is_in_is_not_taken_out(ada, project, own, held, tmp_path, png):
    (row,) = ada.bring(project.pk, {"sky_marsh.png": png()})
    refused = ada("DELETE", f"projects/{project.pk}/colour/{own['key']}")
    assert (refused.status_code, "sky_marsh.png" in refused.json()["message"]) == (409, True)
    ada("POST", "elements/reading", {"elements": [row["id"]], "encoding": "srgb"})
    other = ada("POST", "projects", {"name": "another"}).json()["id"]
    ada.put_bytes(f"projects/{other}/colour?name=marsh.ocioz", held)
    assert ada("DELETE", f"projects/{project.pk}/colour/{own['key']}").status_code == 204
    assert list(folder().iterdir()), "another project has it too"
    assert ada("DELETE", f"projects/{other}/colour/{own['key']}").status_code == 204
    assert not list(folder().iterdir())
    assert ada("DELETE", f"projects/{project.pk}/colour/{own['key']}").status_code == 404


def test_a_picture_in_its_space_is_read_by_its_table(ada, project, own, tmp_path):
    grey = np.full((8, 8, 4), 1, np.float32)
    grey[..., :3] = 0.5
    (row,) = ada.bring(project.pk, {"sky_marsh.png": save_png(tmp_path / "p.png", grey).read_bytes()})
    point = {"frame": 1, "level": 0, "x": 4, "y": 4}
    seen = ada("POST", f"elements/{row['id']}/values", point).json()
    stored = np.asarray(seen["stored"][:3], float)
    np.testing.assert_allclose(seen["straight"][:3], stored**2, atol=1e-4)


def test_one_whose_file_is_gone_says_so_and_the_others_are_offered(ada, project, held, png):
    gone = ColourConfiguration.objects.create(project=project, key=f"own-{'0' * 16}", name="gone.ocio")
    own = ada.put_bytes(f"projects/{project.pk}/colour?name=marsh.ocioz", held).json()
    there = listed(ada, project)
    assert [c["key"] for c in there["configurations"] if c["problem"]] == [gone.key]
    assert gone.key in there["configurations"][0]["problem"]
    assert SPACE in {s["title"] for s in there["spaces"]}
    (row,) = ada.bring(project.pk, {"sky_marsh.png": png()})
    assert (row["state"], row["encoding"]) == ("ready", f"{own['key']}/{SPACE}"), "the other one reads it"


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("marsh.txt", b"x", "no configuration"),
        ("marsh.ocio", b"x", "no configuration"),
        ("marsh.ocio", config_with_a_table().serialize().encode(), "square.spi1d"),
        ("marsh.ocioz", b"PK\x03\x04", "no configuration"),
        ("..", b"x", "cannot be a file's name"),
    ],
)
def test_what_is_none_is_refused_and_leaves_nothing(ada, project, name, data, said):
    answer = ada.put_bytes(f"projects/{project.pk}/colour?name={name}", data)
    assert (answer.status_code, said in answer.json()["message"]) == (422, True), answer.content
    assert not ColourConfiguration.objects.exists()
    assert not folder().exists() or not list(folder().iterdir())


def test_one_that_is_too_large_is_refused(ada, project, held, monkeypatch):
    monkeypatch.setattr("neatveil.colour.configurations.MOST_BYTES", 1000)
    answer = ada.put_bytes(f"projects/{project.pk}/colour?name=marsh.ocioz", held)
    assert (answer.status_code, answer.json()["code"]) == (422, "value-refused")
    assert not list(folder().iterdir())


def test_new_comps_begin_in_its_scene_linear_role_and_hold_it(ada, project, own):
    """ACES2065-1 is the role in the made one: linear light in AP0's primaries."""
    there = listed(ada, project)
    assert there["new_comps"] == "linear@ap0"
    assert {w["name"]: w["title"] for w in there["working"]}["linear@ap1"] == "ACEScg (linear, AP1)"
    ada("PATCH", f"projects/{project.pk}/colour/{own['key']}", {"reads": False})
    assert listed(ada, project)["new_comps"] == "linear"
    working = f"{own['key']}/ACES2065-1"
    made = ada("POST", f"projects/{project.pk}/comps", {"name": "Dusk", "working": working})
    assert made.status_code == 201, made.content
    refused = ada("DELETE", f"projects/{project.pk}/colour/{own['key']}")
    assert (refused.status_code, refused.json()["message"]) == (409, "marsh.ocioz is in use by Dusk.")
    assert ada("POST", f"projects/{project.pk}/comps", {"name": "No", "working": "srgb"}).status_code == 422
