"""./menudo check: everything that can be said of the code without running the product."""

import os
import subprocess
from concurrent.futures import ThreadPoolExecutor
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
    if not fast:
        steps.append(("tsc", ["npx", "--no-install", "tsc", "--noEmit"], setup.WEB))
        env["PATH"] = setup.install_node()["PATH"]
    failed = [] if fast or api_schema.is_current(env, write=write) else ["API schema"]
    # Two at a time, but where one changes what the next reads. The longest begins first; each says all of its own at once.
    with ThreadPoolExecutor(1 if write else 2) as pool:
        order = sorted(steps, key=lambda step: step[0] != "mypy") if not write else steps
        running = [(name, pool.submit(_run_quietly, command, where, env)) for name, command, where in order]
        for name, step in running:
            ran = step.result()
            setup.print_step(name)
            print(ran.stdout, end="", flush=True)
            if ran.returncode:
                failed.append(name)
    setup.print_step(f"check failed: {', '.join(failed)}" if failed else "check: all well")
    return 1 if failed else 0


def _run_quietly(command: list[str], where: Path, env: dict[str, str]) -> subprocess.CompletedProcess[str]:
    return subprocess.run(command, cwd=where, env=env, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
