"""Long work of every kind: its states, and what a killed worker leaves behind, wherever it is killed."""

import itertools

import pytest
from config.errors import Conflict
from config.queueing import put_in_queue
from deliveries.actions import prove_delivery as proving
from deliveries.models import Delivery
from django.db import connection
from elements.actions import write_transcode as transcoding
from elements.models import Element, Transcode
from jobs.actions import run_job
from jobs.actions.find_lost import queue_lost_jobs
from jobs.actions.queue_job import create_job, queue_pieces
from jobs.actions.run_job import MOST_ATTEMPTS, run_piece
from jobs.actions.steer_job import cancel_job, hurry_job, pause_job, retry_job
from jobs.control import Control
from jobs.kinds import JobKind, register
from jobs.models import Job, Piece
from jobs.transitions import BEFORE, ENDED, move
from neatveil.errors import Cancelled, DiskFull
from webclient import do_job, run_jobs, take_job

S = Job.State


class Killed(BaseException):
    """A worker that is killed: no handler of ours sees it, as none would run."""


@pytest.fixture
def work(db, project):
    """A kind of job whose functions the test gives; three pieces of two frames; ``seen``: what ran."""

    class Work:
        seen: list

        def __init__(self):
            self.seen, self.piece, self.finish = [], lambda p, c: None, lambda j, c: None
            register(
                JobKind("test", "tests", "Doing frames", "Finishing", self._piece, self._finish, self._clear)
            )
            self.job = create_job("test", project.pk, None, [(1, 2), (3, 4), (5, 6)])

        def _piece(self, piece, control):
            self.seen.append((piece.first, piece.last))
            self.piece(piece, control)

        def _finish(self, job, control):
            self.seen.append("finish")
            self.finish(job, control)

        def _clear(self, job):
            self.seen.append("clear")

        def now(self):
            self.job.refresh_from_db()
            return self.job.state

    return Work()


def start(work):
    queue_pieces(work.job)


def killed(*_, **__):
    raise Killed


def work_with_kills():
    """What is queued is done in order; each job that kills its worker is handed out."""
    while job := take_job():
        try:
            do_job(job)
        except Killed:
            yield job


def put_back(job):
    """As `care_for_stalled_jobs` does with the job of a worker that is gone."""
    put_in_queue(job.task_name, job.queue_name, **job.args)


def test_pieces_then_finishing_and_done(work):
    start(work)
    run_jobs()
    assert work.seen == [(1, 2), (3, 4), (5, 6), "finish"]
    assert work.now() == S.DONE
    assert work.job.ended is not None


@pytest.mark.parametrize(("before", "after"), list(itertools.product(S.values, BEFORE)))
def test_no_state_follows_another_than_the_table_says(work, before, after):
    Job.objects.filter(pk=work.job.pk).update(state=before)
    moved = move(work.job, after)
    assert moved == (before in BEFORE[after])
    assert work.now() == (after if moved else before)
    assert not (before in ENDED and moved), "an ended state stays"


def test_what_fails_ends_the_job_with_its_reason_and_is_cleared_away_once(work):
    def full(piece, control):
        if piece.first == 3:
            raise DiskFull("The disk is full.")

    work.piece = full
    start(work)
    run_jobs()
    assert (work.now(), work.job.problem["code"]) == (S.FAILED, "disk-full")
    assert work.seen == [(1, 2), (3, 4), "clear"], "nothing is begun after that"


def test_an_error_that_nobody_foresaw_ends_the_job_too(work, caplog):
    def broken(piece, control):
        raise TypeError("a mistake of ours")

    work.piece = broken
    start(work)
    run_jobs()
    assert (work.now(), work.job.problem["code"]) == (S.FAILED, "unforeseen")
    assert "Doing frames 1 to 2" in work.job.problem["message"]
    assert "a mistake of ours" in caplog.text, "the log has the trace"


def test_retrying_does_only_what_is_not_done(work):
    def second_fails(piece, control):
        if piece.first == 3:
            raise DiskFull("The disk is full.")

    work.piece = second_fails
    start(work)
    run_jobs()
    work.seen.clear()
    work.piece = lambda p, c: None
    retry_job(work.job)
    assert work.now() == S.QUEUED
    run_jobs()
    assert work.seen == [(3, 4), (5, 6), "finish"]
    assert work.now() == S.DONE


def test_paused_it_stands_until_it_is_resumed_and_does_only_what_is_left(work):
    """Also while a piece is under way: what works at it is told to stop at its next frame."""

    def paused_in_the_middle(piece, control):
        if piece.first == 3:
            pause_job(work.job)
            assert control.cancelled()
            raise Cancelled("")

    work.piece = paused_in_the_middle
    start(work)
    run_jobs()
    assert work.now() == S.PAUSED
    assert work.seen == [(1, 2), (3, 4)], "nothing is begun, finished or cleared away"
    assert queue_lost_jobs() == 0, "it is not lost"
    work.seen.clear()
    work.piece = lambda p, c: None
    retry_job(work.job)
    run_jobs()
    assert work.seen == [(3, 4), (5, 6), "finish"]
    assert work.now() == S.DONE


