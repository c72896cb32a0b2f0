"""Whether a relay carries a thing, and whether it has to wait for its hour or its day."""

from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from django.db.models import QuerySet

from menudo.posts.models import Delivery
from menudo.relays.kept import conditions_of, guard_of, item_of
from menudo.relays.models import Appeared, Had, Leg, Relay
from menudo_core.relays.conditions import unmet
from menudo_core.relays.guard import Verdict, verdict, waits
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
    said = verdict(guard, item, had_by(relay.target_id, item.origin, item.link), lately(relay, now))
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


def had_by(target: int, origin: str, link: str) -> frozenset[str]:
    """The thing's origin if the profile has had it: carried there, posted there as itself, or its article shared there."""
    there = Delivery.objects.filter(profile=target).exclude(state__in=_NOT_THERE)
    had = Had.objects.filter(profile=target, origin=origin).exists()
    if not had and origin.startswith("post:"):
        had = there.filter(post=int(origin[5:])).exists()
    if not had and origin.startswith("link:") and link:
        had = there.filter(post__master__link=link).exists()
    return frozenset({origin}) if had else frozenset()


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
