"""Add a file to a brand's media."""

from pathlib import Path

from django.db import connection, transaction

from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.history.actions.record import record
from menudo.library import files
from menudo.library.models import Asset, Folder
from menudo.library.reading import Readied, Unreadable, not_too_large, ready, ready_video
from menudo.library.video import looks_like_video
from menudo.people.capabilities import May
from menudo.people.here import Here


def add(
    place: Here, source: bytes | Path, name: str, alt: str = "", folder: Folder | None = None, caption: str = ""
) -> Asset:
    """Ready the file and keep it. Raises Invalid.

    The same picture added again to the same folder is the asset already there, taken out of the bin when it lies in it.
    """
    place.needs(May.WRITE)
    name = "".join(c for c in name if c.isprintable() and not "\ud800" <= c <= "\udfff")[-120:] or "picture"
    with files.workspace() as workspace:
        try:
            readied = _readied(source, name, workspace)
        except Unreadable as error:
            raise Invalid.at("/file", str(error), "unreadable") from error
        sha = files.digest(readied.source)
        return _keep(place, readied, sha, name, alt, folder, caption)


def _keep(place: Here, readied: Readied, sha: str, name: str, alt: str, folder: Folder | None, caption: str) -> Asset:
    with transaction.atomic():
        # Two who add the same picture at once wait for each other here, and so does the emptying of the bin, which must
        # not delete the file that is being kept (see bin.py).
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_xact_lock(%s)", [files.lock_key(sha)])
        files.keep(sha, "whole", readied.source)
        files.keep(sha, "thumb", readied.thumb)
        known = Asset.objects.filter(brand=place.brand, sha256=sha)
        known = known.filter(folder=folder) if folder else known
        found = known.order_by("binned", "id").first()
        if found is not None:
            if found.binned is not None:
                found.binned = None
                found.save(update_fields=["binned"])
            return found
        asset = Asset.objects.create(
            brand=place.brand, folder=folder, name=name, kind=readied.kind, format=readied.format, codec=readied.codec,
            width=readied.width, height=readied.height, size=readied.size, seconds=readied.seconds, sha256=sha,
            alt=alt, caption=caption,
        )  # fmt: skip
        record(place.brand.pk, place.actor, "add", "asset", asset.pk, f"added {name}")
        tell(place.brand.pk, "asset", asset.pk)
    return asset


def _readied(source: bytes | Path, name: str, workspace: Path) -> Readied:
    if isinstance(source, Path):
        with source.open("rb") as file:
            head = file.read(16)
        if looks_like_video(head):
            return ready_video(source, name, workspace)
        not_too_large(source.stat().st_size, name)
        return ready(source.read_bytes(), name)
    if not looks_like_video(source[:16]):
        return ready(source, name)
    arrived = workspace / "arrived.video"
    arrived.write_bytes(source)
    return ready_video(arrived, name, workspace)
