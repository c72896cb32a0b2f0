"""Where media lie: by content hash, under MEDIA_ROOT."""

import hashlib
import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings


def file_path(sha256: str, part: str = "whole") -> Path:
    """The file of an asset: `whole`, or `thumb`."""
    return Path(settings.MEDIA_ROOT) / sha256[:2] / f"{sha256}.{part}"


def save_file(sha256: str, part: str, source: bytes | Path) -> None:
    """Keep a file whole or not at all: bytes, or a file of a workspace, which is moved."""
    target = file_path(sha256, part)
    target.parent.mkdir(parents=True, exist_ok=True)
    if isinstance(source, Path):
        source.replace(target)
        return
    handle, temporary = tempfile.mkstemp(dir=target.parent)
    with os.fdopen(handle, "wb") as out:
        out.write(source)
    Path(temporary).replace(target)


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


def delete_file(sha256: str) -> None:
    """Delete a file and all that was drawn from it."""
    for found in file_path(sha256).parent.glob(f"{sha256}.*"):
        found.unlink(missing_ok=True)
