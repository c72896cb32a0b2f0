"""Menudo's programs as processes: stand-in, web and worker, for the demo, the tests, the pictures and the benchmarks."""

import fcntl
import hashlib
import json
import os
import subprocess
import urllib.request
from pathlib import Path
from typing import Any

from tools.database import Cluster, hold_port
from tools.programs import Programs, gunicorn
from tools.setup import LOCKS, PYTHON, ROOT, VAR

# The stand-in's blogs, which speak the Atom Publishing Protocol.
CLASSIC = ("foolscap",)


class Stack(Programs):
    """One set of programs with a database, a data folder and ports of its own."""

    def __init__(
        self,
        cluster: Cluster,
        database: str,
        folder: Path,
        env: dict[str, str] | None = None,
        ports: tuple[int, int] = (0, 0),
    ) -> None:
        self.cluster, self.database = cluster, database
        self._held = [hold_port(port) for port in ports]
        self.web_port, self.standin_port = (int(held.getsockname()[1]) for held in self._held)
        whole = {
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
            "MENUDO_NETWORKS": str(folder / "networks.toml"),
            "MENUDO_FETCH_ALLOWED": self.standin_url.removeprefix("http://"),
            **(env or {}),
        }
        super().__init__(folder, whole)
        # Every network is the stand-in's, but for open sites, which are where they say they are.
        names = [file.stem for file in (ROOT / "core/menudo_core/networks/sheets").glob("*.toml")]
        rows = [
            f'[{name}]\naddress = "{self.standin_url}/{name}"\nadapter = "{"atompub" if name in CLASSIC else "micropub"}"\n'
            for name in names
            if name != "open-site"
        ]
        (folder / "networks.toml").write_text("\n".join(sorted(rows)))

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.web_port}"

    @property
    def standin_url(self) -> str:
        return f"http://127.0.0.1:{self.standin_port}"

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
        self.start("standin", command)
        self.wait_for(f"{self.standin_url}/health", "standin")

    def start_web(self) -> None:
        self.start("web", gunicorn(f"127.0.0.1:{self.web_port}", 1, "--reuse-port"))
        self.wait_for(f"{self.url}/health", "web")

    def start_worker(self, name: str = "worker", **env: str) -> subprocess.Popen[bytes]:
        return self.start(name, [str(PYTHON), "server/manage.py", "work"], env)

    def start_module(self, name: str, module: str, *arguments: str) -> subprocess.Popen[bytes]:
        return self.start(name, [str(PYTHON), "-m", module, *arguments])

    def stop(self) -> None:
        """End every program, and leave its ports to others."""
        super().stop()
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
            received = response.read()
        return json.loads(received) if received else None


def migrations_digest() -> str:
    """Of all that decides what a migrated database looks like: our migrations and the packages' versions."""
    files = [*sorted((ROOT / "server").glob("menudo/*/migrations/*.py")), LOCKS["packages"]]
    return hashlib.sha256(b"\0".join(file.read_bytes() for file in files)).hexdigest()[:12]
