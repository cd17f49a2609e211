"""Orders, pieces, proofs, cancelling, going on."""

import io
import json
import zipfile

import pytest
import xxhash
from deliveries.actions import write_piece as writing
from deliveries.models import Delivery
from deliveries.places import target_of
from neatveil.errors import DiskFull
from neatveil.io import LocalDecoder
from webclient import run_jobs

FORMS = {"png16-straight": ".png", "exr-half-premultiplied": ".exr", "prores4444-straight": ".mov"}


def body_of(comp, *, frames="1-3", rate="", **change):
    return {
        "comps": [comp["id"]], "formats": ["png16-straight"], "take": {"frames": frames, "rate": rate},
        "folder": "dusk/v1", "name": "dusk", **change,
    }  # fmt: skip


def order(web, comp, **change):
    return web("POST", f"projects/{comp['project']}/deliveries", body_of(comp, **change))


def ordered(web, comp, **change):
    """The first delivery of an order."""
    answer = order(web, comp, **change)
    assert answer.status_code == 201, answer.content
    return answer.json()[0]


@pytest.mark.parametrize("delivery_format", FORMS)
def test_a_delivery_is_written_and_proved(ada, comp, delivery_format, tmp_path):
    row = ordered(ada, comp, formats=[delivery_format], folder=f"{tmp_path.name}/{delivery_format}")
    assert (row["job"]["state"], row["rate"]) == ("queued", "24000/1001")
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    job = row["job"]
    assert (job["state"], row["good"], job["written"], job["count"]) == ("done", True, 3, 3)
    proof = row["proof"]
    assert (proof["frames_found"], proof["missing"], proof["problems"]) == (3, [], [])
    first = next(f for f in row["files"] if f.endswith(FORMS[delivery_format]))
    data = b"".join(ada("GET", f"deliveries/{row['id']}/files/{first}").streaming_content)
    assert proof["hashes"][first] == xxhash.xxh64(data).hexdigest()
    kept = json.loads(b"".join(ada("GET", f"deliveries/{row['id']}/files/dusk.proof.json").streaming_content))
    assert kept["good"] is True
    if delivery_format.startswith("prores"):
        path = str(target_of(Delivery.objects.get(pk=row["id"])).path)
        assert LocalDecoder().probe(path).rate == "24000/1001"


@pytest.mark.parametrize(
    ("change", "code", "words"),
    [
        ({"frames": "0-3"}, "value-refused", "the comp has 1 to 3"),
        ({"frames": "1-9"}, "value-refused", "the comp has 1 to 3"),
        ({"rate": "soon"}, "value-refused", "24000/1001"),
        ({"folder": "../elsewhere"}, "value-refused", "cannot be a folder"),
        ({"folder": "/"}, "value-refused", "cannot be a folder"),
        ({"folder": "a/.hidden"}, "value-refused", "dot"),
        ({"name": "a/b"}, "value-refused", "slashes"),
        ({"formats": ["h264"]}, "name-unknown", "prores4444-straight"),
    ],
)
def test_orders_are_refused_before_anything_is_rendered(ada, comp, change, code, words):
    answer = order(ada, comp, **change)
    assert answer.status_code == 422
    body = answer.json()
    assert body["code"] == code
    assert words in body["message"] + body["advice"]
    assert not Delivery.objects.exists()


def test_nothing_is_ever_written_over(ada, comp):
    assert order(ada, comp, folder="twice").status_code == 201
    assert order(ada, comp, folder="twice").json()["code"] == "conflict"
    run_jobs()
    assert order(ada, comp, folder="twice").status_code == 409


def test_cancelling_keeps_whole_frames_and_going_on_writes_the_rest(ada, comp, monkeypatch):
    row = ordered(ada, comp, folder="stop")
    delivery = Delivery.objects.get(pk=row["id"])
    real = writing.write_together

    def one_then_cancelled(source, outputs, frames, rate, **options):
        """As if the person had pressed Cancel while the first frame was written."""
        real(source, outputs, frames[:1], rate)
        ada("POST", f"jobs/{row['job']['id']}/cancel")
        real(source, outputs, frames[1:], rate, **options)

    monkeypatch.setattr(writing, "write_together", one_then_cancelled)
    run_jobs()
    assert ada("GET", f"deliveries/{row['id']}").json()["job"]["state"] == "cancelled"
    folder = target_of(delivery).path.parent
    assert [p.name for p in folder.iterdir()] == ["dusk.0001.png"]
    stamp = (folder / "dusk.0001.png").stat().st_mtime_ns
    monkeypatch.undo()
    ada("POST", f"jobs/{row['job']['id']}/retry")
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    assert (row["job"]["state"], row["good"]) == ("done", True)
    assert (folder / "dusk.0001.png").stat().st_mtime_ns == stamp, "not written a second time"


