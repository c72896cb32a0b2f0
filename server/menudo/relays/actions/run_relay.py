"""Carry what appeared to where relays lead: each thing once to a profile, or say why not."""

from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import structlog
from django.db import IntegrityError, transaction
from django.db.models import F, Q, QuerySet

from menudo.base import clock
from menudo.base.live import publish_change
from menudo.base.sentences import say
from menudo.notices.failures import failure_boundary
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Membership
from menudo.posts.actions.plan_post import requested_status
from menudo.posts.change.decision import Decision, NewPost, PostStatus
from menudo.posts.change.kernel import PostChange, System, change_posts
from menudo.posts.models import Post
from menudo.posts.times import next_free_slot, profile_zone
from menudo.profiles.pauses import is_usable
from menudo.relays.actions.notify import ask_about, pause_relay
from menudo.relays.actions.poll_sources import due_remote_profiles, poll_remote_profile, poll_sources
from menudo.relays.adaptation import RelayedContent, prepare_item
from menudo.relays.evaluation import VERDICT_LABELS, evaluate_item, mark_seen, must_wait_now
from menudo.relays.models import Firing, Relay, SourceItem
from menudo.relays.serializers import load_item_data
from menudo_core.networks.content import POST, Card, Overrides, PostContent
from menudo_core.relays.guard import Verdict
from menudo_core.signoff.schedule import schedule_at
from menudo_core.signoff.states import DeliveryState, Event

log = structlog.get_logger(__name__)
_FAILS, _AT_ONCE = 5, 50
# What has waited for its day or hour so long isn't news any more.
_STALE = timedelta(days=7)


def run_due_relays() -> int:
    """A whole round at once, one after another: look at the networks, gather, carry. How many posts were made. The workers
    do the same in jobs, so that what hangs holds up its own only: see tasks.py."""
    for profile, _ in due_remote_profiles():
        with failure_boundary("look_outside", f"profile {profile}"):
            poll_remote_profile(profile)
    poll_sources()
    return sum(run_relay_safely(relay_id) for relay_id in relays_with_items())


def relays_with_items() -> list[int]:
    """The relays that are on and for which something has appeared that they have not judged yet."""
    found = Relay.objects.filter(active=True, paused_reason="", activated_at__isnull=False).order_by("pk")
    return [relay.pk for relay in found if _waiting_items(relay).exists()]


def run_relay_safely(relay_id: int) -> int:
    """Carry; what goes on breaking isn't left to break unseen, and pauses the relay. How many posts were made."""
    made = None
    with failure_boundary("carry", f"relay {relay_id}"):
        made = run_relay(relay_id)
    if made is None:
        _count_failure(relay_id, f"It broke off {_FAILS} times, by a mistake of Menudo's own. The server's log has it.")
    return made or 0


def _waiting_items(relay: Relay) -> QuerySet[SourceItem]:
    mine = Q(seen_at__gte=relay.activated_at) | Q(pk__in=relay.earlier_item_ids)
    waiting = SourceItem.objects.filter(mine, brand=relay.brand_id, source=relay.source)
    if relay.catalogue_id is not None:
        waiting = waiting.filter(event=relay.event, event_name=relay.event_name)
    return waiting.exclude(firings__relay=relay)


def run_relay(relay_id: int) -> int:
    """What appeared at the relay's source and has no leg of it yet, the oldest first. How many posts were made."""
    relay = Relay.objects.select_related("brand", "target", "run_as").get(pk=relay_id)
    if not relay.active or relay.paused_reason or relay.activated_at is None:
        return 0
    made = 0
    for source_item in _waiting_items(relay).order_by("occurred_at", "pk")[:_AT_ONCE]:
        step = _relay_item(relay, source_item)
        if step is None:
            break
        made += step
        relay.refresh_from_db()
        if relay.paused_reason or not relay.active:
            break
    return made


def _relay_item(relay: Relay, source_item: SourceItem) -> int | None:
    """What becomes of one thing: 1 when a post was made of it, None when it and what follows has to wait."""
    now, zone = clock.now(), ZoneInfo(relay.brand.zone)
    reason = evaluate_item(relay, source_item, now)
    if reason is None and must_wait_now(relay, now, zone):
        if source_item.seen_at > now - _STALE:
            return None
        reason = (Verdict.OLD.value, "It waited a week for its turn.")
    if reason is not None:
        _record_firing(relay, source_item, *reason)
        if reason[0] == Verdict.TOO_MANY:
            pause_relay(relay, f"It carried {relay.hourly_limit} within an hour, which is its ceiling.")
            return None
        return 0
    context = relay_context(relay)
    if context is None:
        pause_relay(relay, "Whoever switched it on may not publish here any more. Switch it on again.")
        return None
    if relay.confirmation == Relay.Confirmation.TELLS:
        return _announce(relay, source_item)
    if not is_usable(relay.target):
        return _note_failure(relay, source_item, f"{relay.target.handle} must be connected first.")
    made = prepare_item(context, relay, source_item)
    if made is None:
        _record_firing(relay, source_item, Firing.Asked.STOPPED, "All its messages are used up.")
        pause_relay(relay, "All its messages are used up as often as they may.")
        return None
    if made.adapted.blocking_findings:
        return _note_failure(relay, source_item, made.adapted.blocking_findings[0].message)
    return _create_post(context, relay, source_item, made)


