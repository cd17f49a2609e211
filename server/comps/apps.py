from django.apps import AppConfig


class CompsConfig(AppConfig):
    name = "comps"

    def ready(self) -> None:
        from elements.uses import register
        from projects import contents

        from .actions.uses import InComps
        from .contents import comps_in

        register(InComps())
        contents.register(comps_in)
