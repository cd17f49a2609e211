"""Scenes, the set-ups they are rendered with, and renders: what became of both."""

from comps.models import SceneCamera
from config.document_fields import SetupDocumentField
from django.conf import settings
from django.db import models
from elements.models import Element
from jobs.models import Job
from projects.models import Project


class Scene(models.Model):
    """A glTF scene of a project. What is rendered is its prepared form beside the files."""

    class State(models.TextChoices):
        ARRIVING = "arriving"
        READY = "ready"
        REFUSED = "refused"

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="scenes")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    name = models.CharField(max_length=300)
    file = models.TextField(blank=True, help_text="The .glb or .gltf file inside the scene's folder.")
    state = models.CharField(max_length=10, choices=State, default=State.ARRIVING)
    problem = models.JSONField(null=True, help_text="Why it was refused: code, message, advice, where.")
    facts = models.JSONField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name


class SetUp(models.Model):
    """A render set-up under a name."""

    scene = models.ForeignKey(Scene, on_delete=models.CASCADE, related_name="setups")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    name = models.CharField(max_length=200)
    document = SetupDocumentField()
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["scene", "name"], name="setup_name_once")]

    def __str__(self) -> str:
        return self.name


class Render(models.Model):
    """A set of frames. ``version`` counts how often it was rendered; each has a folder of its own."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="renders")
    scene = models.ForeignKey(Scene, on_delete=models.CASCADE, related_name="renders")
    job = models.OneToOneField(Job, on_delete=models.CASCADE, related_name="render")
    name = models.CharField(max_length=200)
    document = SetupDocumentField()
    version = models.PositiveIntegerField(default=1)
    camera = models.OneToOneField(
        SceneCamera, on_delete=models.SET_NULL, null=True, related_name="render",
        help_text="What comps know of its camera and lights, once it is complete.",
    )  # fmt: skip

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return self.name


class RenderPart(models.Model):
    """The element that one sequence of a render became; it stays the same when the render is done again."""

    render = models.ForeignKey(Render, on_delete=models.CASCADE, related_name="parts")
    element = models.OneToOneField(Element, on_delete=models.CASCADE, related_name="rendered")
    name = models.CharField(max_length=200, blank=True, help_text="Of the layer and the pass.")
    beauty = models.BooleanField(help_text="It is laid into comps.")
    place = models.IntegerField(help_text="0 is the farthest.")

    class Meta:
        ordering = ["place", "id"]

    def __str__(self) -> str:
        return f"{self.name} of render {self.render_id}"
