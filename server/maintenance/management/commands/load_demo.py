"""Make the Ferrow Marsh demo: its person, project, elements and comp."""

from __future__ import annotations

import sys
from typing import Any

from comps.actions.add_comp import add_comp
from config.engine import decoder
from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser
from elements.actions.library import register
from elements.actions.look_at import look_at
from elements.models import Arrival, Element
from elements.resolve import key
from jobs.actions.run_job import finish_job, run_piece
from neatveil.comp.loading import parse_comp
from neatveil.scene.setup import RenderSetup, parse_setup
from people.models import Person
from projects.models import Member, Project
from scenes.actions.bring_scene import read_arrived
from scenes.actions.keep_setup import keep_setup
from scenes.actions.lay_in import lay_in
from scenes.actions.order_render import order_render
from scenes.models import Render, Scene
from scenes.places import folder_of

NAME = "Ferrow Marsh film"


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--password", required=True)
        parser.add_argument("--frames", type=int, default=48)

    def handle(self, *args: Any, **options: Any) -> None:
        person, _ = Person.objects.get_or_create(username="warden")
        person.set_password(options["password"])
        person.save()
        if Project.objects.filter(name=NAME, member__person=person).exists():
            return
        project = Project.objects.create(name=NAME)
        Member.objects.create(project=project, person=person)
        rows = self._elements(project, person, options["frames"])
        self._library(project, person)
        self._comps(project, person, rows, options["frames"])
        self._scenes(project, person, rows, options["frames"])
        decoder().close()

    def _elements(self, project: Project, person: Person, frames: int) -> dict[str, Element]:
        sys.path.insert(0, str(settings.ROOT / "demo"))
        from ferrow_marsh.make import make

        arrival = Arrival.objects.create(project=project, person=person, finished=True)
        folder = settings.MEDIA / "elements" / str(arrival.pk)
        rows = {}
        for name, path in make(folder, frames).items():
            relative = path.relative_to(settings.MEDIA).as_posix()
            # numbered frames give no rate: somebody must say it; the title's is left for people to see
            rate = "" if name == "title" else "25"
            row = Element.objects.create(project=project, name=path.name, file=relative, rate=rate)
            rows[name] = look_at(row.pk, decoder())
        return rows

    def _comps(self, project: Project, person: Person, rows: dict[str, Element], frames: int) -> None:
        from ferrow_marsh.comps import boardwalk, end_title, kites_at_dusk, to_be_matted, whole_dusk

        keys = {name: key(row) for name, row in rows.items()}
        made = [boardwalk(keys, frames), whole_dusk(keys, frames), *to_be_matted(keys)]
        made += [kites_at_dusk(keys, frames), end_title(keys, frames)]
        for document in made:
            add_comp(project, parse_comp(document), person)

    def _library(self, project: Project, person: Person) -> None:
        """A folder on disk, registered where it lies."""
        from ferrow_marsh.arrivals import library

        register(project, person, str(library(settings.LIBRARY_ROOTS[0] / "reserve_disk")))

    def _scenes(self, project: Project, person: Person, rows: dict[str, Element], frames: int) -> None:
        """Scenes with their set-ups; one short render is left to the workers, so that nobody waits for it."""
        from ferrow_marsh.scenes.dusk import dusk_sky
        from ferrow_marsh.scenes.setups import SCENES, SKY

        arrival = Arrival.objects.create(project=project, person=person, finished=True)
        folder = settings.MEDIA / "elements" / str(arrival.pk)
        folder.mkdir(parents=True, exist_ok=True)
        relative = dusk_sky(folder / SKY).relative_to(settings.MEDIA).as_posix()
        sky = look_at(Element.objects.create(project=project, name=SKY, file=relative).pk, decoder())
        for demo in SCENES:
            row = Scene.objects.create(project=project, person=person, name=demo.file.removesuffix(".glb"))
            folder_of(row).mkdir(parents=True, exist_ok=True)
            demo.write(folder_of(row) / demo.file)
            row.file = demo.file
            row.save(update_fields=["file"])
            read_arrived(row.pk)
            for name, given in demo.setups.items():
                keep_setup(row, person, name, _with_sky(given, key(sky)), replace=True)
        lantern = Scene.objects.get(project=project, name="glass_lantern")
        setup = parse_setup(lantern.setups.get(name="Lantern, all passes").document)
        last = max(4, frames // 4)
        short = setup.model_copy(update={"width": 480, "height": 270, "samples": 16, "last": last})
        self._stack(project, person, lantern, short, rows)
        order_render(lantern, person, "lantern", short)
        self._boards(project, person, rows)

    def _boards(self, project: Project, person: Person, rows: dict[str, Element]) -> None:
        """The waymark, rendered here and now with its data passes; its board is filled by a list."""
        from ferrow_marsh.comps import waymark_boards

        scene = Scene.objects.get(project=project, name="waymark")
        setup = parse_setup(scene.setups.get(name="Waymark, for changing its board").document)
        change = {
            "width": 480, "height": 270, "samples": 16, "last": 8, "indirect": False,
            "passes": ("beauty", "reflection", "uv", "masks", "depth", "motion"),
        }  # fmt: skip
        small = setup.model_copy(update=change)
        render = self._rendered(scene, person, "waymark", small)
        sign = render.parts.get(beauty=True).element
        keys = {name: key(row) for name, row in rows.items()}
        document = waymark_boards(keys, key(sign), small.width, small.height, small.last)
        add_comp(project, parse_comp(document), person)

    def _rendered(self, scene: Scene, person: Person, name: str, setup: RenderSetup) -> Render:
        render = order_render(scene, person, name, setup)
        for piece in render.job.pieces.all():
            run_piece(piece.pk)
        finish_job(render.job_id)
        return render

    def _stack(
        self, project: Project, person: Person, scene: Scene, setup: RenderSetup, rows: dict[str, Element]
    ) -> None:
        """One frame rendered here and now, its passes laid over the plate as a stack."""
        from ferrow_marsh.comps import to_stack_on

        one = setup.model_copy(update={"last": setup.first})
        render = self._rendered(scene, person, "lantern stack", one)
        document = to_stack_on({name: key(row) for name, row in rows.items()}, setup.width, setup.height)
        lay_in(render, add_comp(project, parse_comp(document), person), person)


def _with_sky(given: dict[str, Any], sky: str) -> RenderSetup:
    """The demo's set-ups name the sky by its file; here it is an element."""
    around = given.get("environment")
    return parse_setup(given if around is None else {**given, "environment": {**around, "picture": sky}})
