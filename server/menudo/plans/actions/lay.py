"""Lay out: plan many posts and pictures, each at its own time, in one step with one Undo."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from zoneinfo import ZoneInfo

from menudo.base.problems import Fault, Invalid, Problem
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.plans.schemas import RowIn
from menudo.posts.actions.draft_from import draft_all
from menudo.posts.actions.due import read_wall, resolve_due
from menudo.posts.actions.plan import requested, stopped_by
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Delivery
from menudo.posts.times import zone_of
from menudo.profiles.models import Profile
from menudo_core.signoff.schedule import Schedule, Spread, schedule_at
from menudo_core.signoff.states import Event, NotPossible, takes


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
    done = Done()
    wanted = {row.profile for row in rows}
    slots_of = Profile.objects.filter(brand=place.brand, pk__in=wanted).values_list("pk", flat=True)
    asked = {row.post for row in rows if row.post is not None}
    with change_posts(place, posts=asked, slots_of=slots_of) as change:
        found = _deliveries(place, change, rows, done)
        stops = stopped_by(change, list(found.values()))
        schedules: dict[int, Schedule] = {}
        for number, row in enumerate(rows):
            decided = _decide(place, change, row, seed, found.get((row.post, row.asset, row.profile)), stops)
            if isinstance(decided, str):
                done.left.append((number, decided))
            else:
                schedules[decided[0]] = decided[1]
        if not schedules:
            raise Invalid(faults=[Fault(f"/rows/{n}", words, "left") for n, words in done.left])
        done.planned = list(schedules)
        touched = {change.deliveries[id].post_id: change.deliveries[id].post for id in schedules}
        statuses = {id: requested(change, post) for id, post in touched.items()}
        change.apply(Decision(schedules=schedules, statuses=statuses, revised=touched))
        words = f"laid out {len(schedules)} deliveries of {len(touched)} posts"
        after = {"made": done.made}
        done.undo = change.record("lay", "post", next(iter(touched)), words, undoes=schedules, after=after).pk
    return done


def _deliveries(
    place: Here, change: PostChange, rows: Sequence[RowIn], done: Done
) -> dict[tuple[int | None, int | None, int], Delivery]:
    """The deliveries of the rows, by post, picture and profile. Pictures become drafts for the profiles they are laid for;
    profiles that a post doesn't go to yet are added to it."""
    keys: dict[int, tuple[int | None, int | None]] = {
        id: (id, None) for id, post in change.posts.items() if not post.evergreen
    }
    assets: dict[int, list[int]] = {}
    for row in rows:
        if row.post is None and row.asset is not None:
            assets.setdefault(row.asset, []).append(row.profile)
    for asset, post in draft_all(place, change, assets).items():
        keys[post.pk] = (None, asset)
        done.made.append(post.pk)
    of_post = {key: post for post, key in keys.items()}
    known = set(Profile.objects.filter(brand=place.brand).values_list("pk", flat=True))
    wanted = {(of_post[row.post, row.asset], row.profile) for row in rows if (row.post, row.asset) in of_post}
    there: dict[int, set[int]] = {id: set() for id in keys}
    for delivery in change.deliveries.values():
        there.setdefault(delivery.post_id, set()).add(delivery.profile_id)
    profiles = {id: {*mine} for id, mine in there.items()}
    for id, profile in wanted:
        if profile in known:
            profiles[id].add(profile)
    change.apply(Decision(profiles={id: mine for id, mine in profiles.items() if mine != there[id]}))
    rows_of = change.deliveries.values()
    return {(*keys[d.post_id], d.profile_id): d for d in rows_of if (d.post_id, d.profile_id) in wanted}


def _decide(
    place: Here, change: PostChange, row: RowIn, seed: int, delivery: Delivery | None, stops: Mapping[int, str]
) -> tuple[int, Schedule] | str:
    """A row's delivery and where it goes, or why it can't."""
    if delivery is None:
        return "It isn't there any more."
    profile, schedule = delivery.profile, change.schedule(delivery)
    try:
        own = row.zone and row.zone in (place.brand.zone, profile.zone)
        zone = ZoneInfo(row.zone) if own else zone_of(place, profile)
        due = resolve_due(read_wall(row.wall, "/wall"), zone, change.now, "/wall")
    except Problem as problem:
        return f"{profile.handle}: {problem.words}"
    if not takes(schedule.state, Event.PLAN):
        return f"{profile.handle}: it is {delivery.state.replace('_', ' ')} already."
    if delivery.pk in stops:
        return stops[delivery.pk]
    spread = Spread(0, row.sway, seed if row.sway else None)
    try:
        return delivery.pk, schedule_at(schedule, due.instant, zone, Event.PLAN, spread)
    except NotPossible as error:
        return f"{profile.handle}: {error}"
