from django.apps import AppConfig


class CompsConfig(AppConfig):
    name = "comps"

    def ready(self) -> None:
        from elements.uses import register
        from jobs.kinds import JobKind
        from jobs.kinds import register as register_job
        from projects import contents

        from .actions.find_edges import KIND, QUEUE, finish, run_piece
        from .actions.uses import InComps
        from .contents import comps_in

        register(InComps())
        register_job(
            JobKind(KIND, QUEUE, "Finding the edge in frames", "Ending the search", run_piece, finish)
        )
        contents.register(comps_in)
