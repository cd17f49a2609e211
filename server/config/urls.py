"""Addresses: the API, events, and the web application for everything else."""

from django.urls import path, re_path

from .api import api
from .events import events
from .health import live, ready
from .web import web

#: Errors that no function of the API has answered are answered in its form all the same.
handler500 = "config.errors.server_error"

urlpatterns = [
    path("api/projects/<int:project_id>/events", events),
    path("health/live", live),
    path("health/ready", ready),
    path("api/", api.urls),
    re_path(r"^(?P<path>.*)$", web),
]
