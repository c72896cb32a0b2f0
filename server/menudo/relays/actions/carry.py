"""Carry what appeared to where relays lead: each thing once to a profile, or say why not."""

from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import structlog
from django.db import IntegrityError, transaction
from django.db.models import F, Q, QuerySet

from menudo.base import clock
from menudo.base.live import tell
from menudo.notices.mishaps import boundary
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Membership
from menudo.posts.actions.plan import requested
from menudo.posts.change.decision import Decision, NewPost, PostStatus
from menudo.posts.change.kernel import PostChange, System, change_posts
from menudo.posts.models import Post
from menudo.posts.times import next_slot, zone_of
from menudo.profiles.standing import usable
from menudo.relays.gather import gather, look_outside, outside_due
from menudo.relays.judging import WORDS, has_to_wait, judged, note_had
from menudo.relays.models import Appeared, Leg, Relay
from menudo.relays.shaping import Made, make
from menudo.relays.telling import ask, pause
from menudo_core.networks.content import POST, Card, Overrides, PostContent
from menudo_core.relays.guard import Verdict
from menudo_core.signoff.schedule import schedule_at
from menudo_core.signoff.states import DeliveryState, Event

log = structlog.get_logger(__name__)
_FAILS, _AT_ONCE = 5, 50
# What has waited for its day or hour so long isn't news any more.
_STALE = timedelta(days=7)


def round_of_relays() -> int:
    """A whole round at once, one after another: look at the networks, gather, carry. How many posts were made. The workers
    do the same in jobs, so that what hangs holds up its own only: see tasks.py."""
    for profile, _ in outside_due():
        with boundary("look_outside", f"profile {profile}"):
            look_outside(profile)
    gather()
    return sum(carry_bounded(id) for id in with_something_waiting())


def with_something_waiting() -> list[int]:
    """The relays that are on and for which something has appeared that they have not judged yet."""
    found = Relay.objects.filter(on=True, paused="", on_at__isnull=False).order_by("pk")
    return [relay.pk for relay in found if _waiting(relay).exists()]


def carry_bounded(id: int) -> int:
    """Carry; what goes on breaking isn't left to break unseen, and pauses the relay. How many posts were made."""
    made = None
    with boundary("carry", f"relay {id}"):
        made = carry(id)
    if made is None:
        _count(id, f"It broke off {_FAILS} times, by a mistake of Menudo's own. The server's log has it.")
    return made or 0


def _waiting(relay: Relay) -> QuerySet[Appeared]:
    mine = Q(seen__gte=relay.on_at) | Q(pk__in=relay.taken)
    waiting = Appeared.objects.filter(mine, brand=relay.brand_id, source=relay.source)
    if relay.catalogue_id is not None:
        waiting = waiting.filter(event=relay.event, event_name=relay.event_name)
    return waiting.exclude(legs__relay=relay)


def carry(id: int) -> int:
    """What appeared at the relay's source and has no leg of it yet, the oldest first. How many posts were made."""
    relay = Relay.objects.select_related("brand", "target", "by").get(pk=id)
    if not relay.on or relay.paused or relay.on_at is None:
        return 0
    made = 0
    for appeared in _waiting(relay).order_by("at", "pk")[:_AT_ONCE]:
        step = _one(relay, appeared)
        if step is None:
            break
        made += step
        relay.refresh_from_db()
        if relay.paused or not relay.on:
            break
    return made


def _one(relay: Relay, appeared: Appeared) -> int | None:
    """What becomes of one thing: 1 when a post was made of it, None when it and what follows has to wait."""
    now, zone = clock.now(), ZoneInfo(relay.brand.zone)
    reason = judged(relay, appeared, now)
    if reason is None and has_to_wait(relay, now, zone):
        if appeared.seen > now - _STALE:
            return None
        reason = (Verdict.OLD.value, "It waited a week for its turn.")
    if reason is not None:
        _note(relay, appeared, *reason)
        if reason[0] == Verdict.TOO_MANY:
            pause(relay, f"It carried {relay.ceiling} within an hour, which is its ceiling.")
            return None
        return 0
    place = place_of(relay)
    if place is None:
        pause(relay, "Whoever switched it on may not publish here any more. Switch it on again.")
        return None
    if relay.asks == Relay.Asks.TELLS:
        return _tell_only(relay, appeared)
    if not usable(relay.target):
        return _failed(relay, appeared, f"{relay.target.handle} must be connected first.")
    made = make(place, relay, appeared)
    if made is None:
        _note(relay, appeared, Leg.Asked.STOPPED, "All its messages are used up.")
        pause(relay, "All its messages are used up as often as they may.")
        return None
    if made.shaped.stops:
        return _failed(relay, appeared, made.shaped.stops[0].words)
    return _post(place, relay, appeared, made)