def test_paused_while_it_is_finished_it_is_finished_anew(work):
    def paused(job, control):
        if "again" not in work.seen:
            pause_job(job)
            work.seen.append("again")
            raise Cancelled("")

    work.finish = paused
    start(work)
    run_jobs()
    assert work.now() == S.PAUSED
    retry_job(work.job)
    run_jobs()
    assert work.seen[-2:] == ["again", "finish"]
    assert work.now() == S.DONE


def test_a_paused_job_is_cancelled_at_once_and_cleared_away(work):
    start(work)
    pause_job(work.job)
    with pytest.raises(Conflict, match="nothing to pause"):
        pause_job(work.job)
    assert cancel_job(work.job).state == S.CANCELLED
    run_jobs()
    assert work.seen == ["clear"]


def test_put_first_it_is_done_before_what_was_ordered_earlier(work):
    other = create_job("test", work.job.project_id, None, [(7, 8)])
    start(work)
    queue_pieces(other)
    hurry_job(other)
    run_jobs()
    assert work.seen[0] == (7, 8)
    with pytest.raises(Conflict, match="does not wait"):
        hurry_job(other)


def test_retrying_what_failed_while_it_was_finished_finishes_alone(work):
    def fails(job, control):
        raise DiskFull("The disk is full.")

    work.finish = fails
    start(work)
    run_jobs()
    assert work.now() == S.FAILED
    work.seen.clear()
    work.finish = lambda j, c: None
    retry_job(work.job)
    run_jobs()
    assert work.seen == ["finish"]
    assert work.now() == S.DONE


@pytest.mark.parametrize("where", ["piece", "finish"])
def test_cancelled_at_work_it_stops_and_stays_cancelled(work, where):
    def pressed(of, control):
        cancel_job(work.job)
        control._looked = 0  # as if half a second had gone by
        if control.cancelled():
            raise Cancelled("It was cancelled.")

    setattr(work, where, pressed)
    start(work)
    run_jobs()
    assert work.now() == S.CANCELLED
    assert work.seen[-1] == "clear"
    run_job._fail(work.job, DiskFull("The disk is full."))
    assert work.now() == S.CANCELLED, "a failure that comes late does not undo it"


def test_a_piece_of_before_a_retry_changes_nothing_any_more(work):
    def begun_again_meanwhile(piece, control):
        move(work.job, S.FAILED)
        work.piece = lambda p, c: None
        retry_job(work.job)
        raise DiskFull("The disk is full.")

    start(work)
    old = Piece.objects.first()
    work.piece = begun_again_meanwhile
    run_piece(old.pk)
    assert work.now() == S.QUEUED
    assert not Piece.objects.filter(pk=old.pk).exists()
    run_jobs()
    assert work.now() == S.DONE


def test_a_piece_that_kills_its_worker_is_set_aside_and_the_others_are_done(work):
    def kills(piece, control):
        if piece.first == 3:
            raise Killed

    work.piece = kills
    start(work)
    for lost in work_with_kills():
        put_back(lost)
    assert work.seen.count((3, 4)) == MOST_ATTEMPTS
    assert work.seen.count((5, 6)) == 1
    assert (work.now(), work.job.problem["code"]) == (S.FAILED, "worker-killed")
    assert "frames 3 to 4" in work.job.problem["message"]
    assert "memory" in work.job.problem["advice"]


def test_a_long_piece_whose_worker_is_stopped_now_and_then_is_not_given_up(work):
    """Every time it came further: a machine that is restarted each hour is no reason to fail."""
    done = iter(range(1, 9))

    def comes_further(piece, control):
        frame = next(done, None)
        if piece.first == 1 and frame is not None:
            control.frame_written(frame)
            raise Killed

    work.job.pieces.all().delete()
    Piece.objects.create(job=work.job, first=1, last=9)
    work.piece = comes_further
    start(work)
    for lost in work_with_kills():
        put_back(lost)
    assert work.now() == S.DONE
    assert work.seen.count((1, 9)) == 9


def test_finishing_that_kills_its_worker_ends_too(work):
    work.finish = killed
    start(work)
    for lost in work_with_kills():
        put_back(lost)
    assert work.seen.count("finish") == MOST_ATTEMPTS
    assert (work.now(), work.job.problem["code"]) == (S.FAILED, "worker-killed")


def test_a_job_with_nothing_in_the_queue_is_found(work, settings):
    settings.STALLED_SECONDS = 0
    start(work)
    assert queue_lost_jobs() == 0, "it is served"
    _empty_the_queue()
    assert queue_lost_jobs() == 1
    run_jobs()
    assert work.now() == S.DONE
    assert queue_lost_jobs() == 0