def test_a_queued_delivery_is_cancelled_at_once(ada, comp):
    row = ordered(ada, comp, folder="wait")
    assert ada("POST", f"jobs/{row['job']['id']}/cancel").json()["state"] == "cancelled"
    run_jobs()
    assert not target_of(Delivery.objects.get(pk=row["id"])).path.parent.exists()
    assert ada("POST", f"jobs/{row['job']['id']}/cancel").status_code == 409
    assert ada("DELETE", f"jobs/{row['job']['id']}").status_code == 204


def test_a_full_disk_fails_the_delivery_with_its_reason(ada, comp, monkeypatch):
    def full(*args, **options):
        raise DiskFull(
            "The disk is full: dusk.0002.png could not be written.", advice="Free some space and retry."
        )

    monkeypatch.setattr(writing, "write_together", full)
    row = ordered(ada, comp, folder="full")
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    assert (row["job"]["state"], row["job"]["problem"]["code"]) == ("failed", "disk-full")
    assert "dusk.0002.png" in row["job"]["problem"]["message"]
    monkeypatch.undo()
    ada("POST", f"jobs/{row['job']['id']}/retry")
    run_jobs()
    assert ada("GET", f"deliveries/{row['id']}").json()["good"] is True


def test_a_missing_source_frame_names_the_layer(ada, comp, disc):
    from django.conf import settings
    from elements.models import Element

    path = settings.MEDIA / Element.objects.get(pk=disc["id"]).file.replace("####", "0002")
    path.unlink()
    refused = order(ada, comp, folder="gap")
    assert (refused.status_code, refused.json()["code"]) == (422, "frame-missing"), (
        "said before it is ordered"
    )
    row = ordered(ada, comp, folder="gap", loss_accepted=True)
    run_jobs()
    problem = ada("GET", f"deliveries/{row['id']}").json()["job"]["problem"]
    assert problem["code"] == "frame-missing"
    assert "Layer disc" in problem["message"]
    assert "Frame 2" in problem["message"]


def test_the_order_is_delivered_as_it_was_ordered(ada, comp):
    row = ordered(ada, comp, folder="as-ordered")
    document = {**comp["document"], "layers": []}
    ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": document})
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    assert (row["good"], row["proof"]["alpha_high"]) == (True, 1)


def test_a_folder_that_takes_no_files_ends_the_delivery_with_its_reason(ada, comp, monkeypatch):
    """EROFS and EACCES are told by the system when a file is made, and root may write everywhere."""
    import errno
    import os

    from neatveil.io.backends import oiio_writing

    def refused(path, *args, **options):
        raise OSError(errno.EROFS, os.strerror(errno.EROFS), str(path))

    monkeypatch.setattr(oiio_writing, "write", refused)
    row = ordered(ada, comp, folder="fixed")
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    assert (row["job"]["state"], row["job"]["problem"]["code"]) == ("failed", "write-failed")
    assert "Read-only file system" in row["job"]["problem"]["message"]
    assert ada("POST", f"jobs/{row['job']['id']}/retry").status_code == 200
    assert ada("POST", f"jobs/{row['job']['id']}/cancel").status_code == 200
    assert ada("DELETE", f"jobs/{row['job']['id']}").status_code == 204


@pytest.mark.parametrize("at", ["write_together", "prove_together"])
def test_an_error_that_nobody_foresaw_ends_the_delivery_too(ada, comp, monkeypatch, at):
    from deliveries.actions import prove_delivery as proving

    def broken(*args, **options):
        raise TypeError("a mistake of ours")

    monkeypatch.setattr(writing if at == "write_together" else proving, at, broken)
    row = ordered(ada, comp, folder="ours")
    run_jobs()
    row = ada("GET", f"deliveries/{row['id']}").json()
    assert (row["job"]["state"], row["job"]["problem"]["code"]) == ("failed", "unforeseen")
    assert "TypeError" in row["job"]["problem"]["message"]


def test_an_order_of_a_million_frames_is_refused_and_a_long_one_is_cut_into_few_pieces(ada, comp):
    document = {**comp["document"], "first": -900_000, "last": 900_000}
    ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": document})
    refused = order(ada, comp, frames="-900000-900000")
    assert (refused.status_code, refused.json()["where"]) == (422, "frames")
    row = ordered(ada, comp, frames="1-100000", loss_accepted=True)
    pieces = Delivery.objects.get(pk=row["id"]).job.pieces
    assert pieces.count() <= 500
    assert sum(p.last - p.first + 1 for p in pieces.all()) == 100_000


def test_projects_take_turns_whatever_one_of_them_has_ordered(ada, comp, project):
    """Jobs in the order in which workers take them: the second project's come between those of the first."""
    from procrastinate.contrib.django.models import ProcrastinateJob

    document = {**comp["document"], "last": 80}
    ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": document})
    order(ada, comp, frames="1-80", folder="many", loss_accepted=True)
    other = ada("POST", "projects", {"name": "other"}).json()
    theirs = ada("POST", f"projects/{other['id']}/comps", {**document, "layers": []}).json()
    order(ada, theirs, frames="1-16", folder="few")
    taken = ProcrastinateJob.objects.filter(status="todo", task_name__contains="run_piece").order_by(
        "-priority", "id"
    )
    projects = [job.args["project_id"] for job in taken]
    assert projects[:4] == [project.pk, other["id"], project.pk, other["id"]]


