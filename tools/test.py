"""./menudo test: all tests, or those of one room."""

import os
import subprocess

from tools import setup
from tools.database import Cluster

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
        return subprocess.run(
            [str(setup.PYTHON), "-m", "pytest", *paths, *arguments], cwd=setup.ROOT, env=env
        ).returncode
    finally:
        if cluster:
            cluster.stop()
