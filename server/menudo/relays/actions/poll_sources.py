"""Keep what appeared at the sources that relays listen to, once."""

from collections.abc import Iterable
from datetime import datetime, timedelta

from django.core.cache import cache
from django.db import connection, transaction

from menudo.base import clock
from menudo.networks import sign_in
from menudo.networks.protocol import RemotePost
from menudo.networks.registry import open_adapter, queried_address
from menudo.notices.failures import failure_boundary
from menudo.people.models import Brand
from menudo.posts.models import Delivery
from menudo.profiles.actions.refresh_token import working_token
from menudo.profiles.models import Profile
from menudo.relays.evaluation import mark_addresses_seen
from menudo.relays.item_data import ItemData
from menudo.relays.models import Relay, RemoteItem, SeenItem, SourceItem
from menudo.relays.serializers import store_item_data
from menudo.relays.sources import FoundItem, latest_items, source_item
from menudo_core.text.hashtags import hashtags

# The newest of one source in one round.
_AT_ONCE = 200
_LOOK_SECONDS = 240
# The first half of the advisory locks' keys (two 32-bit numbers); the second is the source's.
_SOURCES = 0x50C7
# When a person waits for it.
SOON = 5
# Clocks of networks are not ours: what they say happened a little before is looked at again.
_GRACE = timedelta(minutes=10)
# What is older isn't looked for any more, so that what is forgotten (forget.py) can't come as new.
LOOKS_BACK = timedelta(days=90)


def poll_sources() -> int:
    """What is new at every source with a relay that is on, of what is known here; profiles' networks are asked in jobs of
    their own (look_outside). How much."""
    now = clock.now()
    sources: dict[tuple[int, str], datetime] = {}
    for relay in Relay.objects.filter(active=True, activated_at__isnull=False):
        key = (relay.brand_id, relay.source)
        sources[key] = min(sources.get(key, now), relay.activated_at or now)
    count = 0
    for (brand, source), since in sources.items():
        with failure_boundary("gather", f"source {source}", brand, "what appeared at the source of a relay"):
            count += _poll_source(brand, source, max(since - _GRACE, now - LOOKS_BACK))
    return count


def _poll_source(brand: int, source: str, after: datetime) -> int:
    with transaction.atomic():
        lock_source(brand, source)
        # Said before it is read: a relay that is switched on from here on waits for the lock, and what comes then is its own.
        seen = clock.now()
        return save_items(brand, latest_items(source, _AT_ONCE, after), seen)


def lock_source(brand: int, source: str) -> None:
    """Whoever reads a source and whoever switches a relay of it on wait for each other: what was there before and what came
    after is told apart. Until the transaction ends."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s, hashtext(%s))", [_SOURCES, f"{brand}:{source}"])


def due_remote_profiles() -> list[tuple[int, str]]:
    """The profiles whose networks are to be asked again what stands there, with the address of each."""
    profiles = (
        Profile.objects.filter(relays_from__active=True, relays_from__paused_reason="", state=Profile.State.CONNECTED)
        .filter(connection__isnull=False)
        .select_related("connection")
        .distinct()
    )
    return [
        (p.pk, queried_address(p.connection.endpoints))
        for p in profiles.order_by("pk")
        if p.connection is not None and not cache.get(f"outside:{p.pk}:{_LOOK_SECONDS}")
    ]


def save_items(brand: Brand | int, found: Iterable[FoundItem], now: datetime) -> int:
    """Those that weren't kept yet. How many."""
    brand_id = brand.pk if isinstance(brand, Brand) else brand
    rows = [source_item(brand_id, one, now) for one in found]
    if not rows:
        return 0
    origins = [row.origin for row in rows]
    known = {
        row.origin: row for row in SourceItem.objects.filter(brand=brand_id, source=rows[0].source, origin__in=origins)
    }
    _update_addresses(rows, known)
    fresh = [row for row in rows if row.origin not in known]
    SourceItem.objects.bulk_create(fresh, ignore_conflicts=True)
    return len(fresh)


def _update_addresses(rows: Iterable[SourceItem], known: dict[str, SourceItem]) -> None:
    """What is known and stands at another address now is known by that too, and whoever had it has had that."""
    moved = []
    for row in rows:
        before = known.get(row.origin)
        if before is not None and not set(row.addresses) <= set(before.addresses):
            before.addresses = list(dict.fromkeys([*row.addresses, *before.addresses]))
            moved.append(before)
    if not moved:
        return
    SourceItem.objects.bulk_update(moved, ["addresses"])
    by_origin = {row.origin: row for row in moved}
    seen = SeenItem.objects.filter(origin__in=by_origin, source=moved[0].source).values_list("profile", "origin")
    mark_addresses_seen((profile, by_origin[origin]) for profile, origin in seen)


def poll_remote_profile(profile_id: int, interval: int = _LOOK_SECONDS) -> int:
    """Ask a profile's network what stands there that wasn't made here; every so many seconds at most. How much is new."""
    if not cache.add(f"outside:{profile_id}:{interval}", 1, interval):
        return 0
    profile = Profile.objects.filter(pk=profile_id, state=Profile.State.CONNECTED).select_related("connection").first()
    if profile is None or profile.connection is None:
        return 0
    at = profile.connection
    try:
        wire = open_adapter(at.endpoints, working_token(at))
        written = wire.posts(profile.remote_id)
    except (sign_in.ConnectionEndedError, sign_in.NetworkError):
        return 0
    ours = set(
        Delivery.objects.filter(brand=profile.brand_id, remote_url__in=[w.url for w in written]).values_list(
            "remote_url", flat=True
        )
    )
    # One that is being sent just now may stand there before its address is known here.
    if Delivery.objects.filter(profile=profile, state="sending").exists():
        return 0
    rows = [
        RemoteItem(profile=profile, url=w.url, published_at=w.at, data=store_item_data(_item_data(profile, w)))
        for w in written
        if w.url not in ours
    ]
    before = RemoteItem.objects.filter(profile=profile).count()
    RemoteItem.objects.bulk_create(rows, ignore_conflicts=True)
    return RemoteItem.objects.filter(profile=profile).count() - before


def _item_data(profile: Profile, one: RemotePost) -> ItemData:
    return ItemData(
        text=one.text,
        summary=one.text,
        link=one.link,
        tags=tuple(hashtags(one.text)),
        pictures=tuple(url for url, kind, _ in one.media if kind != "video"),
        videos=tuple(url for url, kind, _ in one.media if kind == "video"),
        alts={url: alt for url, _, alt in one.media if alt},
        kind=one.form,
        address=one.url,
        source=profile.display_name or profile.handle,
    )
