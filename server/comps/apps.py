from django.apps import AppConfig


class CompsConfig(AppConfig):
    name = "comps"
