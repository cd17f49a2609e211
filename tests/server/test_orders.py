"""Orders: elements, layers, several forms at once, names, versions, what is said before, presets."""

import io

import cv2
import numpy as np
import pytest
from deliveries.models import Delivery
from deliveries.places import target_of
from django.conf import settings
from elements.models import Element
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from neatveil.io.backends import oiio_writing
from neatveil.picture import StoredPicture
from PIL import Image
from server.test_deliveries import body_of, order, ordered
from webclient import Web, run_jobs


def check(web, comp, look=True, **change):
    path = f"projects/{comp['project']}/deliveries/check?look={str(look).lower()}"
    answer = web("POST", path, body_of(comp, **change))
    assert answer.status_code == 200, answer.content
    return answer.json()


def files(row):
    folder = target_of(Delivery.objects.get(pk=row["id"])).path.parent
    return sorted(p.name for p in folder.iterdir() if p.suffix == ".png")


def test_a_take_is_written_and_proved_under_its_own_numbers(ada, comp):
    take = {"frames": "1,3", "size": "half", "start": 1001}
    row = ordered(ada, comp, take=take, folder="take")
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    assert (row["job"]["state"], row["good"], row["frames"]) == ("done", True, 2)
    assert files(row) == ["dusk.1001.png", "dusk.1002.png"]
    assert (row["proof"]["width"], row["proof"]["height"]) == (32, 24)
    assert ada("GET", f"deliveries/{row['id']}/files/dusk.1002.png").status_code == 200


def test_files_are_verified_again_by_the_folders_hash_list(ada, comp):
    row = ordered(ada, comp, folder="list")
    run_jobs()
    assert ada("POST", f"deliveries/{row['id']}/verify").json() == {
        "files": 3, "generations": 1, "changed": [], "missing": [],
    }  # fmt: skip
    folder = target_of(Delivery.objects.get(pk=row["id"])).path.parent
    (folder / "dusk.0002.png").write_bytes(b"others")
    assert ada("POST", f"deliveries/{row['id']}/verify").json()["changed"] == ["dusk.0002.png"]


def test_gaps_in_a_range_are_kept(ada, comp):
    row = ordered(ada, comp, frames="1,3", folder="gaps", name="{comp}_{frame}_x")
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    assert row["good"] is True
    name = "".join(c if c.isalnum() else "_" for c in comp["name"]).strip("_")
    assert [f.removeprefix(name) for f in files(row)] == ["_0001_x.png", "_0003_x.png"]


def test_elements_go_out_as_they_are_read(ada, comp, disc):
    """The element's own size, rate and range; its straight colour comes back from the file."""
    row = ordered(ada, comp, comps=[], elements=[disc["id"]], frames="", folder="el", name="{comp}")
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    assert (row["good"], row["frames"], row["rate"]) == (True, 3, "25")
    assert (row["proof"]["width"], row["proof"]["height"]) == (64, 48)
    written = target_of(Delivery.objects.get(pk=row["id"])).frame_path(1)
    source = settings.MEDIA / Element.objects.get(pk=disc["id"]).file.replace("####", "0001")
    code, alpha = (cv2.imread(str(p), cv2.IMREAD_UNCHANGED) for p in (written, source))
    np.testing.assert_array_equal(np.rint(code[..., 3] / 257), alpha[..., 3])
    seen = alpha[..., 3] > 0
    np.testing.assert_array_equal(np.rint(code[seen] / 257)[:, :3], alpha[seen][:, :3])


def test_several_forms_of_several_sources_are_one_order_each_under_its_name(ada, comp, disc):
    rows = order(
        ada, comp, elements=[disc["id"]], formats=["png16-straight"], forms=[{"codec": "tiff8"}],
        folder="many", name="{comp}_{format}", frames="1",
    ).json()  # fmt: skip
    assert len(rows) == 4
    assert len({r["file"] for r in rows}) == 4
    alike = order(ada, comp, elements=[disc["id"]], folder="alike", name="same", frames="1")
    assert (alike.status_code, alike.json()["where"]) == (422, "name")
    assert "{comp}" in alike.json()["advice"]


def test_versions_go_up_by_themselves(ada, comp):
    for number in (1, 2):
        row = ordered(ada, comp, folder="{comp}/{version}", name="d_{version}", frames="1")
        assert row["folder"].endswith(f"/v00{number}")
        assert row["file"] == f"d_v00{number}.####.png"
        run_jobs()
    told = check(ada, comp, folder="{comp}/{version}", name="d", frames="1")
    assert told["names"][0]["folder"].endswith("/v003")
    assert told["taken"] == []


