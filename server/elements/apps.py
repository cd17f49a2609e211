from django.apps import AppConfig


class ElementsConfig(AppConfig):
    name = "elements"

    def ready(self) -> None:
        from jobs.kinds import JobKind, register
        from neatveil.colour import configurations
        from neatveil.drawn import font_files
        from projects import contents

        from .actions import fonts
        from .actions.configurations import folder
        from .actions.write_transcode import KIND, QUEUE, clear, finish, run_piece
        from .contents import elements_in

        configurations.FILES.look_in(folder)
        font_files.FILES.look_in(fonts.folder)
        contents.register(elements_in)
        register(
            JobKind(KIND, QUEUE, "Transcoding frames", "Checking the transcode", run_piece, finish, clear)
        )
