"""Plan a post: give its deliveries a time, and the jobs that send them, in one transaction."""

from dataclasses import dataclass, field
from datetime import UTC, datetime
from zoneinfo import ZoneInfo

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.due import put_job, read_wall, resolve_due
from menudo.posts.checking import facts, findings_of
from menudo.posts.holding import why_held
from menudo.posts.models import Delivery, Post, own_of
from menudo.posts.reads import state_now
from menudo.posts.schemas import WhenIn
from menudo.profiles.models import Profile
from menudo.profiles.standing import Pauses, pauses_of, usable
from menudo_core.networks.content import Content, inherit
from menudo_core.networks.findings import Level
from menudo_core.signoff.states import DeliveryState, Event, PostState, after, takes
from menudo_core.timing.slots import Slot, next_free
from menudo_core.timing.walltimes import wall_in

_TAKES_A_SLOT = [
    DeliveryState.PLANNED,
    DeliveryState.HELD,
    DeliveryState.SENDING,
    DeliveryState.PUBLISHED,
    DeliveryState.HAND,
]


@dataclass
class Planned:
    """What came of planning: what was planned, what was left and why, and the entry that undoes it."""

    post: Post
    planned: list[int] = field(default_factory=list)
    left: list[tuple[int, str]] = field(default_factory=list)
    undo: int | None = None


def plan(place: Here, post: Post, when: WhenIn, only: list[int] | None, began: int) -> Planned:
    """Plan every delivery that fits its network; the others are left, each with its reason.

    Raises Invalid when nothing could be planned, with every reason at its field.
    """
    place.needs(May.PUBLISH)
    now = clock.now()
    with transaction.atomic():
        post = Post.objects.select_for_update().get(pk=post.pk)
        unchanged(began, post.revision, state_now(post))
        given = _given(place, when, now)
        done = Planned(post)
        before: dict[str, dict] = {}
        deliveries = list(
            post.deliveries.select_for_update(of=("self",)).select_related("post", "profile", "brand").order_by("id")
        )
        if only is not None:
            deliveries = [d for d in deliveries if d.profile_id in set(only)]
        if not deliveries:
            raise Invalid.at("/profiles", "Choose at least one profile first.", "none")
        faults = _plan_each(place, post, deliveries, given, now, done, before)
        if not done.planned:
            raise Invalid(faults=faults)
        if not place.brand.needs_signoff:
            post.state = PostState.SIGNED
        elif post.state == PostState.DRAFT:
            post.state = PostState.UP
        post.revision += 1
        post.changed = now
        post.save(update_fields=["state", "revision", "changed"])
        held = " (held until it is signed off)" if place.brand.needs_signoff and post.state != PostState.SIGNED else ""
        words = f"planned {len(done.planned)} deliver{'y' if len(done.planned) == 1 else 'ies'}{held}"
        done.undo = record(
            place.brand.pk, place.actor, "plan", "post", post.pk, words, before, {"deliveries": done.planned}
        ).pk
        tell(place.brand.pk, "post", post.pk)
    return done


def _plan_each(
    place: Here,
    post: Post,
    deliveries: list[Delivery],
    given: datetime | None,
    now: datetime,
    done: Planned,
    before: dict,
) -> list[Fault]:
    versions = {v.network: v.own for v in post.versions.all()}
    contents = {d.pk: inherit(post.content, own_of(versions.get(d.profile.network, {}))) for d in deliveries}
    known = facts(place.brand, contents.values())
    pauses = pauses_of([place.brand.pk])
    faults = []
    for delivery in deliveries:
        at = given or next_slot(place, delivery.profile, now)
        reason = _why_not(delivery, contents[delivery.pk], known)
        if at is None:
            words = (
                f"{delivery.profile.handle} has no slots in its timetable. Choose a time, or give it slots in Profiles."
            )
            reason = reason or ("/when", words)
        if reason is not None or at is None:
            pointer, words = reason or ("/when", "")
            done.left.append((delivery.profile_id, words))
            faults.append(Fault(pointer, words, "left"))
            continue
        before[str(delivery.pk)] = snapshot(delivery)
        set_due(delivery, at, place.zone, Event.PLAN, pauses)
        done.planned.append(delivery.pk)
    return faults


def _given(place: Here, when: WhenIn, now: datetime) -> datetime | None:
    """The one instant for all, or None for each profile's next free slot."""
    if when.kind == "now":
        return now
    if when.kind == "at":
        return resolve_due(read_wall(when.wall, "/when/wall"), place.zone, now, "/when/wall").instant
    return None


def next_slot(place: Here, profile: Profile, now: datetime) -> datetime | None:
    """The profile's next free slot after `now`, UTC; None when it has no slots. Takes the profile's lock."""
    zone = ZoneInfo(profile.zone or place.brand.zone)
    slots = [Slot(s.weekday, s.at) for s in profile.slots.all()]
    # The lock makes two people who plan at once take two slots.
    Profile.objects.select_for_update().get(pk=profile.pk)
    taken = Delivery.objects.filter(profile=profile, state__in=_TAKES_A_SLOT, due_at__gte=now).values_list(
        "due_at", flat=True
    )
    return next(next_free(slots, {at for at in taken if at}, now, zone), None)


def _why_not(delivery: Delivery, content: Content, known: dict) -> tuple[str, str] | None:
    profile, state = delivery.profile, DeliveryState(delivery.state)
    if not takes(state, Event.PLAN):
        return "/profiles", f"{profile.handle}: it is {state.value.replace('_', ' ')} already."
    if profile.state == Profile.State.NOT_READY:
        return "/profiles", f"{profile.handle} is not ready yet: a condition of its network isn't met. See Profiles."
    if not usable(profile):
        return "/profiles", f"{profile.handle} must be reconnected before anything can be planned for it."
    stops = [f for f in findings_of(delivery.brand_id, profile.network, content, known) if f.level is Level.STOPS]
    return (f"/{stops[0].field}", f"{profile.handle}: {stops[0].words}") if stops else None


def snapshot(delivery: Delivery) -> dict:
    """What an undo puts back."""
    return {
        "state": delivery.state,
        "due_at": delivery.due_at.isoformat() if delivery.due_at else None,
        "wall": delivery.wall.isoformat() if delivery.wall else None,
        "zone": delivery.zone,
        "reason": delivery.reason,
        "reason_code": delivery.reason_code,
        "held_for": delivery.held_for,
        "revision": delivery.revision + 1,
    }


def set_due(delivery: Delivery, at: datetime, zone: ZoneInfo, event: Event, pauses: Pauses) -> None:
    """Give a delivery its instant and the state that `event` leads to, held when something stands in its way; defer its job.

    Its post, profile and brand are read with it.
    """
    state = after(DeliveryState(delivery.state), event)
    delivery.due_at = at
    delivery.wall = wall_in(at, zone).replace(tzinfo=UTC)
    delivery.zone = zone.key
    why = why_held(delivery, pauses)
    if why is not None and state is DeliveryState.PLANNED:
        state = after(state, Event.HOLD)
    elif why is None and state is DeliveryState.HELD:
        state = after(state, Event.RELEASE)
    delivery.state, delivery.held_for = state, why or ""
    delivery.not_before = None
    delivery.reason = delivery.reason_code = ""
    delivery.tries = 0
    delivery.revision += 1
    delivery.save()
    if delivery.state == DeliveryState.PLANNED:
        put_job(delivery)
