"""Add a file to a brand's media."""

from pathlib import Path

from django.db import connection, transaction

from menudo.base.live import publish_change
from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.library import files
from menudo.library.media_preparation import PreparedMedia, UnreadableMediaError, prepare_media
from menudo.library.models import Asset, Folder
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext


def add_asset(
    context: BrandContext,
    source: bytes | Path,
    name: str,
    alt: str = "",
    folder: Folder | None = None,
    caption: str = "",
) -> Asset:
    """Ready the file and keep it. Raises InvalidError.

    The same picture added again to the same folder is the asset already there, taken out of the bin when it lies in it.
    """
    context.require(Capability.WRITE)
    name = "".join(c for c in name if c.isprintable() and not "\ud800" <= c <= "\udfff")[-120:] or "picture"
    with files.workspace() as workspace:
        try:
            readied = prepare_media(source, name, workspace)
        except UnreadableMediaError as error:
            raise InvalidError.at("/file", str(error), "unreadable") from error
        sha = files.sha256_of(readied.source)
        return _save_asset(context, readied, sha, name, alt, folder, caption)


def _save_asset(
    context: BrandContext, readied: PreparedMedia, sha: str, name: str, alt: str, folder: Folder | None, caption: str
) -> Asset:
    with transaction.atomic():
        # Two who add the same picture at once wait for each other here, and so does the emptying of the bin, which must
        # not delete the file that is being kept (see bin.py).
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_xact_lock(%s)", [files.lock_key(sha)])
        files.save_file(sha, "whole", readied.source)
        files.save_file(sha, "thumb", readied.thumb)
        known = Asset.objects.filter(brand=context.brand, sha256=sha)
        known = known.filter(folder=folder) if folder else known
        found = known.order_by("deleted_at", "id").first()
        if found is not None:
            if found.deleted_at is not None:
                found.deleted_at = None
                found.save(update_fields=["deleted_at"])
            return found
        asset = Asset.objects.create(
            brand=context.brand,
            folder=folder,
            name=name,
            kind=readied.kind,
            format=readied.format,
            codec=readied.codec,
            width=readied.width,
            height=readied.height,
            size=readied.size,
            seconds=readied.seconds,
            sha256=sha,
            alt=alt,
            caption=caption,
        )
        record_event(context.brand.pk, context.actor, "add", "asset", asset.pk, say("asset.added", name=name))
        publish_change(context.brand.pk, "asset", asset.pk)
    return asset
