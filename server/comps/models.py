"""Comps: one JSON document in one row, every accepted state of it kept."""

from __future__ import annotations

from config.document_fields import CompDocumentField
from django.conf import settings
from django.db import models
from jobs.models import Job
from projects.models import Project


class _NotDeleted(models.Manager["Comp"]):
    def get_queryset(self) -> models.QuerySet[Comp]:
        return super().get_queryset().filter(deleted=None)


class Comp(models.Model):
    """The newest state of a comp. Layers name elements by key; `elements` in the document stays empty.

    One that was deleted is kept for a while, and is among `everything` alone.
    """

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="comps")
    name = models.CharField(max_length=200)
    document = CompDocumentField()
    revision = models.PositiveIntegerField(default=1)
    created = models.DateTimeField(auto_now_add=True)
    deleted = models.DateTimeField(null=True, help_text="When; until it is brought back.")

    objects = _NotDeleted()
    everything: models.Manager[Comp] = models.Manager()

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name


class SceneCamera(models.Model):
    """The camera and lights of a rendered set, which layers of comps stand before. It outlives its render."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="cameras")
    name = models.CharField(max_length=200)
    camera = models.JSONField(help_text="As in a comp document's cameras.")
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name


class EdgeSearch(models.Model):
    """A matte's edge found in the picture for a range of frames, ahead of being looked at.

    ``document`` is the comp as it was ordered. How far it is stands in its job.
    """

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="edge_searches")
    comp = models.ForeignKey(Comp, on_delete=models.CASCADE, related_name="edge_searches")
    job = models.OneToOneField(Job, on_delete=models.CASCADE, related_name="edge_search")
    document = CompDocumentField()
    layer = models.CharField(max_length=64)
    owner = models.CharField(max_length=10, blank=True, help_text="Empty, alpha, or a step's place.")

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"edge of {self.layer} in {self.comp_id}"


class CompRevision(models.Model):
    """One accepted state, kept and read by `revisions.py`.

    Undo and redo are new revisions, which tell what they took back or did again.
    """

    comp = models.ForeignKey(Comp, on_delete=models.CASCADE, related_name="revisions")
    revision = models.PositiveIntegerField()
    version = models.PositiveIntegerField(default=1, help_text="Version of the document, as it was written.")
    document = models.JSONField(
        null=True, help_text="The whole state, as it was written; empty where `patch` leads to it."
    )
    patch = models.JSONField(
        null=True, help_text="What changed since the revision before, as JSON Patch (RFC 6902)."
    )
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    what = models.CharField(max_length=200, blank=True, help_text="The change, in words.")
    name = models.CharField(max_length=200, blank=True, help_text="Given to states worth going back to.")
    takes_back = models.PositiveIntegerField(null=True, help_text="The revision whose change is undone.")
    does_again = models.PositiveIntegerField(null=True, help_text="The revision whose change is redone.")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["comp", "revision"], name="revision_once"),
            models.CheckConstraint(
                condition=models.Q(document__isnull=False, patch__isnull=True)
                | models.Q(document__isnull=True, patch__isnull=False),
                name="whole_or_difference",
            ),
        ]

    def __str__(self) -> str:
        return f"revision {self.revision} of comp {self.comp_id}"


class Preset(models.Model):
    """Something that a project keeps under a name: a set of steps, a look."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="presets")
    kind = models.CharField(max_length=20)
    name = models.CharField(max_length=200)
    content = models.JSONField()
    version = models.PositiveIntegerField(
        default=1, help_text="Version of the comp document whose words the content has."
    )

    class Meta:
        constraints = [models.UniqueConstraint(fields=["project", "kind", "name"], name="preset_name_once")]

    def __str__(self) -> str:
        return f"{self.kind} {self.name}"
