"""Lay out: plan many posts and pictures, each at its own time, in one step with one Undo."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from zoneinfo import ZoneInfo

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid, Problem
from menudo.base.rows import write_fields
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.plans.schemas import RowIn
from menudo.posts.actions.add_deliveries import add_deliveries
from menudo.posts.actions.cards import write_all_cards
from menudo.posts.actions.draft_from import draft_all
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.actions.plan import put_up, stops_of
from menudo.posts.actions.resign import as_left, resign
from menudo.posts.actions.schedule import set_due, snapshot, write_deliveries
from menudo.posts.locking import lock_deliveries, lock_posts, lock_slots
from menudo.posts.models import Delivery
from menudo.posts.times import zone_of
from menudo.profiles.models import Profile
from menudo.profiles.standing import Pauses, pauses_of
from menudo_core.signoff.states import DeliveryState, Event, takes


@dataclass
class Done:
    """What was planned, the posts that were made of pictures, what was left and why, and the entry that undoes it."""

    planned: list[int] = field(default_factory=list)
    made: list[int] = field(default_factory=list)
    left: list[tuple[int, str]] = field(default_factory=list)
    undo: int | None = None


def lay(place: Here, rows: Sequence[RowIn], seed: int) -> Done:
    """Plan each row at its time. Rows that can't be are left with their reason; when none can, Invalid with all of them.

    `seed` is what their variations were drawn from. Undone in one step: what was made of pictures then goes to the bin.
    Decided row by row, written together: some forty statements, however many rows there are.
    """
    place.needs(May.PUBLISH)
    now, done = clock.now(), Done()
    before: dict[str, dict] = {}
    with transaction.atomic():
        lock_slots(
            Profile.objects.filter(brand=place.brand, pk__in={r.profile for r in rows}).values_list("pk", flat=True)
        )
        found = _deliveries(place, rows, done)
        stops = stops_of(place.brand, found.values())
        pauses = pauses_of([place.brand.pk])
        planned: list[Delivery] = []
        for number, row in enumerate(rows):
            delivery = found.get((row.post, row.asset, row.profile))
            words = _decide(place, row, seed, delivery, stops, now, pauses, before)
            if words:
                done.left.append((number, words))
            elif delivery is not None:
                planned.append(delivery)
        if not planned:
            raise Invalid(faults=[Fault(f"/rows/{n}", words, "left") for n, words in done.left])
        write_deliveries(planned)
        done.planned = [delivery.pk for delivery in planned]
        touched = {delivery.post_id: delivery.post for delivery in planned}
        for post in touched.values():
            put_up(post, now)
            post.revision += 1
            post.changed = now
        write_fields(list(touched.values()), ["up_at", "revision", "changed"])
        resign(place.brand, touched, place.user.pk)
        words = f"laid out {len(planned)} deliveries of {len(touched)} posts"
        done.undo = record(
            place.brand.pk, place.actor, "lay", "post", planned[0].post_id, words, as_left(before), {"made": done.made}
        ).pk
        tell(place.brand.pk, "post", 0)
    return done


def _deliveries(place: Here, rows: Sequence[RowIn], done: Done) -> dict[tuple[int | None, int | None, int], Delivery]:
    """The deliveries of the rows, locked, by post, picture and profile. Pictures become drafts for the profiles they are
    laid for; profiles that a post doesn't go to yet are added to it."""
    posts = lock_posts(place.brand, {row.post for row in rows if row.post is not None})
    keys: dict[int, tuple[int | None, int | None]] = {
        post.pk: (post.pk, None) for post in posts.values() if not post.evergreen
    }
    assets: dict[int, list[int]] = {}
    for row in rows:
        if row.post is None and row.asset is not None:
            assets.setdefault(row.asset, []).append(row.profile)
    for asset, post in draft_all(place, assets).items():
        keys[post.pk] = (None, asset)
        done.made.append(post.pk)
    of_post = {key: post for post, key in keys.items()}
    known = set(Profile.objects.filter(brand=place.brand).values_list("pk", flat=True))
    wanted = {(of_post[row.post, row.asset], row.profile) for row in rows if (row.post, row.asset) in of_post}
    mine = Delivery.objects.filter(post__in=keys, profile__in={profile for _, profile in wanted})
    there = set(mine.values_list("post_id", "profile_id"))
    missing = sorted(pair for pair in wanted - there if pair[1] in known)
    if missing:
        add_deliveries(place.brand.pk, missing)
        write_all_cards(place.brand, [posts[post] for post in dict.fromkeys(post for post, _ in missing)])
    locked = lock_deliveries(mine).values()
    return {(*keys[d.post_id], d.profile_id): d for d in locked if (d.post_id, d.profile_id) in wanted}


def _decide(
    place: Here, row: RowIn, seed: int, delivery: Delivery | None, stops: Mapping[int, str], now: datetime,
    pauses: Pauses, before: dict,
) -> str:  # fmt: skip
    """Give one row's delivery its time. Why not, or empty."""
    if delivery is None:
        return "It isn't there any more."
    profile = delivery.profile
    try:
        own = row.zone and row.zone in (place.brand.zone, profile.zone)
        zone = ZoneInfo(row.zone) if own else zone_of(place, profile)
        due = resolve_due(read_wall(row.wall, "/wall"), zone, now, "/wall")
    except Problem as problem:
        return f"{profile.handle}: {problem.words}"
    if not takes(DeliveryState(delivery.state), Event.PLAN):
        return f"{profile.handle}: it is {delivery.state.replace('_', ' ')} already."
    if delivery.pk in stops:
        return stops[delivery.pk]
    before[str(delivery.pk)] = snapshot(delivery)
    delivery.sway, delivery.delay, delivery.seed = row.sway, 0, seed if row.sway else None
    set_due(delivery, due.instant, zone, Event.PLAN, pauses)
    return ""
