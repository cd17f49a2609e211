"""Signing in, and that strangers see nothing."""

import pytest
from comps.models import Preset
from django.conf import settings
from elements.models import Library, ReadingRule
from jobs.actions.queue_job import create_job
from neatveil.scene.setup import parse_setup
from scenes.models import Render, Scene, SetUp
from webclient import PASSWORD, Web


def test_sign_in_and_out(people):
    web = Web("ada")
    assert web("GET", "session").json() == {"person": {"id": people["ada"].pk, "name": "ada"}}
    assert web("DELETE", "session").json() == {"person": None}
    assert web("GET", "projects").status_code == 401


def test_cookies_are_secure_and_the_policy_is_there(people):
    web = Web("ada")
    session = web.client.cookies[settings.SESSION_COOKIE_NAME]
    assert session["secure"]
    assert session["httponly"]
    assert session["samesite"] == "Strict"
    answer = web("GET", "session")
    assert "default-src 'self'" in answer["Content-Security-Policy"]
    assert "unsafe" not in answer["Content-Security-Policy"].replace("style-src 'self' 'unsafe-inline'", "")


def test_wrong_password_does_not_tell_whether_the_name_exists(people):
    web = Web()
    answers = [web("POST", "session", {"name": n, "password": "x" * 12}) for n in ("ada", "nobody")]
    assert [a.status_code for a in answers] == [403, 403]
    assert answers[0].json() == answers[1].json()


def test_a_name_longer_than_any_is_refused_by_its_field(people):
    """What counts wrong passwords keeps 255 characters of a name."""
    for name, status in (("x" * 150, 403), ("x" * 151, 422), ("x" * 3000, 422)):
        answer = Web()("POST", "session", {"name": name, "password": "a"})
        assert answer.status_code == status, name


def test_guessing_is_throttled_even_for_the_right_password(people):
    web = Web()
    statuses = [
        web("POST", "session", {"name": "ada", "password": f"guess {n}"}).status_code for n in range(9)
    ]
    assert statuses[-1] == 429
    answer = web("POST", "session", {"name": "ada", "password": PASSWORD})
    assert answer.json()["code"] == "too-many-tries"
    assert "five minutes" in answer.json()["advice"]


def test_changing_requests_need_the_token(ada, project):
    answer = ada("POST", "projects", {"name": "forged"}, **{"X-CSRFToken": "wrong" * 8})
    assert answer.status_code == 403


