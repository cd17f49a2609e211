"""Columns of documents, which are read in today's version whatever version was written."""

from __future__ import annotations

from typing import Any

from django.db import models
from neatveil.comp.upgrades import upgrade_comp
from neatveil.scene.upgrades import upgrade_setup


class CompDocumentField(models.JSONField):
    """A comp document. Rows of older versions stay as they were written until their next change."""

    def from_db_value(self, value: Any, expression: Any, connection: Any) -> Any:
        return upgrade_comp(super().from_db_value(value, expression, connection))


class SetupDocumentField(models.JSONField):
    """A render set-up, likewise."""

    def from_db_value(self, value: Any, expression: Any, connection: Any) -> Any:
        return upgrade_setup(super().from_db_value(value, expression, connection))
