"""./menudo restore FILE: an installation as it was when the backup was made. What is there now is kept first."""

import argparse
import gzip
import json
import os
import shutil
import subprocess
import tarfile
import zlib
from datetime import UTC, datetime
from pathlib import Path, PurePosixPath
from typing import IO, Any

from tools import setup
from tools.backup import VERSION, write_backup
from tools.home import DATABASE, Home
from tools.start import refuse_newer

_RESTORED, _BEFORE = "menudo_restored", "menudo_before"
_CHUNK = 1 << 20


def run(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./menudo restore")
    parser.add_argument("file", type=Path, help="a file that ./menudo backup wrote")
    file = parser.parse_args(arguments).file.resolve()
    setup.install_debian("postgresql")
    setup.install_python()
    home = Home()
    with home.lock("./menudo restore"):
        try:
            with tarfile.open(file) as tar:
                _restore(home, file, tar)
        except (tarfile.TarError, zlib.error, gzip.BadGzipFile, EOFError) as error:
            raise setup.SetupError(f"{file} is no backup, or a damaged one; nothing was changed") from error
        except OSError as error:
            raise setup.SetupError(f"{file} can't be read: {error.strerror or error}") from error
    setup.print_step("all is as it was when the backup was made. ./menudo start starts it")
    return 0


def _restore(home: Home, file: Path, tar: tarfile.TarFile) -> None:
    about, kept = _read_json(tar, "about.json"), _read_json(tar, "secrets.json")
    if about.get("menudo") != VERSION or not {"secret_key", "token_keys"} <= kept.keys():
        raise setup.SetupError(f"{file} is no backup that this Menudo can read")
    refuse_newer([str(one) for one in about.get("migrations", [])], f"The backup {file}")
    media = {path: member for member in tar if (path := media_path(member))}
    # A backup is also the way back when the secrets are lost.
    present = home.secrets() if home.has_secrets else None
    if present is None:
        home.save_secrets({name: str(kept[name]) for name in ("secret_key", "token_keys")})
    home.cluster.start()
    home.cluster.started = True
    try:
        # First beside what is there; a file that turns out to be damaged changes nothing.
        home.cluster.make_database(_RESTORED, fresh=True)
        _load_database(home, tar)
        if home.cluster.sql(f"SELECT 1 FROM pg_database WHERE datname = '{DATABASE}'").strip():
            _backup_present(home)
        for path, member in media.items():
            _unpack(tar, member, home.media / path)
        if present is not None:
            # Tokens of both are readable until all is done.
            keys = dict.fromkeys([*str(kept["token_keys"]).split(","), *present["token_keys"].split(",")])
            home.save_secrets({"secret_key": str(kept["secret_key"]), "token_keys": ",".join(keys)})
        _swap_databases(home)
        (home.folder / "migrated").unlink(missing_ok=True)
        _delete_other_media(home.media, set(media))
    finally:
        home.cluster.drop_database(_RESTORED)
        home.cluster.stop()


def _read_json(tar: tarfile.TarFile, name: str) -> dict[str, Any]:
    try:
        found = tar.extractfile(name)
        data = json.loads(found.read(_CHUNK)) if found else None
    except (KeyError, ValueError):
        data = None
    if not isinstance(data, dict):
        raise setup.SetupError(f"{tar.name!s} is no backup of Menudo's: it has no {name}")
    return data


def media_path(member: tarfile.TarInfo) -> PurePosixPath | None:
    """Where a file of media/ is in that folder; None of all else: an archive may name anything."""
    first, *rest = PurePosixPath(member.name).parts or ("",)
    if not member.isfile() or first != "media" or not rest or ".." in rest:
        return None
    return PurePosixPath(*rest)


def _load_database(home: Home, tar: tarfile.TarFile) -> None:
    try:
        packed = tar.extractfile("database.sql.gz")
    except KeyError:
        packed = None
    if packed is None:
        raise setup.SetupError(f"{tar.name!s} has no database in it")
    command = [str(home.cluster.bin / "psql"), "-X", "-q", "-v", "ON_ERROR_STOP=1", "-1", "-o", os.devnull]
    psql = subprocess.Popen([*command, "-d", home.cluster.url(_RESTORED)], stdin=subprocess.PIPE)
    assert psql.stdin is not None
    try:
        with gzip.GzipFile(fileobj=packed) as sql:
            shutil.copyfileobj(sql, psql.stdin, _CHUNK)
        psql.stdin.close()
    except BrokenPipeError:
        pass
    except BaseException:
        psql.kill()
        psql.wait()
        raise
    if psql.wait():
        raise setup.SetupError("the database in the backup could not be read; nothing was changed")


def _backup_present(home: Home) -> None:
    if not home.cluster.sql("SELECT to_regclass('django_migrations')", DATABASE).strip():
        return
    file = home.backups / f"before-restoring-{datetime.now(UTC):%Y%m%d-%H%M%S}.tar"
    setup.print_step(f"what is there now is kept first: {file}")
    write_backup(home, file)


def _unpack(tar: tarfile.TarFile, member: tarfile.TarInfo, file: Path) -> None:
    """Beside its place first: a file that is there is whole."""
    file.parent.mkdir(parents=True, exist_ok=True)
    beside = file.with_name(f".{file.name}.restoring")
    source: IO[bytes] | None = tar.extractfile(member)
    with beside.open("wb") as out:
        shutil.copyfileobj(source, out, _CHUNK)  # type: ignore[arg-type]
        out.flush()
        os.fsync(out.fileno())
    beside.replace(file)


def _swap_databases(home: Home) -> None:
    """The restored database takes the place of the other, in one transaction."""
    home.cluster.drop_database(_BEFORE)
    there = home.cluster.sql(f"SELECT 1 FROM pg_database WHERE datname = '{DATABASE}'").strip()
    old = f'ALTER DATABASE "{DATABASE}" RENAME TO "{_BEFORE}"; ' if there else ""
    home.cluster.sql(f'BEGIN; {old}ALTER DATABASE "{_RESTORED}" RENAME TO "{DATABASE}"; COMMIT')
    home.cluster.drop_database(_BEFORE)


def _delete_other_media(media: Path, kept: set[PurePosixPath]) -> None:
    """Media that only the other database knew: they are in the backup that was made of it."""
    for path in sorted(media.rglob("*"), reverse=True):
        if path.is_file() and PurePosixPath(path.relative_to(media)) not in kept:
            path.unlink()
        elif path.is_dir() and not any(path.iterdir()):
            path.rmdir()
