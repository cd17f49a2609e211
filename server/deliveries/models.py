"""Deliveries: what is written, and the proof. How far it is stands in its job."""

from config.document_fields import CompDocumentField
from django.db import models
from jobs.models import Job
from projects.models import Project


class Delivery(models.Model):
    """One order to write a comp. ``document`` is the comp as it was ordered, elements included."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="deliveries")
    job = models.OneToOneField(Job, on_delete=models.CASCADE, related_name="delivery")
    comp_name = models.CharField(max_length=200)
    document = CompDocumentField()
    format = models.CharField(max_length=60, help_text="A ready format, or the codec of the form.")
    form = models.JSONField(null=True, help_text="What is written, in full; null: as the ready format says.")
    first = models.IntegerField()
    last = models.IntegerField()
    rate = models.CharField(max_length=20)
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
