"""Who asks: the signed-in person, for sync and for async endpoints, with CSRF checked."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest
from ninja.security import SessionAuth
from ninja.security.apikey import APIKeyCookie
from people.models import Person

person_session = SessionAuth()


class AsyncPersonSession(APIKeyCookie):
    """As `person_session`, for async endpoints."""

    param_name: str = settings.SESSION_COOKIE_NAME

    async def authenticate(self, request: HttpRequest, key: str | None) -> Person | None:
        person = await request.auser()
        return person if person.is_authenticated else None


async_person_session = AsyncPersonSession()
