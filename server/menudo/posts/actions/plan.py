"""Plan a post: give its deliveries a time, and the jobs that send them, in one transaction."""

from collections import Counter
from collections.abc import Collection
from dataclasses import dataclass, field
from datetime import datetime

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Brand
from menudo.posts.actions.add_deliveries import add_deliveries
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.resign import as_left, resign
from menudo.posts.actions.schedule import set_due, snapshot, write_deliveries
from menudo.posts.checking import facts, findings_of
from menudo.posts.locking import lock_deliveries, lock_post, lock_slots
from menudo.posts.models import Delivery, Post
from menudo.posts.reads import state_now
from menudo.posts.saying import Sayings, contents, said_by
from menudo.posts.schemas import WhenIn
from menudo.posts.times import TAKES_SLOTS, times
from menudo.profiles.models import Profile
from menudo.profiles.standing import pauses_of, usable
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Level
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState, Event, takes


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
        if when.kind in TAKES_SLOTS:
            lock_slots([*post.deliveries.values_list("profile_id", flat=True), *(only or ())])
        post = lock_post(place, post)
        unchanged(began, post.revision, state_now(post))
        if post.evergreen:
            raise Invalid.at(
                "/when", "This is a turn of a rota: copies of it go out. Make one to plan it.", "evergreen"
            )
        done = Planned(post)
        before: dict[str, dict] = {}
        if only is not None:
            _add(place, post, only)
        deliveries = list(lock_deliveries(post.deliveries.all()).values())
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
        add_deliveries(place.brand.pk, [(post.pk, id) for id in wanted])
        write_cards(post)


def _plan_each(
    place: Here, post: Post, deliveries: list[Delivery], when: WhenIn, now: datetime, done: Planned, before: dict
) -> list[Fault]:
    said = contents(post, place.brand, deliveries)
    known = facts(place.brand, said.values())
    together = Counter(d.profile.network for d in deliveries)
    pauses = pauses_of([place.brand.pk])
    found = times(place, deliveries, when, now)
    faults: list[Fault] = []
    planned: list[Delivery] = []
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
        planned.append(delivery)
    write_deliveries(planned)
    done.planned = [delivery.pk for delivery in planned]
    return faults


def stopped_by(delivery: Delivery) -> str | None:
    """Why nothing can be planned for a delivery's profile as it stands, or None. Its post, profile and brand are read
    with it."""
    return stops_of(delivery.brand, [delivery]).get(delivery.pk)


def stops_of(brand: Brand, deliveries: Collection[Delivery]) -> dict[int, str]:
    """The same of many deliveries of a brand, by id; those that can be planned aren't in it. A few statements, however
    many there are."""
    sayings = Sayings.of_all(brand, {d.post_id: d.post for d in deliveries}.values())
    said = {d.pk: said_by(sayings[d.post_id], d, d.profile, brand) for d in deliveries}
    known = facts(brand, said.values())
    found = {}
    for delivery in deliveries:
        profile = delivery.profile
        if not usable(profile):
            found[delivery.pk] = f"{profile.handle} can't be planned for: it must be connected first. See Profiles."
            continue
        findings = findings_of(brand.pk, profile.network, said[delivery.pk], known, profile.followers)
        if words := next((f.words for f in findings if f.level is Level.STOPS), None):
            found[delivery.pk] = f"{profile.handle}: {words}"
    return found


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
