"""Long work: one row a job, one row a piece of it. Deliveries, renders and transcodes each have a job."""

from django.conf import settings
from django.db import models
from projects.models import Project


class Job(models.Model):
    """How far some long work is. What it is about stands in the row that points to it."""

    class State(models.TextChoices):
        QUEUED = "queued"
        RUNNING = "running"
        FINISHING = "finishing"
        PAUSED = "paused"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="jobs")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    kind = models.CharField(max_length=20, help_text="Name of a `JobKind`.")
    state = models.CharField(max_length=10, choices=State, default=State.QUEUED)
    cancel = models.BooleanField(default=False, help_text="A person has asked it to stop.")
    newest = models.IntegerField(null=True, help_text="The frame that was written last.")
    checked = models.PositiveIntegerField(default=0, help_text="Frames that finishing has gone through.")
    finishes = models.PositiveSmallIntegerField(
        default=0, help_text="How often finishing was begun since it last came a frame further."
    )
    problem = models.JSONField(null=True)
    ordered = models.DateTimeField(auto_now_add=True)
    started = models.DateTimeField(null=True)
    ended = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.kind} {self.pk}, {self.state}"

    @property
    def active(self) -> bool:
        return self.state in ACTIVE


#: States of work that workers are at, or will be.
ACTIVE = (Job.State.QUEUED, Job.State.RUNNING, Job.State.FINISHING)
#: States of work that has not ended: it may go on.
UNENDED = (*ACTIVE, Job.State.PAUSED)


class Piece(models.Model):
    """Some frames of a job, done by one worker at a time."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="pieces")
    first = models.IntegerField()
    last = models.IntegerField()
    written = models.PositiveIntegerField(default=0)
    done = models.BooleanField(default=False)
    attempts = models.PositiveSmallIntegerField(
        default=0, help_text="How often it was begun since it last came a frame further."
    )
    problem = models.JSONField(null=True, help_text="Why it was set aside.")

    class Meta:
        ordering = ["first"]

    def __str__(self) -> str:
        return f"frames {self.first} to {self.last} of job {self.job_id}"
