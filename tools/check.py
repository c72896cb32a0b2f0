"""./menudo check: everything that can be said of the code without running the product."""

import os
import subprocess
from pathlib import Path

from tools import api_schema, setup


def run(arguments: list[str]) -> int:
    """With --write: formatting, the API schema and the client are brought up to date instead of being compared. With --fast: only
    what takes seconds."""
    write, fast = "--write" in arguments, "--fast" in arguments
    setup.install_python("demo", "dev")
    setup.install_web(build=False)
    bin_folder = setup.VENV / "bin"
    # makemigrations --check reads models only: no database is asked.
    env = {
        **os.environ,
        "MENUDO_DEMO": "1",
        "MENUDO_DB_POOL": "0",
        "PYTHONWARNINGS": "ignore",
        "PYTHONPATH": os.pathsep.join(str(setup.ROOT / p) for p in ("core", "server", "standin", ".")),
        "DJANGO_SETTINGS_MODULE": "menudo.settings",
    }
    steps: list[tuple[str, list[str], Path]] = [
        ("ruff", [str(bin_folder / "ruff"), "check", *(["--fix"] if write else []), "."], setup.ROOT),
        ("format", [str(bin_folder / "ruff"), "format", *([] if write else ["--check"]), "."], setup.ROOT),
        ("mypy", [str(bin_folder / "mypy")], setup.ROOT),
        ("imports", [str(bin_folder / "lint-imports"), "--no-cache"], setup.ROOT),
        (
            "migrations",
            [str(setup.PYTHON), "server/manage.py", "makemigrations", "--check", "--dry-run", "-v", "1"],
            setup.ROOT,
        ),
        ("biome", [str(setup.biome()), "check", *(["--write"] if write else []), "src"], setup.WEB),
    ]
    if fast:
        steps = [step for step in steps if step[0] not in ("mypy", "migrations")]
    failed = [] if fast or api_schema.is_current(env, write=write) else ["API schema"]
    for name, command, where in steps:
        setup.print_step(name)
        if subprocess.run(command, cwd=where, env=env).returncode:
            failed.append(name)
    if not fast:
        setup.print_step("tsc")
        command = ["npx", "--no-install", "tsc", "--noEmit"]
        if subprocess.run(command, cwd=setup.WEB, env=setup.install_node()).returncode:
            failed.append("tsc")
    setup.print_step(f"check failed: {', '.join(failed)}" if failed else "check: all well")
    return 1 if failed else 0
