"""Joining and parting: two files that are one picture, one file that is two."""

import io
import zipfile

import numpy as np
import pytest
import tifffile
from core.pictures import save_png, soft_disc
from PIL import Image
from webclient import run_jobs


def stored(web, row, x, y, frame=1):
    return web("POST", f"elements/{row['id']}/values", {"frame": frame, "x": x, "y": y}).json()["stored"]


@pytest.fixture
def pair(ada, project, tmp_path):
    """kite_rgb and kite_alpha, two frames each: the colour in 8, the alpha in 16 bits."""
    rgba = soft_disc()
    files = {}
    for n in (1, 2):
        files[f"kite_rgb.{n:04d}.png"] = save_png(tmp_path / "c.png", rgba[..., :3]).read_bytes()
        grey = np.rint(np.roll(rgba[..., 3], n, axis=1) * 65535).astype(np.uint16)
        Image.fromarray(grey).save(tmp_path / "a.png")
        files[f"kite_alpha.{n:04d}.png"] = (tmp_path / "a.png").read_bytes()
    rows = {r["name"].split(".")[0]: r for r in ada.bring(project.pk, files)}
    return rows["kite_rgb"], rows["kite_alpha"], rgba


def test_pairs_are_found_by_name_joined_at_once_and_taken_apart(ada, project, pair):
    colour, alpha, rgba = pair
    (match,) = ada("GET", f"projects/{project.pk}/pairs").json()
    assert (match["element"], match["source"], match["blocked"]) == (colour["id"], alpha["id"], False)
    body = {"pairs": [{"element": colour["id"], "source": alpha["id"]}]}
    (joined,) = ada("POST", f"projects/{project.pk}/pairs/join", body).json()
    assert (joined["has_alpha"], joined["reading"]["alpha"]) == (True, "straight")
    y, x = np.argwhere((rgba[..., 3] > 0.4) & (rgba[..., 3] < 0.6))[0]
    assert stored(ada, joined, int(x) + 2, int(y), frame=2)[3] == pytest.approx(rgba[y, x, 3], abs=1e-4)
    used = ada("DELETE", f"elements/{alpha['id']}")
    assert (used.status_code, colour["name"] in used.json()["message"]) == (409, True)
    ada("POST", f"elements/{colour['id']}/reading/undo")
    assert stored(ada, colour, 3, 3)[3] == 1
    assert ada("DELETE", f"elements/{alpha['id']}").status_code == 204


def test_lengths_sizes_and_rates_that_differ_are_said_before(ada, project, pair, tmp_path):
    colour, _, _ = pair
    small = save_png(tmp_path / "s.png", soft_disc(20, 20)).read_bytes()
    (still,) = ada.bring(project.pk, {"other.png": small})
    got = ada("GET", f"elements/{colour['id']}/parts/remarks?source={still['id']}").json()
    assert got["blocked"]
    assert "64 x 48" in got["remarks"][0]
    assert "20 x 20" in got["remarks"][0]
    refused = ada("POST", f"elements/{colour['id']}/parts", {"source": still["id"]})
    assert refused.status_code == 422
    long = {f"long.{n:04d}.png": save_png(tmp_path / "l.png", soft_disc()).read_bytes() for n in range(5, 9)}
    (row,) = ada.bring(project.pk, long)
    remarks = " ".join(
        ada("GET", f"elements/{colour['id']}/parts/remarks?source={row['id']}").json()["remarks"]
    )
    assert "2 frames" in remarks
    assert "begin at 1 and 5" in remarks


def test_where_the_alpha_ends_too_early_it_holds_or_is_an_error(ada, project, tmp_path):
    def frame(level):
        return save_png(tmp_path / "f.png", np.full((8, 8, 3), level, np.float32)).read_bytes()

    colour = {f"c.{n:04d}.png": frame(0.5) for n in (1, 2, 3)}
    alpha = {f"a.{n:04d}.png": frame(n / 10) for n in (1, 2)}
    rows = {r["name"][0]: r for r in ada.bring(project.pk, {**colour, **alpha})}
    for ends, expected in (("hold", 51 / 255), ("blank", 0.0)):
        ada("POST", f"elements/{rows['c']['id']}/parts", {"source": rows["a"]["id"], "ends": ends})
        assert stored(ada, rows["c"], 2, 2, frame=3)[3] == pytest.approx(expected, abs=1e-6)
    ada("POST", f"elements/{rows['c']['id']}/parts", {"source": rows["a"]["id"], "ends": "error"})
    answer = ada("POST", f"elements/{rows['c']['id']}/picture", {"frame": 3})
    assert answer.json()["code"] == "frame-missing"
    assert "a.####.png" in answer.json()["message"]


def test_a_depth_of_its_own_sequence_is_carried_as_it_is(ada, project, disc, tmp_path):
    depth = np.linspace(-3, 900.5, 48 * 64, dtype=np.float32).reshape(48, 64)
    tifffile.imwrite(tmp_path / "z.tif", depth)
    (row,) = ada.bring(project.pk, {"z.tif": (tmp_path / "z.tif").read_bytes()})
    body = {"source": row["id"], "name": "depth.Z", "data": True}
    joined = ada("POST", f"elements/{disc['id']}/parts", body).json()
    assert [p["name"] for p in joined["parts"]] == ["depth.Z"]
    point = {"frame": 2, "x": 11, "y": 7, "planes": ["depth.Z"]}
    got = ada("POST", f"elements/{disc['id']}/values", point).json()["stored"]
    assert got[0] == pytest.approx(float(depth[7, 11]), rel=1e-7)
    circle = ada("POST", f"elements/{row['id']}/parts", {"source": disc["id"], "name": "A"})
    assert circle.status_code == 409