def test_an_order_is_looked_at_before_it_is_given(ada, comp):
    told = check(ada, comp)
    assert (told["count"], told["frames"], told["problem"]) == (1, 3, None)
    assert told["names"][0] == {
        "folder": "dusk/v1", "first": "dusk.0001.png", "last": "dusk.0003.png", "count": 3, "words": "",
    }  # fmt: skip
    odd = check(ada, comp, take={"size": "given", "width": 63, "height": 47}, formats=["h264-viewing"])
    refused = odd["advice"][0]
    assert (refused["what"], refused["weight"]) == ("size", "refused")
    assert refused["repairs"][0]["take"] == {"size": "given", "width": 64, "height": 48}
    assert odd["problem"] is not None
    far = check(ada, comp, frames="1-9")
    assert "the comp has 1 to 3" in far["problem"]["message"]
    ordered(ada, comp)
    assert check(ada, comp)["taken"] == ["dusk/v1/dusk.####.png"]
    assert Delivery.objects.count() == 1, "looking orders nothing"


def test_looking_at_a_huge_order_draws_nothing_larger_than_the_comp(ada, comp, monkeypatch):
    from neatveil.delivery import take as taking

    sizes = []
    real = taking.resized
    monkeypatch.setattr(taking, "resized", lambda p, w, h, how: sizes.append((w, h)) or real(p, w, h, how))
    huge = {"size": "given", "width": 16384, "height": 16384}
    assert check(ada, comp, take=huge)["problem"] is None
    path = f"projects/{comp['project']}/deliveries/picture"
    assert ada("POST", path, body_of(comp, take=huge)).status_code == 200
    assert sizes == []


@pytest.mark.parametrize("shown", ["checks", "ignored", "bands", "dithered"])
def test_how_it_will_look_is_a_small_picture(ada, comp, shown):
    path = f"projects/{comp['project']}/deliveries/picture?shown={shown}"
    answer = ada("POST", path, body_of(comp, formats=[], forms=[{"codec": "png8"}]))
    assert (answer.status_code, answer["Content-Type"]) == (200, "image/png")
    pixels = np.asarray(Image.open(io.BytesIO(answer.content)))
    assert pixels.ndim == 3
    assert pixels.std() > 0


def test_presets_are_the_projects_or_ones_own(ada, comp):
    path = f"projects/{comp['project']}/delivery-presets"
    body = {
        "name": "For the edit", "purpose": "editor", "form": {"codec": "tiff16"},
        "take": {"size": "half", "frames": "1-2", "part": "layer", "layer": "x"},
        "folder": "edit/{version}", "file_name": "{comp}",
    }  # fmt: skip
    kept = ada("POST", path, body).json()
    assert (kept["take"]["size"], kept["take"]["frames"], kept["take"]["part"]) == ("half", "", "comp")
    again = ada("POST", path, {**body, "form": {"codec": "png8"}}).json()
    assert again["id"] == kept["id"], "what had the name is replaced"
    own = ada("POST", path, {**body, "name": "mine", "own": True}).json()
    assert {p["name"] for p in ada("GET", path).json()} == {"For the edit", "mine"}
    other = ada("POST", "projects", {"name": "other"}).json()
    assert [p["name"] for p in ada("GET", f"projects/{other['id']}/delivery-presets").json()] == ["mine"]
    assert Web("ben")("DELETE", f"delivery-presets/{own['id']}").status_code == 404
    assert ada("DELETE", f"delivery-presets/{own['id']}").status_code == 204


def test_spaces_of_colour_configurations_are_read_shown_and_delivered(ada, comp, disc):
    """The element is said to be in ACEScct; through a view the picture is another, and a file says so."""
    listed = ada("GET", f"projects/{comp['project']}/colour").json()
    space = next(s for s in listed["spaces"] if s["title"] == "ACEScct")["name"]
    view = next(v for v in listed["views"] if "SDR Video" in v["title"])["name"]
    assert ada("POST", "elements/reading", {"elements": [disc["id"]], "encoding": space}).status_code == 200
    row = ordered(
        ada, comp, formats=[], forms=[{"codec": "png16", "encoding": space}], folder="acescct", frames="1"
    )
    shown = ordered(
        ada, comp, formats=[], folder="view", frames="1",
        forms=[{"codec": "png16", "contents": "rgb", "alpha": "premultiplied", "encoding": view}],
    )  # fmt: skip
    run_jobs()
    assert ada("GET", f"deliveries/{row['id']}").json()["good"] is True
    assert ada("GET", f"deliveries/{shown['id']}").json()["good"] is True
    written = target_of(Delivery.objects.get(pk=row["id"])).frame_path(1)
    source = settings.MEDIA / Element.objects.get(pk=disc["id"]).file.replace("####", "0001")
    code, given = (cv2.imread(str(p), cv2.IMREAD_UNCHANGED) for p in (written, source))
    inside = given[..., 3] == 255
    np.testing.assert_allclose(code[inside] / 257, given[inside], atol=0.02)
    body = {"frame": 1, "level": 0, "quality": "exact", "look": {"through": view}}
    plain = ada("POST", f"comps/{comp['id']}/picture", {**body, "look": {}})
    through = ada("POST", f"comps/{comp['id']}/picture", body)
    assert (plain.status_code, through.status_code) == (200, 200), through.content
    assert plain.content != through.content
    wrong = ada("POST", f"comps/{comp['id']}/picture", {**body, "look": {"through": "cg/none|none"}})
    assert wrong.status_code == 422
    assert (
        ada("POST", "elements/reading", {"elements": [disc["id"]], "encoding": "cg/Nowhere"}).status_code
        == 422
    )


