"""Plan a post: give its deliveries a time, and the jobs that send them, in one transaction."""

import uuid
from collections import Counter
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
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.due import put_job
from menudo.posts.actions.resign import as_left, resign
from menudo.posts.checking import facts, findings_of
from menudo.posts.holding import why_held
from menudo.posts.models import Delivery, Post
from menudo.posts.reads import state_now
from menudo.posts.saying import contents
from menudo.posts.schemas import WhenIn
from menudo.posts.times import times
from menudo.profiles.models import Profile
from menudo.profiles.standing import Pauses, pauses_of, usable
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Level
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState, Event, after, takes
from menudo_core.timing.walltimes import wall_in


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
        if post.evergreen:
            raise Invalid.at(
                "/when", "This is a turn of a rota: copies of it go out. Make one to plan it.", "evergreen"
            )
        done = Planned(post)
        before: dict[str, dict] = {}
        if only is not None:
            _add(place, post, only)
        deliveries = list(
            post.deliveries.select_for_update(of=("self",)).select_related("post", "profile", "brand").order_by("id")
        )
        if only is not None:
            deliveries = [d for d in deliveries if d.profile_id in set(only)]
        if not deliveries:
            raise Invalid.at("/profiles", "Choose at least one profile first.", "none")
        faults = _plan_each(place, post, deliveries, when, now, done, before)
        if not done.planned:
            raise Invalid(faults=faults)
        put_up(post, now)
        post.revision += 1
        post.changed = now
        post.save(update_fields=["up_at", "revision", "changed"])
        resign(place.brand, [post.pk], place.user.pk)
        post.refresh_from_db(fields=["state"])
        waits = post.deliveries.filter(pk__in=done.planned, held_for=Hold.SIGNOFF).exists()
        held = " (held until it is signed off)" if waits else ""
        words = f"planned {len(done.planned)} deliver{'y' if len(done.planned) == 1 else 'ies'}{held}"
        done.undo = record(
            place.brand.pk, place.actor, "plan", "post", post.pk, words, as_left(before), {"deliveries": done.planned}
        ).pk
        tell(place.brand.pk, "post", post.pk)
    return done


def put_up(post: Post, now: datetime) -> None:
    """What is planned is up for sign-off, where it needs any; one that was put up before stays as it is."""
    if post.up_at is None:
        post.up_at = now


def _add(place: Here, post: Post, profiles: list[int]) -> None:
    """Profiles named that the post doesn't go to yet are added to it. Raises Invalid for another brand's."""
    there = set(post.deliveries.values_list("profile_id", flat=True))
    wanted = [id for id in dict.fromkeys(profiles) if id not in there]
    known = set(Profile.objects.filter(brand=place.brand, pk__in=wanted).values_list("pk", flat=True))
    if foreign := [id for id in wanted if id not in known]:
        raise Invalid.at(
            f"/profiles/{profiles.index(foreign[0])}", "This profile isn't one of this brand's.", "foreign"
        )
    if wanted:
        Delivery.objects.bulk_create(
            [Delivery(post=post, profile_id=id, brand=place.brand, key=uuid.uuid4()) for id in wanted]
        )
        write_cards(post)


def _plan_each(
    place: Here, post: Post, deliveries: list[Delivery], when: WhenIn, now: datetime, done: Planned, before: dict
) -> list[Fault]:
    said = contents(post, place.brand, deliveries)
    known = facts(place.brand, said.values())
    together = Counter(d.profile.network for d in deliveries)
    pauses = pauses_of([place.brand.pk])
    found = times(place, deliveries, when, now)
    faults = []
    for delivery in deliveries:
        meant = found[delivery.pk]
        reason = _why_not(delivery, said[delivery.pk], known, together[delivery.profile.network])
        if reason is None and meant.at is None:
            reason = ("/when", meant.why_not)
        if reason is not None or meant.at is None:
            pointer, words = reason or ("/when", "")
            done.left.append((delivery.profile_id, words))
            faults.append(Fault(pointer, words, "left"))
            continue
        before[str(delivery.pk)] = snapshot(delivery)
        delivery.delay, delivery.sway, delivery.seed = meant.delay, meant.sway, meant.seed
        set_due(delivery, meant.at, meant.zone, Event.PLAN, pauses)
        done.planned.append(delivery.pk)
    return faults


def stopped_by(delivery: Delivery) -> str | None:
    """Why nothing can be planned for a delivery's profile as it stands, or None. Its post, profile and brand are read
    with it."""
    if not usable(delivery.profile):
        return f"{delivery.profile.handle} can't be planned for: it must be connected first. See Profiles."
    said = contents(delivery.post, delivery.brand, [delivery])[delivery.pk]
    known = facts(delivery.brand, [said])
    found = findings_of(delivery.brand_id, delivery.profile.network, said, known, delivery.profile.followers)
    stops = [f for f in found if f.level is Level.STOPS]
    return f"{delivery.profile.handle}: {stops[0].words}" if stops else None


def _why_not(delivery: Delivery, content: Content, known: dict, together: int) -> tuple[str, str] | None:
    profile, state = delivery.profile, DeliveryState(delivery.state)
    if not takes(state, Event.PLAN):
        return "/profiles", f"{profile.handle}: it is {state.value.replace('_', ' ')} already."
    if profile.state == Profile.State.NOT_READY:
        return "/profiles", f"{profile.handle} is not ready yet: a condition of its network isn't met. See Profiles."
    if not usable(profile):
        return "/profiles", f"{profile.handle} must be reconnected before anything can be planned for it."
    found = findings_of(delivery.brand_id, profile.network, content, known, profile.followers, together)
    stops = [f for f in found if f.level is Level.STOPS]
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
        "delay": delivery.delay,
        "sway": delivery.sway,
        "seed": delivery.seed,
        "was_due": delivery.was_due.isoformat() if delivery.was_due else None,
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
    if event is Event.MOVE:
        # Where somebody puts it is where it goes: what stagger and sway had made of it is no more.
        delivery.delay = delivery.sway = 0
        delivery.seed = None
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
    if delivery.post.aside:
        # Planned is answered, whoever did it: taken off again it waits in the tray as any draft does.
        Post.objects.filter(pk=delivery.post_id).update(aside=False)
    if delivery.state == DeliveryState.PLANNED:
        put_job(delivery)
