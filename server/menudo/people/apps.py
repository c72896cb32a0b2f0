"""What people's room does when Menudo starts."""

from importlib import import_module

from django.apps import AppConfig


class PeopleConfig(AppConfig):
    name = "menudo.people"

    def ready(self) -> None:
        # They listen to what allauth tells.
        import_module("menudo.people.second_factor")
        import_module("menudo.people.sign_in_log")
