"""./menudo test: all tests, those of one room, or those of the files named."""

import os
import subprocess

from tools import setup
from tools.database import Cluster
from tools.stack import Stack

FAULTS, CRASHES = "tests/server/test_faults.py", "tests/server/test_crashes.py"
ROOMS = ("core", "standin", "server", "web", "browser")


def run(arguments: list[str]) -> int:
    room = arguments.pop(0) if arguments and arguments[0] in ROOMS else ""
    rooms = [room] if room else list(ROOMS)
    # All that is missing is named at once.
    needs = {"core": ["unicode-data"], "server": ["postgresql"], "browser": ["postgresql", "chromium"]}
    setup.install_debian(*dict.fromkeys(package for one in rooms for package in needs.get(one, [])))
    setup.install_python("demo", "dev")
    if {"web", "browser"} & set(rooms):
        setup.install_web(build="browser" in rooms)
    if room == "web":
        return _run_web(arguments)
    # Some hundred programs are started: each would compile all our modules anew, a second of a core.
    env = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    env["MENUDO_DEMO"] = "1"
    chosen = [argument for argument in arguments if (setup.ROOT / argument.split("::")[0]).is_file()]
    paths = chosen or [f"tests/{one}" for one in rooms if one != "web"]
    arguments = [argument for argument in arguments if argument not in chosen]
    if not {"server", "browser"} & set(rooms):
        return _run_in_turn(paths, arguments, env)
    cluster = Cluster()
    cluster.start()
    try:
        cluster.make_database()
        env["MENUDO_DATABASE_URL"] = cluster.url()
        env["MENUDO_TEST_TEMPLATE"] = Stack(cluster, "menudo", setup.VAR / "test").template()
        # The web's own logic knows nothing of pytest's arguments: with a choice of tests it isn't meant.
        web = 0 if room or arguments or chosen else _run_web([])
        return web or _run_in_turn(paths, arguments, env)
    finally:
        cluster.stop()


def _run_web(arguments: list[str]) -> int:
    command = ["npx", "--no-install", "vitest", "run", *arguments]
    return subprocess.run(command, cwd=setup.WEB, env=setup.install_node()).returncode


def _run_in_turn(paths: list[str], arguments: list[str], env: dict[str, str]) -> int:
    """In random order (pytest-randomly says its seed), several at a time, each process with a database of its own.

    The killed workers need the machine to themselves, and what crashes the database even more so. The stories are told file by file in
    their order, each process with a whole stack; three at a time, because they wait as much as they compute.
    """
    evenly = ["--dist", "worksteal", f"--ignore={FAULTS}", f"--ignore={CRASHES}"]
    by_file = ["--dist", "loadfile", "--no-loadscope-reorder", "-p", "no:randomly"]
    stories = [path for path in paths if "browser" in path]
    others = [path for path in paths if path not in stories]
    turns = [
        ([path for path in others if path not in (FAULTS, CRASHES)], ["-n", "2", *evenly]),
        ([FAULTS] if any(FAULTS.startswith(path) for path in others) else [], ["-n", "2"]),
        ([CRASHES] if any(CRASHES.startswith(path) for path in others) else [], []),
        (stories, ["-n", "3", *by_file]),
    ]
    codes = [
        subprocess.run([str(setup.PYTHON), "-m", "pytest", *some, *how, *arguments], cwd=setup.ROOT, env=env).returncode
        for some, how in turns
        if some
    ]
    # With a choice of tests (-k) some of them may find none, which is no failure while another finds some (5).
    found = [code for code in codes if code != 5]
    # What a signal ended is negative.
    return next((code for code in found if code), 0) if found else 5
