"""Bringing in, refusing, reading."""

import numpy as np
import pytest
from core.pictures import movie_without_rate, premultiplied, save_png, soft_disc
from django.conf import settings
from elements.models import Element
from server.test_comp_looks import problems

SVG = b'<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30">%s</svg>'


def shown(web, element, **ask):
    answer = web("POST", f"elements/{element['id']}/picture", {"frame": 1, "level": 0, **ask})
    assert answer.status_code == 200, answer.content
    x0, y0, x1, y1 = (int(v) for v in answer["X-Region"].split(","))
    return np.frombuffer(answer.content, np.uint8).reshape(y1 - y0, x1 - x0, 4)


def test_numbered_frames_become_one_sequence_and_the_rest_stays_single(ada, project, png):
    files = {f"kite.{n:03d}.png": png(n) for n in (1, 2, 4)} | {"still.png": png()}
    rows = {e["name"]: e for e in ada.bring(project.pk, files)}
    assert set(rows) == {"kite.###.png", "still.png"}
    facts = rows["kite.###.png"]["facts"]
    assert (facts["kind"], facts["count"], facts["missing"]) == ("sequence", 3, [3])
    assert rows["still.png"]["facts"]["alpha_use"] == "used"
    assert rows["still.png"]["reading"]["alpha"] == "straight"


@pytest.mark.parametrize(
    ("name", "kept"),
    [
        ("../../etc/evil.png", "evil.png"), ("C:\\plates\\дюна 1.png", "дюна 1.png"),
        ("-rf.png", "-rf.png"), ("..x.png", "..x.png"), ("a b.png", "a b.png"),
    ],
)  # fmt: skip
def test_odd_names_stay_inside_the_folder(ada, project, png, name, kept):
    (row,) = ada.bring(project.pk, {name: png()})
    assert row["name"] == kept
    assert row["state"] == "ready"
    path = settings.MEDIA / Element.objects.get(pk=row["id"]).file
    assert path.resolve().is_relative_to(settings.MEDIA.resolve())


@pytest.mark.parametrize("name", ["..", ".", "/", "x" * 300 + ".png", "a\0b.png"])
def test_names_that_cannot_be(ada, project, png, name):
    arrival = ada("POST", f"projects/{project.pk}/arrivals").json()["id"]
    answer = ada.put_file(arrival, name, png())
    assert answer.status_code == 422
    assert answer.json()["code"] in {"value-refused", "format-unknown"}


def test_unknown_ending_is_refused_before_it_is_stored(ada, project):
    arrival = ada("POST", f"projects/{project.pk}/arrivals").json()["id"]
    answer = ada.put_file(arrival, "scene.blend", b"x")
    assert answer.json()["code"] == "format-unknown"
    assert ".png" not in answer.json()["message"]
    assert "png" in answer.json()["advice"]
    assert ada("POST", f"arrivals/{arrival}/finish").json()["code"] == "file-missing"


@pytest.mark.parametrize(
    ("name", "data", "code"),
    [
        ("a.png", b"", "file-empty"),
        ("a.exr", b"only words", "file-damaged"),
        ("a.mov", b"\0" * 99, "file-damaged"),
        ("a.svg", b"<svg", "file-damaged"),
        ("a.svg", SVG % b'<image href="//example.org/a.png"/>', "file-refused"),
    ],
)
def test_bad_files_become_refused_elements_that_say_why(ada, project, name, data, code):
    (row,) = ada.bring(project.pk, {name: data})
    assert row["state"] == "refused"
    assert row["problem"]["code"] == code
    assert name in row["problem"]["message"]
    assert row["problem"]["advice"]


def test_an_svg_file_is_a_still_with_alpha_and_its_own_notes(ada, project):
    (row,) = ada.bring(project.pk, {"mark.svg": SVG % b'<circle cx="20" cy="9" r="8"/><text>a</text>'})
    assert (row["facts"]["kind"], row["facts"]["format"], row["facts"]["alpha_use"]) == (
        "still",
        "SVG",
        "used",
    )
    assert (row["facts"]["width"], row["facts"]["height"]) == (40, 30)
    assert "fonts that ship here" in " ".join(row["facts"]["notes"])


