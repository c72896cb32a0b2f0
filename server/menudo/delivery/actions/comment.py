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
from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.delivery.actions.claim import WHO, LeaseLost, lease_over
from menudo.delivery.actions.sweep import over_delivery
from menudo.delivery.with_connection import find_by_key, with_connection
from menudo.history.actions.record import MENUDO, record
from menudo.networks.protocol import Adapter
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.comments import put_comment_job
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Delivery, FirstComment
from menudo.profiles.sheets import sheet_for
from menudo.profiles.standing import pauses_of
from menudo_core.sending.decide import Backoff, NetworkResponse, Outcome, Step, decide
from menudo_core.signoff.states import DeliveryState

log = structlog.get_logger(__name__)
State = FirstComment.State
_LOOK_AGAIN = timedelta(minutes=1)


def put_comment(id: int) -> None:
    """Send a first comment, if it waits and is due, and its profile isn't paused. `id` is its delivery's."""
    comment = _claim(id)
    if comment is None:
        return
    delivery = comment.delivery
    with structlog.contextvars.bound_contextvars(delivery=delivery.pk, tries=comment.tries):
        if pauses_of([delivery.brand_id]).at(delivery.profile, clock.now()) is not None:
            _put_off(comment)
            return
        connection = delivery.profile.connection
        answer: NetworkResponse | None = NetworkResponse(Outcome.NOT_AUTHORISED)
        try:
            if connection is not None:
                answer = None
                with over_delivery("comment", delivery):
                    answer = with_connection(connection, lambda adapter: _put_there(adapter, comment))
        except LeaseLost:
            log.warning("comment.lease_lost")
            return
        _settle(comment, answer or NetworkResponse(Outcome.BROKEN))


def _claim(id: int) -> FirstComment | None:
    waits = Q(state=State.WAITING) & (Q(not_before=None) | Q(not_before__lte=db_now()))
    left = Q(state=State.SENDING) & lease_over()
    mine = FirstComment.objects.filter(waits | left, delivery_id=id, delivery__state=DeliveryState.PUBLISHED)
    # A name of its own for each claim: what one thread took is never taken for another's.
    name = f"{WHO}:{secrets.token_hex(6)}"
    claimed = mine.update(
        state=State.SENDING, lease_until=db_now() + settings.LEASE, lease_by=name, tries=F("tries") + 1
    )
    if not claimed:
        return None
    found = FirstComment.objects.select_related("delivery__brand", "delivery__profile__connection")
    return found.filter(delivery_id=id, lease_by=name).first()


def _held_by(comment: FirstComment) -> QuerySet[FirstComment]:
    """The row, while this claim holds it."""
    return FirstComment.objects.filter(pk=comment.pk, state=State.SENDING, lease_by=comment.lease_by)


def _put_off(comment: FirstComment) -> None:
    """While nothing may go out of its profile it waits; looked at again in a minute."""
    at = clock.now() + _LOOK_AGAIN
    with transaction.atomic():
        let_go = {"lease_until": None, "lease_by": "", "tries": F("tries") - 1}
        if _held_by(comment).update(state=State.WAITING, not_before=at, **let_go):
            put_comment_job(comment.delivery_id, at)


def _put_there(adapter: Adapter, comment: FirstComment) -> NetworkResponse:
    delivery = comment.delivery
    key, profile = str(comment.key), delivery.profile
    if comment.begun:
        known = find_by_key(adapter, profile, key, delivery.published_at or clock.now())
        if known is not None:
            return known
    # It may have waited for its network, or for a token: never with a lease that another has taken over meanwhile.
    if not _held_by(comment).update(begun=True, lease_until=db_now() + settings.LEASE):
        raise LeaseLost()
    return adapter.comment(profile.remote_id, key, delivery.remote_url, comment.text)


def _settle(comment: FirstComment, answer: NetworkResponse) -> None:
    delivery, now = comment.delivery, clock.now()
    backoff = Backoff(settings.BACKOFF_BASE, settings.BACKOFF_MOST, settings.BACKOFF_TRIES)
    network = sheet_for(delivery.brand_id, delivery.profile.network).name
    decision = decide(answer, network, comment.tries, now, random.random(), backoff)
    log.info("comment_settled", outcome=answer.outcome, step=decision.step)
    changes: dict[str, object] = {
        "lease_until": None,
        "lease_by": "",
        "reason": decision.words,
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
        if not _held_by(comment).update(**changes):
            return
        if decision.step is Step.WAIT and decision.at is not None:
            put_comment_job(delivery.pk, decision.at)
        else:
            done = decision.step is Step.PUBLISHED
            words = f"put the first comment under {delivery.profile.handle}'s post" if done else decision.words
            record(delivery.brand_id, MENUDO, "comment", "delivery", delivery.pk, words)
        Delivery.objects.filter(pk=delivery.pk).update(revision=F("revision") + 1)
        tell(delivery.brand_id, "delivery", delivery.pk)


def try_comment(place: Here, delivery: Delivery, began: int) -> Delivery:
    """Try a first comment again that failed alone. Raises Conflict, Stale."""
    place.needs(May.PUBLISH)
    with change_posts(place, deliveries=[delivery.pk]) as change:
        row = change.delivery(delivery.pk, began)
        comment: FirstComment | None = getattr(row, "comment", None)
        if comment is None or comment.state != State.TROUBLE:
            raise Conflict("Its first comment isn't in trouble.")
        if comment.reason_code == "unsure":
            # A person says that it isn't there: what was begun is forgotten.
            comment.begun = False
        comment.state, comment.reason, comment.reason_code = State.WAITING, "", ""
        comment.tries, comment.not_before = 0, None
        comment.save()
        change.apply(Decision(revised_deliveries=[row.pk]))
        put_comment_job(row.pk)
        change.record("comment", "delivery", row.pk, f"tried {row.profile.handle}'s first comment again")
    return row


def sweep_comments() -> int:
    """Give a job to every first comment that waits or whose worker died. How many."""
    waits = Q(state=State.WAITING) & (Q(not_before=None) | Q(not_before__lte=db_now()))
    left = Q(state=State.SENDING) & lease_over()
    found = list(FirstComment.objects.filter(waits | left).values_list("delivery_id", flat=True)[:1000])
    for id in found:
        put_comment_job(id)
    return len(found)
