"""What was missed while a profile was paused or had to be reconnected: a person chooses. Never a silent flood."""

from dataclasses import dataclass
from datetime import timedelta
from typing import Literal
from zoneinfo import ZoneInfo

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.resign import as_left, moved
from menudo.posts.actions.schedule import set_due, snapshot, take_off, write_deliveries
from menudo.posts.locking import lock_deliveries, lock_slots
from menudo.posts.models import Delivery
from menudo.posts.times import next_slot
from menudo.profiles.sheets import sheets_of
from menudo.profiles.standing import pauses_of, usable
from menudo_core.signoff.holds import CATCHES_UP
from menudo_core.signoff.states import DeliveryState, Event
from menudo_core.timing.spacing import one_after_another

Choice = Literal["send_now", "next_slots", "drafts"]
_APART = timedelta(seconds=60)


@dataclass(frozen=True, slots=True)
class CaughtUp:
    """How many were dealt with, and the entry that undoes it."""

    count: int
    undo: int


def missed(brand: int) -> list[Delivery]:
    """What can be caught up with: missed through a pause or an ended connection, of profiles that are usable again now."""
    rows = (
        Delivery.objects.filter(
            brand_id=brand, state=DeliveryState.MISSED, held_for__in=CATCHES_UP, post__binned__isnull=True
        )
        .select_related("profile", "post", "brand")
        .order_by("due_at", "id")
    )
    now, pauses = clock.now(), pauses_of([brand])
    return [row for row in rows if usable(row.profile) and pauses.at(row.profile, now) is None]


def catch_up(place: Here, choice: Choice) -> CaughtUp:
    """Send what was missed now (one after another at the network's pace), move it to the next free slots, or make it drafts."""
    place.needs(May.PUBLISH)
    with transaction.atomic():
        waiting = missed(place.brand.pk)
        if choice == "next_slots":
            lock_slots(row.profile_id for row in waiting)
        ids = [row.pk for row in waiting]
        found = lock_deliveries(Delivery.objects.filter(pk__in=ids, state=DeliveryState.MISSED))
        rows = sorted(found.values(), key=lambda row: (str(row.due_at), row.pk))
        if not rows:
            raise Conflict("Nothing that was missed is waiting for a choice any more.")
        before = {str(row.pk): snapshot(row) for row in rows}
        if choice == "drafts":
            for row in rows:
                take_off(row, Event.UNPLAN)
            write_deliveries(rows)
        else:
            _plan(place, rows, choice)
            moved(place.brand, {row.post_id for row in rows}, place.user.pk)
        words = {
            "send_now": "sent what was missed",
            "next_slots": "moved what was missed to the next free slots",
            "drafts": "made what was missed drafts",
        }
        entry = record(
            place.brand.pk,
            place.actor,
            "catch_up",
            "delivery",
            rows[0].pk,
            f"{words[choice]}: {len(rows)}",
            as_left(before),
        )
        tell(place.brand.pk, "delivery", 0)
    return CaughtUp(len(rows), entry.pk)


def _plan(place: Here, rows: list[Delivery], choice: Choice) -> None:
    now, pauses, sheets = clock.now(), pauses_of([place.brand.pk]), sheets_of(place.brand.pk)
    apart = {}
    for row in rows:
        pace = sheets[row.profile.network].pace.seconds_between if row.profile.network in sheets else None
        apart[row.profile_id] = max(timedelta(seconds=pace or 0), _APART)
    times = one_after_another([row.profile_id for row in rows], apart, now)
    for row, at in zip(rows, times, strict=True):
        slot = next_slot(place, row.profile, now) if choice == "next_slots" else at
        if slot is None:
            raise Conflict(
                f"{row.profile.handle} has no slots in its timetable. Give it some in Profiles, or choose otherwise."
            )
        set_due(row, slot, _zone(row), Event.PLAN, pauses)
        if choice == "next_slots":
            # The next one of this profile sees that the slot is taken.
            write_deliveries([row])
    if choice == "send_now":
        write_deliveries(rows)


def _zone(row: Delivery) -> ZoneInfo:
    return ZoneInfo(row.zone or row.brand.zone)
