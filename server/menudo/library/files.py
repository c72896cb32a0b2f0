"""Where media lie: by content hash, under MEDIA_ROOT; or in an object store, of which MEDIA_ROOT then holds what was used lately."""

import hashlib
import itertools
import os
import tempfile
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path

import structlog
from botocore.exceptions import BotoCoreError, ClientError
from django.conf import settings
from django.core.files import File
from django.core.files.storage import Storage, storages

from menudo.base.problems import ProblemError

log = structlog.get_logger(__name__)

# All that is kept of an asset.
PARTS = ("whole", "thumb")
_TRIM_EVERY = 50
PIECE_BYTES = 1_000_000
_fills = itertools.count(1)


class MediaStoreError(ProblemError):
    """The object store doesn't answer, or not as it should."""

    status, code, title = 503, "media_store", "The store for media can't be reached just now. Try again in a while."


def file_path(sha256: str, part: str = "whole", step: Callable[[], None] = lambda: None) -> Path:
    """The file of an asset on this machine: `whole`, or `thumb`. What isn't here is fetched from the store; `step` is called with
    each piece of it, since that may take long. Raises MediaStoreError."""
    path = _local_path(sha256, part)
    store = _store()
    if store is None:
        return path
    if path.is_file():
        # What is read stays; what was read long ago goes first.
        os.utime(path)
        return path
    with _store_errors(), store.open(_name(sha256, part)) as kept:
        _write_whole(path, _pieces(kept, step))
    _trim_now_and_then()
    return path


def _pieces(kept: "File[bytes]", step: Callable[[], None]) -> Iterator[bytes]:
    for piece in kept.chunks(PIECE_BYTES):
        step()
        yield bytes(piece)


@contextmanager
def _store_errors() -> Iterator[None]:
    try:
        yield
    except (BotoCoreError, ClientError) as error:
        log.warning("media_store.failed", error=str(error)[:200])
        raise MediaStoreError() from error


def save_file(sha256: str, part: str, source: bytes | Path) -> None:
    """Keep a file whole or not at all: bytes, or a file of a workspace, which is moved. Raises MediaStoreError."""
    target = _local_path(sha256, part)
    target.parent.mkdir(parents=True, exist_ok=True)
    if isinstance(source, Path):
        source.replace(target)
    else:
        _write_whole(target, [source])
    store = _store()
    if store is None:
        return
    # By its content's hash: what is there already is the same.
    with _store_errors():
        if not store.exists(_name(sha256, part)):
            with target.open("rb") as file:
                store.save(_name(sha256, part), File(file))
    _trim_now_and_then()


def delete_file(sha256: str) -> None:
    """Delete a file and all that was drawn from it. Raises MediaStoreError."""
    for found in _local_path(sha256, "whole").parent.glob(f"{sha256}.*"):
        found.unlink(missing_ok=True)
    store = _store()
    if store is not None:
        with _store_errors():
            for part in PARTS:
                store.delete(_name(sha256, part))


def _trim_now_and_then() -> None:
    # By whoever fills it: each machine has a cache of its own, and any number of processes.
    if next(_fills) % _TRIM_EVERY == 0:
        trim_cache()


def trim_cache() -> int:
    """Of what an object store keeps, this machine holds at most MEDIA_CACHE_BYTES: what was used longest ago goes. How many files."""
    if _store() is None:
        return 0
    found = [(path.stat(), path) for path in Path(settings.MEDIA_ROOT).glob("??/*") if path.is_file()]
    over = sum(stat.st_size for stat, _ in found) - settings.MEDIA_CACHE_BYTES
    gone = 0
    for stat, path in sorted(found, key=lambda pair: pair[0].st_mtime):
        if over <= 0:
            break
        path.unlink(missing_ok=True)
        over -= stat.st_size
        gone += 1
    return gone


@contextmanager
def workspace() -> Iterator[Path]:
    """A folder beside the media, for files too large for memory while they are readied; what is left in it goes."""
    root = Path(settings.MEDIA_ROOT)
    root.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=root, prefix="at-work-") as folder:
        yield Path(folder)


def sha256_of(source: bytes | Path) -> str:
    """SHA-256, in hexadecimal."""
    if isinstance(source, bytes):
        return hashlib.sha256(source).hexdigest()
    with source.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def lock_key(sha256: str) -> int:
    """The key of the advisory lock under which a file is kept or deleted, whichever brand's it is."""
    return int(sha256[:15], 16)


def _store() -> Storage | None:
    return storages["media"] if "media" in settings.STORAGES else None


def _name(sha256: str, part: str) -> str:
    return f"{sha256[:2]}/{sha256}.{part}"


def _local_path(sha256: str, part: str) -> Path:
    return Path(settings.MEDIA_ROOT) / _name(sha256, part)


def _write_whole(target: Path, chunks: Iterable[bytes]) -> None:
    target.parent.mkdir(parents=True, exist_ok=True)
    handle, temporary = tempfile.mkstemp(dir=target.parent)
    try:
        with os.fdopen(handle, "wb") as out:
            for chunk in chunks:
                out.write(chunk)
        Path(temporary).replace(target)
    finally:
        Path(temporary).unlink(missing_ok=True)
