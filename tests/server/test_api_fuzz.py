"""Any request that the API's own description allows, and many that it does not: never an answer of 5xx.

A minute in continuous integration; longer by hand, with NEATVEIL_FUZZ=5000.
"""

import json
import os
from pathlib import Path
from urllib.parse import quote

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

API = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text())
MANY = int(os.environ.get("NEATVEIL_FUZZ", "500"))

#: What no description speaks of: numbers beyond all, texts that cannot be stored, other types.
NASTY = st.sampled_from(
    [None, "", "\0", "\ud800", "a\r\nb", "\u202egnp.exe", "x" * 3000, [], {}, [[]], {"a": {}}, -1, 0, 1 << 70,
     -(1 << 70), float("inf"), float("nan"), 1e300, 1e-320, True, "../../etc", "layer:", "e999999999999"]
)  # fmt: skip
#: Those that end the session or need a body that is no JSON.
LEFT_OUT = {("delete", "/api/session"), ("put", "/api/arrivals/{arrival_id}/files")}
#: What every error answer holds.
FORM = {"code", "message", "advice", "where"}
OPERATIONS = [
    (method, path, operation)
    for path, methods in sorted(API["paths"].items())
    for method, operation in sorted(methods.items())
    if (method, path) not in LEFT_OUT
]


def values(schema, depth=0):
    """JSON values of a schema, some of them wrong."""
    if "$ref" in schema:
        return values(API["components"]["schemas"][schema["$ref"].rpartition("/")[2]], depth)
    good = _good(schema, depth)
    return st.integers(0, 14).flatmap(lambda n: NASTY if n == 0 else good)


def _good(schema, depth):
    for several in ("anyOf", "oneOf"):
        if several in schema:
            return st.sampled_from(schema[several]).flatmap(lambda one: values(one, depth + 1))
    if "enum" in schema:
        return st.sampled_from(schema["enum"])
    if "const" in schema:
        return st.just(schema["const"])
    kind = schema.get("type")
    if kind == "object":
        return _objects(schema, depth)
    if kind == "array":
        if "prefixItems" in schema:
            return st.tuples(*(values(s, depth + 1) for s in schema["prefixItems"])).map(list)
        return st.lists(values(schema.get("items", {}), depth + 1), max_size=2 if depth < 5 else 0)
    if kind == "integer":
        return st.sampled_from([0, 1, 2, 3, 7, 255, -3])
    if kind == "number":
        return st.sampled_from([0.0, 0.5, 1.0, -2.5, 100.0])
    if kind == "boolean":
        return st.booleans()
    return st.sampled_from(["dusk", "srgb", "25", "24000/1001", "a", "rgb", "R", "KEY", "layer:a", "#808080"])


def _objects(schema, depth):
    properties, required = schema.get("properties", {}), set(schema.get("required", []))
    if not properties:
        return st.dictionaries(
            st.sampled_from(["KEY", "a", "R"]), NASTY if depth > 4 else st.just({}), max_size=1
        )
    must = {n: values(s, depth + 1) for n, s in properties.items() if n in required}
    may = {n: values(s, depth + 1) for n, s in properties.items() if n not in required}
    return st.fixed_dictionaries(must, optional=may if depth < 6 else {})


@pytest.fixture
def there(ada, project, disc, comp):
    """What there is to ask for: numbers by the names of the parameters."""
    return {
        "project_id": project.pk, "element_id": disc["id"], "comp_id": comp["id"], "person_id": project.pk,
        "key": disc["key"],
    }  # fmt: skip


def _body(operation):
    content = operation.get("requestBody", {}).get("content", {}).get("application/json")
    return values(content["schema"]) if content else st.none()


def as_json(value):
    """With numbers that JSON does not know as other programs write them."""
    return json.dumps(value).replace("Infinity", "1e999").replace("NaN", "-1e999")


@settings(
    max_examples=MANY, deadline=None,
    suppress_health_check=[
        HealthCheck.function_scoped_fixture, HealthCheck.too_slow, HealthCheck.data_too_large,
        HealthCheck.filter_too_much, HealthCheck.large_base_example,
    ],
)  # fmt: skip
@given(st.data())
def test_no_request_is_answered_by_an_error_of_ours(ada, there, data):
    method, path, operation = data.draw(st.sampled_from(OPERATIONS))
    query = []
    for parameter in operation.get("parameters", []):
        name = parameter["name"]
        usual = st.just(there[name]) if name in there else values(parameter["schema"], 5)
        value = data.draw(st.integers(0, 9).flatmap(lambda n, usual=usual: NASTY if n == 0 else usual))
        text = quote(str(value).encode("utf-8", "surrogatepass").decode("utf-8", "replace"), safe="")
        if parameter["in"] == "path":
            path = path.replace("{" + name + "}", text or "0")
        elif value is not None:
            query.append(f"{name}={text}")
    body = data.draw(_body(operation))
    written = None if body is None else as_json(body).replace("KEY", there["key"])
    answer = ask(ada, method, path + ("?" + "&".join(query) if query else ""), written)
    assert answer.status_code < 500, (method, path, written, answer.content[:300])
    if answer.status_code >= 400:
        assert set(answer.json()) == FORM, (
            method,
            path,
            answer.content[:300],
        )


def ask(web, method, path, body):
    token = web.client.cookies["csrftoken"].value
    return web.client.generic(
        method.upper(), path, body or "", content_type="application/json", headers={"X-CSRFToken": token}
    )


@pytest.mark.parametrize("value", [[], {}, ["levels"], {"levels": 1}, 7, None, True])
def test_a_kind_that_is_no_text_is_refused(ada, comp, value):
    """Of a step, and of a part of a matte."""
    layer = comp["document"]["layers"][0]
    for change in ({"steps": [{"kind": value}]}, {"matte": {"parts": [{"kind": value}]}}):
        document = {**comp["document"], "layers": [{**layer, **change}]}
        answer = ada("PUT", f"comps/{comp['id']}", {"base": 1, "document": document})
        assert answer.status_code == 422


@pytest.mark.parametrize(
    "body", ['{"name": 1e999}', '{"name": "a\\u0000b"}', '{"name": "\\ud800"}', "{", "[1e999]", "NaN"]
)
def test_bodies_that_nothing_can_hold_are_refused_in_the_documented_form(ada, body):
    answer = ask(ada, "post", "/api/projects", body)
    assert 400 <= answer.status_code < 500
    assert set(answer.json()) == FORM


@pytest.mark.parametrize(("method", "path", "status"), [
    ("get", "/api/nothing-of-the-kind", 404), ("delete", "/api/forms", 405),
    ("get", "/api/projects/%00", 422),
    ("get", "/api/projects/99999999999999999999", 404),
])  # fmt: skip
def test_errors_of_the_framework_have_the_documented_form_too(ada, method, path, status):
    answer = ask(ada, method, path, None)
    assert answer.status_code in {status, 404, 422}
    assert set(answer.json()) == FORM
