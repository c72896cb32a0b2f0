"""Django's command line; `./menudo` calls it with the environment set up."""

import os
import sys
from pathlib import Path

sys.path[:0] = [str(Path(__file__).parent), str(Path(__file__).parents[1] / "core"), str(Path(__file__).parents[1])]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "menudo.settings")

if __name__ == "__main__":
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)
