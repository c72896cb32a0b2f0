"""./menudo lock: resolve the packages of pyproject.toml for every Python that Menudo runs on, with hashes. [uv's own arguments, e.g.
--upgrade]"""

import os
import subprocess

from tools import setup

# Debian 12's Python and newer: packages that left 3.11.2 behind are pinned twice, each for its Pythons.
OLDEST = "3.11.2"
# Each lock, what of pyproject.toml it locks, and the locks it must agree with.
SOURCES: dict[str, tuple[list[str], list[str]]] = {
    "packages": (["pyproject.toml"], []),
    "demo": (["--group", "demo"], ["packages"]),
    "dev": (["--group", "dev"], ["packages", "demo"]),
    "fuzz": (["--group", "fuzz"], ["packages", "dev"]),
    "node": (["--group", "node"], []),
}


def run(arguments: list[str]) -> int:
    """Write the locks anew. What is pinned stays as it is unless the arguments say otherwise."""
    setup.install_python("demo", "dev")
    for name, (source, others) in SOURCES.items():
        lock = setup.LOCKS[name]
        setup.print_step(f"resolving {lock.name}")
        command = [
            str(setup.VENV / "bin" / "uv"),
            "pip",
            "compile",
            *source,
            *(f"--constraints={setup.LOCKS[other].name}" for other in others),
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
