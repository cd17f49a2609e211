"""What queues work may rely on, of the queue in memory as of the table that workers take from."""

import pytest
from config.queueing import TableQueue, another_queue, put_in_queue, put_pieces_in_queue
from django.db import connection, transaction
from jobs.actions.find_lost import queue_lost_jobs
from jobs.actions.queue_job import create_job, queue_pieces
from jobs.kinds import JobKind, register
from jobs.models import Job
from memory_queue import MemoryQueue
from procrastinate.contrib.django.models import ProcrastinateJob
from projects.models import Project

PIECE = "jobs.tasks.run_piece"


class Table(TableQueue):
    """The real one, with a worker's way of taking from it."""

    def take(self):
        row = ProcrastinateJob.objects.filter(status="todo").order_by("-priority", "id").first()
        if row is not None:
            with connection.cursor() as cursor:
                cursor.execute("DELETE FROM procrastinate_jobs WHERE id = %s", [row.id])
        return row and row.args


class Memory(MemoryQueue):
    def take(self):
        entry = super().take()
        return entry and entry.arguments


@pytest.fixture(params=[Table, Memory])
def queue(request, db):
    made = request.param()
    with another_queue(made):
        yield made


def everything(queue):
    found = []
    while arguments := queue.take():
        found.append(arguments)
    return found


def test_the_first_piece_of_every_project_comes_before_the_second_of_any(queue):
    put_pieces_in_queue(PIECE, "renders", 1, 10, [101, 102, 103])
    put_pieces_in_queue(PIECE, "renders", 2, 20, [201, 202])
    assert [a["piece_id"] for a in everything(queue)] == [101, 201, 102, 202, 103]


def test_a_second_order_of_a_project_stands_behind_its_first(queue):
    put_pieces_in_queue(PIECE, "renders", 1, 10, [101, 102])
    put_pieces_in_queue(PIECE, "renders", 1, 11, [111])
    put_pieces_in_queue(PIECE, "renders", 2, 20, [201])
    assert [a["piece_id"] for a in everything(queue)] == [101, 201, 102, 111]


def test_a_job_that_is_put_first_overtakes_its_own_project_alone(queue):
    put_pieces_in_queue(PIECE, "renders", 1, 10, [101, 102])
    put_pieces_in_queue(PIECE, "renders", 2, 20, [201, 202])
    put_pieces_in_queue(PIECE, "renders", 1, 11, [111, 112])
    put_in_queue("elements.tasks.look_at_element", "arrivals", priority=10, element_id=1, project_id=1)
    with transaction.atomic():
        queue.put_first(1, 11)
    order = [a.get("piece_id") for a in everything(queue)]
    assert order == [None, 201, 111, 202, 112, 101, 102], "arrivals and the other project keep their turns"


def test_put_first_where_all_have_the_same_turn(queue):
    for job in (10, 11, 12):
        put_in_queue("jobs.tasks.finish_job", "renders", job_id=job, project_id=1)
    with transaction.atomic():
        queue.put_first(1, 12)
    assert [a["job_id"] for a in everything(queue)] == [12, 10, 11]


def test_what_people_wait_for_comes_first(queue):
    put_in_queue("elements.tasks.look_closer_at_element", "arrivals", element_id=1)
    put_in_queue("elements.tasks.look_at_element", "arrivals", priority=10, element_id=2)
    assert [a["element_id"] for a in everything(queue)] == [2, 1]


def test_it_knows_what_serves_a_job(queue):
    put_pieces_in_queue(PIECE, "renders", 1, 10, [101])
    assert queue.serves(10)
    assert not queue.serves(101), "a piece's number is not a job's"
    everything(queue)
    assert not queue.serves(10)


def test_a_job_that_lost_its_place_is_queued_again(queue, project, settings):
    settings.STALLED_SECONDS = -1
    register(JobKind("lost", "renders", "Doing", "Finishing", lambda p, c: None, lambda j, c: None))
    job = create_job("lost", project.pk, None, [(1, 2), (3, 4)])
    queue_pieces(job)
    assert queue_lost_jobs() == 0, "it is served"
    assert len(everything(queue)) == 2
    assert queue_lost_jobs() == 1
    assert len(everything(queue)) == 2


def test_work_in_memory_is_done_to_its_end(project):
    seen = []
    register(
        JobKind(
            "noted", "renders", "Doing", "Finishing", lambda p, c: seen.append(p.first), lambda j, c: None
        )
    )
    memory = MemoryQueue()
    with another_queue(memory):
        job = create_job("noted", project.pk, None, [(1, 2), (3, 4)])
        queue_pieces(job)
        assert memory.run() == 3, "two pieces and the finishing"
    assert seen == [1, 3]
    assert Job.objects.get(pk=job.pk).state == Job.State.DONE
    assert not ProcrastinateJob.objects.exists()


def test_a_task_that_is_not_there_is_refused_in_memory_too():
    with pytest.raises(LookupError):
        MemoryQueue().put([type("E", (), {"task": "jobs.tasks.dream"})()])


@pytest.mark.django_db(transaction=True)
def test_what_is_queued_goes_back_with_its_transaction():
    """The real one alone: the row and its work are there together, or neither."""

    class Undone(Exception):
        pass

    def order():
        with transaction.atomic():
            Project.objects.create(name="never")
            put_in_queue("elements.tasks.look_at_element", "arrivals", element_id=1)
            raise Undone

    with pytest.raises(Undone):
        order()
    assert not ProcrastinateJob.objects.exists()