def test_one_file_parted_in_two_elements_that_share_it(ada, project, disc):
    colour, alpha = ada("POST", f"elements/{disc['id']}/part-in-two").json()
    assert (colour["has_alpha"], alpha["has_alpha"]) == (False, False)
    y, x = np.argwhere((soft_disc()[..., 3] > 0.4) & (soft_disc()[..., 3] < 0.6))[0]
    x = int(x) + 1  # frame 1 is shifted by one pixel
    whole = stored(ada, disc, x, int(y))
    assert stored(ada, colour, x, int(y)) == [*whole[:3], 1]
    assert stored(ada, alpha, x, int(y))[:3] == [whole[3]] * 3
    assert ada("DELETE", f"elements/{colour['id']}").status_code == 204
    assert stored(ada, disc, x, int(y)) == whole, "the file stays while another element uses it"


def test_transcoding_keeps_every_code_and_takes_over_every_use(ada, project, comp, disc):
    order = {"elements": [disc["id"]], "format": "ffv1", "take_over": True}
    ada("POST", "elements/reading", {"elements": [disc["id"]], "rate": "24000/1001"})
    before = [stored(ada, disc, 30, 20, frame=f) for f in (1, 2, 3)]
    (row,) = ada("POST", "transcodes", order).json()
    assert row["job"]["state"] == "queued"
    run_jobs()
    (done,) = ada("GET", f"projects/{project.pk}/transcodes").json()
    assert (done["job"]["state"], done["job"]["problem"]) == ("done", None)
    assert done["check"]["frames_after"] == 3
    assert done["check"]["colour_most"] < 1e-6
    rows = {e["id"]: e for e in ada("GET", f"projects/{project.pk}/elements").json()}
    now = rows[disc["id"]]
    assert (now["facts"]["codec"], now["rate"], now["facts"]["count"]) == ("ffv1", "24000/1001", 3)
    assert rows[done["result"]]["facts"]["kind"] == "sequence", "the frames it was are kept beside"
    # a movie counts its frames from 0
    for frame, values in enumerate(before):
        assert stored(ada, disc, 30, 20, frame=frame) == pytest.approx(values, abs=1e-6)
    assert ada("POST", f"comps/{comp['id']}/picture", {"frame": 2}).status_code == 200


def test_frames_without_a_rate_become_no_movie_before_they_are_given_one(ada, project, png):
    (row,) = ada.bring(project.pk, {"m.1.png": png(1), "m.2.png": png(2)})
    answer = ada("POST", "transcodes", {"elements": [row["id"]], "format": "ffv1"})
    assert (answer.json()["code"], "m.#.png" in answer.json()["message"]) == ("rate-missing", True)
    assert ada("POST", "transcodes", {"elements": [row["id"]], "format": "png16"}).status_code == 201


def test_a_form_without_alpha_is_refused_unless_the_alpha_may_go(ada, project, disc):
    ada("POST", "elements/reading", {"elements": [disc["id"]], "rate": "25"})
    order = {"elements": [disc["id"]], "format": "h264"}
    answer = ada("POST", "transcodes", order)
    assert (answer.status_code, answer.json()["code"]) == (409, "would-lose")
    (said,) = ada("POST", "transcodes/losses", order).json()
    assert said["dropped"] == ["H.264 movie cannot hold its alpha."]
    assert ada("GET", f"projects/{project.pk}/transcodes").json() == []
    assert ada("POST", "transcodes", {**order, "loss_accepted": True}).status_code == 201
    run_jobs()
    (done,) = ada("GET", f"projects/{project.pk}/transcodes").json()
    assert (done["job"]["state"], done["job"]["problem"]) == ("done", None)


def test_a_still_stays_a_still_and_says_in_its_name_what_it_became(ada, project, png):
    (row,) = ada.bring(project.pk, {"card.png": png()})
    ada("POST", "transcodes", {"elements": [row["id"]], "format": "exr"})
    run_jobs()
    (done,) = ada("GET", f"projects/{project.pk}/transcodes").json()
    assert (done["job"]["state"], done["job"]["problem"]) == ("done", None)
    made = next(e for e in ada("GET", f"projects/{project.pk}/elements").json() if e["id"] == done["result"])
    assert made["name"] == "card.png (OpenEXR frames, half)"
    assert (made["facts"]["kind"], made["encoding"]) == ("still", "linear")
    assert made["reading"]["alpha"] == "premultiplied"


def test_pairs_that_are_joined_already_are_not_offered_again(ada, project, pair):
    colour, alpha, _ = pair
    body = {"pairs": [{"element": colour["id"], "source": alpha["id"]}]}
    assert ada("POST", f"projects/{project.pk}/pairs/join", body).status_code == 200
    assert ada("GET", f"projects/{project.pk}/pairs").json() == []
    order = {"elements": [colour["id"]], "format": "png16", "take_over": True}
    ada("POST", "elements/reading", {"elements": [colour["id"], alpha["id"]], "rate": "25"})
    ada("POST", "transcodes", order)
    run_jobs()
    assert ada("GET", f"projects/{project.pk}/pairs").json() == []


def test_the_files_of_an_element_can_be_fetched(ada, project, disc, png):
    answer = ada("GET", f"elements/{disc['id']}/files")
    data = b"".join(answer.streaming_content)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        assert archive.namelist() == [f"disc.{n:04d}.png" for n in (1, 2, 3)]
        assert archive.read("disc.0002.png") == png(2)
    (row,) = ada.bring(project.pk, {"card.png": png(5)})
    assert b"".join(ada("GET", f"elements/{row['id']}/files").streaming_content) == png(5)
