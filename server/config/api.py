"""The API: one router an app. Rights are checked in the endpoints, the work is done in actions."""

from comps.api import router as comps
from deliveries.api import router as deliveries
from elements.api import router as elements
from jobs.api import router as jobs
from ninja import NinjaAPI
from ninja.openapi.docs import Redoc
from people.api import router as people
from projects.api import router as projects
from scenes.api import router as scenes
from scenes.renders_api import router as renders
from scenes.standing_api import router as standing

from . import errors
from .auth import person_session
from .parsing import StrictParser

api = NinjaAPI(
    title="Neat Veil", version="1", auth=person_session, docs_url=None, docs=Redoc(), parser=StrictParser()
)
errors.install(api)
api.add_router("", people)
api.add_router("", projects)
api.add_router("", elements)
api.add_router("", comps)
api.add_router("", jobs)
api.add_router("", deliveries)
api.add_router("", scenes)
api.add_router("", renders)
api.add_router("", standing)
