"""./menudo demo: the whole product with the demo's world."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

from tools import setup
from tools.clock import offset_env
from tools.database import Cluster
from tools.stack import Stack

PORTS = (8600, 8601)
# One tries a killed worker and a network that is down, and does not want to wait two minutes for it.
QUICK = {"MENUDO_LEASE_SECONDS": "30", "MENUDO_BACKOFF_BASE": "5", "MENUDO_WIRE_TIMEOUT": "10"}


def load(stack: Stack, fresh: bool, large: bool = False) -> None:
    """The demo's world into the stack's database and its stand-in, unless it is there already; `large` with an office of 400
    profiles beside it."""
    if not fresh and stack.cluster.sql("SELECT 1 FROM people_brand LIMIT 1", stack.database).strip():
        return
    command = [str(setup.PYTHON), "demo/load.py", *(["--fresh"] if fresh else []), *(["--large"] if large else [])]
    ran = subprocess.run(command, cwd=setup.ROOT, env=stack.env)
    if ran.returncode:
        raise setup.SetupError("the demo's world could not be loaded")


def run(arguments: list[str]) -> int:
    fresh, large = "--fresh" in arguments, "--large" in arguments
    # The large office has a database and a folder of its own: the demo's world stays as it was left.
    database, folder = ("menudo_large", setup.VAR / "demo-large") if large else ("menudo", setup.VAR / "demo")
    setup.install_debian("postgresql")
    setup.install_python("demo")
    setup.install_web()
    cluster = Cluster()
    cluster.start()
    stack = None
    try:
        cluster.make_database(database, fresh=fresh)
        stack = Stack(cluster, database, folder, {**QUICK, **offset_env()}, PORTS)
        stack.migrate()
        stack.start_standin()
        load(stack, fresh, large)
        stack.start_web()
        stack.start_worker()
        _print_sign_ins(stack)
        return _wait_for_signal(stack)
    finally:
        if stack:
            stack.stop()
        cluster.stop()


def _print_sign_ins(stack: Stack) -> None:
    sys.path.insert(0, str(setup.ROOT))
    from demo.world import PASSWORD, PEOPLE, STANDIN_LOGIN, STANDIN_PASSWORD

    print(f"\n  Menudo       {stack.url}")
    print(f"  the networks {stack.standin_url}/control   (make trouble there)\n")
    for person in PEOPLE:
        print(f"  {person.email:24} {PASSWORD}   {person.name}, {person.what}")
    print(f"\n  at the networks: account {STANDIN_LOGIN} (or fernhollow, hogaza), password {STANDIN_PASSWORD}")
    print(f"  mail tray    {stack.url}/mail-tray")
    print(f"  logs: {os.path.relpath(stack.folder)}/*.log\n\n  ctrl-C ends everything.\n", flush=True)


def _wait_for_signal(stack: Stack) -> int:
    signals: list[int] = []
    for sign in (signal.SIGINT, signal.SIGTERM):
        signal.signal(sign, lambda number, _: signals.append(number))
    while not signals:
        for name, process in list(stack.processes.items()):
            if process.poll() is not None and name == "worker":
                setup.print_step("the worker ended; starting it again")
                stack.start_worker()
            elif process.poll() is not None:
                raise setup.SetupError(f"{name} ended; see {Path(stack.folder) / name}.log")
        time.sleep(0.3)
    setup.print_step("ending")
    return 0
