"""When each delivery of a post would go out, as somebody asked for it: computed once, for looking and for planning."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from itertools import takewhile
from typing import Protocol
from zoneinfo import ZoneInfo

from menudo.base.problems import Invalid
from menudo.people.here import Here
from menudo.people.models import Brand
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.models import Delivery
from menudo.posts.schemas import WhenIn
from menudo.profiles.models import Profile
from menudo_core.signoff.states import DeliveryState
from menudo_core.timing.due import FURTHEST
from menudo_core.timing.slots import Slot, next_free, open_to
from menudo_core.timing.spread import Stagger, Waking, delays, swayed
from menudo_core.timing.walltimes import day_bounds, full_hours, resolve, wall_in

TAKES_A_SLOT = [
    DeliveryState.PLANNED,
    DeliveryState.HELD,
    DeliveryState.SENDING,
    DeliveryState.PUBLISHED,
    DeliveryState.HAND,
]
# The ways to plan that look for free slots: who plans so takes their locks first (see locking.py).
TAKES_SLOTS = ("next_slot", "day")
NOON = time(12)


class HasBrand(Protocol):
    """Whatever is in a brand: a person in it, a change of its posts."""

    @property
    def brand(self) -> Brand: ...


@dataclass(frozen=True, slots=True)
class Time:
    """An instant, the zone it was meant in, and how stagger and sway made it; `why_not` says why there is none."""

    at: datetime | None
    zone: ZoneInfo
    delay: int = 0
    sway: int = 0
    seed: int | None = None
    why_not: str = ""


def zone_of(place: HasBrand, profile: Profile) -> ZoneInfo:
    """The profile's own zone, else the brand's."""
    return ZoneInfo(profile.zone or place.brand.zone)


def times(place: Here, deliveries: Sequence[Delivery], when: WhenIn, now: datetime) -> dict[int, Time]:
    """The time of each delivery, by its id. Raises Invalid for a time that can't be, at its field.

    Profiles are staggered in the order of `when.order`, those not named last.
    """
    order = {profile: n for n, profile in enumerate(when.order)}
    ordered = sorted(deliveries, key=lambda d: (order.get(d.profile_id, len(order)), d.pk))
    first = _first(place, when, now)
    offsets = [0] * len(ordered)
    if when.stagger is not None:
        stagger = Stagger(min(when.stagger.least, when.stagger.most), max(when.stagger.least, when.stagger.most))
        offsets = delays(len(ordered), stagger, when.seed)
    found = {}
    for delivery, delay in zip(ordered, offsets, strict=True):
        meant = _meant(place, delivery, when, first, now)
        if meant.at is not None:
            meant = _spread(delivery, meant, delay, when, now)
        found[delivery.pk] = meant
    return found


def _first(place: Here, when: WhenIn, now: datetime) -> datetime | None:
    """The one instant for all; None: each has its own."""
    if when.kind == "now":
        return now
    if when.kind == "at":
        return resolve_due(read_wall(when.wall, "/when/wall"), place.zone, now, "/when/wall").instant
    return None


def _meant(place: Here, delivery: Delivery, when: WhenIn, first: datetime | None, now: datetime) -> Time:
    profile = delivery.profile
    if first is not None:
        return Time(first, place.zone)
    zone = zone_of(place, profile)
    if when.kind == "kept":
        at = delivery.due_at if delivery.due_at and delivery.due_at > now else None
        kept = ZoneInfo(delivery.zone) if delivery.zone else zone
        return Time(at, kept, why_not=f"{profile.handle} has no time of its own that is still to come.")
    if when.kind == "day":
        day = read_wall(when.wall, "/when/wall").date()
        if day - now.date() > FURTHEST:
            raise Invalid.at("/when/wall", "That is more than three years away. Choose an earlier day.", "far")
        at = on_day(place, profile, day, now, labels_of(delivery))
        return Time(at, zone, why_not=f"{day:%a} {day.day} {day:%b} has passed for {profile.handle}.")
    at = next_slot(place, profile, now, labels_of(delivery))
    words = f"{profile.handle} has no slots in its timetable. Choose a time, or give it slots in Profiles."
    return Time(at, zone, why_not=words)


def _spread(delivery: Delivery, meant: Time, delay: int, when: WhenIn, now: datetime) -> Time:
    if meant.at is None:
        return meant
    at, profile = meant.at + timedelta(minutes=delay), delivery.profile
    if not when.sway:
        return Time(at, meant.zone, delay, 0, when.seed if delay else None)
    # Each profile of a post sways by itself: its seed is the post's with the profile's.
    seed = when.seed * 1_000_003 + profile.pk
    off = swayed(
        at,
        when.sway,
        seed,
        ZoneInfo(profile.zone) if profile.zone else meant.zone,
        now,
        Waking(profile.wakes, profile.sleeps),
    )
    return Time(off, meant.zone, delay, int((off - at).total_seconds() // 60), when.seed)


def labels_of(delivery: Delivery) -> list[str]:
    """The keys of slots kept for the labels of its post."""
    return [f"label:{id}" for id in delivery.post.labels.values_list("pk", flat=True)]


def slots_of(profile: Profile) -> list[Slot]:
    return [Slot(s.weekday, s.at, f"label:{s.label_id}" if s.label_id else "") for s in profile.slots.all()]


def taken_by(profile: Profile, since: datetime) -> set[datetime]:
    """The instants at which something stands for the profile from `since` on.

    What sways or is staggered has taken the slot it was meant for, too.
    """
    rows = Delivery.objects.filter(profile=profile, state__in=TAKES_A_SLOT, due_at__gte=since - timedelta(days=1))
    return {
        at - timedelta(minutes=off)
        for due, sway, delay in rows.values_list("due_at", "sway", "delay")
        if due
        for at, off in ((due, 0), (due, sway), (due, sway + delay))
    }


def next_slot(
    place: HasBrand, profile: Profile, now: datetime, keys: Sequence[str] = (), chosen: Collection[datetime] = ()
) -> datetime | None:
    """The profile's next free slot after `now`, UTC; None when it has no slots. `chosen`: instants that are taken besides."""
    taken = taken_by(profile, now) | {*chosen}
    return next(next_free(open_to(slots_of(profile), keys), taken, now, zone_of(place, profile)), None)


