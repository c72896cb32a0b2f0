"""When each delivery of a post would go out, as somebody asked for it: computed once, for looking and for planning."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from itertools import takewhile
from typing import Protocol
from zoneinfo import ZoneInfo

from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.people.context import BrandContext
from menudo.people.models import Brand
from menudo.posts.actions.enqueue_delivery import parse_wall_time, resolve_due
from menudo.posts.models import Delivery
from menudo.posts.schemas import WhenIn
from menudo.profiles.models import Profile
from menudo_core.signoff.states import DeliveryState
from menudo_core.timing.due import PLANNING_HORIZON
from menudo_core.timing.slots import Slot, next_free_slots, open_slots
from menudo_core.timing.spread import Stagger, Waking, apply_jitter, stagger_delays
from menudo_core.timing.walltimes import day_bounds, full_hours, resolve_wall_time, wall_time_in

TAKES_A_SLOT = [
    DeliveryState.PLANNED,
    DeliveryState.HELD,
    DeliveryState.SENDING,
    DeliveryState.PUBLISHED,
    DeliveryState.HAND,
]
# The ways to plan that look for free slots: who plans so takes their locks first (see locking.py).
TAKES_SLOTS = ("next_slot", "day")
DEFAULT_TIME = time(12)


class HasBrand(Protocol):
    """Whatever is in a brand: a person in it, a change of its posts."""

    @property
    def brand(self) -> Brand: ...


@dataclass(frozen=True, slots=True)
class PlannedTime:
    """An instant, the zone it was meant in, and how stagger and sway made it; `why_not` says why there is none."""

    at: datetime | None
    zone: ZoneInfo
    delay: int = 0
    jitter: int = 0
    seed: int | None = None
    why_not: str = ""


def profile_zone(context: HasBrand, profile: Profile) -> ZoneInfo:
    """The profile's own zone, else the brand's."""
    return ZoneInfo(profile.zone or context.brand.zone)


def planned_times(
    context: BrandContext, deliveries: Sequence[Delivery], when: WhenIn, now: datetime
) -> dict[int, PlannedTime]:
    """The time of each delivery, by its id. Raises InvalidError for a time that can't be, at its field.

    Profiles are staggered in the order of `when.order`, those not named last.
    """
    order = {profile: n for n, profile in enumerate(when.order)}
    ordered = sorted(deliveries, key=lambda d: (order.get(d.profile_id, len(order)), d.pk))
    first = _common_instant(context, when, now)
    offsets = [0] * len(ordered)
    if when.stagger is not None:
        stagger = Stagger(min(when.stagger.least, when.stagger.most), max(when.stagger.least, when.stagger.most))
        offsets = stagger_delays(len(ordered), stagger, when.seed)
    found = {}
    for delivery, delay in zip(ordered, offsets, strict=True):
        meant = _requested_time(context, delivery, when, first, now)
        if meant.at is not None:
            meant = _apply_spread(delivery, meant, delay, when, now)
        found[delivery.pk] = meant
    return found


def _common_instant(context: BrandContext, when: WhenIn, now: datetime) -> datetime | None:
    """The one instant for all; None: each has its own."""
    if when.kind == "now":
        return now
    if when.kind == "at":
        return resolve_due(
            parse_wall_time(when.wall_time, "/when/wall_time"), context.zone, now, "/when/wall_time"
        ).instant
    return None


def _requested_time(
    context: BrandContext, delivery: Delivery, when: WhenIn, first: datetime | None, now: datetime
) -> PlannedTime:
    profile = delivery.profile
    if first is not None:
        return PlannedTime(first, context.zone)
    zone = profile_zone(context, profile)
    if when.kind == "kept":
        at = delivery.due_at if delivery.due_at and delivery.due_at > now else None
        kept = ZoneInfo(delivery.zone) if delivery.zone else zone
        return PlannedTime(at, kept, why_not=f"{profile.handle} has no time of its own that is still to come.")
    if when.kind == "day":
        day = parse_wall_time(when.wall_time, "/when/wall_time").date()
        if day - now.date() > PLANNING_HORIZON:
            raise InvalidError.at("/when/wall_time", say("time.far"))
        at = free_slot_on_day(context, profile, day, now, slot_keys(delivery))
        return PlannedTime(at, zone, why_not=f"{day:%a} {day.day} {day:%b} has passed for {profile.handle}.")
    at = next_free_slot(context, profile, now, slot_keys(delivery))
    words = f"{profile.handle} has no slots in its timetable. Choose a time, or give it slots in Profiles."
    return PlannedTime(at, zone, why_not=words)


def _apply_spread(delivery: Delivery, meant: PlannedTime, delay: int, when: WhenIn, now: datetime) -> PlannedTime:
    if meant.at is None:
        return meant
    at, profile = meant.at + timedelta(minutes=delay), delivery.profile
    if not when.jitter:
        return PlannedTime(at, meant.zone, delay, 0, when.seed if delay else None)
    # Each profile of a post sways by itself: its seed is the post's with the profile's.
    seed = when.seed * 1_000_003 + profile.pk
    off = apply_jitter(
        at,
        when.jitter,
        seed,
        ZoneInfo(profile.zone) if profile.zone else meant.zone,
        now,
        Waking(profile.waking_from, profile.waking_until),
    )
    return PlannedTime(off, meant.zone, delay, int((off - at).total_seconds() // 60), when.seed)


def slot_keys(delivery: Delivery) -> list[str]:
    """The keys of slots kept for the labels of its post."""
    return [f"label:{label_id}" for label_id in delivery.post.labels.values_list("pk", flat=True)]


def profile_slots(profile: Profile) -> list[Slot]:
    return [Slot(s.weekday, s.at, f"label:{s.label_id}" if s.label_id else "") for s in profile.slots.all()]


def taken_instants(profile: Profile, since: datetime) -> set[datetime]:
    """The instants at which something stands for the profile from `since` on.

    What sways or is staggered has taken the slot it was meant for, too.
    """
    rows = Delivery.objects.filter(profile=profile, state__in=TAKES_A_SLOT, due_at__gte=since - timedelta(days=1))
    return {
        at - timedelta(minutes=off)
        for due, jitter, delay in rows.values_list("due_at", "jitter", "delay")
        if due
        for at, off in ((due, 0), (due, jitter), (due, jitter + delay))
    }


def next_free_slot(
    context: HasBrand, profile: Profile, now: datetime, keys: Sequence[str] = (), chosen: Collection[datetime] = ()
) -> datetime | None:
    """The profile's next free slot after `now`, UTC; None when it has no slots. `chosen`: instants that are taken besides."""
    taken = taken_instants(profile, now) | {*chosen}
    return next(
        next_free_slots(open_slots(profile_slots(profile), keys), taken, now, profile_zone(context, profile)), None
    )


