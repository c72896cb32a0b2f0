"""./menudo serve: production, settings from the environment. See docs/serving.md."""

import argparse
import os
import signal
import subprocess
import time

from tools import setup
from tools.programs import gunicorn

NEEDED = ("MENUDO_SECRET_KEY", "MENUDO_TOKEN_KEYS", "MENUDO_DATABASE_URL", "MENUDO_PUBLIC_URL")


def serving_env() -> dict[str, str]:
    """What the programs are told: the environment, and where their parts are."""
    paths = os.pathsep.join(str(setup.ROOT / p) for p in ("core", "server"))
    return {**os.environ, "PYTHONPATH": paths, "DJANGO_SETTINGS_MODULE": "menudo.settings"}


def run(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./menudo serve")
    parser.add_argument("--web", type=int, default=2, help="web processes")
    parser.add_argument("--workers", type=int, default=1, help="worker processes")
    parser.add_argument("--bind", default="127.0.0.1:8600")
    given = parser.parse_args(arguments)
    missing = [name for name in NEEDED if not os.environ.get(name)]
    if missing:
        raise setup.SetupError(f"not set: {', '.join(missing)}. See docs/serving.md")
    setup.install_python()
    setup.install_web()
    env = serving_env()
    manage = [str(setup.PYTHON), "server/manage.py"]
    for step in (["migrate", "--no-input", "-v", "0"], ["createcachetable"]):
        subprocess.run([*manage, *step], cwd=setup.ROOT, env=env, check=True)
    # Says nothing where there is somebody already.
    subprocess.run([*manage, "issue_access_link"], cwd=setup.ROOT, env=env, check=True)
    commands = [gunicorn(given.bind, given.web)] if given.web else []
    commands += [[*manage, "work"] for _ in range(given.workers)]
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
    return 0 if signals else max(ends, default=0) or 1
