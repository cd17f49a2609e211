from django.apps import AppConfig


class CompsConfig(AppConfig):
    name = "comps"

    def ready(self) -> None:
        from elements.uses import register

        from .actions.uses import InComps

        register(InComps())
