"""Comps as layers of comps: drawn as they are now, never in a circle, not removed while shown."""

import copy
import json

import numpy as np
import pytest
from neatveil.comp import load_comp
from neatveil.evaluate import Evaluator
from neatveil.io import LocalDecoder
from server.test_comp_looks import picture, problems
from webclient import Web


def showing(comp, **layer):
    return {"id": "inner", "name": "inner", "element": f"c{comp['id']}", **layer}


@pytest.fixture
def make(ada, project):
    def made(name, *layers, **fields):
        body = {"name": name, "width": 64, "height": 48, "rate": "24000/1001", "first": 1, "last": 3}
        return ada("POST", f"projects/{project.pk}/comps", {**body, "layers": list(layers), **fields})

    return made


def write(ada, comp, **change):
    now = ada("GET", f"comps/{comp['id']}").json()
    body = {"base": now["revision"], "document": {**now["document"], **change}}
    return ada("PUT", f"comps/{comp['id']}", body)


def test_it_is_drawn_as_it_is_now(ada, comp, make):
    outer = make("outer", showing(comp)).json()
    np.testing.assert_array_equal(picture(ada, outer), picture(ada, comp))
    layers = copy.deepcopy(comp["document"]["layers"])
    layers[0]["steps"] = [{"kind": "exposure", "stops": -2.0}]
    assert write(ada, comp, layers=layers).status_code == 200
    assert np.ptp(picture(ada, comp).astype(int) - picture(ada, comp, document=comp["document"])) > 50
    np.testing.assert_array_equal(picture(ada, outer), picture(ada, comp))


def test_a_circle_is_refused_with_its_names(ada, comp, make):
    middle = make("middle", showing(comp)).json()
    outer = make("outer", showing(middle)).json()
    answer = write(ada, comp, layers=[*comp["document"]["layers"], showing(outer)])
    assert answer.status_code == 422
    assert "in a circle: dusk > outer > middle > dusk" in answer.json()["message"]
    answer = write(ada, outer, layers=[showing(outer)])
    assert "in a circle: outer > outer" in answer.json()["message"]
    assert ada("GET", f"comps/{comp['id']}").json()["revision"] == 1


def test_a_circle_that_two_people_closed_at_once_shows_the_rest(ada, comp, make):
    """Past the check, as two requests at the same moment would: the layer is named, the others are drawn."""
    from comps.models import Comp

    outer = make("outer", showing(comp)).json()
    row = Comp.objects.get(pk=comp["id"])
    row.document["layers"].append({**row.document["layers"][0], **showing(outer)})
    row.save()
    answer = ada("POST", f"comps/{comp['id']}/picture", {"frame": 1})
    assert answer.status_code == 200
    assert any("in a circle" in p["message"] for p in problems(answer))


def test_undo_cannot_close_a_circle(ada, comp, make):
    outer = make("outer", showing(comp)).json()
    write(ada, outer, layers=[])
    assert write(ada, comp, layers=[showing(outer)]).status_code == 200
    now = ada("GET", f"comps/{outer['id']}").json()
    answer = ada("POST", f"comps/{outer['id']}/undo", {"base": now["revision"]})
    assert answer.status_code == 422
    assert "in a circle" in answer.json()["message"]


def test_undo_goes_on_past_a_comp_that_is_gone(ada, comp, make):
    outer = make("outer", *comp["document"]["layers"], showing(comp)).json()
    write(ada, outer, layers=comp["document"]["layers"])
    assert ada("DELETE", f"comps/{comp['id']}").status_code == 204
    now = ada("GET", f"comps/{outer['id']}").json()
    assert ada("POST", f"comps/{outer['id']}/undo", {"base": now["revision"]}).status_code == 200
    answer = ada("POST", f"comps/{outer['id']}/picture", {"frame": 1})
    assert answer.status_code == 200
    assert any("not in the project any more" in p["message"] for p in problems(answer))


def test_a_comp_whose_element_is_not_ready_can_still_be_shown_and_saved(ada, comp, make):
    from elements.models import Element

    outer = make("outer", showing(comp)).json()
    Element.objects.update(state=Element.State.ARRIVING)
    assert write(ada, outer, name="outer two").status_code == 200
    answer = ada("POST", f"comps/{outer['id']}/picture", {"frame": 1})
    assert any("is still being looked at" in p["message"] for p in problems(answer))


def test_an_element_of_the_same_number_is_not_meant(ada, comp, make):
    """Comp c1 is shown; whatever becomes of element e1 is nothing to the comp that shows it."""
    from elements.resolve import numbers_used
    from neatveil.comp.loading import parse_comp

    outer = make("outer", showing(comp)).json()
    assert numbers_used(parse_comp(outer["document"])) == []


@pytest.mark.parametrize("key", ["c", "cx", "c" + "9" * 40, "c99"])
def test_keys_that_mean_nothing_are_refused(make, key):
    answer = make("odd", {"id": "a", "name": "a", "element": key})
    assert answer.status_code == 422, answer.content


def test_what_is_shown_elsewhere_is_not_removed(ada, comp, make):
    outer = make("outer", showing(comp)).json()
    answer = ada("DELETE", f"comps/{comp['id']}")
    assert answer.status_code == 409
    assert "dusk is shown by outer" in answer.json()["message"]
    assert ada("DELETE", f"comps/{outer['id']}").status_code == 204
    assert ada("DELETE", f"comps/{comp['id']}").status_code == 204


def test_a_comp_of_another_project_is_not_there(ada, comp, make):
    ben = Web("ben")
    theirs = ben("POST", "projects", {"name": "theirs"}).json()
    body = {"name": "x", "layers": [showing(comp)]}
    answer = ben("POST", f"projects/{theirs['id']}/comps", body)
    assert answer.status_code == 422
    assert "not in the project any more" in answer.json()["message"]


def test_the_exported_document_holds_it_and_renders_the_same(ada, comp, make, tmp_path):
    outer = make("outer", showing(comp, opacity=0.5, transform={"x": 4.5})).json()
    found = ada("GET", f"comps/{outer['id']}/document.json").content
    assert list(json.loads(found)["comps"]) == [f"c{comp['id']}"]
    (tmp_path / "outer.json").write_bytes(found)
    document = load_comp(tmp_path / "outer.json")
    alone = Evaluator(LocalDecoder()).picture(document, 1).rgba()
    assert alone[..., 3].max() == pytest.approx(0.5)
    assert write(ada, outer, layers=outer["document"]["layers"]).json()["document"]["comps"] == {}


def test_the_list_tells_what_a_layer_needs_to_know(ada, project, comp):
    row = ada("GET", f"projects/{project.pk}/comps").json()[0]
    assert row["key"] == f"c{comp['id']}"
    assert [row[n] for n in ("width", "height", "first", "last", "rate")] == [64, 48, 1, 3, "24000/1001"]


def test_its_card(ada, comp):
    for part in ("colour", "alpha"):
        answer = ada("GET", f"comps/{comp['id']}/card?part={part}")
        assert answer["Content-Type"] == "image/jpeg"