def test_a_full_disk_while_files_come_in(ada, project, png, monkeypatch):
    import errno
    from pathlib import Path

    arrival = ada("POST", f"projects/{project.pk}/arrivals").json()["id"]

    def full(self, target):
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(Path, "replace", full)
    answer = ada.put_file(arrival, "a.png", png())
    assert (answer.status_code, answer.json()["code"]) == (507, "disk-full")
    monkeypatch.undo()
    # what came is kept, and goes on once there is space
    assert ada("GET", f"arrivals/{arrival}").json()["files"][0]["whole"] is False
    assert ada.put_file(arrival, "a.png", png()).status_code == 200


def test_pictures_follow_the_reading_and_a_draft_is_not_kept(ada, project, tmp_path):
    rgba = premultiplied(soft_disc(colour=(1.0, 1.0, 1.0)))
    data = save_png(tmp_path / "p.png", rgba).read_bytes()
    (row,) = ada.bring(project.pk, {"p.png": data})
    edge = np.argwhere((rgba[..., 3] > 0.3) & (rgba[..., 3] < 0.7))[0]
    look = {"channel": "straight"}

    def straight(**ask):
        return int(shown(ada, row, look=look, **ask)[edge[0], edge[1], 0])

    assert straight() < 200, "read as straight: dark at the edge"
    right = {"alpha": "premultiplied", "multiplied": "encoded"}
    assert straight(reading=right) >= 253
    assert straight() < 200
    ada("POST", "elements/reading", {"elements": [row["id"]], "reading": right})
    assert straight() >= 253
    ada("POST", f"elements/{row['id']}/reading/undo")
    assert straight() < 200
    assert ada("POST", f"elements/{row['id']}/reading/undo").status_code == 409


def test_readings_of_many_at_once(ada, project, png):
    rows = ada.bring(project.pk, {"a.png": png(), "b.png": png(1)})
    ids = [r["id"] for r in rows]
    answer = ada("POST", "elements/reading", {"elements": ids, "reading": {"alpha": "none"}})
    assert {r["reading_words"] for r in answer.json()} == {"alpha ignored"}


def test_a_rate_must_be_exact_or_is_refused(ada, disc):
    good = ada("POST", "elements/reading", {"elements": [disc["id"]], "rate": "24000/1001"})
    assert good.json()[0]["rate"] == "24000/1001"
    bad = ada("POST", "elements/reading", {"elements": [disc["id"]], "rate": "quick"})
    assert bad.status_code == 422
    assert "24000/1001" in bad.json()["message"]


def test_a_movie_without_a_rate_is_not_used_before_it_is_given_one(ada, project, tmp_path):
    data = movie_without_rate(tmp_path / "m.mkv").read_bytes()
    (row,) = ada.bring(project.pk, {"m.mkv": data})
    assert any("no frame rate" in n for n in row["facts"]["notes"])
    layers = [{"id": "a", "name": "water", "element": row["key"]}]
    comp = ada(
        "POST", f"projects/{project.pk}/comps", {"name": "c", "width": 32, "height": 16, "layers": layers}
    )
    address = f"comps/{comp.json()['id']}/picture"
    (problem,) = problems(ada("POST", address, {"frame": 1}))
    assert (problem["code"], problem["where"]) == ("rate-missing", "water")
    assert "m.mkv" in problem["message"]
    ada("POST", "elements/reading", {"elements": [row["id"]], "rate": "25"})
    assert "X-Problems" not in ada("POST", address, {"frame": 1})


