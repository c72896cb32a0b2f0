"""./menudo serve: production, settings from the environment. It starts, and does nothing else: see docs/serving.md."""

import argparse
import os
import shutil
import signal
import subprocess
import tempfile
import time

from tools import setup
from tools.programs import gunicorn


def serving_env() -> dict[str, str]:
    """What the programs are told: the environment, and where their parts are."""
    paths = os.pathsep.join(str(setup.ROOT / p) for p in ("core", "server"))
    return {**os.environ, "PYTHONPATH": paths, "DJANGO_SETTINGS_MODULE": "menudo.settings"}


def _reason(told: str) -> str:
    """Why it can't be served: what is wrong with the settings, or with the database; of one that isn't migrated it says nothing."""
    if "Menudo can't start" in told:
        return told[told.index("Menudo can't start") :]
    last = told.splitlines()[-1] if told else ""
    return last if "Error" in last else "the database isn't this version's: ./menudo migrate, then again"


def require_built() -> None:
    """Raises SetupError where the packages or the built web application are missing: nothing is installed at start."""
    missing = [str(part) for part in (setup.PYTHON, setup.WEB / "dist" / "index.html") if not part.is_file()]
    if missing:
        raise setup.SetupError(f"not built: {', '.join(missing)} isn't there. ./menudo build makes everything")


def run(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./menudo serve")
    parser.add_argument("--web", type=int, default=2, help="web processes")
    parser.add_argument("--workers", type=int, default=1, help="worker processes")
    parser.add_argument("--bind", default="127.0.0.1:8600")
    given = parser.parse_args(arguments)
    require_built()
    env = serving_env()
    manage = [str(setup.PYTHON), "server/manage.py"]
    # Its settings are read here for the first time: what is wrong with them, it says itself.
    pending = subprocess.run(
        [*manage, "migrate", "--check"], cwd=setup.ROOT, env=env, stderr=subprocess.PIPE, text=True
    )
    if pending.returncode:
        raise setup.SetupError(_reason(pending.stderr.strip()))
    hooks = ("--config", "python:menudo.base.gunicorn_hooks")
    commands = [gunicorn(given.bind, given.web, *hooks)] if given.web else []
    commands += [[*manage, "work"] for _ in range(given.workers)]
    # Where the processes of this machine count together what /metrics tells.
    counts = tempfile.mkdtemp(prefix="menudo-metrics-")
    env = {**env, "PROMETHEUS_MULTIPROC_DIR": counts}
    processes = [subprocess.Popen(c, cwd=setup.ROOT, env=env) for c in commands]
    setup.print_step(f"serving at {given.bind} with {given.web} web and {given.workers} worker processes")
    signals: list[int] = []
    for sign in (signal.SIGINT, signal.SIGTERM):
        signal.signal(sign, lambda number, _: signals.append(number))
    while not signals and all(p.poll() is None for p in processes):
        time.sleep(0.3)
    for process in processes:
        if process.poll() is None:
            process.terminate()
    ends = [process.wait() for process in processes]
    shutil.rmtree(counts, ignore_errors=True)
    return 0 if signals else max(ends, default=0) or 1
