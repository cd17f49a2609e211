"""People, projects and elements for the server's tests."""

from __future__ import annotations

import numpy as np
import pytest
from core.pictures import save_png, soft_disc
from django.core.cache import cache
from ferrow_marsh.scenes.waymark import waymark
from people.models import Person
from projects.models import Member, Project
from sceneclient import bring
from webclient import PASSWORD, Web


@pytest.fixture(autouse=True)
def _quick(settings, tmp_path):
    """A media folder of its own; passwords hashed fast, since here they guard nothing."""
    settings.VAR, settings.MEDIA = tmp_path, tmp_path / "media"
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
    cache.clear()


@pytest.fixture
def people(db):
    return {n: Person.objects.create_user(n, password=PASSWORD) for n in ("ada", "ben", "eve")}


@pytest.fixture
def project(people):
    row = Project.objects.create(name="Ferrow Marsh film")
    for name in ("ada", "ben"):
        Member.objects.create(project=row, person=people[name])
    return row


@pytest.fixture
def ada(people, project):
    return Web("ada")


@pytest.fixture
def png(tmp_path):
    """PNG bytes of a soft disc, shifted by some pixels."""

    def make(shift: int = 0, colour=(0.8, 0.4, 0.1)) -> bytes:
        rgba = np.roll(soft_disc(colour=colour), shift, axis=1)
        return save_png(tmp_path / "made.png", rgba).read_bytes()

    return make


@pytest.fixture
def disc(ada, project, png):
    """A sequence of three frames in the project."""
    files = {f"disc.{n:04d}.png": png(n) for n in (1, 2, 3)}
    row = ada.bring(project.pk, files)[0]
    ada("POST", "elements/reading", {"elements": [row["id"]], "rate": "25"})
    return {**row, "rate": "25"}


@pytest.fixture
def comp(ada, project, disc):
    body = {
        "name": "dusk", "width": 64, "height": 48, "rate": "24000/1001", "first": 1, "last": 3,
        "layers": [{"id": "a", "name": "disc", "element": disc["key"]}],
    }  # fmt: skip
    answer = ada("POST", f"projects/{project.pk}/comps", body)
    assert answer.status_code == 201, answer.content
    return answer.json()


@pytest.fixture
def sign(ada, project, tmp_path):
    return bring(ada, project.pk, {"waymark.glb": waymark(tmp_path / "w.glb").read_bytes()})
