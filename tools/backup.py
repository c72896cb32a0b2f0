"""./menudo backup FILE: everything of an installation in one file, while it runs or not.

A tar archive: `about.json` (when, and which migrations were applied), `secrets.json` (the keys that networks' sign-ins are
sealed with), `database.sql.gz` (plain SQL, as pg_dump writes it) and `media/`. Whoever has the file has everything.
"""

import argparse
import gzip
import io
import json
import os
import shutil
import subprocess
import tarfile
import tempfile
from contextlib import ExitStack
from datetime import UTC, datetime
from pathlib import Path
from typing import IO

from tools import setup
from tools.home import DATABASE, Home

VERSION = 1
_CHUNK = 1 << 20


def run(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./menudo backup")
    parser.add_argument("file", type=Path, help="the file to write; it must not be there yet")
    file = parser.parse_args(arguments).file.resolve()
    setup.install_debian("postgresql")
    setup.install_python()
    home = Home()
    if home.is_new:
        raise setup.SetupError(f"there is nothing to keep in {home.folder} yet")
    with ExitStack() as stack:
        if not home.cluster.is_running():
            stack.enter_context(home.lock("./menudo backup"))
            home.cluster.start()
            stack.callback(home.cluster.stop)
        write_backup(home, file)
    setup.print_step(f"kept in {file}. Whoever has this file has everything, sign-ins at networks too: keep it safe")
    return 0


def write_backup(home: Home, file: Path) -> None:
    """The whole file or none of it. Raises SetupError when it is there already, or can't be written."""
    if file.exists():
        raise setup.SetupError(f"{file} is there already: choose another name")
    beside = file.with_name(f".{file.name}.{os.getpid()}")
    try:
        with os.fdopen(os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as out:
            _write(home, out)
            out.flush()
            os.fsync(out.fileno())
        beside.rename(file)
    except OSError as error:
        raise setup.SetupError(f"{file} can't be written: {error.strerror or error}") from error
    finally:
        beside.unlink(missing_ok=True)


def _write(home: Home, out: IO[bytes]) -> None:
    sql = "SELECT app || '/' || name FROM django_migrations ORDER BY id"
    about = {
        "menudo": VERSION,
        "made": datetime.now(UTC).isoformat(timespec="seconds"),
        "migrations": home.cluster.sql(sql, DATABASE).split(),
    }
    with tarfile.open(fileobj=out, mode="w") as tar, tempfile.TemporaryFile() as dump:
        _add_bytes(tar, "about.json", json.dumps(about, indent=1).encode())
        _add_bytes(tar, "secrets.json", json.dumps(home.secrets(), indent=1).encode())
        # The database first: what it names is among the media that are packed after it.
        _dump(home, dump)
        info = tarfile.TarInfo("database.sql.gz")
        info.size, info.mode = dump.tell(), 0o600
        dump.seek(0)
        tar.addfile(info, dump)
        for file in sorted(path for path in home.media.rglob("*") if path.is_file() and not path.is_symlink()):
            try:
                tar.add(file, f"media/{file.relative_to(home.media)}", recursive=False)
            except FileNotFoundError:
                # What the bin lost meanwhile is no loss.
                continue


def _dump(home: Home, out: IO[bytes]) -> None:
    command = [str(home.cluster.bin / "pg_dump"), "--no-owner", "--no-privileges", "-d", home.cluster.url(DATABASE)]
    with gzip.GzipFile(fileobj=out, mode="wb", compresslevel=6, mtime=0) as packed:
        ran = subprocess.Popen(command, stdout=subprocess.PIPE)
        assert ran.stdout is not None
        shutil.copyfileobj(ran.stdout, packed, _CHUNK)
        if ran.wait():
            raise setup.SetupError("the database could not be read; what it said stands above")


def _add_bytes(tar: tarfile.TarFile, name: str, body: bytes) -> None:
    info = tarfile.TarInfo(name)
    info.size, info.mode = len(body), 0o600
    tar.addfile(info, io.BytesIO(body))