def on_day(
    place: Here, profile: Profile, day: date, now: datetime, keys: Sequence[str] = (), chosen: Collection[datetime] = ()
) -> datetime | None:
    """The profile's first free slot on a day of its zone; without one at noon, or the next full hour; None: it has passed.
    `chosen`: instants that are taken besides."""
    zone = zone_of(place, profile)
    begins, ends = day_bounds(datetime.combine(day, time()), zone)
    if ends <= now:
        return None
    after = max(now, begins - timedelta(seconds=1))
    taken = taken_by(profile, after) | {*chosen}
    free = next_free(open_to(slots_of(profile), keys), taken, after, zone)
    for slot in takewhile(lambda at: at < ends, free):
        return slot
    at = resolve(datetime.combine(day, NOON), zone).instant
    if at <= now:
        at = next(full_hours(now, zone))
    while at in taken:
        at += timedelta(minutes=15)
    return at if at < ends else None


def nearest_slot(
    place: Here, delivery: Delivery, profile: Profile, at: datetime, now: datetime, chosen: Collection[datetime] = ()
) -> datetime:
    """The profile's free slot nearest to `at` on its day there; `at` itself when that day has none. `chosen`: instants that
    are taken besides."""
    zone = zone_of(place, profile)
    begins, ends = day_bounds(wall_in(at, zone), zone)
    after = max(now, begins - timedelta(seconds=1))
    own = {delivery.due_at} if delivery.profile_id == profile.pk else set()
    taken = (taken_by(profile, after) - own) | {*chosen}
    free = next_free(open_to(slots_of(profile), labels_of(delivery)), taken, after, zone)
    return min(takewhile(lambda slot: slot < ends, free), key=lambda slot: abs(slot - at), default=at)