def place_of(relay: Relay) -> Here | None:
    """The person in whose name it carries, as far as they may publish still."""
    if relay.by is None:
        return None
    found = Membership.objects.filter(brand=relay.brand, user=relay.by).first()
    if found is None or not {May.PUBLISH, May.WRITE} <= set(found.capabilities):
        return None
    return Here(relay.by, relay.brand, frozenset(found.capabilities))


def _note(relay: Relay, appeared: Appeared, said: str, words: str, **more: Any) -> Leg:
    kept = {"at": clock.now(), "verdict": said, "words": words[:300], **more}
    leg, _ = Leg.objects.get_or_create(relay=relay, appeared=appeared, defaults=kept)
    return leg


def _tell_only(relay: Relay, appeared: Appeared) -> int:
    with transaction.atomic():
        leg = _note(relay, appeared, Leg.Asked.TOLD, "")
        ask(relay, leg, appeared)
    return 0


def _failed(relay: Relay, appeared: Appeared, words: str) -> int:
    _note(relay, appeared, Leg.Asked.STOPPED, words)
    _count(relay.pk, f"{_FAILS} things one after another could not be posted. The last: {words}")
    return 0


def _count(id: int, words: str) -> None:
    """One failure more; so many in a row pause the relay, and tell."""
    Relay.objects.filter(pk=id).update(fails=F("fails") + 1)
    relay = Relay.objects.select_related("brand", "target").filter(pk=id).first()
    if relay is not None and relay.fails >= _FAILS:
        pause(relay, words)


def _post(place: Here, relay: Relay, appeared: Appeared, made: Made) -> int:
    """The post, its leg, and that the profile had it, in one transaction: whoever comes second to the same profile stops."""
    try:
        # One lock for whoever plans for this profile: two relays can't carry the same thing there at once.
        with change_posts(System(relay.brand), slots_of=[relay.target_id]) as change:
            locked = Relay.objects.select_for_update().get(pk=relay.pk)
            if not locked.on or locked.paused:
                return 0
            asks = relay.asks == Relay.Asks.ASKS
            post = draft(change, place, relay, appeared, made, aside=asks)
            said = Leg.Asked.ASKED if asks else Verdict.FIRES
            leg = Leg.objects.create(
                relay=relay, appeared=appeared, at=clock.now(), verdict=said, message=made.message.id, post=post
            )
            note_had(relay.target, appeared, leg)
            used = {**locked.used, str(made.message.id): locked.used.get(str(made.message.id), 0) + 1}
            Relay.objects.filter(pk=relay.pk).update(fails=0, used=used, last=made.message.id)
            if asks:
                ask(relay, leg, appeared)
            else:
                send_off(change, relay, post)
            tell(relay.brand_id, "relay", relay.pk)
    except IntegrityError:
        _note(relay, appeared, Verdict.TWICE, WORDS["twice"])
        return 0
    return 1


def draft(change: PostChange, place: Here, relay: Relay, appeared: Appeared, made: Made, aside: bool = False) -> Post:
    """The post as a draft for the target. `aside`: it waits for an answer, not in the tray."""
    content, card = made.shaped.content, None
    if content.link and appeared.source.startswith("f") and not content.media:
        card = Card(appeared.data["title"][:300], appeared.data["summary"][:1000])
    master = replace(content, form=POST, card=card, link_tags=relay.link_tags_id)
    labels = frozenset() if relay.label_id is None else frozenset({relay.label_id})
    versions: dict[tuple[str, int | None], Overrides] = {}
    if content.form != POST:
        versions = {(relay.target.network, None): Overrides(form=content.form)}
    new = NewPost(PostContent("", master, versions, labels), [relay.target_id], place.user, PostStatus(aside=aside))
    [post] = change.create([new])
    change.apply()
    words = f"made a post of what appeared at {appeared.data.get('source') or 'a label'}, by a relay"
    change.record("make", "post", post.pk, words)
    return post


def send_off(change: PostChange, relay: Relay, post: Post) -> None:
    """Plan it as the relay says, with the profiles that a person has added to it since; sign-off is asked as of any post.
    The change has the relay's slots locked."""
    now, zone = change.now, zone_of(change, relay.target)
    at: datetime | None = now
    if relay.how == Relay.How.AFTER:
        at = now + timedelta(minutes=relay.minutes)
    elif relay.how == Relay.How.SLOT:
        keys = [f"label:{relay.label_id}"] if relay.label_id else []
        # Without slots it goes in an hour: nothing waits for a slot that never comes.
        at = next_slot(change, relay.target, now, keys) or now + timedelta(hours=1)
    schedules = {
        delivery.pk: schedule_at(change.schedule(delivery), at or now, zone, Event.PLAN)
        for delivery in change.deliveries_of(post)
        if delivery.state == DeliveryState.UNPLANNED
    }
    change.apply(Decision(schedules=schedules, statuses={post.pk: requested(change, post)}))