def counting_evaluator():
    """An evaluator, and the frames that it was asked to draw."""
    drawn = []

    class Counting(Evaluator):
        def picture(self, document, frame, **how):
            drawn.append(frame)
            return super().picture(document, frame, **how)

    return Counting(LocalDecoder()), drawn


FOUR = ["png16-straight", "exr-half-premultiplied", "prores4444-straight", "h264-viewing"]


def test_forms_of_the_same_frames_are_drawn_once_for_all(ada, comp, monkeypatch):
    from deliveries.actions import prove_delivery, write_piece

    rows = order(ada, comp, formats=FOUR, folder="four", name="{format}", loss_accepted=True).json()
    assert len({r["job"]["id"] for r in rows}) == 1
    counting, drawn = counting_evaluator()
    for module in (prove_delivery, write_piece):
        monkeypatch.setattr(module, "evaluator", lambda: counting)
    run_jobs()
    assert sorted(drawn) == [1, 1, 2, 2, 3, 3], "once to write it, once to prove it"
    for row in rows:
        row = ada("GET", f"deliveries/{row['id']}").json()
        assert (row["job"]["state"], row["good"], row["proof"]["frames_found"]) == ("done", True, 3)
        assert row["format"] == row["proof"]["format"]
    assert ada("DELETE", f"jobs/{rows[0]['job']['id']}").status_code == 204
    assert not Delivery.objects.exists()


@pytest.fixture
def glow(ada, comp, tmp_path):
    """The comp shows light without coverage alone."""
    rgba = np.zeros((48, 64, 4), np.float32)
    rgba[10:20, 10:30, :3] = 0.6
    path = tmp_path / "glow.exr"
    oiio_writing.write(
        path, StoredPicture.from_rgba(rgba), sample="half", alpha_straight=False, encoding="linear"
    )
    element = ada.bring(comp["project"], {"glow.exr": path.read_bytes()})[0]
    document = {**comp["document"], "layers": [{"id": "g", "name": "glow", "element": element["key"]}]}
    assert ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": document}).status_code == 200
    return comp


@pytest.mark.parametrize("place", range(5))
def test_whichever_of_five_forms_loses_light_is_found_before_the_order(ada, glow, place):
    names = ["exr", "exr32", "png16", "tiff32"]
    forms = [{"codec": n, "alpha": "premultiplied", "encoding": "linear"} for n in names]
    forms.insert(place, {"codec": "tiff16"})
    answer = order(ada, glow, formats=[], forms=forms, folder="one", name="{format}")
    assert (answer.status_code, answer.json()["code"]) == (409, "would-lose")
    assert "TIFF" in answer.json()["message"]
    assert not Delivery.objects.exists()


def test_an_order_is_looked_at_with_each_frame_drawn_once(ada, glow, monkeypatch):
    from deliveries.actions import order_delivery

    counting, drawn = counting_evaluator()
    monkeypatch.setattr(order_delivery, "evaluator", lambda: counting)
    told = check(ada, glow, formats=FOUR, name="{format}")["advice"]
    assert drawn == [1, 2, 3]
    assert [a["weight"] for a in told if a["what"] == "light"] == ["lost"], "once for PNG and ProRes"


def test_each_thing_that_goes_out_has_a_job_of_its_own_whatever_its_forms(ada, comp, disc):
    rows = order(
        ada, comp, elements=[disc["id"]], forms=[{"codec": "tiff16", "contents": "apart"}], formats=FOUR[:1],
        folder="{comp}", name="{format}", frames="", loss_accepted=True,
    ).json()  # fmt: skip
    by_job = {}
    for row in rows:
        by_job.setdefault(row["job"]["id"], []).append(row["comp_name"])
    assert [(len(names), len(set(names))) for names in by_job.values()] == [(3, 1), (3, 1)]
    run_jobs()
    assert all(ada("GET", f"deliveries/{r['id']}").json()["good"] for r in rows)


def test_several_forms_are_cancelled_and_go_on_together(ada, comp, monkeypatch):
    from deliveries.actions import write_piece as writing

    rows = order(ada, comp, formats=FOUR, folder="stop", name="{format}", loss_accepted=True).json()
    job = rows[0]["job"]["id"]
    real = writing.write_together

    def cancelled(source, outputs, frames, rate, **options):
        real(source, outputs[:2], frames[:1], rate)
        ada("POST", f"jobs/{job}/cancel")
        real(source, outputs, frames, rate, **options)

    monkeypatch.setattr(writing, "write_together", cancelled)
    run_jobs()
    folder = target_of(Delivery.objects.get(pk=rows[0]["id"])).path.parent
    assert sorted(p.name for p in folder.iterdir()) == ["exr.0001.exr", "png16.0001.png"]
    assert {ada("GET", f"deliveries/{r['id']}").json()["job"]["state"] for r in rows} == {"cancelled"}
    monkeypatch.undo()
    ada("POST", f"jobs/{job}/retry")
    run_jobs()
    assert all(ada("GET", f"deliveries/{r['id']}").json()["good"] for r in rows)
