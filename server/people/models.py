"""People who sign in."""

from django.contrib.auth.models import AbstractUser


class Person(AbstractUser):
    """A person; `username` is the name they sign in with."""