@pytest.fixture
def addresses(project, disc, comp, ada):
    order = {
        "comps": [comp["id"]],
        "formats": ["png16-straight"],
        "take": {"frames": "1"},
        "folder": "v1",
        "name": "a",
    }
    delivery = ada("POST", f"projects/{project.pk}/deliveries", order).json()[0]
    own_preset = {"name": "n", "purpose": "editor", "form": {}, "folder": "x", "file_name": "x"}
    preset = ada("POST", f"projects/{project.pk}/delivery-presets", own_preset).json()
    arrival = ada("POST", f"projects/{project.pk}/arrivals").json()
    scene = Scene.objects.create(project=project, name="sign", file="sign.glb")
    setup = parse_setup({"rate": "25"}).model_dump(mode="json")
    kept = SetUp.objects.create(scene=scene, name="day", document=setup)
    job = create_job("render", project.pk, None, [(1, 1)])
    render = Render.objects.create(project=project, scene=scene, job=job, name="sign", document=setup)
    library = Library.objects.create(project=project, name="x", path="/nowhere")
    rule = ReadingRule.objects.create(project=project, pattern="*", reading={"alpha": "straight"})
    held = Preset.objects.create(project=project, kind="look", name="l", content={})
    p, e, c, d = project.pk, disc["id"], comp["id"], delivery["id"]
    s, r = scene.pk, render.pk
    named = {"name": "x", "document": setup}
    shown = {"frame": 1, "level": 0}
    return [
        ("GET", f"projects/{p}", None), ("PATCH", f"projects/{p}", {"name": "x"}),
        ("POST", f"projects/{p}/members", {"name": "eve"}), ("GET", f"projects/{p}/events", None),
        ("POST", "elements/label", {"elements": [e], "label": "sky"}),
        ("POST", f"projects/{p}/elements/bring-over", {"elements": [e]}),
        ("GET", f"projects/{p}/elements/unused", None), ("POST", "elements/remove", {"elements": [e]}),
        ("GET", f"projects/{p}/fonts", None), ("PUT", f"projects/{p}/fonts?name=a.ttf", None),
        ("DELETE", f"projects/{p}/fonts/0", None),
        ("POST", f"projects/{p}/fonts/bring-over", {"project": p, "fonts": []}),
        ("GET", f"projects/{p}/colour", None), ("PUT", f"projects/{p}/colour?name=a.ocio", None),
        ("PATCH", f"projects/{p}/colour/0", {"reads": False}), ("DELETE", f"projects/{p}/colour/0", None),
        ("GET", f"projects/{p}/elements", None), ("POST", f"projects/{p}/arrivals", None),
        ("PUT", f"arrivals/{arrival['id']}/files?name=a.png", None),
        ("POST", f"arrivals/{arrival['id']}/finish", None),
        ("POST", "elements/reading", {"elements": [e], "encoding": "linear"}),
        ("POST", f"elements/{e}/reading/undo", None), ("PATCH", f"elements/{e}", {"name": "x"}),
        ("DELETE", f"elements/{e}", None), ("POST", f"elements/{e}/picture", shown),
        ("POST", f"elements/{e}/values", {**shown, "x": 1, "y": 1}), ("GET", f"elements/{e}/card", None),
        ("GET", f"projects/{p}/arrivals", None), ("GET", f"arrivals/{arrival['id']}", None),
        ("DELETE", f"arrivals/{arrival['id']}", None), ("POST", f"elements/{e}/accept", None),
        ("POST", f"elements/{e}/take-over", {"by": e}), ("POST", f"elements/{e}/parts", {"source": e}),
        ("DELETE", f"elements/{e}/parts?name=A", None), ("POST", f"elements/{e}/part-in-two", None),
        ("GET", f"elements/{e}/parts/remarks?source={e}", None), ("GET", f"projects/{p}/pairs", None),
        ("POST", f"projects/{p}/pairs/join", {"pairs": []}), ("GET", f"projects/{p}/libraries", None),
        ("GET", f"projects/{p}/folders", None), ("POST", f"projects/{p}/libraries", {"path": "/x"}),
        ("DELETE", f"libraries/{library.pk}", None), ("GET", f"projects/{p}/transcodes", None),
        ("POST", "transcodes", {"elements": [e], "format": "png16"}),
        ("POST", "transcodes/losses", {"elements": [e], "format": "png16"}),
        ("GET", f"elements/{e}/files", None), ("POST", f"elements/{e}/holds", {"holds": "uv"}),
        ("GET", f"elements/{e}/coarse-uv", None), ("GET", f"elements/{e}/coarse-uv/picture", None),
        ("GET", f"jobs/{job.pk}", None), ("POST", f"jobs/{job.pk}/cancel", None),
        ("POST", f"jobs/{job.pk}/pause", None), ("POST", f"jobs/{job.pk}/hurry", None),
        ("POST", f"jobs/{job.pk}/retry", None), ("DELETE", f"jobs/{job.pk}", None),
        ("GET", f"projects/{p}/reading-rules", None),
        ("POST", f"projects/{p}/reading-rules", {"pattern": "*", "reading": {}}),
        ("DELETE", f"reading-rules/{rule.pk}", None), ("POST", f"elements/{e}/trial", None),
        ("POST", f"elements/{e}/trial/sheet", {"readings": [{}], "place": {"frame": 1, "box": [0, 0, 8, 8]}}),
        ("POST", f"elements/{e}/profile", {**shown, "line": [0, 0, 9, 9]}),
        ("POST", f"elements/{e}/measure", shown), ("GET", f"elements/{e}/flicker?frame=1", None),
        ("GET", f"projects/{p}/comps", None), ("POST", f"projects/{p}/comps", {"name": "x"}),
        ("GET", f"comps/{c}/edges", None),
        ("POST", f"comps/{c}/edges", {"layer": "a", "owner": "", "first": 1, "last": 1}),
        ("GET", f"comps/{c}", None), ("PUT", f"comps/{c}", {"base": 1, "document": comp["document"]}),
        ("POST", f"comps/{c}/undo", {"base": 1}), ("POST", f"comps/{c}/redo", {"base": 1}),
        ("DELETE", f"comps/{c}", None), ("POST", f"comps/{c}/bring-back", None),
        ("GET", f"projects/{p}/deleted-comps", None), ("GET", f"comps/{c}/document.json", None),
        ("GET", f"comps/{c}/card", None),
        ("POST", f"comps/{c}/picture", shown), ("POST", f"comps/{c}/values", {**shown, "x": 1, "y": 1}),
        ("POST", f"comps/{c}/profile", {**shown, "line": [0, 0, 5, 5]}),
        ("POST", f"comps/{c}/measure", shown),
        ("POST", f"comps/{c}/matte/board", {"layer": "x", "stay": [], "go": []}),
        ("POST", f"comps/{c}/matte/screen", {"layer": "x", "within": [0, 0, 1, 1]}),
        ("POST", f"comps/{c}/matte/figures", {"layer": "x"}),
        ("POST", f"comps/{c}/match", {
            "what": "tone", "layer": "x", "plate": "y", "own": [0, 0, 9, 9], "there": [0, 0, 9, 9]}),
        ("GET", f"projects/{p}/cameras", None),
        ("POST", f"comps/{c}/place", {"layer": "x"}), ("POST", f"comps/{c}/stand", {"layer": "x"}),
        ("POST", f"comps/{c}/list/read", {"text": "a"}), ("POST", f"comps/{c}/list/check", {}),
        ("POST", f"comps/{c}/list/row", {"row": 1}),
        ("POST", f"projects/{p}/deliveries/check", order),
        ("POST", f"projects/{p}/deliveries/picture", order),
        ("GET", f"projects/{p}/delivery-presets", None),
        ("POST", f"projects/{p}/delivery-presets", own_preset),
        ("DELETE", f"delivery-presets/{preset['id']}", None),
        ("POST", f"comps/{c}/distance", {"layer": "x", "step": 0, "point": [1, 1]}),
        ("POST", f"comps/{c}/pick", {"point": [1, 1]}),
        ("POST", f"comps/{c}/canvas", {"layer": "a"}),
        ("POST", f"comps/{c}/distances", {"layer": "x", "step": 0, "columns": 2, "rows": 2}),
        ("POST", f"comps/{c}/alternatives", {"layer": "x", "one": "a", "other": "b"}),
        ("POST", f"comps/{c}/matte/values", {"layer": "x", "part": {}}),
        ("GET", f"comps/{c}/states", None), ("POST", f"comps/{c}/states", {"name": "x"}),
        ("DELETE", f"comps/{c}/states/1", None), ("GET", f"projects/{p}/presets", None),
        ("POST", f"projects/{p}/presets", {"kind": "look", "name": "x", "content": {}}),
        ("DELETE", f"presets/{held.pk}", None),
        ("GET", f"projects/{p}/deliveries", None), ("POST", f"projects/{p}/deliveries", order),
        ("GET", f"deliveries/{d}", None), ("POST", f"deliveries/{d}/verify", None),
        ("GET", f"deliveries/{d}/proof/picture?frame=1&shown=checks", None),
        ("GET", f"deliveries/{d}/files/a.0001.png", None), ("GET", f"deliveries/{d}/archive", None),
        ("GET", f"projects/{p}/scenes", None), ("POST", f"projects/{p}/scenes", None),
        ("PUT", f"scenes/{s}/files?name=a.glb", None), ("POST", f"scenes/{s}/finish", None),
        ("PATCH", f"scenes/{s}", {"name": "x"}), ("DELETE", f"scenes/{s}", None),
        ("POST", f"scenes/{s}/picture", {"document": setup}),
        ("POST", f"scenes/{s}/values", {"document": setup, "x": 1, "y": 1}),
        ("POST", f"scenes/{s}/camera", {"document": setup, "frame": 1}),
        ("GET", f"scenes/{s}/setups", None),
        ("POST", f"scenes/{s}/setups", named), ("DELETE", f"scenes/{s}/setups/{kept.pk}", None),
        ("POST", f"scenes/{s}/renders", named), ("GET", f"projects/{p}/renders", None),
        ("GET", f"renders/{r}", None),
        ("POST", f"renders/{r}/again", {}), ("POST", f"renders/{r}/lay-in", {"comp": c}),
        ("GET", f"renders/{r}/frames/1", None), ("GET", f"renders/{r}/manifest", None),
    ]  # fmt: skip


