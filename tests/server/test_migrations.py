"""Rows as the last version wrote them, brought to today's tables."""

import pytest
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.utils import timezone
from neatveil.comp.loading import VERSION

BEFORE = [
    ("comps", "0004_undo_by_person"), ("deliveries", "0003_loss_accepted"), ("scenes", "0001_initial"),
    ("elements", "0006_folder_help"),
]  # fmt: skip
OLD_READING = {
    "alpha": "premultiplied",
    "matte": [0, 0, 0],
    "inverted": False,
    "multiplied": "after-encoding",
}


def migrate(targets):
    executor = MigrationExecutor(connection)
    executor.migrate(targets)
    return MigrationExecutor(connection).loader.project_state(targets).apps


@pytest.fixture
def old(transactional_db):
    try:
        yield migrate(BEFORE)
    finally:
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())


def test_what_was_kept_is_there_in_todays_words_and_with_a_job(old):
    now = timezone.now()
    project = old.get_model("projects", "Project").objects.create(name="marsh")
    ids = {"project_id": project.pk}
    times = {"ordered": now, "started": now, "ended": now}
    element = old.get_model("elements", "Element").objects.create(
        **ids, name="kite", file="kite.mov", reading=OLD_READING, facts={"first": 3}
    )
    old.get_model("comps", "Kept").objects.create(**ids, kind="steps", name="s", content=[{"kind": "grade"}])
    old.get_model("comps", "Comp").objects.create(**ids, name="c", document={"neatveil": 1, "layers": []})
    delivery = old.get_model("deliveries", "Delivery").objects.create(
        **ids, comp_name="c", document={"neatveil": 1}, form="png16-straight", first=1, last=12, rate="25",
        place="c/v1", file="c.####.png", state="writing", **times,
    )  # fmt: skip
    piece = old.get_model("deliveries", "Piece").objects.create
    piece(delivery=delivery, first=1, last=8, written=8, done=True)
    piece(delivery=delivery, first=9, last=12, written=1)
    scene = old.get_model("scenes", "Scene").objects.create(**ids, name="sign")
    render = old.get_model("scenes", "Render").objects.create(
        **ids,
        scene=scene,
        name="sign",
        document={"neatveil_scene": 1, "rate": "25"},
        state="done",
        newest=4,
        **times,
    )
    old.get_model("scenes", "RenderPiece").objects.create(
        render=render, first=1, last=4, written=4, done=True
    )
    old.get_model("elements", "Rewrite").objects.create(
        **ids, element=element, form="ffv1", take_over=True, state="done", done=5, count=5, **times
    )

    executor = MigrationExecutor(connection)
    executor.migrate(executor.loader.graph.leaf_nodes())

    from comps.models import Comp, Preset
    from deliveries.models import Delivery
    from elements.models import Element, Transcode
    from scenes.models import Render

    assert Element.objects.get().reading["multiplied"] == "encoded"
    assert (Preset.objects.get().version, Preset.objects.get().kind) == (1, "steps")
    assert Comp.objects.get().document["neatveil"] == VERSION
    moved = Delivery.objects.get()
    assert (moved.format, moved.folder, moved.document["neatveil"]) == ("png16-straight", "c/v1", VERSION)
    assert (moved.job.kind, moved.job.state, moved.job.problem["code"]) == (
        "delivery",
        "failed",
        "interrupted",
    )
    assert list(moved.job.pieces.values_list("first", "last", "done")) == [(1, 8, True), (9, 12, False)]
    done = Render.objects.get()
    assert (done.job.state, done.job.newest, done.document["neatveil_scene"]) == ("done", 4, 2)
    made = Transcode.objects.get()
    assert (made.format, made.job.state, made.taken_over) == ("ffv1", "done", True)
    assert list(made.job.pieces.values_list("first", "last")) == [(3, 7)]


def test_states_of_comps_become_differences_and_read_as_before(old):
    project = old.get_model("projects", "Project").objects.create(name="marsh")
    comp = old.get_model("comps", "Comp").objects.create(project_id=project.pk, name="c", document={})
    base = {"neatveil": 1, "layers": [{"id": f"l{n}", "name": "x" * 40} for n in range(30)]}
    states = {n: {**base, "name": f"state {n}"} for n in range(1, 61)} | {61: {**base, "neatveil": 2}}
    for n, document in states.items():
        old.get_model("comps", "CompRevision").objects.create(comp=comp, revision=n, document=document)

    executor = MigrationExecutor(connection)
    executor.migrate(executor.loader.graph.leaf_nodes())

    from comps.models import Comp
    from comps.revisions import document_at, kept_at

    row = Comp.objects.get()
    assert all(kept_at(row, n) == document for n, document in states.items())
    assert document_at(row, 7)["neatveil"] == VERSION, "read in today's version"
    whole = row.revisions.filter(document__isnull=False).order_by("revision")
    assert list(whole.values_list("revision", "version")) == [(1, 1), (51, 1), (61, 2)]
