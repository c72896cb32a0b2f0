"""Where media lie: by content hash, under MEDIA_ROOT."""

import os
import tempfile
from pathlib import Path

from django.conf import settings


def path(sha256: str, part: str = "whole") -> Path:
    """The file of an asset: `whole`, or `thumb`."""
    return Path(settings.MEDIA_ROOT) / sha256[:2] / f"{sha256}.{part}"


def keep(sha256: str, part: str, data: bytes) -> None:
    """Write a file whole or not at all."""
    target = path(sha256, part)
    target.parent.mkdir(parents=True, exist_ok=True)
    handle, temporary = tempfile.mkstemp(dir=target.parent)
    with os.fdopen(handle, "wb") as out:
        out.write(data)
    Path(temporary).replace(target)


def forget(sha256: str) -> None:
    """Delete a file and all that was drawn from it."""
    for found in path(sha256).parent.glob(f"{sha256}.*"):
        found.unlink(missing_ok=True)