def test_numbered_frames_without_a_rate_are_not_used_before_somebody_says_it(ada, project, png):
    (row,) = ada.bring(project.pk, {"m.1.png": png(1), "m.2.png": png(2)})
    assert row["rate"] is None
    layers = [{"id": "a", "name": "m", "element": row["key"]}]
    comp = ada("POST", f"projects/{project.pk}/comps", {"name": "c", "layers": layers}).json()
    address = f"comps/{comp['id']}/picture"
    assert problems(ada("POST", address, {"frame": 1}))[0]["code"] == "rate-missing"
    ada("POST", "elements/reading", {"elements": [row["id"]], "rate": "30"})
    assert "X-Problems" not in ada("POST", address, {"frame": 1})


def test_values_of_an_element(ada, disc):
    body = {"frame": 1, "x": 33, "y": 24}
    got = ada("POST", f"elements/{disc['id']}/values", body).json()
    assert got["stored"] == pytest.approx([204 / 255, 102 / 255, 26 / 255, 1], abs=1e-6)
    assert got["code"] == pytest.approx([204, 102, 26, 255], abs=0.01)


def test_a_used_element_is_not_removed(ada, comp, disc):
    answer = ada("DELETE", f"elements/{disc['id']}")
    assert answer.status_code == 409
    assert "dusk" in answer.json()["message"]
    ada("DELETE", f"comps/{comp['id']}")
    assert ada("DELETE", f"elements/{disc['id']}").status_code == 204
    assert not (settings.MEDIA / "elements" / disc["name"]).exists()


def test_cards_are_pictures(ada, disc):
    for part in ("colour", "alpha"):
        answer = ada("GET", f"elements/{disc['id']}/card?part={part}")
        assert answer.content[:3] == b"\xff\xd8\xff"


def test_what_nothing_uses_is_found_and_removed_at_once(ada, project, comp, disc, png, tmp_path):
    """Used by a comp, by a row of its list, as another's channel, or by nothing."""
    names = ("row.png", "matte.png", "spare.png", "other.png")
    by_name = {e["name"]: e for e in ada.bring(project.pk, {n: png(i) for i, n in enumerate(names)})}
    joined, spare, other = (by_name[n] for n in names[1:])
    part = {"source": joined["id"], "name": "A", "channel": "R"}
    assert ada("POST", f"elements/{spare['id']}/parts", part).status_code == 200
    document = comp["document"]
    document["rows"] = [{"artwork": "row.png"}]
    body = {"base": comp["revision"], "document": document}
    assert ada("PUT", f"comps/{comp['id']}", body).status_code == 200

    def unused():
        return set(ada("GET", f"projects/{project.pk}/elements/unused").json())

    assert unused() == {spare["id"], other["id"]}
    refused = ada("POST", "elements/remove", {"elements": [other["id"], disc["id"]]})
    assert (refused.status_code, disc["name"] in refused.json()["message"]) == (409, True)
    assert ada("POST", "elements/remove", {"elements": [by_name["row.png"]["id"]]}).status_code == 409
    assert Element.objects.filter(pk=other["id"]).exists(), "all of them or none"
    files = [Element.objects.get(pk=e["id"]).place for e in (spare, joined, other)]
    # the one that is joined goes with the one it is joined to
    gone = {"elements": [spare["id"], joined["id"], other["id"]]}
    assert ada("POST", "elements/remove", gone).status_code == 204
    assert not any(f.exists() for f in files)
    assert unused() == set()


def test_labels_gather_elements(ada, project, disc, png):
    other = ada.bring(project.pk, {"sky.png": png(2)})[0]
    both = {"elements": [disc["id"], other["id"]], "label": "  skies   and discs "}
    assert ada("POST", "elements/label", both).status_code == 204
    labels = {e["id"]: e["label"] for e in ada("GET", f"projects/{project.pk}/elements").json()}
    assert labels == {disc["id"]: "skies and discs", other["id"]: "skies and discs"}
    assert ada("POST", "elements/label", {"elements": [disc["id"]], "label": ""}).status_code == 204
    labels = {e["id"]: e["label"] for e in ada("GET", f"projects/{project.pk}/elements").json()}
    assert labels[disc["id"]] == ""
    assert ada("POST", "elements/label", {**both, "label": "x" * 61}).status_code == 422
