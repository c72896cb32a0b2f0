"""Django's command line; `./menudo` calls it with the environment set up."""

import os
import sys
from pathlib import Path

sys.path[:0] = [str(Path(__file__).parent), str(Path(__file__).parents[1] / "core"), str(Path(__file__).parents[1])]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "menudo.settings")

if __name__ == "__main__":
    from django.conf import settings
    from django.core.exceptions import ImproperlyConfigured
    from django.core.management import execute_from_command_line

    try:
        _ = settings.INSTALLED_APPS
    except ImproperlyConfigured as error:
        sys.exit(f"Menudo can't start as it is told to:\n{error}\nEvery variable stands in docs/settings.md.")
    execute_from_command_line(sys.argv)
