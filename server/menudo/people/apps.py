"""What people's room does when Menudo starts."""

from importlib import import_module

from django.apps import AppConfig


class PeopleConfig(AppConfig):
    name = "menudo.people"

    def ready(self) -> None:
        # It listens to what allauth tells.
        import_module("menudo.people.second_factor")
