"""Seal every secret again, with the first of MENUDO_TOKEN_KEYS."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from menudo.installation.actions.rotate_keys import rotate_keys


class Command(BaseCommand):
    help = "Seal every secret again with the first key, after which the others can go. What no key opens is left and counted."

    def handle(self, *args: Any, **options: Any) -> None:
        if lost := rotate_keys(self.stdout.write):
            raise CommandError(
                f"{lost} of them are opened by none of the keys, and are as they were: keep the old keys"
            )
