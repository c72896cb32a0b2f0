"""Bring the database to this version: one at a time, beside workers and web programs that run."""

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import connection

_LOCK = 0x4D454E55444F


class Command(BaseCommand):
    help = (
        "Migrate, make the cache's table, and print the first person's address where there is nobody yet. Two at once wait "
        "for each other; a table that somebody holds for longer than the lock's time is left as it was."
    )

    def add_arguments(self, parser: Any) -> None:
        parser.add_argument("--lock-seconds", type=int, default=60, help="how long to wait for a table that is in use")

    def handle(self, *args: Any, **options: Any) -> None:
        with connection.cursor() as cursor:
            # Of the session: released when it ends, however it ends.
            cursor.execute("SELECT pg_advisory_lock(%s)", [_LOCK])
            try:
                cursor.execute("SELECT set_config('lock_timeout', %s, false)", [f"{options['lock_seconds']}s"])
                call_command("migrate", interactive=False, verbosity=options["verbosity"])
                call_command("createcachetable")
                call_command("issue_access_link", stdout=self.stdout)
            finally:
                cursor.execute("SELECT pg_advisory_unlock(%s)", [_LOCK])
