"""A browser without pages for the server's tests, and a stand-in for the workers."""

from __future__ import annotations

import json
from typing import Any

from django.db import connection
from django.test import Client
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

PASSWORD = "a boardwalk at dusk"


class Web:
    """A browser without pages: signed in, JSON in and out, CSRF checked as for everybody."""

    def __init__(self, name: str | None = None) -> None:
        self.client = Client(enforce_csrf_checks=True)
        self.client.get("/api/session")
        if name:
            answer = self("POST", "session", {"name": name, "password": PASSWORD})
            assert answer.status_code == 200, answer.content

    def __call__(self, method: str, path: str, data: Any = None, **headers: str) -> Any:
        token = self.client.cookies["csrftoken"].value
        return self.client.generic(
            method, f"/api/{path}", json.dumps(data) if data is not None else b"",
            content_type="application/json", headers={"X-CSRFToken": token, **headers},
        )  # fmt: skip

    def put_file(self, arrival: int, name: str, data: bytes, **query: Any) -> Any:
        token = self.client.cookies["csrftoken"].value
        return self.client.generic(
            "PUT", f"/api/arrivals/{arrival}/files", data, content_type="application/octet-stream",
            headers={"X-CSRFToken": token}, query_params={"name": name, **query},
        )  # fmt: skip

    def put_bytes(self, path: str, data: bytes) -> Any:
        token = self.client.cookies["csrftoken"].value
        return self.client.generic(
            "PUT",
            f"/api/{path}",
            data,
            content_type="application/octet-stream",
            headers={"X-CSRFToken": token},
        )

    def bring(self, project: int, files: dict[str, bytes]) -> list[dict[str, Any]]:
        """Files through the real upload, looked at by the real job."""
        arrival = self("POST", f"projects/{project}/arrivals").json()["id"]
        for name, data in files.items():
            answer = self.put_file(arrival, name, data)
            assert answer.status_code == 200, answer.content
        made = self("POST", f"arrivals/{arrival}/finish")
        assert made.status_code == 200, made.content
        run_jobs()
        keys = {row["id"] for row in made.json()}
        return [e for e in self("GET", f"projects/{project}/elements").json() if e["id"] in keys]


def take_job() -> ProcrastinateJob | None:
    """The job that a worker would take next, out of the queue."""
    job = ProcrastinateJob.objects.filter(status="todo").order_by("-priority", "id").first()
    if job is not None:
        # the rows are read-only for Django's models: taken out of the queue's own table
        with connection.cursor() as cursor:
            cursor.execute("DELETE FROM procrastinate_jobs WHERE id = %s", [job.id])
    return job


def do_job(job: ProcrastinateJob) -> None:
    app.tasks[job.task_name].func(**job.args)


def run_jobs() -> int:
    """Do every job that is queued, in order, as a worker would; returns how many."""
    done = 0
    while job := take_job():
        do_job(job)
        done += 1
    return done
