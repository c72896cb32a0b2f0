"""./menudo lock: resolve the Python packages for every Python that Menudo runs on, with hashes. [uv's own arguments, e.g. --upgrade]"""

import os
import subprocess

from tools import setup

# Debian 12's Python and newer: packages that left 3.11.2 behind are pinned twice, each for its Pythons.
OLDEST = "3.11.2"
LOCKS = {
    "requirements.in": setup.LOCKS["packages"],
    "requirements-dev.in": setup.LOCKS["dev"],
    "requirements-node.in": setup.LOCKS["node"],
}


def run(arguments: list[str]) -> int:
    """Write the locks anew. What is pinned stays as it is unless the arguments say otherwise."""
    setup.install_python(dev=True)
    for source, lock in LOCKS.items():
        setup.print_step(f"resolving {source}")
        command = [
            str(setup.VENV / "bin" / "uv"),
            "pip",
            "compile",
            source,
            "--output-file",
            lock.name,
            "--universal",
            "--python-version",
            OLDEST,
            "--generate-hashes",
            "--no-emit-index-url",
            "--quiet",
            "--custom-compile-command",
            "./menudo lock",
            *arguments,
        ]
        ran = subprocess.run(command, cwd=setup.ROOT, env={**os.environ, "UV_NO_PROGRESS": "1"})
        if ran.returncode:
            return ran.returncode
    return 0
