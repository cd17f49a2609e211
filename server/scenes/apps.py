from django.apps import AppConfig


class ScenesConfig(AppConfig):
    name = "scenes"

    def ready(self) -> None:
        from jobs.kinds import JobKind, register

        from .actions.finish_render import finish
        from .actions.render_piece import KIND, QUEUE, run_piece

        register(JobKind(KIND, QUEUE, "Rendering frames", "Making elements of the render", run_piece, finish))