def relay_context(relay: Relay) -> BrandContext | None:
    """The person in whose name it carries, as far as they may publish still."""
    if relay.run_as is None:
        return None
    found = Membership.objects.filter(brand=relay.brand, user=relay.run_as).first()
    if found is None or not {Capability.PUBLISH, Capability.WRITE} <= set(found.capabilities):
        return None
    return BrandContext(relay.run_as, relay.brand, frozenset(found.capabilities))


def _record_firing(relay: Relay, source_item: SourceItem, verdict: str, words: str, **more: Any) -> Firing:
    kept = {"fired_at": clock.now(), "verdict": verdict, "explanation": words[:300], **more}
    firing, _ = Firing.objects.get_or_create(relay=relay, item=source_item, defaults=kept)
    return firing


def _announce(relay: Relay, source_item: SourceItem) -> int:
    with transaction.atomic():
        firing = _record_firing(relay, source_item, Firing.Asked.TOLD, "")
        ask_about(relay, firing, source_item)
    return 0


def _note_failure(relay: Relay, source_item: SourceItem, words: str) -> int:
    _record_firing(relay, source_item, Firing.Asked.STOPPED, words)
    _count_failure(relay.pk, f"{_FAILS} things one after another could not be posted. The last: {words}")
    return 0


def _count_failure(relay_id: int, words: str) -> None:
    """One failure more; so many in a row pause the relay, and tell."""
    Relay.objects.filter(pk=relay_id).update(failure_count=F("failure_count") + 1)
    relay = Relay.objects.select_related("brand", "target").filter(pk=relay_id).first()
    if relay is not None and relay.failure_count >= _FAILS:
        pause_relay(relay, words)


def _create_post(context: BrandContext, relay: Relay, source_item: SourceItem, made: RelayedContent) -> int:
    """The post, its leg, and that the profile had it, in one transaction: whoever comes second to the same profile stops."""
    try:
        # One lock for whoever plans for this profile: two relays can't carry the same thing there at once.
        with change_posts(System(relay.brand), slots_of=[relay.target_id]) as change:
            locked = Relay.objects.select_for_update(no_key=True).get(pk=relay.pk)
            if not locked.active or locked.paused_reason:
                return 0
            asks = relay.confirmation == Relay.Confirmation.ASKS
            post = draft_for_target(change, context, relay, source_item, made, aside=asks)
            verdict = Firing.Asked.ASKED if asks else Verdict.FIRES
            firing = Firing.objects.create(
                relay=relay, item=source_item, fired_at=clock.now(), verdict=verdict, message=made.message.id, post=post
            )
            mark_seen(relay.target, source_item, firing)
            used = {
                **locked.message_counts,
                str(made.message.id): locked.message_counts.get(str(made.message.id), 0) + 1,
            }
            Relay.objects.filter(pk=relay.pk).update(failure_count=0, message_counts=used, last_message=made.message.id)
            if asks:
                ask_about(relay, firing, source_item)
            else:
                plan_draft(change, relay, post)
            publish_change(relay.brand_id, "relay", relay.pk)
    except IntegrityError:
        _record_firing(relay, source_item, Verdict.TWICE, VERDICT_LABELS["twice"])
        return 0
    return 1


def draft_for_target(
    change: PostChange,
    context: BrandContext,
    relay: Relay,
    source_item: SourceItem,
    made: RelayedContent,
    aside: bool = False,
) -> Post:
    """The post as a draft for the target. `aside`: it waits for an answer, not in the tray."""
    content, card, data = made.adapted.content, None, load_item_data(source_item.data)
    if content.link and source_item.source.startswith("f") and not content.media:
        card = Card(data.title[:300], data.summary[:1000])
    master = replace(content, form=POST, card=card, link_tags=relay.link_tags_id)
    labels = frozenset() if relay.label_id is None else frozenset({relay.label_id})
    versions: dict[tuple[str, int | None], Overrides] = {}
    if content.form != POST:
        versions = {(relay.target.network, None): Overrides(form=content.form)}
    new = NewPost(PostContent("", master, versions, labels), [relay.target_id], context.user, PostStatus(aside=aside))
    [post] = change.create([new])
    change.apply()
    change.record(
        "make", "post", post.pk, say("draft.from_relay", source=data.source) if data.source else say("draft.from_label")
    )
    return post


def plan_draft(change: PostChange, relay: Relay, post: Post) -> None:
    """Plan it as the relay says, with the profiles that a person has added to it since; sign-off is asked as of any post.
    The change has the relay's slots locked."""
    now, zone = change.now, profile_zone(change, relay.target)
    at: datetime | None = now
    if relay.timing == Relay.Timing.AFTER:
        at = now + timedelta(minutes=relay.delay_minutes)
    elif relay.timing == Relay.Timing.SLOT:
        keys = [f"label:{relay.label_id}"] if relay.label_id else []
        # Without slots it goes in an hour: nothing waits for a slot that never comes.
        at = next_free_slot(change, relay.target, now, keys) or now + timedelta(hours=1)
    schedules = {
        delivery.pk: schedule_at(change.schedule(delivery), at or now, zone, Event.PLAN)
        for delivery in change.deliveries_of(post)
        if delivery.state == DeliveryState.UNPLANNED
    }
    change.apply(Decision(schedules=schedules, statuses={post.pk: requested_status(change, post)}))
