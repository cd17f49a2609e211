"""Whether this process lives, and whether it can do its work: for whatever starts and watches it."""

from __future__ import annotations

import os

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, JsonResponse


def live(request: HttpRequest) -> JsonResponse:
    """Always 200: a process that answers this lives. Nothing else is asked."""
    return JsonResponse({"live": True})


def ready(request: HttpRequest) -> JsonResponse:
    """200 where requests can be answered; 503 with what is missing."""
    missing = [words for words, there in (*_database(), *_media()) if not there]
    return JsonResponse({"ready": not missing, "missing": missing}, status=503 if missing else 200)


def _database() -> list[tuple[str, bool]]:
    try:
        executor = MigrationExecutor(connection)
        behind = executor.migration_plan(executor.loader.graph.leaf_nodes())
    except DatabaseError:
        return [("the database", False)]
    return [("the database's newest tables: run the migrations", not behind)]


def _media() -> list[tuple[str, bool]]:
    folder = settings.MEDIA
    there = folder.is_dir() and os.access(folder, os.R_OK | os.W_OK | os.X_OK)
    return [("the media folder, to read and to write", there)]
