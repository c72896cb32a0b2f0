"""Menudo's programs as processes: begun, waited for, ended, each with a log of its own."""

import os
import signal
import subprocess
import time
import urllib.error
import urllib.request
from pathlib import Path
from typing import IO

from tools.setup import PYTHON, ROOT, SetupError


class Programs:
    """Programs that share an environment; their logs go to `folder`."""

    def __init__(self, folder: Path, env: dict[str, str]) -> None:
        self.folder, self.env = folder, env
        self.processes: dict[str, subprocess.Popen[bytes]] = {}
        self._logs: list[IO[bytes]] = []
        folder.mkdir(parents=True, exist_ok=True)

    def manage(self, *arguments: str, env: dict[str, str] | None = None) -> str:
        """Run one of Django's commands; what it printed."""
        ran = subprocess.run(
            [str(PYTHON), "server/manage.py", *arguments], cwd=ROOT, env=env or self.env, capture_output=True, text=True
        )
        if ran.returncode:
            raise SetupError(f"{' '.join(arguments)} failed:\n{ran.stdout[-2000:]}{ran.stderr[-4000:]}")
        return ran.stdout

    def start(self, name: str, command: list[str], env: dict[str, str] | None = None) -> subprocess.Popen[bytes]:
        log = (self.folder / f"{name}.log").open("ab")
        self._logs.append(log)
        process = subprocess.Popen(
            command, cwd=ROOT, env={**self.env, **(env or {})}, stdout=log, stderr=log, start_new_session=True
        )
        self.processes[name] = process
        return process

    def wait_for(self, url: str, name: str, seconds: float = 150) -> None:
        """Until the address answers, whatever it says; ends early when the program does. On a machine that starts several at once, each
        of serve's programs takes a minute."""
        until = time.monotonic() + seconds
        while time.monotonic() < until:
            if self.processes[name].poll() is not None:
                raise SetupError(f"{name} ended at once:\n{self.log(name)[-3000:]}")
            try:
                with urllib.request.urlopen(url, timeout=5):
                    return
            except urllib.error.HTTPError:
                return
            except OSError:
                time.sleep(0.05)
        raise SetupError(f"{name} did not answer at {url} within {seconds:.0f} s:\n{self.log(name)[-3000:]}")

    def log(self, name: str) -> str:
        file = self.folder / f"{name}.log"
        return file.read_text("utf-8", "replace") if file.is_file() else ""

    def kill(self, name: str) -> None:
        """Signal 9, without a word of warning."""
        process = self.processes.pop(name)
        os.killpg(process.pid, signal.SIGKILL)
        process.wait()

    def stop_one(self, name: str) -> None:
        """Ask one program to end, and see that it does."""
        process = self.processes[name]
        if process.poll() is None:
            process.send_signal(signal.SIGTERM)
        try:
            process.wait(15)
            del self.processes[name]
        except subprocess.TimeoutExpired:
            self.kill(name)

    def stop(self) -> None:
        """End every program."""
        for process in self.processes.values():
            if process.poll() is None:
                process.send_signal(signal.SIGTERM)
        for name in list(self.processes):
            self.stop_one(name)
        for log in self._logs:
            log.close()
        self._logs.clear()


def gunicorn(bind: str, workers: int, *more: str) -> list[str]:
    """The web program's command line."""
    return [
        str(PYTHON),
        "-m",
        "gunicorn",
        "menudo.asgi:application",
        "-k",
        "menudo.base.web_worker.WebWorker",
        "--bind",
        bind,
        "--workers",
        str(workers),
        # A process that is still starting on a starved machine isn't ended for it.
        "--timeout",
        "120",
        "--graceful-timeout",
        "3",
        # Longer than a proxy keeps a connection that nothing goes over (nginx: 60 s): it would send a request into one that is being closed.
        "--keep-alive",
        "75",
        "--no-control-socket",
        "--log-level",
        "warning",
        *more,
    ]
