"""Lay out: plan many posts and pictures, each at its own time, in one step with one Undo."""

import uuid
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from zoneinfo import ZoneInfo

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid, Problem
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.plans.schemas import RowIn
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.draft_from import draft_from
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.actions.plan import put_up, set_due, snapshot, stopped_by
from menudo.posts.actions.resign import as_left, resign
from menudo.posts.models import Delivery, Post
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
    """
    place.needs(May.PUBLISH)
    now, done = clock.now(), Done()
    before: dict[str, dict] = {}
    with transaction.atomic():
        posts = _posts(place, rows, done)
        profiles = {p.pk: p for p in Profile.objects.filter(brand=place.brand, pk__in={r.profile for r in rows})}
        # One lock after another, always in the same order, so that two who lay out at once don't wait for each other.
        list(Profile.objects.select_for_update().filter(pk__in=profiles).order_by("pk").values_list("pk"))
        pauses = pauses_of([place.brand.pk])
        touched: dict[int, Post] = {}
        for number, row in enumerate(rows):
            post = posts.get((row.post, row.asset))
            profile = profiles.get(row.profile)
            words = _one(place, row, seed, post, profile, now, pauses, before, done)
            if words:
                done.left.append((number, words))
            elif post is not None:
                touched[post.pk] = post
        if not done.planned:
            raise Invalid(faults=[Fault(f"/rows/{n}", words, "left") for n, words in done.left])
        for post in touched.values():
            put_up(post, now)
            post.revision += 1
            post.changed = now
            post.save(update_fields=["up_at", "revision", "changed"])
        resign(place.brand, touched, place.user.pk)
        words = f"laid out {len(done.planned)} deliveries of {len(touched)} posts"
        first = next(iter(touched))
        done.undo = record(
            place.brand.pk, place.actor, "lay", "post", first, words, as_left(before), {"made": done.made}
        ).pk
        tell(place.brand.pk, "post", 0)
    return done


def _posts(place: Here, rows: Sequence[RowIn], done: Done) -> dict[tuple[int | None, int | None], Post]:
    """The posts of the rows; pictures become drafts for the profiles they are laid for."""
    ids = {row.post for row in rows if row.post is not None}
    found = Post.objects.select_for_update(of=("self",)).filter(
        brand=place.brand, pk__in=ids, binned__isnull=True, evergreen=False
    )
    posts: dict[tuple[int | None, int | None], Post] = {(p.pk, None): p for p in found.order_by("pk")}
    assets: dict[int, list[int]] = {}
    for row in rows:
        if row.post is None and row.asset is not None:
            assets.setdefault(row.asset, []).append(row.profile)
    for asset, profiles in assets.items():
        (post,) = draft_from(place, [asset], profiles)
        posts[None, asset] = post
        done.made.append(post.pk)
    return posts


def _one(
    place: Here, row: RowIn, seed: int, post: Post | None, profile: Profile | None, now: datetime, pauses: Pauses,
    before: dict, done: Done,
) -> str:  # fmt: skip
    """Plan one row. Why not, or empty."""
    if post is None or profile is None:
        return "It isn't there any more."
    try:
        zone = (
            ZoneInfo(row.zone) if row.zone in (place.brand.zone, profile.zone) and row.zone else zone_of(place, profile)
        )
        due = resolve_due(read_wall(row.wall, "/wall"), zone, now, "/wall")
    except Problem as problem:
        return f"{profile.handle}: {problem.words}"
    found = Delivery.objects.select_for_update(of=("self",)).filter(post=post, profile=profile)
    delivery = found.select_related("post", "profile", "brand").first()
    if delivery is None:
        made = Delivery.objects.create(post=post, profile=profile, brand=place.brand, key=uuid.uuid4())
        write_cards(post)
        delivery = Delivery.objects.select_related("post", "profile", "brand").get(pk=made.pk)
    if not takes(DeliveryState(delivery.state), Event.PLAN):
        return f"{profile.handle}: it is {delivery.state.replace('_', ' ')} already."
    if words := stopped_by(delivery):
        return words
    kept = snapshot(delivery)
    delivery.sway, delivery.delay, delivery.seed = row.sway, 0, seed if row.sway else None
    set_due(delivery, due.instant, zone, Event.PLAN, pauses)
    before[str(delivery.pk)] = kept
    done.planned.append(delivery.pk)
    return ""
