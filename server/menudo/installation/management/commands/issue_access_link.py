"""Print a one-time address: for the first person, or for the one named. Says nothing where nobody is named and the
installation has its first person."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from menudo.base.problems import ConflictError, ProblemError
from menudo.installation.actions.issue_access_link import issue_access_link_to, issue_setup_link


class Command(BaseCommand):
    help = "Print a one-time address, good for 24 hours, to make an account or to come in again."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--email", default="", help="whom it is for; without one, the first person")

    def handle(self, *args: Any, **options: Any) -> None:
        email = options["email"]
        try:
            if email:
                address, known = issue_access_link_to(email, by_shell=True)
                what = "to choose a new password" if known else "to make an account"
                self.stdout.write(f"  For {email.strip().lower()}, {what} (once, within 24 hours):\n  {address}")
                return
            self.stdout.write(
                "  Nobody has an account yet. The first person makes theirs here (once, within 24 hours):\n"
                f"  {issue_setup_link()}"
            )
        except ConflictError:
            if email:
                raise
        except ProblemError as problem:
            raise CommandError(str(problem)) from None
