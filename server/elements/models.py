"""Elements: imported files, where they are, and how they are read."""

from __future__ import annotations

from pathlib import Path

from django.conf import settings
from django.db import models
from jobs.models import Job
from projects.models import Project


class Arrival(models.Model):
    """One drop of files: a folder that they are written to until all have come."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)
    finished = models.BooleanField(default=False)
    expected = models.JSONField(default=list, help_text="Names and sizes of the files that are to come.")

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"arrival {self.pk}"


class Library(models.Model):
    """A folder on a disk or a mount whose pictures are elements where they lie: it is only ever read."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="libraries")
    name = models.CharField(max_length=200)
    path = models.TextField(help_text="Absolute path of the folder.")
    there = models.BooleanField(default=True, help_text="The folder could be read when last looked at.")
    seen = models.DateTimeField(null=True, help_text="When it was last looked through.")
    passed_over = models.JSONField(default=list, help_text="Entries that cannot be elements, and why.")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["project", "path"], name="library_once")]

    def __str__(self) -> str:
        return self.name


class ReadingRule(models.Model):
    """How a project reads imported elements, by what they are; the first rule that fits counts."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="reading_rules")
    format = models.CharField(max_length=40, blank=True, help_text="Name of a file format.")
    codec = models.CharField(max_length=40, blank=True)
    folder = models.CharField(max_length=300, blank=True, help_text="Part of the folder's name.")
    pattern = models.CharField(max_length=300, blank=True, help_text="Name with * and ?, such as *_strap*.")
    reading = models.JSONField()
    encoding = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"rule {self.pk}"


class ColourConfiguration(models.Model):
    """A configuration of OpenColorIO that a project brings; the file lies under its key."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="configurations")
    key = models.CharField(max_length=40, help_text="As it stands before a space's name.")
    name = models.CharField(max_length=300, help_text="Of the file.")
    reads = models.BooleanField(default=True, help_text="Its file rules give imported files their space.")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["project", "key"], name="configuration_once")]

    def __str__(self) -> str:
        return self.name


class FontFile(models.Model):
    """A font file that a project brings, for texts; it lies under its key."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="fonts")
    key = models.CharField(max_length=40, help_text="As texts name it; of a collection its first font.")
    name = models.CharField(max_length=300, help_text="Of the file.")
    fonts = models.JSONField(default=list, help_text="Key, title, letters and weights of each font in it.")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["project", "key"], name="font_file_once")]

    def __str__(self) -> str:
        return self.name


class Element(models.Model):
    """A still, a sequence or a movie of a project."""

    class State(models.TextChoices):
        ARRIVING = "arriving"
        READY = "ready"
        REFUSED = "refused"

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="elements")
    name = models.CharField(max_length=300)
    file = models.TextField(help_text="File or pattern, relative to the media folder or to its library.")
    library = models.ForeignKey(Library, on_delete=models.CASCADE, null=True, related_name="elements")
    folder = models.CharField(max_length=500, blank=True, help_text="Folder it was imported from.")
    label = models.CharField(max_length=60, blank=True, help_text="A word that people gather elements by.")
    state = models.CharField(max_length=10, choices=State, default=State.ARRIVING)
    problem = models.JSONField(null=True, help_text="Why it was refused: code, message, advice, where.")
    facts = models.JSONField(null=True)
    reading = models.JSONField(default=dict)
    reading_set = models.BooleanField(default=False, help_text="A person has chosen the reading.")
    encoding = models.CharField(max_length=200, default="srgb")
    rate = models.CharField(max_length=20, blank=True, help_text="A rate that a person gave.")
    holds = models.CharField(max_length=20, blank=True, help_text="Kind of data; empty for colour.")
    gaps = models.CharField(max_length=5, default="error", help_text="Missing frames: error, hold, black.")
    only = models.JSONField(null=True, help_text="Channels of the file that are used; null: all.")
    parts = models.JSONField(default=list, help_text="Channels carried along from other elements.")
    kinds = models.JSONField(default=dict, help_text="Channels that are data or colour, by a person's word.")
    suggestion = models.JSONField(null=True, help_text="What the pixels say of the reading.")
    stamp = models.JSONField(null=True, help_text="Time and size of its files when they were looked at.")
    replaced = models.JSONField(null=True, help_text="What is there now under its name, until accepted.")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name

    @property
    def place(self) -> Path:
        """The file or pattern."""
        root = settings.MEDIA if self.library is None else Path(self.library.path)
        return Path(root) / self.file


class ReadingChange(models.Model):
    """What an element's reading, encoding, rate, gaps and channels were before a change, to undo it."""

    element = models.ForeignKey(Element, on_delete=models.CASCADE, related_name="changes")
    before = models.JSONField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    at = models.DateTimeField(auto_now_add=True)
    undone = models.DateTimeField(null=True, help_text="When it was taken back.")
    after = models.JSONField(null=True, help_text="What it had made of them, to do it again.")

    def __str__(self) -> str:
        return f"change {self.pk} of element {self.element_id}"


class Transcode(models.Model):
    """An element written in another format, checked frame by frame; how far it is stands in its job."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="transcodes")
    element = models.ForeignKey(Element, on_delete=models.CASCADE, related_name="transcodes")
    job = models.OneToOneField(Job, on_delete=models.CASCADE, related_name="transcode")
    result = models.ForeignKey(Element, on_delete=models.SET_NULL, null=True, related_name="made_by")
    format = models.CharField(max_length=60)
    take_over = models.BooleanField(default=False, help_text="Uses of the element change over to the result.")
    taken_over = models.BooleanField(default=False, help_text="They have changed over.")
    report = models.JSONField(null=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.element_id} as {self.format}"
