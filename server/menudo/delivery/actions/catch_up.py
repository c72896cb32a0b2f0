"""What was missed while a profile was paused or had to be reconnected: a person chooses. Never a silent flood."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal
from zoneinfo import ZoneInfo

from menudo.base import clock
from menudo.base.problems import ConflictError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Delivery
from menudo.posts.times import next_free_slot
from menudo.profiles.pauses import is_usable, pauses_of
from menudo.profiles.sheets import sheets_of
from menudo_core.signoff.holds import RECOVERABLE_HOLDS
from menudo_core.signoff.schedule import Schedule, schedule_at, unschedule
from menudo_core.signoff.states import DeliveryState, Event
from menudo_core.timing.spacing import space_out

Choice = Literal["send_now", "next_slots", "drafts"]
_SPACING = timedelta(seconds=60)


@dataclass(frozen=True, slots=True)
class CaughtUp:
    """How many were dealt with, and the entry that undoes it."""

    count: int
    undo: int


def missed_deliveries(brand: int) -> list[Delivery]:
    """What can be caught up with: missed through a pause or an ended connection, of profiles that are usable again now."""
    rows = (
        Delivery.objects.filter(
            brand_id=brand, state=DeliveryState.MISSED, held_for__in=RECOVERABLE_HOLDS, post__deleted_at__isnull=True
        )
        .select_related("profile", "post", "brand")
        .order_by("due_at", "id")
    )
    now, pauses = clock.now(), pauses_of([brand])
    return [row for row in rows if is_usable(row.profile) and pauses.at(row.profile, now) is None]


def catch_up(context: BrandContext, choice: Choice) -> CaughtUp:
    """Send what was missed now (one after another at the network's pace), move it to the next free slots, or make it
    drafts. Raises ConflictError."""
    context.require(Capability.PUBLISH)
    waiting = missed_deliveries(context.brand.pk)
    slots_of = [row.profile_id for row in waiting] if choice == "next_slots" else []
    with change_posts(context, deliveries=[row.pk for row in waiting], slots_of=slots_of) as change:
        # Somebody else may have chosen meanwhile.
        taken = (change.deliveries[row.pk] for row in waiting if row.pk in change.deliveries)
        rows = [row for row in taken if row.state == DeliveryState.MISSED]
        if not rows:
            raise ConflictError(say("missed.settled"))
        if choice == "drafts":
            schedules = {row.pk: unschedule(change.schedule(row), Event.UNPLAN) for row in rows}
        else:
            schedules = _new_schedules(context, change, rows, choice)
        change.apply(Decision(schedules=schedules))
        entry = change.record(
            "catch_up", "delivery", rows[0].pk, say(f"missed.{choice}", count=len(rows)), undoes=schedules
        )
    return CaughtUp(len(rows), entry.pk)


def _new_schedules(
    context: BrandContext, change: PostChange, rows: list[Delivery], choice: Choice
) -> dict[int, Schedule]:
    """Where each goes, decided one after another: a slot that one takes is taken for the next."""
    sheets = sheets_of(context.brand.pk)
    apart = {}
    for row in rows:
        pace = sheets[row.profile.network].pace.seconds_between if row.profile.network in sheets else None
        apart[row.profile_id] = max(timedelta(seconds=pace or 0), _SPACING)
    times = space_out([row.profile_id for row in rows], apart, change.now)
    chosen: dict[int, set[datetime]] = {}
    found = {}
    for row, at in zip(rows, times, strict=True):
        mine = chosen.setdefault(row.profile_id, set())
        slot = next_free_slot(context, row.profile, change.now, chosen=mine) if choice == "next_slots" else at
        if slot is None:
            raise ConflictError(say("missed.no_slots", profile=row.profile.handle))
        mine.add(slot)
        zone = ZoneInfo(row.zone or context.brand.zone)
        found[row.pk] = schedule_at(change.schedule(row), slot, zone, Event.PLAN)
    return found
