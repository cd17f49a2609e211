from django.apps import AppConfig


class ElementsConfig(AppConfig):
    name = "elements"

    def ready(self) -> None:
        from jobs.kinds import JobKind, register
        from neatveil.colour import configurations

        from .actions.configurations import folder
        from .actions.write_transcode import KIND, QUEUE, clear, finish, run_piece

        configurations.look_in(folder)
        register(
            JobKind(KIND, QUEUE, "Transcoding frames", "Checking the transcode", run_piece, finish, clear)
        )
