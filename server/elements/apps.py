from django.apps import AppConfig


class ElementsConfig(AppConfig):
    name = "elements"

    def ready(self) -> None:
        from jobs.kinds import JobKind, register

        from .actions.write_transcode import KIND, QUEUE, clear, finish, run_piece

        register(
            JobKind(KIND, QUEUE, "Transcoding frames", "Checking the transcode", run_piece, finish, clear)
        )
