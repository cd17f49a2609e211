"""Who asks: the signed-in person, with CSRF checked."""

from ninja.security import SessionAuth

person_session = SessionAuth()
