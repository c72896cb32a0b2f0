"""Write what came of tries, in one transaction: state, history, the next job, and word to every browser."""

import random
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import structlog
from django.conf import settings
from django.db import OperationalError, transaction
from django.db.models import F

from menudo.base import clock
from menudo.base.live import DeliveryChange, publish_deliveries
from menudo.base.metrics import ATTEMPTS
from menudo.base.sentences import say
from menudo.delivery.actions.claim import leased_rows, value_by_id
from menudo.delivery.actions.create_comment import create_comment
from menudo.delivery.actions.sweep import delivery_boundary
from menudo.delivery.sent_content import sent_content_of
from menudo.history.actions.record_event import MENUDO, build_event, record_event, record_events
from menudo.people.actions.notify_planners import notify_planners
from menudo.posts.actions.enqueue_delivery import enqueue_delivery
from menudo.posts.actions.watch import notify_watchers, title_of
from menudo.posts.models import Delivery, Watch
from menudo.posts.serializers import store_sent_content
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.content import STORY, Content
from menudo_core.sending.decision import Backoff, Decision, NetworkResponse, Step, decide_next_step
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState, Event, next_state

log = structlog.get_logger(__name__)
_LET_GO: dict[str, Any] = {"lease_until": None, "lease_holder": "", "revision": F("revision") + 1}


@dataclass(frozen=True, slots=True, eq=False)
class SendResult:
    """What came of one delivery's try: the network's response, and what it said or would have said."""

    delivery: Delivery
    response: NetworkResponse
    content: Content


def settle_safely(results: Sequence[SendResult]) -> None:
    """Settle them together; should one of them break that, each by itself, so that it spoils none of the others."""
    try:
        settle_results(results)
    except OperationalError:
        # The database is gone: their leases run out, and their networks are asked.
        raise
    except Exception:
        log.exception("settling.batch_failed")
        for one in results:
            with delivery_boundary("settle", one.delivery):
                settle_results([one])


def settle_results(results: Sequence[SendResult]) -> None:
    """Decide what follows from each answer and keep all of it. Where a lease was lost meanwhile, nothing is kept."""
    if not results:
        return
    now = clock.now()
    with transaction.atomic():
        held = leased_rows(one.delivery for one in results).select_for_update(no_key=True).order_by("pk")
        mine = set(held.values_list("pk", flat=True))
        out: list[SendResult] = []
        for one in results:
            decision = _decide(one, now)
            if one.delivery.pk not in mine:
                log.warning("delivery.lease_lost", delivery=one.delivery.pk)
            elif decision.step is Step.PUBLISHED:
                out.append(one)
            else:
                _mark_unpublished(one.delivery, decision)
        _mark_published(out, now)
        for brand in {one.delivery.brand_id for one in results}:
            told = [one.delivery for one in results if one.delivery.brand_id == brand]
            publish_deliveries(brand, [DeliveryChange(row.pk, row.post_id, row.profile_id, row.due_at) for row in told])


def _decide(one: SendResult, now: datetime) -> Decision:
    delivery = one.delivery
    backoff = Backoff(settings.BACKOFF_BASE, settings.BACKOFF_MOST, settings.BACKOFF_TRIES)
    network = sheet_for(delivery.brand_id, delivery.profile.network).name
    decision = decide_next_step(one.response, network, delivery.tries, now, random.random(), backoff)
    ATTEMPTS.labels(one.response.outcome.value).inc()
    log.info(
        "delivery.settled", delivery=delivery.pk, outcome=one.response.outcome, step=decision.step, code=decision.code
    )
    return decision


def _mark_published(results: list[SendResult], now: datetime) -> None:
    """They are published: one statement for all, and what follows from it."""
    if not results:
        return
    of = {one.delivery.pk: one.delivery for one in results}
    Delivery.objects.filter(pk__in=of).update(
        state=next_state(DeliveryState.SENDING, Event.PUBLISH),
        remote_url=value_by_id({one.delivery.pk: one.response.url[:500] for one in results}, text=True),
        published_at=now,
        # What was begun is what is there, whatever the wording has become since.
        sent_content=value_by_id(
            {
                one.delivery.pk: one.delivery.attempted_content or store_sent_content(sent_content_of(one.content))
                for one in results
            }
        ),
        attempted_content=None,
        reason="",
        reason_code="",
        not_before=None,
        **_LET_GO,
    )
    record_events(
        build_event(d.brand_id, MENUDO, "publish", "delivery", pk, say("delivery.published", profile=d.profile.handle))
        for pk, d in of.items()
    )
    watched = set(Watch.objects.filter(post__in=[d.post_id for d in of.values()]).values_list("post_id", flat=True))
    for one in results:
        d = one.delivery
        if d.post_id in watched:
            message = say("post.published", post=title_of(d.post), profile=d.profile.handle)
            key = f"out:{d.pk}:{now:%Y%m%d%H%M}"
            notify_watchers(d.brand, d.post, "changed", key, message, author=False)
        if has_comment(one.content, d):
            create_comment(d, one.content.first_comment.strip())


def _mark_unpublished(delivery: Delivery, decision: Decision) -> None:
    """It waits, is held for its profile, or needs a person."""
    rows = Delivery.objects.filter(pk=delivery.pk)
    kept: dict[str, Any] = {"reason": decision.message, "reason_code": decision.code, **_LET_GO}
    if decision.step is Step.WAIT:
        if decision.code == "too_many":
            # Being asked to wait is no failed try.
            kept["tries"] = F("tries") - 1
        rows.update(**kept, state=next_state(DeliveryState.SENDING, Event.WAIT), not_before=decision.at)
        enqueue_delivery(delivery, decision.at)
        return
    hold = decision.step is Step.RECONNECT
    if hold:
        # Not failed one by one: it waits for the profile, with all the others.
        kept["held_for"] = Hold.RECONNECT
    rows.update(**kept, state=next_state(DeliveryState.SENDING, Event.HOLD if hold else Event.FAIL), not_before=None)
    record_event(
        delivery.brand_id,
        MENUDO,
        "hold" if hold else "fail",
        "delivery",
        delivery.pk,
        say("delivery.failed", reason=decision.message),
    )
    if decision.step is Step.TROUBLE:
        notify_trouble(delivery, decision.message)


def notify_trouble(delivery: Delivery, words: str) -> None:
    """Tell those who publish, its author and who watches that a person is needed; once for each time it comes to that."""
    post, brand, key = delivery.post, delivery.brand, f"trouble:{delivery.pk}:{delivery.revision}"
    message = say("post.trouble", post=title_of(post), profile=delivery.profile.handle, reason=words)
    notify_watchers(brand, post, "trouble", key, message)
    notify_planners(brand, "trouble", key, message, f"calendar?open={delivery.pk}")


def has_comment(content: Content, delivery: Delivery) -> bool:
    """Whether a first comment follows: there is one, and its network has any."""
    forbidden = sheet_for(delivery.brand_id, delivery.profile.network).forbidden
    return bool(content.first_comment.strip()) and content.form != STORY and "first_comment" not in forbidden
