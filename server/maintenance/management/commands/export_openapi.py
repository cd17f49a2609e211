"""Write the API's OpenAPI description, from which the web application's types are made."""

import json
from pathlib import Path
from typing import Any

from config.api import api
from django.core.management.base import BaseCommand, CommandParser


def description() -> str:
    """The description as it is kept in docs/openapi.json."""
    return json.dumps(api.get_openapi_schema(path_prefix="/api/"), indent=1, sort_keys=True) + "\n"


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        options["file"].write_text(description(), "utf-8")
