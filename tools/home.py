"""The one folder of an installation of one's own (`./menudo start`): its database, media, secrets, logs and backups.

database/      the PostgreSQL cluster, durable
media/         pictures and videos
secrets.json   made once; only its owner reads it
networks.toml  where the networks are, if there are any: see docs/serving.md
backups/       made before a newer Menudo changes the database, and before a backup is restored
logs/          web.log and worker.log
    port           where it was started last
"""

import fcntl
import json
import os
import secrets
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from tools.database import Cluster, write_secret
from tools.setup import ROOT, VAR, SetupError

DATABASE = "menudo"
PORT = 8600


class Home:
    """`url`: the address people use. Everything in the folder is its owner's alone. Without a `port`, the one it was started
    at last."""

    def __init__(self, port: int = 0) -> None:
        self.folder = _folder()
        self._port = self.folder / "port"
        self.port = port or (int(self._port.read_text()) if self._port.is_file() else PORT)
        self.url = os.environ.get("MENUDO_PUBLIC_URL", f"http://127.0.0.1:{self.port}").rstrip("/")
        self.media, self.logs, self.backups = (self.folder / name for name in ("media", "logs", "backups"))
        self.cluster = Cluster(self.folder / "database", self.folder / "database-password", durable=True)
        self._secrets, self._lock = self.folder / "secrets.json", self.folder / "lock"

    @property
    def is_new(self) -> bool:
        return not self.cluster.folder.is_dir()

    def make(self) -> None:
        """The folder, if there is none. As root, others may walk through it, for the database's own user is another."""
        _make_reachable(self.folder)
        if self.folder.exists() and not self._lock.is_file() and (self.folder.is_file() or any(self.folder.iterdir())):
            raise SetupError(f"{self.folder} holds something else: name a folder of its own in MENUDO_HOME")
        self.folder.mkdir(parents=True, exist_ok=True)
        self.folder.chmod(0o711 if self.cluster.user else 0o700)
        for folder in (self.media, self.logs, self.backups):
            folder.mkdir(exist_ok=True)
            folder.chmod(0o700)

    @contextmanager
    def lock(self, what: str) -> Iterator[None]:
        """To itself: two programs never run on one folder. The lock ends with the program, however it ends."""
        self.make()
        with self._lock.open("a+") as lock:
            if not _try_lock(lock):
                raise SetupError(
                    f"{what} needs the folder {self.folder} to itself, and Menudo runs on it: stop that first"
                )
            yield

    def save_port(self) -> None:
        self._port.write_text(str(self.port))

    @property
    def has_secrets(self) -> bool:
        return self._secrets.is_file()

    def secrets(self) -> dict[str, str]:
        """The two keys, made the first time. Raises SetupError when the file is damaged: with others, tokens couldn't be read."""
        if not self.has_secrets:
            if not self.is_new:
                raise SetupError(f"{self._secrets} is gone: without it no network's sign-in can be read. Put it back")
            self.save_secrets({"secret_key": secrets.token_urlsafe(48), "token_keys": secrets.token_urlsafe(48)})
        try:
            kept_secrets = json.loads(self._secrets.read_text("utf-8"))
            return {"secret_key": str(kept_secrets["secret_key"]), "token_keys": str(kept_secrets["token_keys"])}
        except (OSError, ValueError, KeyError, TypeError) as error:
            raise SetupError(f"{self._secrets} can't be read: put it back from a backup") from error

    def save_secrets(self, values: dict[str, str]) -> None:
        """Written beside its place and moved there, so that there is never half of it."""
        beside = self._secrets.with_suffix(".new")
        write_secret(beside, json.dumps(values, indent=1))
        beside.replace(self._secrets)

    def env(self) -> dict[str, str]:
        """What the programs are told. What the environment says of mail, logs and the like goes through."""
        kept = self.secrets()
        networks = self.folder / "networks.toml"
        default_networks = {"MENUDO_NETWORKS": str(networks)} if networks.is_file() else {}
        return {
            # It is opened by either name of this machine, and watched by its address.
            "MENUDO_HOSTS": "localhost,127.0.0.1",
            **default_networks,
            **{name: value for name, value in os.environ.items() if name not in ("MENUDO_DEMO", "MENUDO_STANDIN_URL")},
            "PYTHONPATH": os.pathsep.join(str(ROOT / part) for part in ("core", "server")),
            "PYTHONUNBUFFERED": "1",
            "DJANGO_SETTINGS_MODULE": "menudo.settings",
            "MENUDO_SECRET_KEY": kept["secret_key"],
            "MENUDO_TOKEN_KEYS": kept["token_keys"],
            "MENUDO_DATABASE_URL": self.cluster.url(DATABASE),
            "MENUDO_PUBLIC_URL": self.url,
            "MENUDO_MEDIA": str(self.media),
            "MENUDO_VAR": str(VAR),
        }


def _folder() -> Path:
    named = os.environ.get("MENUDO_HOME", "")
    if named:
        return Path(named).expanduser().resolve()
    if os.geteuid() == 0:
        return Path("/var/lib/menudo")
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share") / "menudo"


def _make_reachable(folder: Path) -> None:
    """As root, the database runs as another user, who must be able to walk down to it. Raises SetupError."""
    closed = [p for p in folder.parents if p.is_dir() and not p.stat().st_mode & 0o001]
    if os.geteuid() == 0 and closed:
        raise SetupError(
            f"PostgreSQL, which doesn't run as root, can't get into {closed[-1]}: name another folder in MENUDO_HOME"
        )


def _try_lock(lock: IO[str]) -> bool:
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return False
    return True
