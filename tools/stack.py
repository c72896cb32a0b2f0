"""Menudo's programs as processes: stand-in, web and worker, for the demo, the tests, the pictures and the benchmarks."""

import fcntl
import hashlib
import json
import os
import signal
import subprocess
import time
import urllib.error
import urllib.request
from pathlib import Path
from typing import IO, Any

from tools.database import Cluster, hold_port
from tools.setup import LOCKS, PYTHON, ROOT, VAR, CantGoOn


class Stack:
    """One set of programs with a database, a data folder and ports of its own."""

    def __init__(
        self,
        cluster: Cluster,
        database: str,
        folder: Path,
        env: dict[str, str] | None = None,
        ports: tuple[int, int] = (0, 0),
    ) -> None:
        self.cluster, self.database, self.folder = cluster, database, folder
        self._held = [hold_port(port) for port in ports]
        self.web_port, self.standin_port = (int(held.getsockname()[1]) for held in self._held)
        self.processes: dict[str, subprocess.Popen[bytes]] = {}
        self._logs: list[IO[bytes]] = []
        folder.mkdir(parents=True, exist_ok=True)
        self.env = {
            **os.environ,
            "PYTHONPATH": os.pathsep.join(str(ROOT / p) for p in ("core", "server", "standin", ".")),
            "PYTHONUNBUFFERED": "1",
            "DJANGO_SETTINGS_MODULE": "menudo.settings",
            "MENUDO_DEMO": "1",
            "MENUDO_DB_POOL": "24",
            "MENUDO_DATABASE_URL": cluster.url(database),
            "MENUDO_PUBLIC_URL": self.url,
            "MENUDO_STANDIN_URL": self.standin_url,
            "MENUDO_VAR": str(VAR),
            "MENUDO_MEDIA": str(folder / "media"),
            **(env or {}),
        }

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.web_port}"

    @property
    def standin_url(self) -> str:
        return f"http://127.0.0.1:{self.standin_port}"

    def manage(self, *arguments: str, env: dict[str, str] | None = None) -> str:
        """Run one of Django's commands; what it printed."""
        ran = subprocess.run(
            [str(PYTHON), "server/manage.py", *arguments], cwd=ROOT, env=env or self.env, capture_output=True, text=True
        )
        if ran.returncode:
            raise CantGoOn(f"{' '.join(arguments)} failed:\n{ran.stdout[-2000:]}{ran.stderr[-4000:]}")
        return ran.stdout

    def migrate(self) -> None:
        """The database as the migrations leave it. An empty one becomes a copy of the cluster's template, which is migrated once."""
        if self.cluster.sql("SELECT to_regclass('django_migrations')", self.database).strip() == "":
            self.cluster.make_database(self.database, fresh=True, template=self.template())
            return
        self.manage("migrate", "--no-input", "-v", "0")

    def template(self) -> str:
        """The name of a migrated database to copy, made if these migrations have none yet. Nobody may connect to it."""
        name = f"menudo_template_{migrations_digest()}"
        with (VAR / "template.lock").open("w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            known = self.cluster.sql("SELECT datname FROM pg_database WHERE datname LIKE 'menudo_template_%'").split()
            if name not in known:
                for old in (*known, "menudo_making_template"):
                    self.cluster.drop_database(old)
                self.cluster.make_database("menudo_making_template")
                env = {**self.env, "MENUDO_DATABASE_URL": self.cluster.url("menudo_making_template")}
                self.manage("migrate", "--no-input", "-v", "0", env=env)
                self.manage("createcachetable", env=env)
                self.cluster.sql(f'ALTER DATABASE "menudo_making_template" RENAME TO "{name}"')
        return name

    def start_standin(self, *arguments: str) -> None:
        command = [
            str(PYTHON),
            "-m",
            "menudo_standin",
            "--port",
            str(self.standin_port),
            "--data",
            str(self.folder / "standin"),
            "--menudo",
            self.url,
            *(["--no-pace"] if self.env.get("MENUDO_PACE") == "0" else []),
            *arguments,
        ]
        self._start("standin", command)
        self.wait_for(f"{self.standin_url}/health", "standin")

    def start_web(self) -> None:
        self._start("web", gunicorn(f"127.0.0.1:{self.web_port}", 1, "--reuse-port"))
        self.wait_for(f"{self.url}/health", "web")

    def start_worker(self, name: str = "worker", **env: str) -> subprocess.Popen[bytes]:
        return self._start(name, [str(PYTHON), "server/manage.py", "work"], env)

    def start_module(self, name: str, module: str, *arguments: str) -> subprocess.Popen[bytes]:
        return self._start(name, [str(PYTHON), "-m", module, *arguments])

    def _start(self, name: str, command: list[str], env: dict[str, str] | None = None) -> subprocess.Popen[bytes]:
        log = (self.folder / f"{name}.log").open("ab")
        self._logs.append(log)
        process = subprocess.Popen(
            command, cwd=ROOT, env={**self.env, **(env or {})}, stdout=log, stderr=log, start_new_session=True
        )
        self.processes[name] = process
        return process

    def wait_for(self, url: str, name: str, seconds: float = 60) -> None:
        """Until the address answers, whatever it says; ends early when the program does."""
        until = time.monotonic() + seconds
        while time.monotonic() < until:
            if self.processes[name].poll() is not None:
                raise CantGoOn(f"{name} ended at once:\n{self.log(name)[-3000:]}")
            try:
                with urllib.request.urlopen(url, timeout=5):
                    return
            except urllib.error.HTTPError:
                return
            except OSError:
                time.sleep(0.05)
        raise CantGoOn(f"{name} did not answer at {url} within {seconds:.0f} s:\n{self.log(name)[-3000:]}")

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
        for held in self._held:
            held.close()

    def control(self, path: str, data: dict[str, Any] | None = None, method: str = "") -> Any:
        """Speak to the stand-in's control API."""
        body = None if data is None else json.dumps(data).encode()
        request = urllib.request.Request(
            f"{self.standin_url}/control/api/{path}",
            body,
            {"Content-Type": "application/json"},
            method=method or ("POST" if body else "GET"),
        )
        with urllib.request.urlopen(request, timeout=30) as response:
            said = response.read()
        return json.loads(said) if said else None


def migrations_digest() -> str:
    """Of all that decides what a migrated database looks like: our migrations and the packages' versions."""
    files = [*sorted((ROOT / "server").glob("menudo/*/migrations/*.py")), LOCKS["packages"]]
    return hashlib.sha256(b"\0".join(file.read_bytes() for file in files)).hexdigest()[:12]


def gunicorn(bind: str, workers: int, *more: str) -> list[str]:
    """The web program's command line."""
    return [
        str(PYTHON), "-m", "gunicorn", "menudo.asgi:application", "-k", "uvicorn_worker.UvicornWorker", "--bind", bind,
        "--workers", str(workers), "--graceful-timeout", "3", "--no-control-socket", "--log-level", "warning", *more,
    ]  # fmt: skip