def test_progress_is_told_and_no_frame_is_counted_back(work):
    piece = Piece.objects.first()
    Control(work.job, piece).frame_written(2)
    Control(work.job, piece).frame_written(1)
    piece.refresh_from_db()
    assert piece.written == 2


# --- a worker killed at every place of a real delivery, transcode and render -------------------


def _empty_the_queue():
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM procrastinate_jobs")


@pytest.mark.parametrize("where", ["before the proof", "in the proof", "after the proof"])
def test_a_worker_killed_while_a_delivery_is_proved(ada, comp, monkeypatch, where):
    body = {
        "comps": [comp["id"]], "formats": ["png16-straight"], "folder": "k", "name": "k",
    }  # fmt: skip
    row = ada("POST", f"projects/{comp['project']}/deliveries", body).json()[0]
    place = {
        "before the proof": (proving, "remove_parts"), "in the proof": (proving, "prove_together"),
        "after the proof": (proving, "_write_beside"),
    }[where]  # fmt: skip
    monkeypatch.setattr(*place, killed)
    waiting = work_with_kills()
    lost = next(waiting)
    assert Delivery.objects.get().job.state == S.FINISHING
    monkeypatch.undo()
    put_back(lost)
    list(waiting)
    now = ada("GET", f"deliveries/{row['id']}").json()
    assert (now["job"]["state"], now["good"]) == ("done", True)
    assert ada("POST", f"deliveries/{row['id']}/verify").json()["generations"] == 1


@pytest.mark.parametrize(
    "where",
    ["while it is written", "while it is checked", "after its element was made", "after it took over"],
)
def test_a_worker_killed_at_any_place_of_a_transcode_makes_one_element(
    ada, project, disc, monkeypatch, where
):
    before = Element.objects.count()
    order = {"elements": [disc["id"]], "format": "ffv1", "take_over": True}
    ada("POST", "transcodes", order)
    if where == "after it took over":
        real = transcoding._look_and_take_over
        monkeypatch.setattr(transcoding, "_look_and_take_over", lambda row: (real(row), killed()))
    else:
        name = {
            "while it is written": "transcode", "while it is checked": "check",
            "after its element was made": "look_at",
        }[where]  # fmt: skip
        monkeypatch.setattr(transcoding, name, killed)
    waiting = work_with_kills()
    lost = next(waiting)
    monkeypatch.undo()
    put_back(lost)
    list(waiting)
    row = Transcode.objects.get()
    assert (row.job.state, row.job.problem, row.taken_over) == (S.DONE, None, True)
    assert Element.objects.count() == before + 1, "not a second one"
    assert Element.objects.get(pk=disc["id"]).facts["codec"] == "ffv1"
    assert row.result.facts["kind"] == "sequence", "changed over once, not there and back"


def test_a_failed_transcode_leaves_no_files(ada, project, disc, monkeypatch, settings):
    ada("POST", "elements/reading", {"elements": [disc["id"]], "rate": "25"})

    def full(*args, **options):
        raise DiskFull("The disk is full.")

    monkeypatch.setattr(transcoding, "check", full)
    ada("POST", "transcodes", {"elements": [disc["id"]], "format": "ffv1"})
    run_jobs()
    assert Transcode.objects.get().job.state == S.FAILED
    assert not list((settings.MEDIA / "transcodes").glob("*/*"))


@pytest.mark.parametrize("kind", ["delivery", "transcode"])
def test_jobs_are_steered_by_one_set_of_addresses(ada, comp, disc, kind):
    if kind == "delivery":
        body = {
            "comps": [comp["id"]], "formats": ["png16-straight"], "folder": "s", "name": "s",
        }  # fmt: skip
        job = ada("POST", f"projects/{comp['project']}/deliveries", body).json()[0]["job"]
    else:
        job = ada("POST", "transcodes", {"elements": [disc["id"]], "format": "png16"}).json()[0]["job"]
    path = f"jobs/{job['id']}"
    assert (job["kind"], job["state"], job["person"]) == (kind, "queued", "ada")
    assert ada("DELETE", path).status_code == 409, "it is at work"
    assert ada("POST", f"{path}/cancel").json()["state"] == "cancelled"
    assert ada("POST", f"{path}/cancel").status_code == 409
    assert ada("POST", f"{path}/retry").json()["state"] == "queued"
    run_jobs()
    assert ada("GET", path).json()["state"] == "done"
    assert ada("POST", f"{path}/retry").status_code == 409
    assert ada("DELETE", path).status_code == 204
    assert ada("GET", path).status_code == 404
    assert not Job.objects.exists()
    assert not Delivery.objects.exists()
    assert not Transcode.objects.exists(), "the row that it served goes with it"
