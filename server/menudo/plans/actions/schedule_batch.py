"""Lay out: plan many posts and pictures, each at its own time, in one step with one Undo."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from zoneinfo import ZoneInfo

from menudo.base.problems import Fault, InvalidError, ProblemError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.plans.schemas import BatchRowIn
from menudo.posts.actions.create_drafts import draft_each
from menudo.posts.actions.enqueue_delivery import parse_wall_time, resolve_due
from menudo.posts.actions.plan_post import blocking_reasons, requested_status
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.models import Delivery
from menudo.posts.times import profile_zone
from menudo.profiles.models import Profile
from menudo_core.signoff.schedule import Schedule, Spread, schedule_at
from menudo_core.signoff.states import Event, TransitionError, accepts


@dataclass
class ScheduledBatch:
    """What was planned, the posts that were made of pictures, what was left and why, and the entry that undoes it."""

    planned: list[int] = field(default_factory=list)
    made: list[int] = field(default_factory=list)
    left: list[tuple[int, str]] = field(default_factory=list)
    undo: int | None = None


def schedule_batch(context: BrandContext, rows: Sequence[BatchRowIn], seed: int) -> ScheduledBatch:
    """Plan each row at its time. Rows that can't be are left with their reason; when none can, InvalidError with all of them.

    `seed` is what their variations were drawn from. Undone in one step: what was made of pictures then goes to the bin.
    Decided row by row, written together: some forty statements, however many rows there are.
    """
    context.require(Capability.PUBLISH)
    done = ScheduledBatch()
    wanted = {row.profile for row in rows}
    slots_of = Profile.objects.filter(brand=context.brand, pk__in=wanted).values_list("pk", flat=True)
    asked = {row.post for row in rows if row.post is not None}
    with change_posts(context, posts=asked, slots_of=slots_of) as change:
        found = _batch_deliveries(context, change, rows, done)
        stops = blocking_reasons(change, list(found.values()))
        schedules: dict[int, Schedule] = {}
        for number, row in enumerate(rows):
            decided = _decide(context, change, row, seed, found.get((row.post, row.asset, row.profile)), stops)
            if isinstance(decided, str):
                done.left.append((number, decided))
            else:
                schedules[decided[0]] = decided[1]
        if not schedules:
            raise InvalidError(faults=[Fault(f"/rows/{n}", words, "left") for n, words in done.left])
        done.planned = list(schedules)
        touched = {
            change.deliveries[delivery_id].post_id: change.deliveries[delivery_id].post for delivery_id in schedules
        }
        statuses = {delivery_id: requested_status(change, post) for delivery_id, post in touched.items()}
        change.apply(Decision(schedules=schedules, statuses=statuses, revised=touched))
        after = {"made": done.made}
        done.undo = change.record(
            "lay",
            "post",
            next(iter(touched)),
            say("batch.scheduled", count=len(schedules), posts=len(touched)),
            undoes=schedules,
            after=after,
        ).pk
    return done


def _batch_deliveries(
    context: BrandContext, change: PostChange, rows: Sequence[BatchRowIn], done: ScheduledBatch
) -> dict[tuple[int | None, int | None, int], Delivery]:
    """The deliveries of the rows, by post, picture and profile. Pictures become drafts for the profiles they are laid for;
    profiles that a post doesn't go to yet are added to it."""
    keys: dict[int, tuple[int | None, int | None]] = {
        post_id: (post_id, None) for post_id, post in change.posts.items() if not post.evergreen
    }
    assets: dict[int, list[int]] = {}
    for row in rows:
        if row.post is None and row.asset is not None:
            assets.setdefault(row.asset, []).append(row.profile)
    for asset, post in draft_each(context, change, assets).items():
        keys[post.pk] = (None, asset)
        done.made.append(post.pk)
    of_post = {key: post for post, key in keys.items()}
    known = set(Profile.objects.filter(brand=context.brand).values_list("pk", flat=True))
    wanted = {(of_post[row.post, row.asset], row.profile) for row in rows if (row.post, row.asset) in of_post}
    there: dict[int, set[int]] = {asset_id: set() for asset_id in keys}
    for delivery in change.deliveries.values():
        there.setdefault(delivery.post_id, set()).add(delivery.profile_id)
    profiles = {asset_id: {*mine} for asset_id, mine in there.items()}
    for asset_id, profile in wanted:
        if profile in known:
            profiles[asset_id].add(profile)
    change.apply(
        Decision(profiles={profile_id: mine for profile_id, mine in profiles.items() if mine != there[profile_id]})
    )
    rows_of = change.deliveries.values()
    return {(*keys[d.post_id], d.profile_id): d for d in rows_of if (d.post_id, d.profile_id) in wanted}


def _decide(
    context: BrandContext,
    change: PostChange,
    row: BatchRowIn,
    seed: int,
    delivery: Delivery | None,
    stops: Mapping[int, str],
) -> tuple[int, Schedule] | str:
    """A row's delivery and where it goes, or why it can't."""
    if delivery is None:
        return "It isn't there any more."
    profile, schedule = delivery.profile, change.schedule(delivery)
    try:
        named_zone = row.zone and row.zone in (context.brand.zone, profile.zone)
        zone = ZoneInfo(row.zone) if named_zone else profile_zone(context, profile)
        due = resolve_due(parse_wall_time(row.wall_time, "/wall_time"), zone, change.now, "/wall_time")
    except ProblemError as problem:
        return f"{profile.handle}: {problem.words}"
    if not accepts(schedule.state, Event.PLAN):
        return f"{profile.handle}: it is {delivery.state.replace('_', ' ')} already."
    if delivery.pk in stops:
        return stops[delivery.pk]
    spread = Spread(0, row.jitter, seed if row.jitter else None)
    try:
        return delivery.pk, schedule_at(schedule, due.instant, zone, Event.PLAN, spread)
    except TransitionError as error:
        return f"{profile.handle}: {error}"
