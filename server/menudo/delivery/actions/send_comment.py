"""Put the first comment under a published post: a step of its own, with a key of its own, tried alone when it fails alone."""

import random
import secrets
from datetime import timedelta

import structlog
from django.conf import settings
from django.db import transaction
from django.db.models import F, Q, QuerySet

from menudo.base import clock
from menudo.base.clock import db_now
from menudo.base.live import DeliveryChange, publish_deliveries
from menudo.base.problems import ConflictError
from menudo.base.sentences import say
from menudo.delivery.actions.claim import LEASE_HOLDER, LeaseLostError, lease_expired
from menudo.delivery.actions.create_comment import enqueue_comment
from menudo.delivery.actions.sweep import delivery_boundary
from menudo.delivery.models import FirstComment
from menudo.delivery.with_connection import find_by_key, with_connection
from menudo.history.actions.record_event import MENUDO, record_event
from menudo.networks.protocol import Adapter
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Delivery
from menudo.profiles.pauses import pauses_of
from menudo.profiles.sheets import sheet_for
from menudo_core.sending.decision import Backoff, NetworkResponse, Outcome, Step, decide_next_step
from menudo_core.signoff.states import DeliveryState

log = structlog.get_logger(__name__)
State = FirstComment.State
_RECHECK_INTERVAL = timedelta(minutes=1)


def send_comment(delivery_id: int) -> None:
    """Send a first comment, if it waits and is due, and its profile isn't paused."""
    comment = _claim_comment(delivery_id)
    if comment is None:
        return
    delivery = comment.delivery
    with structlog.contextvars.bound_contextvars(delivery=delivery.pk, tries=comment.tries):
        if pauses_of([delivery.brand_id]).at(delivery.profile, clock.now()) is not None:
            _postpone_if_paused(comment)
            return
        connection = delivery.profile.connection
        answer: NetworkResponse | None = NetworkResponse(Outcome.NOT_AUTHORISED)
        try:
            if connection is not None:
                answer = None
                with delivery_boundary("comment", delivery):
                    answer = with_connection(connection, lambda adapter: _post_comment(adapter, comment))
        except LeaseLostError:
            log.warning("comment.lease_lost")
            return
        _settle_comment(comment, answer or NetworkResponse(Outcome.BROKEN))


def _claim_comment(delivery_id: int) -> FirstComment | None:
    waits = Q(state=State.WAITING) & (Q(not_before=None) | Q(not_before__lte=db_now()))
    left = Q(state=State.SENDING) & lease_expired()
    mine = FirstComment.objects.filter(waits | left, delivery_id=delivery_id, delivery__state=DeliveryState.PUBLISHED)
    # A name of its own for each claim: what one thread took is never taken for another's.
    name = f"{LEASE_HOLDER}:{secrets.token_hex(6)}"
    claimed = mine.update(
        state=State.SENDING, lease_until=db_now() + settings.LEASE, lease_holder=name, tries=F("tries") + 1
    )
    if not claimed:
        return None
    found = FirstComment.objects.select_related("delivery__brand", "delivery__profile__connection")
    return found.filter(delivery_id=delivery_id, lease_holder=name).first()


def _leased_row(comment: FirstComment) -> QuerySet[FirstComment]:
    """The row, while this claim holds it."""
    return FirstComment.objects.filter(pk=comment.pk, state=State.SENDING, lease_holder=comment.lease_holder)


def _postpone_if_paused(comment: FirstComment) -> None:
    """While nothing may go out of its profile it waits; looked at again in a minute."""
    at = clock.now() + _RECHECK_INTERVAL
    with transaction.atomic():
        let_go = {"lease_until": None, "lease_holder": "", "tries": F("tries") - 1}
        if _leased_row(comment).update(state=State.WAITING, not_before=at, **let_go):
            enqueue_comment(comment.delivery_id, at)


def _post_comment(adapter: Adapter, comment: FirstComment) -> NetworkResponse:
    delivery = comment.delivery
    key, profile = str(comment.key), delivery.profile
    if comment.begun:
        known = find_by_key(adapter, profile, key, delivery.published_at or clock.now())
        if known is not None:
            return known
    # It may have waited for its network, or for a token: never with a lease that another has taken over meanwhile.
    if not _leased_row(comment).update(begun=True, lease_until=db_now() + settings.LEASE):
        raise LeaseLostError()
    return adapter.comment(profile.remote_id, key, delivery.remote_url, comment.text)


def _settle_comment(comment: FirstComment, answer: NetworkResponse) -> None:
    delivery, now = comment.delivery, clock.now()
    backoff = Backoff(settings.BACKOFF_BASE, settings.BACKOFF_MOST, settings.BACKOFF_TRIES)
    network = sheet_for(delivery.brand_id, delivery.profile.network).name
    decision = decide_next_step(answer, network, comment.tries, now, random.random(), backoff)
    log.info("comment.settled", outcome=answer.outcome, step=decision.step)
    changes: dict[str, object] = {
        "lease_until": None,
        "lease_holder": "",
        "reason": decision.message,
        "reason_code": decision.code,
    }
    if decision.step is Step.PUBLISHED:
        changes |= {"state": State.PUBLISHED, "remote_url": answer.url[:500], "not_before": None}
    elif decision.step is Step.WAIT:
        kept = {"tries": F("tries") - 1} if decision.code == "too_many" else {}
        changes |= {"state": State.WAITING, "not_before": decision.at, **kept}
    else:
        changes |= {"state": State.TROUBLE, "not_before": None}
    with transaction.atomic():
        if not _leased_row(comment).update(**changes):
            return
        if decision.step is Step.WAIT and decision.at is not None:
            enqueue_comment(delivery.pk, decision.at)
        else:
            done = decision.step is Step.PUBLISHED
            said = (
                say("comment.published", profile=delivery.profile.handle)
                if done
                else say("comment.failed", reason=decision.message)
            )
            record_event(delivery.brand_id, MENUDO, "comment", "delivery", delivery.pk, said)
        Delivery.objects.filter(pk=delivery.pk).update(revision=F("revision") + 1)
        publish_deliveries(
            delivery.brand_id, [DeliveryChange(delivery.pk, delivery.post_id, delivery.profile_id, delivery.due_at)]
        )


def retry_comment(context: BrandContext, delivery: Delivery, revision: int) -> Delivery:
    """Try a first comment again that failed alone. Raises ConflictError, StaleRevisionError."""
    context.require(Capability.PUBLISH)
    with change_posts(context, deliveries=[delivery.pk]) as change:
        row = change.delivery(delivery.pk, revision)
        comment: FirstComment | None = getattr(row, "comment", None)
        if comment is None or comment.state != State.TROUBLE:
            raise ConflictError(say("comment.not_in_trouble"))
        if comment.reason_code == "unsure":
            # A person says that it isn't there: what was begun is forgotten.
            comment.begun = False
        comment.state, comment.reason, comment.reason_code = State.WAITING, "", ""
        comment.tries, comment.not_before = 0, None
        comment.save()
        change.apply(Decision(revised_deliveries=[row.pk]))
        enqueue_comment(row.pk)
        change.record("comment", "delivery", row.pk, say("comment.retried", profile=row.profile.handle))
    return row


def sweep_comments() -> int:
    """Give a job to every first comment that waits or whose worker died. How many."""
    waits = Q(state=State.WAITING) & (Q(not_before=None) | Q(not_before__lte=db_now()))
    left = Q(state=State.SENDING) & lease_expired()
    found = list(FirstComment.objects.filter(waits | left).values_list("delivery_id", flat=True)[:1000])
    for delivery_id in found:
        enqueue_comment(delivery_id)
    return len(found)
