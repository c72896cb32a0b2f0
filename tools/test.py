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
    """The killed workers need the machine to themselves; all else goes two at a time, the browser's stories last, file by file.

    Each of the two has a database of its own, and the browser's a whole stack.
    """
    two = ["-n", "2", f"--ignore={FAULTS}"]
    stories = [path for path in paths if "browser" in path]
    others = [path for path in paths if path not in stories]
    evenly, by_file = [*two, "--dist", "worksteal"], [*two, "--dist", "loadfile"]
    turns = [(others, evenly), ([FAULTS] if "tests/server" in others else [], []), (stories, by_file)]
    codes = [
        subprocess.run([str(setup.PYTHON), "-m", "pytest", *some, *how, *arguments], cwd=setup.ROOT, env=env).returncode
        for some, how in turns
        if some
    ]
    # With a choice of tests (-k) some of them may find none, which is no failure while another finds some (5).
    found = [code for code in codes if code != 5]
    return max(found) if found else 5
