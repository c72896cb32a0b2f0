"""./menudo test: all tests, or those of one room."""

import os
import subprocess

from tools import setup
from tools.database import Cluster

FAULTS = "tests/server/test_faults.py"
ROOMS = ("core", "standin", "server", "browser")


def run(arguments: list[str]) -> int:
    room = arguments.pop(0) if arguments and arguments[0] in ROOMS else ""
    setup.packages(dev=True)
    if room in ("", "core"):
        setup.debian("unicode-data")
    env = {**os.environ, "MENUDO_DEMO": "1", "MENUDO_DB_POOL": "0"}
    paths = [f"tests/{room}"] if room else [f"tests/{name}" for name in ROOMS]
    cluster = None
    if room in ("", "server", "browser"):
        setup.debian("postgresql")
        if room != "server":
            setup.debian("chromium")
            setup.web()
        cluster = Cluster()
        cluster.start()
        cluster.make_database()
        env["MENUDO_DATABASE_URL"] = cluster.url()
    try:
        return _in_turn(paths, arguments, env)
    finally:
        if cluster:
            cluster.stop()


def _in_turn(paths: list[str], arguments: list[str], env: dict[str, str]) -> int:
    """What needs the machine to itself one after another, the browser's stories and the killed workers; all else two at a time."""
    alone = [path for path in paths if "browser" in path]
    side_by_side = [path for path in paths if path not in alone]
    if "tests/server" in side_by_side:
        alone.insert(0, FAULTS)
        two = ["-n", "2", "--dist", "loadfile", f"--ignore={FAULTS}"]
    else:
        two = ["-n", "2", "--dist", "loadfile"]
    codes = [
        subprocess.run([str(setup.PYTHON), "-m", "pytest", *some, *how, *arguments], cwd=setup.ROOT, env=env).returncode
        for some, how in ((side_by_side, two), (alone, []))
        if some
    ]
    # With a choice of tests (-k) one of the two may find none, which is no failure while the other finds some (5).
    found = [code for code in codes if code != 5]
    return max(found) if found else 5
