from django.apps import AppConfig


class ScenesConfig(AppConfig):
    name = "scenes"
