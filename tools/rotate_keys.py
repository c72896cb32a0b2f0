"""./menudo rotate-keys: seal every secret again with the first of MENUDO_TOKEN_KEYS, beside what runs. See docs/serving.md."""

import subprocess

from tools import setup
from tools.serve import require_built, serving_env


def run(arguments: list[str]) -> int:
    require_built()
    command = [str(setup.PYTHON), "server/manage.py", "rotate_keys", *arguments]
    return subprocess.run(command, cwd=setup.ROOT, env=serving_env()).returncode
