"""Add a person, or give one a new password."""

from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser

from people.models import Person


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("--password", required=True)

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            validate_password(options["password"], Person(username=options["name"]))
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from error
        person, _ = Person.objects.get_or_create(username=options["name"])
        person.set_password(options["password"])
        person.save()
