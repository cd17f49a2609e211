"""A matte's edge found ahead over a range of frames: kept for all processes, the comp unchanged."""

import numpy as np
import pytest
from comps.actions import find_edges
from comps.models import EdgeSearch
from config import engine
from neatveil.comp.loading import parse_comp
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from server.test_comps import put
from webclient import run_jobs

PART = {"kind": "shape", "shape": "ellipse", "width": 24, "height": 20}
NATURAL = {"parts": [PART], "edge": "natural", "band": 3}


@pytest.fixture
def cut(ada, comp):
    layer = {**comp["document"]["layers"][0], "matte": NATURAL}
    assert put(ada, comp, 1, "cut", layers=[layer]).status_code == 200
    return ada("GET", f"comps/{comp['id']}").json()


def found(ada, comp, **ask):
    return ada("POST", f"comps/{comp['id']}/edges", {"layer": "a", "first": 1, "last": 3, **ask})


def test_workers_find_it_once_and_every_process_draws_it(ada, cut, settings, monkeypatch):
    ordered = found(ada, cut)
    assert (ordered.status_code, ordered.json()["job"]["state"]) == (201, "queued")
    assert found(ada, cut).json()["message"] == "The edge of disc is being found already."
    run_jobs()
    (row,) = ada("GET", f"comps/{cut['id']}/edges").json()
    assert (row["job"]["state"], row["job"]["written"], row["of_now"], row["last"]) == ("done", 3, True, 3)
    kept = list((settings.MEDIA / "edges").glob("*.z"))
    assert len(kept) == 9, "three frames, each in full, half and quarter size"
    # another process: nothing is solved any more, and it draws the same
    engine.evaluator.cache_clear()
    monkeypatch.setattr("neatveil.evaluate.matting.edge_found", None)
    seen = ada("POST", f"comps/{cut['id']}/values", {"frame": 2, "x": 22, "y": 24})
    assert seen.status_code == 200, seen.content
    ada("POST", f"comps/{cut['id']}/picture", {"frame": 2})
    monkeypatch.undo()
    row = EdgeSearch.objects.get()
    document = find_edges.with_all_sources(parse_comp(row.document), row.project_id)
    fresh = Evaluator(LocalDecoder()).matte(document, 2, "a", None, 0)
    np.testing.assert_array_equal(engine.evaluator().matte(document, 2, "a", None, 0), fresh)


def test_it_says_whether_it_is_of_the_matte_as_it_is_now(ada, cut):
    found(ada, cut)
    run_jobs()
    layer = cut["document"]["layers"][0]

    def of_now():
        return ada("GET", f"comps/{cut['id']}/edges").json()[0]["of_now"]

    assert put(ada, cut, 2, "half", layers=[{**layer, "opacity": 0.5, "name": "b"}]).status_code == 200
    assert of_now()
    wider = {**NATURAL, "band": 5}
    assert put(ada, cut, 3, "wider", layers=[{**layer, "matte": wider}]).status_code == 200
    assert not of_now()
    assert put(ada, cut, 4, "none", layers=[]).status_code == 200
    assert not of_now()


def test_it_is_not_of_now_once_a_layer_that_its_matte_reads_is_another(ada, cut):
    made = {"kind": "shape", "shape": "ellipse", "width": 20, "height": 20}
    other = {"id": "o", "name": "o", "kind": "made", "made": made, "shown": False}
    reads = {"kind": "channel", "source": "layer:o", "channel": "A", "read": "placed"}
    own = {**cut["document"]["layers"][0], "matte": {**NATURAL, "parts": [reads]}}
    beside = {"id": "b", "name": "b", "kind": "made", "made": made}
    assert put(ada, cut, 2, "reads", layers=[own, other, beside]).status_code == 200
    found(ada, cut)

    def of_now(revision, *layers):
        answer = put(ada, cut, revision, "change", layers=[*layers])
        assert answer.status_code == 200, answer.content
        return ada("GET", f"comps/{cut['id']}/edges").json()[0]["of_now"]

    assert of_now(3, own, {**other, "name": "another name"}, {**beside, "opacity": 0.5})
    assert not of_now(4, own, {**other, "made": {**made, "width": 21}}, beside)
    assert not of_now(5, own, {**other, "transform": {"x": 3}}, beside)
    assert not of_now(6, {**own, "transform": {"x": 3}}, other, beside)
    assert of_now(7, own, other)


def test_it_is_cancelled_and_found_again(ada, cut):
    job = found(ada, cut).json()["job"]["id"]
    assert ada("POST", f"jobs/{job}/cancel").status_code == 200
    run_jobs()
    (row,) = ada("GET", f"comps/{cut['id']}/edges").json()
    assert row["job"]["state"] == "cancelled"
    assert found(ada, cut, first=2, last=2).status_code == 201
    run_jobs()
    (row,) = ada("GET", f"comps/{cut['id']}/edges").json()
    assert (row["job"]["state"], row["first"], row["last"]) == ("done", 2, 2)


@pytest.mark.parametrize(
    ("ask", "said"),
    [
        ({"last": 4}, "The comp has no frames 1 to 4."),
        ({"first": 3, "last": 2}, "The comp has no frames 3 to 2."),
        ({"layer": "nobody"}, "nobody"),
        ({"owner": "2"}, "Layer disc has no step 3 with a matte."),
        ({"owner": "alpha"}, "Layer disc is no group"),
    ],
)
def test_what_cannot_be_found_is_refused(ada, cut, ask, said):
    answer = found(ada, cut, **ask)
    assert (answer.status_code, said in answer.json()["message"]) == (422, True), answer.content


def test_a_matte_as_made_has_no_edge_to_find(ada, comp):
    layer = {**comp["document"]["layers"][0], "matte": {"parts": [PART]}}
    put(ada, comp, 1, "cut", layers=[layer])
    assert found(ada, comp).json()["message"] == "The matte of disc is used as it is made."


def test_an_element_that_is_gone_ends_it_with_its_name(ada, cut, disc):
    found(ada, cut)
    from elements.models import Element

    Element.objects.filter(pk=disc["id"]).update(state="refused")
    run_jobs()
    (row,) = ada("GET", f"comps/{cut['id']}/edges").json()
    assert row["job"]["state"] == "failed"
    assert row["job"]["problem"]["message"]
