"""States of a comp are kept as differences, read back whole, and thinned by the stated rule."""

import copy
import json
import random
from datetime import timedelta

import pytest
from comps import revisions
from comps.differences import difference, patched
from comps.models import Comp, CompRevision
from comps.revisions import document_at, keep_revision, thin
from core.reference.documents import documents
from django.db import IntegrityError, transaction
from django.utils import timezone
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from neatveil.comp import Comp as Document

numbers = st.integers(-3, 3) | st.sampled_from([0.0, 1.0, 0.5, -2.25])
values = st.recursive(
    st.none() | st.booleans() | numbers | st.text("a/~é", max_size=3),
    lambda inner: (
        st.lists(inner, max_size=5) | st.dictionaries(st.text("ab/~0", max_size=2), inner, max_size=4)
    ),
    max_leaves=20,
)


def text(value):
    """As text, in which 1, 1.0 and true are three values."""
    return json.dumps(value, sort_keys=True)


@given(values, values)
def test_the_difference_of_any_two_leads_from_one_to_the_other(one, other):
    patch = difference(one, other)
    assert text(patched(copy.deepcopy(one), patch)) == text(other)
    assert difference(one, one) == []


def test_a_stroke_among_thousands_is_a_short_difference():
    old = {"strokes": [{"points": [n, n + 0.5]} for n in range(4000)]}
    new = {"strokes": [*old["strokes"][:7], {"points": [1, 2]}, *old["strokes"][7:]]}
    assert difference(old, new) == [{"op": "add", "path": "/strokes/7", "value": {"points": [1, 2]}}]


def changes(n, rng):
    """Documents as they follow each other while somebody works."""
    document = {"neatveil": 3, "name": "dusk", "layers": [{"id": f"l{i}", "opacity": 1.0} for i in range(12)]}
    document["strokes"] = list(range(900))
    for _ in range(n):
        document = copy.deepcopy(document)
        layers = document["layers"]
        rng.choice(layers)["opacity"] = rng.random()
        if rng.random() < 0.2:
            layers.insert(rng.randrange(len(layers)), layers.pop())
        yield document


@pytest.fixture
def worked_on(project):
    """A comp with 170 states, and the states."""
    comp = Comp.objects.create(project=project, name="dusk", document={})
    states, before = {}, None
    for document in changes(170, random.Random(4)):
        comp.revision = len(states) + 1
        keep_revision(comp, document, before, what=f"change {comp.revision}")
        states[comp.revision], before = document, document
    comp.document = before
    comp.save()
    return comp, states


def test_every_state_is_read_back_from_differences_and_a_few_whole_ones(worked_on):
    comp, states = worked_on
    assert all(document_at(comp, r) == document for r, document in states.items())
    assert list(
        comp.revisions.filter(document__isnull=False).order_by("revision").values_list("revision", flat=True)
    ) == [1, 51, 101, 151]


def test_a_state_is_whole_or_a_difference(worked_on):
    comp, _ = worked_on
    with pytest.raises(IntegrityError), transaction.atomic():
        comp.revisions.filter(revision=3).update(patch=None)


def aged(comp, days):
    """Every state so many days back, eight to a day; the newest at the end."""
    start = timezone.now().replace(hour=6, minute=0) - timedelta(days=days)
    for row in comp.revisions.order_by("revision"):
        at = start + timedelta(days=row.revision // 8, minutes=row.revision)
        CompRevision.objects.filter(pk=row.pk).update(at=at)


@pytest.mark.parametrize("named", [(), (37, 101), (90,)])
def test_thinning_keeps_the_recent_the_named_and_the_last_of_each_day(worked_on, monkeypatch, named):
    comp, states = worked_on
    monkeypatch.setattr(revisions, "REACH", 60)
    aged(comp, 200)
    comp.revisions.filter(revision__in=named).update(name="sent out")
    gone = thin(comp)
    left = set(comp.revisions.values_list("revision", flat=True))
    assert len(left) + gone == 170
    assert left >= set(range(110, 171)), "undo finds all it can reach, and the state before"
    assert left >= set(named)
    ends = {r for r in range(1, 110) if (r + 1) % 8 == 0 or r == 109}
    assert left - set(range(110, 171)) == ends | set(named)
    assert all(document_at(comp, r) == states[r] for r in left), "what is left reads as it did"
    for r in set(states) - left:
        with pytest.raises(CompRevision.DoesNotExist):
            document_at(comp, r)
    assert thin(comp) == 0, "a second time takes nothing"


def test_nothing_recent_is_thinned_however_much_it_is(worked_on, monkeypatch):
    comp, _ = worked_on
    monkeypatch.setattr(revisions, "REACH", 10)
    assert thin(comp) == 0


def test_the_first_state_of_a_new_version_is_whole(worked_on):
    comp, states = worked_on
    comp.revisions.filter(revision=170).update(version=1)
    comp.revision = 171
    keep_revision(comp, states[170], states[170], what="a change")
    assert comp.revisions.get(revision=171).document == states[170]


@settings(max_examples=30, suppress_health_check=list(HealthCheck), deadline=None)
@given(documents, documents)
def test_differences_of_whole_comp_documents(one, other):
    first, second = (Document.model_validate(d).model_dump(mode="json") for d in (one, other))
    assert text(patched(copy.deepcopy(first), difference(first, second))) == text(second)
