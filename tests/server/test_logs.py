"""Log lines are JSON objects that carry the request which set them off, from the browser to the job."""

import json
import logging
import logging.config

import pytest
from config.environment import read_environment
from config.logs import current_request, logging_settings, new_request_id, request_scope
from config.queueing import put_in_queue
from config.tasks import queued_task
from procrastinate.contrib.django.models import ProcrastinateJob


@pytest.fixture
def lines(tmp_path, monkeypatch):
    """The log file of a process, as objects."""
    path = tmp_path / "log" / "web.log"
    path.parent.mkdir()
    monkeypatch.setenv("NEATVEIL_LOG", str(path))
    config = logging_settings(read_environment())
    handler = logging.config.DictConfigurator(config)
    handler.configure()
    yield lambda: [json.loads(line) for line in path.read_text().splitlines()]
    logging.getLogger().handlers.clear()


def test_each_line_is_an_object_with_time_level_and_request(lines):
    with request_scope("abcdefgh"):
        logging.getLogger("neatveil.jobs").info("job %d: %s", 3, "done", extra={"project": 7})
    logging.getLogger("neatveil.jobs").info("outside")
    first, second = lines()
    assert (first["message"], first["request"], first["project"]) == ("job 3: done", "abcdefgh", 7)
    assert {"time", "level", "logger", "process"} <= set(first)
    assert second["request"] == ""


def test_a_full_log_begins_anew_and_old_ones_go(tmp_path, monkeypatch, lines):
    monkeypatch.setenv("NEATVEIL_LOG_MB", "1")
    monkeypatch.setenv("NEATVEIL_LOG", str(tmp_path / "small.log"))
    logging.config.dictConfig(logging_settings(read_environment()))
    for _ in range(9):
        logging.getLogger("neatveil.jobs").info("x" * (1 << 20))
    assert len(list(tmp_path.glob("small.log*"))) == 6, "the newest and five older ones"


def test_every_answer_names_its_request(ada):
    first, second = (ada("GET", "session") for _ in range(2))
    assert first["X-Request-ID"] != second["X-Request-ID"]


def test_only_a_proxy_of_our_own_may_name_the_request(ada, settings):
    sent = {"X-Request-ID": "chosen-by-them"}
    assert ada("GET", "session", **sent)["X-Request-ID"] != "chosen-by-them"
    settings.PROXIES = 1
    assert ada("GET", "session", **sent)["X-Request-ID"] == "chosen-by-them"
    assert new_request_id("line\nbreak") != "line\nbreak"


def test_what_a_request_queues_works_under_its_id(db):
    seen = []

    @queued_task(queue="jobs", name="tests.note")
    def note(number: int) -> None:
        seen.append((number, current_request()))

    with request_scope("from-the-browser"):
        put_in_queue("tests.note", "jobs", number=4)
    row = ProcrastinateJob.objects.get(task_name="tests.note")
    note(**row.args)
    assert seen == [(4, "from-the-browser")]
    assert current_request() == ""


def test_an_error_nobody_foresaw_tells_where_the_log_has_it(ada, monkeypatch, caplog):
    def broken(*_, **__):
        raise RuntimeError("a fault of ours")

    monkeypatch.setattr("projects.api.Project.objects.filter", broken)
    answer = ada("GET", "projects")
    assert answer.status_code == 500
    assert answer["X-Request-ID"] in answer.json()["advice"]
