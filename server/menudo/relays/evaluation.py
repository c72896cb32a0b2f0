"""Whether a relay carries a thing, and whether it has to wait for its hour or its day."""

from collections.abc import Iterable
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from django.db.models import Q, QuerySet

from menudo.posts.models import Delivery
from menudo.profiles.models import Profile
from menudo.relays.models import Firing, Relay, SeenItem, SourceItem
from menudo.relays.serializers import load_conditions, load_item, load_relay_state
from menudo_core.relays.conditions import first_unmet
from menudo_core.relays.guard import Verdict, evaluate_relay, must_wait
from menudo_core.relays.item import Item
from menudo_core.signoff.states import DeliveryState
from menudo_core.timing.hours import Hours

_MISSING = (DeliveryState.OFF, DeliveryState.UNPLANNED)


def evaluate_item(relay: Relay, source_item: SourceItem, now: datetime) -> tuple[str, str] | None:
    """Why the relay doesn't take it: the verdict and its words; None: it does."""
    item, guard = load_item(source_item), load_relay_state(relay)
    if guard is None:
        return Verdict.PAUSED.value, "It isn't switched on."
    missed = first_unmet(load_conditions(relay.conditions), item, ZoneInfo(relay.brand.zone))
    if missed is not None:
        return f"no_{missed.value}", UNMET[missed.value]
    verdict = evaluate_relay(guard, item, seen_origins(relay.target_id, item), recent_firings(relay, now))
    return None if verdict is Verdict.FIRES else (verdict.value, VERDICT_LABELS[verdict.value])


UNMET = {
    "has": "It hasn't what the relay asks for: a picture, a video or a link.",
    "word": "Its words aren't among those that are asked for, or one is that is left out.",
    "tag": "It has none of the hashtags or categories that are asked for.",
    "kind": "It is of another kind.",
    "language": "It is in another language.",
    "hour": "It appeared at another hour.",
}
VERDICT_LABELS = {
    "paused": "The relay was paused.",
    "old": "It appeared before the relay was switched on.",
    "been_there": "It has been on that profile: it would go round in a ring.",
    "twice": "That profile has had it already, by another path.",
    "too_many": "It would be more than the relay may carry within an hour.",
}


def seen_origins(target: int, item: Item) -> frozenset[str]:
    """The thing's origin if the profile has had it: carried there, posted there as itself, or its article shared there.

    Two entries of one feed that lead to the same address are two things, as the feed says; by different feeds they are one.
    """
    there = Delivery.objects.filter(profile=target).exclude(state__in=_MISSING)
    noted = Q(origin=item.origin) | (Q(origin__in=item.addresses) & ~Q(source=item.source))
    was_seen = SeenItem.objects.filter(noted, profile=target).exists()
    if not was_seen and item.origin.startswith("post:"):
        was_seen = there.filter(post=int(item.origin[5:])).exists()
    if not was_seen and item.addresses and item.link:
        # A person's own post of it, or one that another relay made and a person gave this profile too.
        others = ~Q(post__firing__item__source=item.source) | Q(post__firing=None)
        same = Q(post__firing__item__origin=item.origin)
        was_seen = there.filter(same | (Q(post__master__link=item.link) & others)).exists()
    return frozenset({item.origin}) if was_seen else frozenset()


def mark_seen(profile: Profile, source_item: SourceItem, firing: Firing | None) -> None:
    """That the profile has it: by its own name, which is there once only, and by its addresses. Raises IntegrityError where
    it had it before."""
    SeenItem.objects.create(profile=profile, origin=source_item.origin, source=source_item.source, firing=firing)
    mark_addresses_seen([(profile.pk, source_item)], firing)


def mark_addresses_seen(pairs: Iterable[tuple[int, SourceItem]], firing: Firing | None = None) -> None:
    """That profiles (ids) have had what is found at these addresses."""
    SeenItem.objects.bulk_create(
        [
            SeenItem(profile_id=profile, origin=address, source=source_item.source, firing=firing)
            for profile, source_item in pairs
            for address in source_item.addresses
            if address != source_item.origin
        ],
        ignore_conflicts=True,
    )


def recent_firings(relay: Relay, now: datetime) -> int:
    return firings(relay).filter(fired_at__gt=now - timedelta(hours=1)).count()


def firings(relay: Relay) -> QuerySet[Firing]:
    return Firing.objects.filter(
        relay=relay, verdict__in=[Verdict.FIRES, Firing.Asked.ASKED, Firing.Asked.DECLINED, Firing.Asked.TOLD]
    )


def must_wait_now(relay: Relay, now: datetime, zone: ZoneInfo) -> bool:
    """Whether it isn't the relay's hour, or it has carried its number for today."""
    here = now.astimezone(zone)
    hours = Hours(relay.hours_from, relay.hours_until) if relay.hours_from and relay.hours_until else None
    midnight = here.replace(hour=0, minute=0, second=0, microsecond=0)
    today = firings(relay).filter(fired_at__gte=midnight).count() if relay.daily_limit is not None else 0
    return must_wait(here.time(), hours, today, relay.daily_limit)
