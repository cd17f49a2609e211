"""Lists of comps: read, checked cell by cell, drawn and delivered row by row."""

import json

import numpy as np
import pytest
from deliveries.models import Delivery
from webclient import run_jobs

SLOTS = [
    {"name": "sign", "layer": "l1", "field": "element"},
    {"name": "light", "layer": "l1", "step": 0, "field": "stops"},
]


@pytest.fixture
def listed(ada, comp):
    """The comp with two slots and three rows, the second of them wrong in two cells."""
    document = ada("GET", f"comps/{comp['id']}").json()["document"]
    first = document["layers"][-1]
    first |= {"id": "l1", "steps": [{"kind": "exposure", "stops": 0.0}]}
    document |= {
        "slots": SLOTS,
        "rows": [{"light": "1"}, {"sign": "gone.png", "light": "x"}, {"light": "-1"}],
    }
    body = {"document": document, "base": comp["revision"], "what": "a list"}
    answer = ada("PUT", f"comps/{comp['id']}", body)
    assert answer.status_code == 200, answer.content
    return answer.json()


def test_a_pasted_table_is_read(ada, comp):
    answer = ada("POST", f"comps/{comp['id']}/list/read", {"text": "sign\tlight\ndusk.png\t1\n"})
    assert answer.json() == [{"sign": "dusk.png", "light": "1"}]
    answer = ada("POST", f"comps/{comp['id']}/list/read", {"text": "a,b\n1,2,3\n"})
    assert answer.status_code == 422
    assert "Line 2" in answer.json()["message"]


def test_slots_and_wrong_cells_are_told(ada, listed):
    found = ada("POST", f"comps/{listed['id']}/list/check", {}).json()
    assert [(s["name"], s["kind"]) for s in found["slots"]] == [("sign", "picture"), ("light", "number")]
    assert [(p["row"], p["column"]) for p in found["problems"]] == [(2, "sign"), (2, "light")]
    assert "gone.png" in found["problems"][0]["message"]
    document = {**listed["document"], "slots": [{**SLOTS[0], "layer": "gone"}]}
    found = ada("POST", f"comps/{listed['id']}/list/check", {"document": document}).json()
    assert "layer is not in the comp" in found["slots"][0]["problem"]


def exact(web, comp, **more):
    answer = web("POST", f"comps/{comp['id']}/picture", {"frame": 1, "quality": "exact", **more})
    assert answer.status_code == 200, answer.content
    return np.frombuffer(answer.content, np.uint8)


def test_a_row_is_drawn_as_the_document_that_it_fills(ada, listed):
    filled = ada("POST", f"comps/{listed['id']}/list/row", {"row": 1}).json()
    layer = next(x for x in filled["layers"] if x["id"] == "l1")
    assert layer["steps"][0]["stops"] == 1
    row = exact(ada, listed, row=1)
    np.testing.assert_array_equal(row, exact(ada, listed, document=filled))
    assert not np.array_equal(row, exact(ada, listed))
    assert ada("GET", f"comps/{listed['id']}/card?row=3").status_code == 200
    for wrong in (2, 9):
        assert ada("GET", f"comps/{listed['id']}/card?row={wrong}").status_code == 422


def order(web, comp, rows, **change):
    body = {
        "comps": [comp["id"]], "formats": ["png16-straight"], "take": {"frames": "1-2"}, "folder": "signs",
        "name": "sign_{row}_{light}", "rows": rows, **change,
    }  # fmt: skip
    return web("POST", f"projects/{comp['project']}/deliveries", body)


def test_chosen_rows_are_delivered_in_one_go(ada, listed):
    answer = order(ada, listed, [1, 3])
    assert answer.status_code == 201, answer.content
    run_jobs()
    rows = [ada("GET", f"deliveries/{r['id']}").json() for r in answer.json()]
    assert [(r["job"]["state"], r["good"], r["comp_name"].split(", ")[-1]) for r in rows] == [
        ("done", True, "row 1"), ("done", True, "row 3"),
    ]  # fmt: skip
    assert [r["file"].split(".")[0] for r in rows] == ["sign_1_1", "sign_3_-1"]
    stops = [json.loads(json.dumps(d.document))["layers"] for d in Delivery.objects.order_by("pk")]
    assert [next(x for x in s if x["id"] == "l1")["steps"][0]["stops"] for s in stops] == [1.0, -1.0]


def test_every_row_comes_as_rgb_and_alpha_apart(ada, listed):
    answer = order(ada, listed, [1, 3], formats=[], forms=[{"codec": "png8", "contents": "apart"}])
    assert answer.status_code == 201, answer.content
    run_jobs()
    rows = [ada("GET", f"deliveries/{r['id']}").json() for r in answer.json()]
    assert [r["file"].split(".")[0] for r in rows] == [
        "sign_1_1_rgb", "sign_1_1_alpha", "sign_3_-1_rgb", "sign_3_-1_alpha",
    ]  # fmt: skip
    assert all(r["good"] for r in rows)


@pytest.mark.parametrize(
    ("rows", "change", "told"),
    [
        ([1, 2], {}, "row 2, sign"),
        ([1, 7], {}, "no row 7"),
        ([1, 3], {"name": "same"}, "over each other"),
        ([1, 3], {"name": "x_{gone}"}, "{gone} has no value"),
    ],
)
def test_nothing_is_ordered_where_one_row_will_not_do(ada, listed, rows, change, told):
    answer = order(ada, listed, rows, **change)
    assert answer.status_code == 422
    assert told in answer.json()["message"]
    assert not Delivery.objects.exists()


def test_losses_that_nobody_accepted_are_accepted_for_no_row(ada, listed):
    """Rows between are not looked at before; their proof must not take a loss for agreed."""
    document = {**listed["document"], "rows": [{"light": str(n)} for n in range(5)]}
    body = {"document": document, "base": listed["revision"], "what": "five rows"}
    assert ada("PUT", f"comps/{listed['id']}", body).status_code == 200
    assert order(ada, listed, [1, 2, 3, 4, 5]).status_code == 201
    assert [d.loss_accepted for d in Delivery.objects.all()] == [False] * 5