def test_every_address_of_the_api_is_in_the_list(addresses):
    from config.api import api

    known = {(m, _shape(p.split("?")[0])) for m, p, _ in addresses}
    open_to_all = {
        "session",
        "projects",
        "tables",
        "delivery-folders",
        "delivery-formats",
        "passes",
        "transcode-formats",
    }
    for path, methods in api.get_openapi_schema()["paths"].items():
        bare = _shape(path.removeprefix("/api/"))
        if bare not in open_to_all:
            for method in methods:
                assert (method.upper(), bare) in known, f"{method} {path} is not tried as a stranger"


def _shape(path: str) -> str:
    import re

    return re.sub(r"files/.+", "files/#", re.sub(r"\{[^}]+\}|\d+", "#", path))


def test_a_stranger_gets_the_answer_for_what_is_not_there(addresses, people):
    eve, ada = Web("eve"), Web("ada")
    for method, path, data in addresses:
        answer = eve(method, path, data)
        assert answer.status_code == 404, (method, path, answer.status_code)
        body = answer.json()
        assert body["code"] == "not-there", path
        missing = __import__("re").sub(r"\d+", "999999", path, count=1)
        if data and "elements" in data:
            data = {**data, "elements": [999999]}
        assert ada(method, missing, data).json() == body, "the same words as for a member's missing row"


