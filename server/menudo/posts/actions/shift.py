"""Move deliveries, one or many: to other times, to other profiles, or back to the tray, in one step with one Undo."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Fault, Invalid, Stale
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.actions.plan import stopped_by
from menudo.posts.actions.resign import as_left, moved, resign
from menudo.posts.actions.schedule import set_due, snapshot, take_off, write_deliveries
from menudo.posts.actions.watch import tell_moved
from menudo.posts.locking import lock_deliveries, lock_slots
from menudo.posts.models import Delivery
from menudo.posts.reads import delivery_out
from menudo.posts.times import nearest_slot, zone_of
from menudo.profiles.models import Profile
from menudo.profiles.standing import Pauses, pauses_of
from menudo_core.signoff.states import DeliveryState, Event, NotPossible, after
from menudo_core.timing.walltimes import resolve, wall_in


@dataclass(frozen=True, slots=True)
class Move:
    """Where one delivery is to go. `wall` is a wall time of the brand's zone, None the tray; `profile` None: its own.
    `snap`: to the free slot of that day that is nearest."""

    id: int
    revision: int
    wall: str | None
    profile: int | None = None
    snap: bool = False


@dataclass
class Moved:
    """What was moved, what was left and why, and the entry that undoes it."""

    moved: list[int] = field(default_factory=list)
    left: list[tuple[int, str]] = field(default_factory=list)
    undo: int | None = None


def shift(place: Here, moves: Sequence[Move], whole: bool = False) -> Moved:
    """Move each delivery that can be; the others stay, each with its reason. Wording and sign-off stay as they are.

    `whole`: the other deliveries of each post go along, by as much. Raises Invalid when nothing could be moved, and
    Stale when the only one has been changed since.
    """
    place.needs(May.PUBLISH)
    now, done = clock.now(), Moved()
    before: dict[str, dict] = {}
    with transaction.atomic():
        asked = Delivery.objects.filter(brand=place.brand, pk__in=[move.id for move in moves])
        if any(move.snap for move in moves):
            elsewhere = [move.profile for move in moves if move.profile is not None]
            lock_slots([*asked.values_list("profile_id", flat=True), *elsewhere])
        # Sisters are locked with those that lead them: one lock after another, whatever goes along.
        rows = lock_deliveries(Delivery.objects.filter(post__in=asked.values("post_id")) if whole else asked)
        pauses = pauses_of([place.brand.pk])
        faults = []
        sisters: dict[int, tuple[timedelta | None, int]] = {}
        for number, move in enumerate(moves):
            try:
                by = _one(place, rows.get(move.id), move, now, pauses, before, len(moves) == 1)
                done.moved.append(move.id)
                if whole:
                    sisters.setdefault(rows[move.id].post_id, (by, move.id))
            except (Invalid, Conflict) as error:
                done.left.append((move.id, error.words))
                faults.append(Fault(f"/moves/{number}", error.words, "left"))
        if not done.moved:
            raise Invalid(faults=faults)
        if sisters:
            named = {move.id for move in moves}
            _along(place, [d for d in rows.values() if d.pk not in named], sisters, now, pauses, before, done)
        snapped = {move.id for move in moves if move.snap}
        write_deliveries([rows[id] for id in done.moved if id not in snapped])
        resign(place.brand, went_elsewhere(before, rows), place.user.pk)
        moved(place.brand, Delivery.objects.filter(pk__in=done.moved).values_list("post_id", flat=True), place.user.pk)
        words = _words(done, rows, moves)
        tell_moved(place, {d.post_id for d in rows.values() if d.pk in done.moved}, words)
        kind, id = ("delivery", done.moved[0]) if len(done.moved) == 1 else ("post", rows[done.moved[0]].post_id)
        done.undo = record(place.brand.pk, place.actor, "move", kind, id, words, as_left(before)).pk
        tell(place.brand.pk, "delivery", done.moved[0] if len(done.moved) == 1 else 0)
    return done


def went_elsewhere(before: dict[str, dict], rows: dict[int, Delivery]) -> set[int]:
    """The posts of which something goes to another profile now: nobody has agreed to that."""
    return {rows[int(id)].post_id for id, kept in before.items() if "profile" in kept}


def _one(
    place: Here, delivery: Delivery | None, move: Move, now: datetime, pauses: Pauses, before: dict, alone: bool
) -> timedelta | None:
    """Move one; by how much on the brand's wall, None to the tray. Raises Invalid, Conflict, and Stale when it is alone."""
    if delivery is None:
        raise Conflict("It is gone since.")
    if delivery.revision != move.revision:
        if alone:
            raise Stale(present=delivery_out(delivery).model_dump(mode="json"))
        raise Conflict(f"{delivery.profile.handle}: someone changed it meanwhile.")
    if delivery.reason_code == "unsure":
        raise Conflict("It may have gone out. Look at the profile first, and say whether it is there.")
    event = Event.UNPLAN if move.wall is None else Event.MOVE
    try:
        after(DeliveryState(delivery.state), event)
    except NotPossible as error:
        raise Conflict(f"{delivery.profile.handle}: {error}") from error
    was = delivery.due_at
    kept = snapshot(delivery)
    if move.wall is None:
        take_off(delivery, event)
    else:
        due = resolve_due(read_wall(move.wall, "/moves"), place.zone, now, "/moves")
        if move.profile is not None and move.profile != delivery.profile_id:
            _to_profile(place, delivery, move.profile, kept)
        at, zone = due.instant, place.zone
        if move.snap:
            at, zone = nearest_slot(place, delivery, at, now), zone_of(place, delivery.profile)
        set_due(delivery, at, zone, event, pauses)
        if move.snap:
            # The next that looks for a slot of this profile sees that it is taken.
            write_deliveries([delivery])
    before[str(delivery.pk)] = kept
    if delivery.due_at is None or was is None:
        return None
    return wall_in(delivery.due_at, place.zone) - wall_in(was, place.zone)


