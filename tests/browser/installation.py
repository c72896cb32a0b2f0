"""`./menudo` on a folder of its own, and a web site that somebody else runs."""

import os
import signal
import subprocess
import sys
import threading
from pathlib import Path

import httpx2
from tools.database import hold_port
from tools.home import DATABASE, Home
from tools.programs import Programs
from tools.setup import PYTHON, ROOT

from tests.standins import SITE


class Site:
    """A web site that speaks Micropub, run by somebody else: all that Menudo learns of it is its address."""

    def __init__(self, folder: Path, menudo: str) -> None:
        self.held = hold_port()
        port = self.held.getsockname()[1]
        self.host = f"127.0.0.1:{port}"
        self.address = f"http://{self.host}/site/fernhollow/"
        paths = {**os.environ, "PYTHONPATH": str(ROOT / "standin")}
        self.programs = Programs(folder, paths)
        command = [
            str(PYTHON),
            "-m",
            "menudo_standin",
            "--port",
            str(port),
            "--data",
            str(folder / "data"),
            "--menudo",
            menudo,
        ]
        self.programs.start("site", [*command, "--no-pace"])
        self.programs.wait_for(f"http://{self.host}/health", "site")
        profile = {
            "uid": "fernhollow",
            "handle": "fernhollow",
            "name": "Fernhollow",
            "kind": "site",
            "followers": 0,
            "facts": {},
        }
        owner = {
            "network": "open-site",
            "login": "desk",
            "password": "starlight",
            "name": "The desk",
            "profiles": [profile],
        }
        httpx2.post(
            f"http://{self.host}/control/api/seed",
            json={"empty": True, "accounts": [owner], "sites": [SITE]},
            timeout=60,
        ).raise_for_status()

    def says(self) -> str:
        return httpx2.get(self.address, timeout=60).text

    def stop(self) -> None:
        self.programs.stop()
        self.held.close()


class Installation:
    """`./menudo` on a folder of its own, as a person at a shell runs it."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.held = hold_port()
        self.port = self.held.getsockname()[1]
        self.held.close()
        self.url = f"http://127.0.0.1:{self.port}"
        self.env = {name: value for name, value in os.environ.items() if not name.startswith("MENUDO_")}
        self.env |= {"MENUDO_HOME": str(folder)}
        self.process: subprocess.Popen[str] | None = None

    def start(self) -> str:
        """Until it says that it runs; what it said."""
        command = [sys.executable, "-m", "tools.main", "start", "--port", str(self.port)]
        self.process = subprocess.Popen(
            command,
            cwd=ROOT,
            env={**self.env, "PYTHONUNBUFFERED": "1"},
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            start_new_session=True,
        )
        said = ""
        assert self.process.stdout
        for line in self.process.stdout:
            said += line
            if "ctrl-C" in line:
                # What it says later is read too, so that it never waits for a reader.
                threading.Thread(target=self.process.stdout.read, daemon=True).start()
                return said
        raise AssertionError(f"it ended: {said}")

    def stop(self) -> None:
        if self.process and self.process.poll() is None:
            self.process.send_signal(signal.SIGTERM)
            assert self.process.wait(60) == 0
        self.process = None

    def cut_the_power(self) -> None:
        """Signal 9 to the program and to the database, at once."""
        assert self.process
        postmaster = int((self.folder / "database" / "postmaster.pid").read_text().split()[0])
        os.kill(self.process.pid, signal.SIGKILL)
        os.kill(postmaster, signal.SIGKILL)
        self.process.wait()

    def run(self, *arguments: str) -> tuple[int, str]:
        ran = subprocess.run(
            [sys.executable, "-m", "tools.main", *arguments], cwd=ROOT, env=self.env, capture_output=True, text=True
        )
        return ran.returncode, ran.stdout + ran.stderr

    def sql(self, statement: str) -> str:
        os.environ["MENUDO_HOME"] = str(self.folder)
        try:
            return Home().cluster.sql(statement, DATABASE).strip()
        finally:
            del os.environ["MENUDO_HOME"]
