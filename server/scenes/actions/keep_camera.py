"""A render's camera and lights as comps know them."""

from __future__ import annotations

import json
import logging
from pathlib import Path

from comps.cameras import camera_key
from comps.models import SceneCamera
from config.events import announce
from django.db import transaction
from elements.resolve import number_of
from neatveil.errors import NeatVeilError
from neatveil.scene.frames import seconds_of
from neatveil.scene.render_camera import camera_of_manifest
from neatveil.scene.rendering import manifest_path
from neatveil.scene.setup import parse_setup
from neatveil.view.standing import Meets, meets_scene

from scenes.models import Render
from scenes.places import opened, render_folder

log = logging.getLogger(__name__)


def keep_camera(render: Render, manifest: Path) -> SceneCamera | None:
    """The row stays the same when it is rendered again, so that comps follow.

    None where the manifest tells of no camera that a comp can have: that is no reason for a render to fail.
    """
    try:
        camera = camera_of_manifest(json.loads(manifest.read_text("utf-8")), render.name)
    except (OSError, KeyError, ValueError, NeatVeilError) as error:
        log.warning("render %s: its camera cannot be kept: %s", render.pk, error)
        return None
    with transaction.atomic():
        row = SceneCamera.objects.select_for_update().filter(render=render).first()
        if row is None:
            row = SceneCamera(project_id=render.project_id)
        row.name, row.camera = render.name, camera.model_dump(mode="json")
        row.save()
        Render.objects.filter(pk=render.pk).update(camera=row)
        announce(render.project_id, "cameras", row.pk)
    return row


def key_of_camera(render: Render) -> str:
    """The camera's key in comps; empty where the render has none to know.

    Kept now where the render was completed before cameras were.
    """
    if render.camera_id is not None:
        return camera_key(render.camera_id)
    path = manifest_path(opened(render.scene), parse_setup(render.document), render_folder(render))
    kept = keep_camera(render, path)
    return camera_key(kept.pk) if kept else ""


def what_camera_meets(key: str) -> Meets:
    """What the rays of a comp's camera meet in its scene; nothing where that is not there any more."""
    number = number_of(key, "v")
    render = number and Render.objects.select_related("scene").filter(camera=number).first()
    if not render:
        return lambda frame, eye, way: None
    setup = parse_setup(render.document).effective()
    return meets_scene(opened(render.scene), lambda frame: seconds_of(setup, frame))