def _to_profile(place: Here, delivery: Delivery, profile: int, kept: dict) -> None:
    """The same post to another profile instead, where its rules let it and it isn't going there already."""
    there = Profile.objects.filter(brand=place.brand, pk=profile).first()
    if there is None:
        raise Conflict("That profile isn't there any more.")
    if Delivery.objects.filter(post=delivery.post, profile=there).exists():
        raise Conflict(f"This post goes to {there.handle} already.")
    kept["profile"] = delivery.profile_id
    old = delivery.profile
    delivery.profile = there
    if words := stopped_by(delivery):
        delivery.profile = old
        raise Conflict(words)
    delivery.save(update_fields=["profile"])
    write_cards(delivery.post)
    fresh = Delivery.objects.get(pk=delivery.pk)
    delivery.headline, delivery.thumb_id, delivery.pictures = fresh.headline, fresh.thumb_id, fresh.pictures


def _along(
    place: Here, others: Sequence[Delivery], sisters: dict[int, tuple[timedelta | None, int]], now: datetime,
    pauses: Pauses, before: dict, done: Moved,
) -> None:  # fmt: skip
    """The other deliveries of the posts, by as much on the wall as the one that led them."""
    for delivery in others:
        if delivery.post_id not in sisters:
            continue
        by, _ = sisters[delivery.post_id]
        event = Event.UNPLAN if by is None else Event.MOVE
        try:
            after(DeliveryState(delivery.state), event)
        except NotPossible:
            continue
        kept = snapshot(delivery)
        if by is None:
            take_off(delivery, event)
        elif delivery.due_at is not None:
            zone = ZoneInfo(delivery.zone) if delivery.zone else place.zone
            # By the wall, so that 18:00 stays 18:00 over a clock change.
            at = resolve(wall_in(delivery.due_at, zone) + by, zone).instant
            if at <= now:
                done.left.append((delivery.pk, f"{delivery.profile.handle}: {_wall(at, zone)} has passed."))
                continue
            set_due(delivery, at, zone, event, pauses)
        before[str(delivery.pk)] = kept
        done.moved.append(delivery.pk)


def _wall(at: datetime, zone: ZoneInfo) -> str:
    wall = wall_in(at.astimezone(UTC), zone)
    return f"{wall:%a} {wall.day} {wall:%b, %H:%M}"


def _words(done: Moved, rows: dict[int, Delivery], moves: Sequence[Move]) -> str:
    tray = all(move.wall is None for move in moves)
    if len(done.moved) > 1:
        return f"{'took' if tray else 'moved'} {len(done.moved)} deliveries{' off the calendar' if tray else ''}"
    one = rows[done.moved[0]]
    if tray or one.due_at is None:
        return f"took {one.profile.handle} off the calendar"
    return f"moved {one.profile.handle} to {_wall(one.due_at, ZoneInfo(one.zone))}"
