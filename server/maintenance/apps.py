from django.apps import AppConfig


class MaintenanceConfig(AppConfig):
    name = "maintenance"