def test_light_that_the_form_cannot_hold_is_asked_about_before_and_said_in_the_proof(
    ada, comp, project, tmp_path
):
    import numpy as np
    from neatveil.io.backends import oiio_writing
    from neatveil.picture import StoredPicture

    rgba = np.zeros((48, 64, 4), np.float32)
    rgba[10:20, 10:30, :3] = 0.6
    path = tmp_path / "glow.exr"
    oiio_writing.write(
        path, StoredPicture.from_rgba(rgba), sample="half", alpha_straight=False, encoding="linear"
    )
    glow = ada.bring(project.pk, {"glow.exr": path.read_bytes()})[0]
    document = {**comp["document"], "layers": [{"id": "g", "name": "glow", "element": glow["key"]}]}
    ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": document})
    for delivery_format in FORMS:
        answer = order(ada, comp, formats=[delivery_format], folder=f"light/{delivery_format}")
        if delivery_format.startswith("exr"):
            assert answer.status_code == 201
            continue
        assert (answer.status_code, answer.json()["code"]) == (409, "would-lose")
        assert "600 pixels of light" in answer.json()["message"], "200 in each of three frames"
        accepted = ordered(
            ada, comp, formats=[delivery_format], folder=f"light/{delivery_format}", loss_accepted=True
        )
        run_jobs()
        proof = ada("GET", f"deliveries/{accepted['id']}").json()["proof"]
        assert proof["lost_light"] == 600


def test_all_files_come_as_one_archive_with_the_proof(ada, comp):
    row = ordered(ada, comp)
    assert ada("GET", f"deliveries/{row['id']}/archive").status_code == 404
    run_jobs()
    data = b"".join(ada("GET", f"deliveries/{row['id']}/archive").streaming_content)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        assert archive.testzip() is None
        names = [n for n in archive.namelist() if not n.startswith("ascmhl/")]
        assert {n.rsplit(".")[-1] for n in archive.namelist() if n not in names} >= {"mhl", "xml"}
        assert sorted(names) == [
            "dusk.0001.png", "dusk.0002.png", "dusk.0003.png", "dusk.otio", "dusk.proof.json",
            "dusk.xxh64",
        ]  # fmt: skip
        hashes = dict(line.split("  ")[::-1] for line in archive.read("dusk.xxh64").decode().splitlines())
        assert hashes["dusk.0002.png"] == xxhash.xxh64(archive.read("dusk.0002.png")).hexdigest()


def test_a_proof_has_pictures_of_what_the_files_hold(ada, comp):
    row = ordered(ada, comp, frames="1,3", folder="looked/at")
    at = f"deliveries/{row['id']}/proof/picture"
    early = ada("GET", f"{at}?frame=1&shown=checks")
    assert (early.status_code, early.json()["code"]) == (409, "conflict")
    run_jobs()
    for shown in ("checks", "alpha", "difference"):
        answer = ada("GET", f"{at}?frame=3&shown={shown}")
        assert (answer.status_code, answer["Content-Type"]) == (200, "image/png")
        assert answer.content.startswith(b"\x89PNG")
    assert ada("GET", f"{at}?frame=2&shown=alpha").json()["message"] == "This delivery has no frame 2."
    target_of(Delivery.objects.get(pk=row["id"])).frame_path(3).unlink()
    assert ada("GET", f"{at}?frame=3&shown=alpha").status_code in (404, 422)


def test_any_form_can_be_ordered_and_rgb_and_alpha_apart_are_two(ada, comp):
    form = {"codec": "tiff16", "contents": "apart", "past_edge": 16}
    first = ordered(ada, comp, formats=[], forms=[form])
    assert first["file"] == "dusk_rgb.####.tif"
    run_jobs()
    rows = {r["file"]: r for r in ada("GET", f"projects/{comp['project']}/deliveries").json()}
    assert set(rows) == {"dusk_rgb.####.tif", "dusk_alpha.####.tif"}
    assert all(r["good"] for r in rows.values())
    assert rows["dusk_alpha.####.tif"]["format_title"] == "TIFF frames, 16 bits, alpha alone"
    proof = rows["dusk_alpha.####.tif"]["proof"]
    assert (proof["width"], proof["height"], proof["alpha_high"]) == (64, 48, 1)


@pytest.mark.parametrize(
    ("form", "code", "words"),
    [
        ({"codec": "h264"}, "cannot-hold-alpha", "RGB alone over a colour"),
        ({"codec": "dnxhr-hqx", "contents": "rgb"}, "value-refused", "begins at 256 x 120"),
        ({"codec": "film"}, "name-unknown", "prores4444"),
        ({"encoding": "nonsense"}, "value-refused", "encoding"),
    ],
)
def test_forms_that_cannot_be_are_refused_with_what_can(ada, comp, form, code, words):
    answer = order(ada, comp, formats=[], forms=[form])
    assert answer.status_code == 422
    assert answer.json()["code"] == code
    assert words in str(answer.json())
    assert not Delivery.objects.exists()
