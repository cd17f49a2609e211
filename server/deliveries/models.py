"""Deliveries: what is written, how far it is, and the proof."""

from config.document_fields import CompDocumentField
from django.conf import settings
from django.db import models
from projects.models import Project


class Delivery(models.Model):
    """One order to write a comp. ``document`` is the comp as it was ordered, elements included."""

    class State(models.TextChoices):
        QUEUED = "queued"
        WRITING = "writing"
        PROVING = "proving"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="deliveries")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    comp_name = models.CharField(max_length=200)
    document = CompDocumentField()
    form = models.CharField(max_length=60)
    first = models.IntegerField()
    last = models.IntegerField()
    rate = models.CharField(max_length=20)
    place = models.CharField(max_length=200, help_text="Folder inside the project's deliveries.")
    file = models.CharField(max_length=260, help_text="File name or pattern inside the folder.")
    loss_accepted = models.BooleanField(
        default=False, help_text="Whether the person knows that the form drops some of it."
    )
    state = models.CharField(max_length=10, choices=State, default=State.QUEUED)
    cancel = models.BooleanField(default=False)
    proved = models.PositiveIntegerField(default=0)
    problem = models.JSONField(null=True)
    proof = models.JSONField(null=True)
    ordered = models.DateTimeField(auto_now_add=True)
    started = models.DateTimeField(null=True)
    ended = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.comp_name} as {self.form}"

    @property
    def count(self) -> int:
        return self.last - self.first + 1


class Piece(models.Model):
    """A part of a delivery's frames, written by one worker at a time."""

    delivery = models.ForeignKey(Delivery, on_delete=models.CASCADE, related_name="pieces")
    first = models.IntegerField()
    last = models.IntegerField()
    written = models.PositiveIntegerField(default=0)
    done = models.BooleanField(default=False)

    class Meta:
        ordering = ["first"]

    def __str__(self) -> str:
        return f"frames {self.first} to {self.last} of delivery {self.delivery_id}"
