"""A deleted comp is nowhere, until it is brought back as it was; after thirty days it is gone for good."""

from datetime import timedelta

import pytest
from comps.actions.remove_comp import forget_deleted
from comps.models import Comp, CompRevision
from django.utils import timezone

LAYER = {"id": "s", "name": "strip", "kind": "made", "made": {"kind": "shape", "shape": "rectangle"}}


@pytest.fixture
def changed(ada, comp):
    """A comp with a change that can be undone."""
    document = {**comp["document"], "layers": [LAYER]}
    body = {"base": comp["revision"], "document": document, "what": "strip added"}
    return ada("PUT", f"comps/{comp['id']}", body).json()


def deleted(ada, comp):
    return ada("GET", f"projects/{comp['project']}/deleted-comps").json()


def test_it_comes_back_with_its_layers_and_revisions(ada, changed):
    path = f"comps/{changed['id']}"
    assert deleted(ada, changed) == []
    assert ada("DELETE", path).status_code == 204
    assert [(c["id"], c["name"]) for c in deleted(ada, changed)] == [(changed["id"], changed["name"])]
    assert ada("POST", f"{path}/bring-back").json() == changed
    assert deleted(ada, changed) == []
    undone = ada("POST", f"{path}/undo", {"base": changed["revision"]}).json()
    assert [layer["name"] for layer in undone["document"]["layers"]] == ["disc"]
    assert ada("POST", f"{path}/bring-back").json() == undone, "one that is there stays as it is"


def test_nothing_can_be_done_with_it_while_it_is_deleted(ada, changed):
    path = f"comps/{changed['id']}"
    ada("DELETE", path)
    assert changed["id"] not in [c["id"] for c in ada("GET", f"projects/{changed['project']}/comps").json()]
    body = {"base": changed["revision"], "document": changed["document"]}
    for method, address, sent in (
        ("GET", path, None), ("PUT", path, body), ("DELETE", path, None),
        ("POST", f"{path}/undo", {"base": changed["revision"]}),
        ("POST", f"{path}/picture", {"frame": 1, "level": 0, "viewer": "a", "sequence": 1}),
    ):  # fmt: skip
        assert ada(method, address, sent).status_code == 404, (method, address)
    order = {"comps": [changed["id"]], "formats": ["png16-straight"], "folder": "a", "name": "a"}
    assert ada("POST", f"projects/{changed['project']}/deliveries", order).status_code == 404
    # nor can it be laid into another one
    other = {"name": "other", "layers": [{"id": "c", "name": "inner", "element": f"comp-{changed['id']}"}]}
    assert ada("POST", f"projects/{changed['project']}/comps", other).status_code == 422


def test_it_holds_no_element_and_misses_what_was_removed_meanwhile(ada, changed, disc):
    document = {**changed["document"], "layers": [{"id": "d", "name": "disc", "element": disc["key"]}]}
    path = f"comps/{changed['id']}"
    body = {"base": changed["revision"], "document": document}
    assert ada("PUT", path, body).status_code == 200
    assert ada("DELETE", f"elements/{disc['id']}").status_code == 409
    ada("DELETE", path)
    assert ada("DELETE", f"elements/{disc['id']}").status_code == 204
    back = ada("POST", f"{path}/bring-back").json()
    assert [layer["name"] for layer in back["document"]["layers"]] == ["disc"]


def test_it_is_kept_for_thirty_days(ada, changed):
    ada("DELETE", f"comps/{changed['id']}")
    for days, left in ((29, 1), (31, 0)):
        Comp.everything.filter(pk=changed["id"]).update(deleted=timezone.now() - timedelta(days=days))
        forget_deleted()
        assert len(deleted(ada, changed)) == left
    assert not CompRevision.objects.filter(comp_id=changed["id"]).exists()


def test_the_projects_card_shows_another_one(ada, changed):
    def card():
        return next(p for p in ada("GET", "projects").json() if p["id"] == changed["project"])

    assert f"/comps/{changed['id']}/card" in card()["picture"]
    ada("DELETE", f"comps/{changed['id']}")
    assert f"/comps/{changed['id']}/card" not in (card()["picture"] or "")
