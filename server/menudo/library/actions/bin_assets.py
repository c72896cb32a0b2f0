"""Put media in the bin, take them out, and empty what has lain there for its time."""

from django.conf import settings
from django.db import connection, transaction

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.base.problems import ConflictError
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.library import files
from menudo.library.actions.arrange_assets import assets_by_ids
from menudo.library.models import Asset, Use
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext


def bin_assets(context: BrandContext, ids: list[int]) -> int:
    """To the bin; what a post uses doesn't go. How many. Raises ConflictError, with how many posts use them."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        assets = assets_by_ids(context, ids)
        used = Use.objects.filter(asset__in=assets).values_list("asset_id", "post_id")
        if used:
            which, posts = len({a for a, _ in used}), len({p for _, p in used})
            raise ConflictError(say("asset.used", count=which, posts=say("post.number", count=posts)))
        return _set_deleted(context, assets, "bin", clock.now())


def restore_assets(context: BrandContext, ids: list[int]) -> int:
    """Out of the bin again. How many."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        return _set_deleted(context, assets_by_ids(context, ids), "restore", None)


def _set_deleted(context: BrandContext, assets: list[Asset], verb: str, at) -> int:  # type: ignore[no-untyped-def]
    Asset.objects.filter(pk__in=[a.pk for a in assets]).update(deleted_at=at)
    record_event(
        context.brand.pk,
        context.actor,
        verb,
        "asset",
        assets[0].pk if len(assets) == 1 else 0,
        say("asset.binned" if verb == "bin" else "asset.restored", count=len(assets), name=assets[0].name),
    )
    publish_change(context.brand.pk, "asset", 0)
    return len(assets)


def empty_bin() -> int:
    """Delete for good what has been in the bin for its time; files go when no asset has them any more. How many."""
    over = list(Asset.objects.filter(deleted_at__lt=clock.now() - settings.BIN).values_list("pk", "sha256")[:500])
    for sha in sorted({sha for _, sha in over}):
        with transaction.atomic():
            # The same file may be added again just now: whoever comes second sees what the first has done.
            with connection.cursor() as cursor:
                cursor.execute("SELECT pg_advisory_xact_lock(%s)", [files.lock_key(sha)])
            gone = Asset.objects.filter(
                pk__in=[pk for pk, one in over if one == sha], deleted_at__lt=clock.now() - settings.BIN, uses=None
            )
            gone.delete()
            if not Asset.objects.filter(sha256=sha).exists():
                files.delete_file(sha)
    return len(over)
