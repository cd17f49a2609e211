"""Keeping a set-up under a name."""

from __future__ import annotations

from typing import Any

from config.errors import Conflict
from config.events import announce
from django.db import transaction
from neatveil.errors import ValueRefused
from neatveil.scene.setup import RenderSetup

from scenes.models import Scene, SetUp


def keep_setup(scene: Scene, person: Any, name: str, document: RenderSetup, *, replace: bool) -> SetUp:
    """A new set-up, or a changed one where ``replace`` says so; `Conflict` where the name is taken."""
    name = name.strip()
    if not 0 < len(name) <= 200:
        raise ValueRefused("A name has 1 to 200 characters.", where="name")
    data = document.model_dump(mode="json")
    with transaction.atomic():
        Scene.objects.select_for_update().get(pk=scene.pk)
        row = SetUp.objects.filter(scene=scene, name=name).first()
        if row is not None and not replace:
            raise Conflict(
                f"{scene.name} has a set-up {name} already.",
                advice="Choose another name, or save over it.",
                where=name,
            )
        if row is None:
            row = SetUp(scene=scene, name=name)
        row.document, row.person = data, person
        row.save()
        announce(scene.project_id, "scenes", scene.pk)
    return row
