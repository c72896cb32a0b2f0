"""Plan a post: give its deliveries a time, and the jobs that send them, in one transaction."""

from collections import Counter
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field, replace

from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision, PostStatus
from menudo.posts.change.kernel import PostChange, change_posts
from menudo.posts.checking import findings_for, media_facts
from menudo.posts.models import Delivery, Post
from menudo.posts.schemas import WhenIn
from menudo.posts.times import TAKES_SLOTS, PlannedTime, planned_times
from menudo.profiles.models import Profile
from menudo.profiles.pauses import is_usable
from menudo_core.media.facts import MediaFacts
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Level
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.schedule import Schedule, Spread, schedule_at
from menudo_core.signoff.states import Event, TransitionError, accepts


@dataclass
class PlanResult:
    """What came of planning: what was planned, what was left and why, and the entry that undoes it."""

    post: Post
    planned: list[int] = field(default_factory=list)
    left: list[tuple[int, str]] = field(default_factory=list)
    undo: int | None = None


def plan_post(context: BrandContext, post: Post, when: WhenIn, only: list[int] | None, revision: int) -> PlanResult:
    """Plan every delivery that fits its network; the others are left, each with its reason. Profiles in `only` that the post
    doesn't go to yet are added to it.

    Raises StaleRevisionError, and InvalidError when nothing could be planned, with every reason at its field.
    """
    context.require(Capability.PUBLISH)
    slots_of: list[int] = []
    if when.kind in TAKES_SLOTS:
        slots_of = [*post.deliveries.values_list("profile_id", flat=True), *(only or ())]
    with change_posts(context, posts=[post.pk], slots_of=slots_of) as change:
        row = change.post(post.pk, revision)
        if row.evergreen:
            raise InvalidError.at("/when", say("post.evergreen"))
        done = PlanResult(row)
        if only is not None:
            _add_profiles(context, change, row, only)
        deliveries = [d for d in change.deliveries_of(row) if only is None or d.profile_id in only]
        if not deliveries:
            raise InvalidError.at("/profiles", say("profile.none_first"))
        schedules, faults = _decide(change, deliveries, planned_times(context, deliveries, when, change.now))
        done.left = [(delivery_id, fault.message) for delivery_id, fault in faults]
        if not schedules:
            raise InvalidError(faults=[fault for _, fault in faults])
        status = {row.pk: requested_status(change, row)}
        change.apply(Decision(schedules=schedules, statuses=status, revised=[row.pk]))
        done.planned = list(schedules)
        waits = any(change.deliveries[delivery_id].held_for == Hold.SIGNOFF for delivery_id in schedules)
        after = {"deliveries": done.planned}
        done.undo = change.record(
            "plan",
            "post",
            row.pk,
            say("post.planned_held" if waits else "post.planned", count=len(schedules)),
            undoes=schedules,
            after=after,
        ).pk
    return done


def requested_status(change: PostChange, post: Post) -> PostStatus:
    """How a post stands that is planned: up for sign-off, where it needs any; one that was put up before stays as it is."""
    status = change.status(post)
    return status if status.requested_at is not None else replace(status, requested_at=change.now)


def _add_profiles(context: BrandContext, change: PostChange, post: Post, profiles: list[int]) -> None:
    """Profiles named that the post doesn't go to yet are added to it. Raises InvalidError for another brand's."""
    there = {delivery.profile_id for delivery in change.deliveries_of(post)}
    wanted = [profile_id for profile_id in dict.fromkeys(profiles) if profile_id not in there]
    known = set(Profile.objects.filter(brand=context.brand, pk__in=wanted).values_list("pk", flat=True))
    if foreign := [profile_id for profile_id in wanted if profile_id not in known]:
        raise InvalidError.at(f"/profiles/{profiles.index(foreign[0])}", say("profile.foreign"))
    if wanted:
        change.apply(Decision(profiles={post.pk: {*there, *wanted}}))


def _decide(
    change: PostChange, deliveries: list[Delivery], times: Mapping[int, PlannedTime]
) -> tuple[dict[int, Schedule], list[tuple[int, Fault]]]:
    """Where each stands that can be planned, and why not of each other's profile."""
    contents = change.rendered(deliveries)
    known = media_facts(change.brand, contents.values())
    together = Counter(d.profile.network for d in deliveries)
    schedules: dict[int, Schedule] = {}
    faults: list[tuple[int, Fault]] = []
    for delivery in deliveries:
        time, schedule = times[delivery.pk], change.schedule(delivery)
        reason = _refusal(delivery, schedule, contents[delivery.pk], known, together[delivery.profile.network])
        if reason is None and time.at is None:
            reason = ("/when", time.why_not)
        if reason is None and time.at is not None:
            spread = Spread(time.delay, time.jitter, time.seed)
            try:
                schedules[delivery.pk] = schedule_at(schedule, time.at, time.zone, Event.PLAN, spread)
            except TransitionError as error:
                reason = ("/profiles", f"{delivery.profile.handle}: {error}")
        if reason is not None:
            faults.append((delivery.profile_id, Fault(*reason, "left")))
    return schedules, faults


def blocking_reasons(change: PostChange, deliveries: Collection[Delivery]) -> dict[int, str]:
    """Why nothing can be planned for deliveries as they stand, by id; those that can be planned aren't in it. A few
    statements, however many there are."""
    contents = change.rendered(deliveries)
    return content_blocks(change.brand.pk, deliveries, contents)


def content_blocks(brand: int, deliveries: Collection[Delivery], contents: Mapping[int, Content]) -> dict[int, str]:
    """The same of deliveries that say `contents` (by id). Their profiles are read with them."""
    known = media_facts(brand, contents.values())
    found = {}
    for delivery in deliveries:
        profile = delivery.profile
        if not is_usable(profile):
            found[delivery.pk] = f"{profile.handle} can't be planned for: it must be connected first. See Profiles."
            continue
        findings = findings_for(brand, profile.network, contents[delivery.pk], known, profile.followers)
        if words := next((f.message for f in findings if f.level is Level.STOPS), None):
            found[delivery.pk] = f"{profile.handle}: {words}"
    return found


def _refusal(
    delivery: Delivery, schedule: Schedule, content: Content, known: Mapping[int, MediaFacts], together: int
) -> tuple[str, str] | None:
    profile = delivery.profile
    if not accepts(schedule.state, Event.PLAN):
        return "/profiles", f"{profile.handle}: it is {schedule.state.value.replace('_', ' ')} already."
    if profile.state == Profile.State.NOT_READY:
        return "/profiles", f"{profile.handle} is not ready yet: a condition of its network isn't met. See Profiles."
    if not is_usable(profile):
        return "/profiles", f"{profile.handle} must be reconnected before anything can be planned for it."
    found = findings_for(delivery.brand_id, profile.network, content, known, profile.followers, together)
    stops = [f for f in found if f.level is Level.STOPS]
    return (f"/{stops[0].field}", f"{profile.handle}: {stops[0].message}") if stops else None
