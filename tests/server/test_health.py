"""What a watcher of the server is told, signed in or not."""

import pytest
from django.db import OperationalError
from django.test import Client
from projects.models import Project


@pytest.fixture
def media(settings):
    settings.MEDIA.mkdir(parents=True)
    return settings.MEDIA


def test_it_lives_and_is_ready_without_signing_in(db, media):
    assert Client().get("/health/live").json() == {"live": True}
    answer = Client().get("/health/ready")
    assert (answer.status_code, answer.json()) == (200, {"ready": True, "missing": []})


def test_without_its_media_folder_it_lives_but_is_not_ready(db):
    assert Client().get("/health/live").status_code == 200
    answer = Client().get("/health/ready")
    assert (answer.status_code, answer.json()["ready"]) == (503, False)
    assert "media folder" in answer.json()["missing"][0]


def test_without_a_database_it_lives_but_is_not_ready(media, monkeypatch):
    def away(*_):
        raise OperationalError("connection refused")

    monkeypatch.setattr("config.health.MigrationExecutor", away)
    assert Client().get("/health/live").status_code == 200
    answer = Client().get("/health/ready")
    assert (answer.status_code, answer.json()["missing"]) == (503, ["the database"])


def test_tables_that_are_behind_are_named(db, media, monkeypatch):
    class Behind:
        def __init__(self, _):
            self.loader = type("Loader", (), {"graph": type("Graph", (), {"leaf_nodes": lambda s: []})()})()

        def migration_plan(self, _):
            return [("projects", Project)]

    monkeypatch.setattr("config.health.MigrationExecutor", Behind)
    assert "migrations" in Client().get("/health/ready").json()["missing"][0]
