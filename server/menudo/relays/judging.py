"""Whether a relay carries a thing, and whether it has to wait for its hour or its day."""

from collections.abc import Iterable
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from django.db.models import Q, QuerySet

from menudo.posts.models import Delivery
from menudo.profiles.models import Profile
from menudo.relays.kept import conditions_of, guard_of, item_of
from menudo.relays.models import Appeared, Had, Leg, Relay
from menudo_core.relays.conditions import unmet
from menudo_core.relays.guard import Verdict, verdict, waits
from menudo_core.relays.item import Item
from menudo_core.signoff.states import DeliveryState
from menudo_core.timing.hours import Hours

_NOT_THERE = (DeliveryState.OFF, DeliveryState.UNPLANNED)


def judged(relay: Relay, appeared: Appeared, now: datetime) -> tuple[str, str] | None:
    """Why the relay doesn't take it: the verdict and its words; None: it does."""
    item, guard = item_of(appeared), guard_of(relay)
    if guard is None:
        return Verdict.PAUSED.value, "It isn't switched on."
    missed = unmet(conditions_of(relay.conditions), item, ZoneInfo(relay.brand.zone))
    if missed is not None:
        return f"no_{missed.value}", UNMET[missed.value]
    said = verdict(guard, item, had_by(relay.target_id, item), lately(relay, now))
    return None if said is Verdict.FIRES else (said.value, WORDS[said.value])


UNMET = {
    "has": "It hasn't what the relay asks for: a picture, a video or a link.",
    "word": "Its words aren't among those that are asked for, or one is that is left out.",
    "tag": "It has none of the hashtags or categories that are asked for.",
    "kind": "It is of another kind.",
    "language": "It is in another language.",
    "hour": "It appeared at another hour.",
}
WORDS = {
    "paused": "The relay was paused.",
    "old": "It appeared before the relay was switched on.",
    "been_there": "It has been on that profile: it would go round in a ring.",
    "twice": "That profile has had it already, by another path.",
    "too_many": "It would be more than the relay may carry within an hour.",
}


def had_by(target: int, item: Item) -> frozenset[str]:
    """The thing's origin if the profile has had it: carried there, posted there as itself, or its article shared there.

    Two entries of one feed that lead to the same address are two things, as the feed says; by different feeds they are one.
    """
    there = Delivery.objects.filter(profile=target).exclude(state__in=_NOT_THERE)
    noted = Q(origin=item.origin) | (Q(origin__in=item.addresses) & ~Q(source=item.source))
    had = Had.objects.filter(noted, profile=target).exists()
    if not had and item.origin.startswith("post:"):
        had = there.filter(post=int(item.origin[5:])).exists()
    if not had and item.addresses and item.link:
        # A person's own post of it, or one that another relay made and a person gave this profile too.
        others = ~Q(post__leg__appeared__source=item.source) | Q(post__leg=None)
        same = Q(post__leg__appeared__origin=item.origin)
        had = there.filter(same | (Q(post__master__link=item.link) & others)).exists()
    return frozenset({item.origin}) if had else frozenset()


def note_had(profile: Profile, appeared: Appeared, leg: Leg | None) -> None:
    """That the profile has it: by its own name, which is there once only, and by its addresses. Raises IntegrityError where
    it had it before."""
    Had.objects.create(profile=profile, origin=appeared.origin, source=appeared.source, leg=leg)
    note_addresses([(profile.pk, appeared)], leg)


def note_addresses(pairs: Iterable[tuple[int, Appeared]], leg: Leg | None = None) -> None:
    """That profiles (ids) have had what is found at these addresses."""
    Had.objects.bulk_create(
        [
            Had(profile_id=profile, origin=address, source=appeared.source, leg=leg)
            for profile, appeared in pairs
            for address in appeared.addresses
            if address != appeared.origin
        ],
        ignore_conflicts=True,
    )


def lately(relay: Relay, now: datetime) -> int:
    return fired(relay).filter(at__gt=now - timedelta(hours=1)).count()


def fired(relay: Relay) -> QuerySet[Leg]:
    return Leg.objects.filter(
        relay=relay, verdict__in=[Verdict.FIRES, Leg.Asked.ASKED, Leg.Asked.DECLINED, Leg.Asked.TOLD]
    )


def has_to_wait(relay: Relay, now: datetime, zone: ZoneInfo) -> bool:
    """Whether it isn't the relay's hour, or it has carried its number for today."""
    here = now.astimezone(zone)
    hours = Hours(relay.goes_from, relay.goes_until) if relay.goes_from and relay.goes_until else None
    midnight = here.replace(hour=0, minute=0, second=0, microsecond=0)
    today = fired(relay).filter(at__gte=midnight).count() if relay.per_day is not None else 0
    return waits(here.time(), hours, today, relay.per_day)
