"""./menudo migrate: bring the database of ./menudo serve to this version. See docs/serving.md."""

import argparse
import subprocess

from tools import setup
from tools.serve import require_built, serving_env


def run(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./menudo migrate")
    parser.add_argument("--lock-seconds", default="60", help="how long to wait for a table that is in use")
    given = parser.parse_args(arguments)
    require_built()
    command = [str(setup.PYTHON), "server/manage.py", "migrate_all", "--lock-seconds", given.lock_seconds]
    return subprocess.run(command, cwd=setup.ROOT, env=serving_env()).returncode
