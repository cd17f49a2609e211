"""Cameras of renders in comps: laid in, followed, kept, and layers that stand before them."""

import json
from urllib.parse import unquote

import numpy as np
import pytest
from comps.models import SceneCamera
from neatveil.comp.loading import parse_comp
from sceneclient import SMALL, order
from scenes.models import Render
from webclient import run_jobs

KEYS = {"azimuth": {"keys": [{"frame": 1, "value": 0}, {"frame": 2, "value": 25}]}}
SEEN = {"azimuth": 0, "elevation": 8, "distance": 7, "target_y": 1.2}


@pytest.fixture
def render(ada, sign):
    row = order(ada, sign, passes=["beauty"], last=2, placed_camera={**SEEN, "keys": KEYS}).json()
    run_jobs()
    return row


@pytest.fixture
def laid(ada, render):
    return ada("POST", f"renders/{render['id']}/lay-in", {}).json()["comp"]


def document_of(web, comp):
    return web("GET", f"comps/{comp}").json()["document"]


def picture(web, comp, document, frame=1):
    body = {"frame": frame, "document": document, "quality": "exact"}
    answer = web("POST", f"comps/{comp}/picture", body)
    assert answer.status_code == 200, answer.content
    return answer


def with_card(document, element, card):
    row = {"id": "card", "name": "card", "element": element, "card": card}
    return {**document, "layers": [*document["layers"], row]}


def test_a_laid_render_brings_its_camera_and_lights(ada, project, laid, render):
    (camera,) = ada("GET", f"projects/{project.pk}/cameras").json()
    assert [camera[n] for n in ("name", "width", "height", "first", "last", "rate")] == [
        render["name"], SMALL["width"], SMALL["height"], 1, 2, SMALL["rate"],
    ]  # fmt: skip
    document = document_of(ada, laid)
    assert document["camera"] == camera["key"]
    whole = parse_comp(json.loads(ada("GET", f"comps/{laid}/document.json").content))
    kept = whole.cameras[camera["key"]]
    told = json.loads(b"".join(ada("GET", f"renders/{render['id']}/manifest").streaming_content))
    for frame in (1, 2):
        np.testing.assert_allclose(kept.place_at(frame), np.array(told["frames"][str(frame)]["camera"])[:3])
    assert kept.place_at(1) != kept.place_at(2)
    assert [x.name for x in kept.lights] == list(told["lights"]) == camera["lights"]
    assert "cameras" not in document or not document["cameras"], "rows hold no copy of it"


def test_a_render_completed_before_cameras_were_kept_gets_its_camera_when_it_is_laid_in(ada, render):
    Render.objects.update(camera=None)
    SceneCamera.objects.all().delete()
    made = ada("POST", f"renders/{render['id']}/lay-in", {}).json()["comp"]
    assert document_of(ada, made)["camera"]


def test_a_camera_that_is_rendered_again_moves_every_card(ada, disc, laid, render):
    key = document_of(ada, laid)["camera"]
    document = with_card(document_of(ada, laid), disc["key"], {"width": 1.5, "y": 1.0})
    before = picture(ada, laid, document).content
    changed = {**SMALL, "passes": ["beauty"], "last": 2, "placed_camera": {**SEEN, "distance": 14}}
    ada("POST", f"renders/{render['id']}/again", {"document": changed})
    run_jobs()
    assert document_of(ada, laid)["camera"] == key
    assert picture(ada, laid, document).content != before
    document["layers"][-1]["card"] = None
    flat = picture(ada, laid, document).content
    assert flat != before


def place(web, comp, document):
    """``(3, 3)``: from the card's pixels to the comp's."""
    answer = web("POST", f"comps/{comp}/place", {"frame": 1, "layer": "card", "document": document})
    return np.array(answer.json()["matrix"]).reshape(3, 3)


def test_a_layer_stands_where_the_pointer_meets_the_scene(ada, disc, laid):
    """The board of the waymark stands at z = 0: what is put there is seen under the pointer."""
    flat, key = document_of(ada, laid), disc["key"]

    def stand(card, **more):
        ask = {"frame": 1, "layer": "card", "document": with_card(flat, key, card), **more}
        return ada("POST", f"comps/{laid}/stand", ask).json()

    made = stand(None, camera=flat["camera"])
    assert made["faces"] == "camera"
    corners = np.array([[0, 0, 1], [64, 0, 1], [64, 48, 1]])
    seen = [corners @ place(ada, laid, with_card(flat, key, card)).T for card in (None, made)]
    np.testing.assert_allclose(*(s[:, :2] / s[:, 2:] for s in seen), atol=1e-2)
    moved = stand(made, point=[36.0, 15.0])
    assert (moved["width"], moved["faces"]) == (made["width"], made["faces"]), "it keeps its size"
    assert abs(moved["z"]) < 0.3, "the board is there"
    middle = place(ada, laid, with_card(flat, key, moved)) @ (32, 24, 1)
    np.testing.assert_allclose(middle[:2] / middle[2], [36, 15], atol=0.01)


def test_cards_outlive_the_scene_and_the_render(ada, project, disc, laid, sign):
    document = with_card(document_of(ada, laid), disc["key"], {"width": 1.5, "y": 1.0})
    before = picture(ada, laid, document).content
    assert ada("DELETE", f"scenes/{sign['id']}").status_code == 204
    assert picture(ada, laid, document).content == before
    ask = {"frame": 1, "layer": "card", "document": document, "point": [30.0, 20.0]}
    assert ada("POST", f"comps/{laid}/stand", ask).status_code == 200, "as far away as it was"


def test_an_unknown_camera_is_refused_and_a_lost_one_named(ada, disc, laid):
    stored = ada("GET", f"comps/{laid}").json()
    document = with_card(stored["document"], disc["key"], {"camera": "v999999", "width": 1.0})
    answer = ada("PUT", f"comps/{laid}", {"base": stored["revision"], "document": document})
    assert answer.status_code == 422
    assert "Layer card" in answer.json()["message"]
    problems = unquote(picture(ada, laid, document)["X-Problems"])
    assert "Layer card" in problems
    ask = {"frame": 1, "layer": "card", "document": document}
    assert ada("POST", f"comps/{laid}/stand", ask).status_code == 422
