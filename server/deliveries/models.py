"""Deliveries: what is written, and the proof. How far it is stands in its job."""

from config.document_fields import CompDocumentField
from django.conf import settings
from django.db import models
from jobs.models import Job
from projects.models import Project


class Delivery(models.Model):
    """A comp in one form. ``document`` is the comp as it was ordered, elements included."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="deliveries")
    #: Forms of the same frames share one: each frame is evaluated once for all of them.
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="deliveries")
    comp_name = models.CharField(max_length=200)
    document = CompDocumentField()
    format = models.CharField(max_length=60, help_text="A ready format, or the codec of the form.")
    form = models.JSONField(null=True, help_text="What is written, in full; null: as the ready format says.")
    take = models.JSONField(
        default=dict, help_text="What of the document is written: layers, frames, size, rate, numbers."
    )
    first = models.IntegerField(help_text="The first file's number.")
    last = models.IntegerField(help_text="The last file's number.")
    numbers = models.TextField(default="", help_text="Of all its files, as 1-20,35.")
    rate = models.CharField(max_length=20)
    root = models.CharField(
        max_length=1000, default="", help_text="The project's folder in one of the server's; empty: its own."
    )
    folder = models.CharField(max_length=200, help_text="Folder inside the project's deliveries.")
    file = models.CharField(max_length=260, help_text="File name or pattern inside the folder.")
    loss_accepted = models.BooleanField(
        default=False, help_text="Whether the person knows that the format drops some of it."
    )
    proof = models.JSONField(null=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.comp_name} as {self.format}"


class DeliveryPreset(models.Model):
    """A form, and where it goes, under a name: of a project, or a person's own in all their projects."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, null=True, related_name="delivery_presets")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True)
    name = models.CharField(max_length=200)
    purpose = models.CharField(max_length=20, help_text="Whom it is for.")
    form = models.JSONField()
    take = models.JSONField(default=dict, help_text="Size, rate and first number; never layers or frames.")
    server = models.CharField(max_length=900, default="", help_text="A folder of the server; or none.")
    folder = models.CharField(max_length=200)
    file_name = models.CharField(max_length=200)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(fields=["project", "name"], name="delivery_preset_once"),
            models.UniqueConstraint(fields=["person", "name"], name="own_delivery_preset_once"),
            models.CheckConstraint(
                condition=models.Q(project__isnull=True) ^ models.Q(person__isnull=True),
                name="of_a_project_or_own",
            ),
        ]

    def __str__(self) -> str:
        return self.name
