"""Write what came of a try, in one transaction: state, history, the next job, and word to every browser."""

import random

import structlog
from django.conf import settings
from django.db import transaction
from django.db.models import F

from menudo.base import clock
from menudo.base.live import tell
from menudo.delivery.actions.claim import WHO
from menudo.history.actions.record import MENUDO, record
from menudo.posts.actions.due import put_job
from menudo.posts.models import Delivery, as_sent
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.content import Content
from menudo_core.sending.decide import Answer, Backoff, Decision, Step, decide
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState, Event, after

log = structlog.get_logger(__name__)


def settle(delivery: Delivery, answer: Answer, content: Content) -> None:
    """Decide what follows from the answer and keep it. Does nothing when the lease was lost meanwhile."""
    now = clock.now()
    backoff = Backoff(settings.BACKOFF_BASE, settings.BACKOFF_MOST, settings.BACKOFF_TRIES)
    network = sheet_for(delivery.brand_id, delivery.profile.network).name
    decision = decide(answer, network, delivery.tries, now, random.random(), backoff)
    log.info("settled", outcome=answer.outcome, step=decision.step, code=decision.code)
    with transaction.atomic():
        mine = Delivery.objects.filter(pk=delivery.pk, state=DeliveryState.SENDING, lease_by=WHO, tries=delivery.tries)
        if not mine.update(**_changes(decision, answer, content, now)):
            log.warning("lease_lost_before_outcome")
            return
        if decision.step is Step.WAIT:
            put_job(delivery, decision.at)
        else:
            verb = {Step.PUBLISHED: "publish", Step.RECONNECT: "hold"}.get(decision.step, "fail")
            words = f"published on {delivery.profile.handle}" if verb == "publish" else decision.words
            record(delivery.brand_id, MENUDO, verb, "delivery", delivery.pk, words)
        tell(delivery.brand_id, "delivery", delivery.pk)


def _changes(decision: Decision, answer: Answer, content: Content, now) -> dict:  # type: ignore[no-untyped-def]
    sending = DeliveryState.SENDING
    common = {"lease_until": None, "lease_by": "", "revision": F("revision") + 1}
    if decision.step is Step.PUBLISHED:
        return {
            **common,
            "state": after(sending, Event.PUBLISH),
            "remote_url": answer.url[:500],
            "published_at": now,
            "sent": as_sent(content),
            "reason": "",
            "reason_code": "",
            "not_before": None,
        }
    reasons = {"reason": decision.words, "reason_code": decision.code}
    if decision.step is Step.WAIT:
        # Being asked to wait is no failed try.
        kept = {"tries": F("tries") - 1} if decision.code == "too_many" else {}
        return {**common, **reasons, **kept, "state": after(sending, Event.WAIT), "not_before": decision.at}
    if decision.step is Step.RECONNECT:
        # Not failed one by one: it waits for the profile, with all the others.
        return {
            **common,
            **reasons,
            "state": after(sending, Event.HOLD),
            "held_for": Hold.RECONNECT,
            "not_before": None,
        }
    return {**common, **reasons, "state": after(sending, Event.FAIL), "not_before": None}
