"""Who asks: the signed-in person, with CSRF checked."""

from typing import cast

from django.http import HttpRequest
from ninja.security import SessionAuth
from people.models import Person

person_session = SessionAuth()


def person_of(request: HttpRequest) -> Person:
    """Who asks; only behind `person_session`, which lets nobody else through."""
    return cast(Person, request.user)