def free_slot_on_day(
    context: BrandContext,
    profile: Profile,
    day: date,
    now: datetime,
    keys: Sequence[str] = (),
    chosen: Collection[datetime] = (),
) -> datetime | None:
    """The profile's first free slot on a day of its zone; without one at noon, or the next full hour; None: it has passed.
    `chosen`: instants that are taken besides."""
    zone = profile_zone(context, profile)
    begins, ends = day_bounds(datetime.combine(day, time()), zone)
    if ends <= now:
        return None
    after = max(now, begins - timedelta(seconds=1))
    taken = taken_instants(profile, after) | {*chosen}
    free = next_free_slots(open_slots(profile_slots(profile), keys), taken, after, zone)
    for slot in takewhile(lambda at: at < ends, free):
        return slot
    at = resolve_wall_time(datetime.combine(day, DEFAULT_TIME), zone).instant
    if at <= now:
        at = next(full_hours(now, zone))
    while at in taken:
        at += timedelta(minutes=15)
    return at if at < ends else None


def nearest_free_slot(
    context: BrandContext,
    delivery: Delivery,
    profile: Profile,
    at: datetime,
    now: datetime,
    chosen: Collection[datetime] = (),
) -> datetime:
    """The profile's free slot nearest to `at` on its day there; `at` itself when that day has none. `chosen`: instants that
    are taken besides."""
    zone = profile_zone(context, profile)
    begins, ends = day_bounds(wall_time_in(at, zone), zone)
    after = max(now, begins - timedelta(seconds=1))
    own_instant = {delivery.due_at} if delivery.profile_id == profile.pk else set()
    taken = (taken_instants(profile, after) - own_instant) | {*chosen}
    free = next_free_slots(open_slots(profile_slots(profile), slot_keys(delivery)), taken, after, zone)
    return min(takewhile(lambda slot: slot < ends, free), key=lambda slot: abs(slot - at), default=at)
