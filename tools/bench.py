"""./menudo bench: the budgets, each as a ratio measured in one run."""

import os
import subprocess

from tools import setup
from tools.database import Cluster


def run(arguments: list[str]) -> int:
    setup.install_debian("postgresql")
    setup.install_python("demo", "dev", *(["fuzz"] if "fuzz" in arguments else []))
    # What is measured in the browser is what the sources say now.
    setup.install_web()
    cluster = Cluster()
    cluster.start()
    try:
        env = {
            **os.environ,
            "PYTHONPATH": os.pathsep.join(str(setup.ROOT / p) for p in ("core", "server", "standin", ".")),
        }
        return subprocess.run([str(setup.PYTHON), "-m", "bench", *arguments], cwd=setup.ROOT, env=env).returncode
    finally:
        cluster.stop()
