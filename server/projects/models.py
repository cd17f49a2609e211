"""Projects and who belongs to them."""

from django.conf import settings
from django.db import models
from people.models import Person


class Project(models.Model):
    name = models.CharField(max_length=200)
    created = models.DateTimeField(auto_now_add=True)
    members: "models.ManyToManyField[Person, models.Model]" = models.ManyToManyField(
        settings.AUTH_USER_MODEL, through="Member", related_name="projects"
    )

    def __str__(self) -> str:
        return self.name


class Member(models.Model):
    project = models.ForeignKey(Project, on_delete=models.CASCADE)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["project", "person"], name="member_once")]

    def __str__(self) -> str:
        return f"{self.person} in {self.project}"
