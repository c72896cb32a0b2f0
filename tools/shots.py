"""./menudo shots: the pictures in docs/screenshots, from the demo's world on a fixed day."""

import os
import subprocess

from tools import setup
from tools.clock import offset_env
from tools.database import Cluster
from tools.demo import load
from tools.stack import Stack

DAY = "2026-11-24T08:12"


def run(arguments: list[str]) -> int:
    setup.install_debian("postgresql", "chromium")
    setup.install_python("demo", "dev")
    setup.install_web()
    os.environ.setdefault("MENUDO_DEMO_DATE", DAY)
    cluster = Cluster()
    cluster.start()
    stack = None
    try:
        cluster.make_database("menudo_shots", fresh=True)
        stack = Stack(cluster, "menudo_shots", setup.VAR / "shots", offset_env())
        stack.migrate()
        stack.start_standin()
        load(stack, fresh=True)
        stack.start_web()
        return subprocess.run(
            [str(setup.PYTHON), "demo/shots.py", stack.url, *arguments], cwd=setup.ROOT, env=stack.env
        ).returncode
    finally:
        if stack:
            stack.stop()
        cluster.stop()