def test_nobody_without_a_session(addresses):
    web = Web()
    assert {web(m, p, d).status_code for m, p, d in addresses} == {401}


def test_the_list_of_projects_tells_what_each_holds_the_newest_first(ada, project, disc, comp):
    bare = ada("POST", "projects", {"name": "bare"}).json()
    rows = ada("GET", "projects").json()
    assert [r["name"] for r in rows] == ["bare", project.name]
    assert (rows[0]["counts"], rows[0]["picture"]) == ({"element": 0, "comp": 0}, "")
    marsh = rows[1]
    assert marsh["counts"] == {"element": 1, "comp": 1}
    picture = ada("GET", marsh["picture"].removeprefix("/api/"))
    assert picture["Content-Type"] == "image/jpeg"
    document = comp["document"]
    document["layers"][0]["name"] = "another name"
    body = {"base": comp["revision"], "document": document}
    assert ada("PUT", f"comps/{comp['id']}", body).status_code == 200
    again = ada("GET", "projects").json()
    assert [r["id"] for r in again] == [project.pk, bare["id"]], "what was worked on last comes first"
    assert again[0]["touched"] > marsh["touched"]
    assert again[0]["picture"] != marsh["picture"], "another state is another address"
    assert Web("eve")("GET", "projects").json() == []
