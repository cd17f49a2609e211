"""Elements: what was brought in, where its files are, and how it is read."""

from django.conf import settings
from django.db import models
from projects.models import Project


class Arrival(models.Model):
    """One drop of files: a folder that they are written to until all have come."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)
    finished = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"arrival {self.pk}"


class Element(models.Model):
    """A still, a sequence or a movie of a project."""

    class State(models.TextChoices):
        ARRIVING = "arriving"
        READY = "ready"
        REFUSED = "refused"

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="elements")
    name = models.CharField(max_length=300)
    file = models.TextField(help_text="File or pattern, relative to the media folder.")
    state = models.CharField(max_length=10, choices=State, default=State.ARRIVING)
    problem = models.JSONField(null=True, help_text="Why it was refused: code, message, advice, where.")
    facts = models.JSONField(null=True)
    reading = models.JSONField(default=dict)
    reading_set = models.BooleanField(default=False, help_text="A person has chosen the reading.")
    encoding = models.CharField(max_length=20, default="srgb")
    rate = models.CharField(max_length=20, blank=True, help_text="A rate that a person gave.")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name


class ReadingChange(models.Model):
    """What an element's reading, encoding and rate were before a change: so that it can be undone."""

    element = models.ForeignKey(Element, on_delete=models.CASCADE, related_name="changes")
    before = models.JSONField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"change {self.pk} of element {self.element_id}"
