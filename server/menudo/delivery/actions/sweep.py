"""Give jobs to what has none: what is due soon, what is overdue, and what a dead worker left; and see to what was held too long."""

from contextlib import AbstractContextManager
from dataclasses import replace
from datetime import timedelta

import structlog
from django.db import OperationalError
from django.db.models import F, Q
from django.db.models.functions import Coalesce, Greatest

from menudo.base.clock import db_now
from menudo.base.engine import waiting_jobs
from menudo.base.sentences import say
from menudo.notices.failures import failure_boundary
from menudo.people.actions.notify_planners import notify_planners
from menudo.people.models import Brand
from menudo.posts.actions.enqueue_delivery import AHEAD, enqueue_deliveries, enqueue_delivery
from menudo.posts.actions.watch import notify_watchers, title_of
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import System, change_posts
from menudo.posts.models import Delivery
from menudo_core.signoff.holds import MISSED_WORDS, Hold
from menudo_core.signoff.states import DeliveryState, Event, next_state

log = structlog.get_logger(__name__)
_GRACE = timedelta(seconds=30)
_BATCH_SIZE = 2000


def miss_overdue() -> int:
    """Held deliveries whose time has passed are missed, and say so. How many."""
    late = Delivery.objects.filter(state=DeliveryState.HELD, due_at__lte=db_now(), post__deleted_at__isnull=True)
    # A person has it, and is told when it may be published: no time is missed by it.
    late = late.exclude(step=Delivery.Step.HAND).select_related("profile", "post", "brand")
    by_brand: dict[Brand, list[Delivery]] = {}
    for delivery in late.order_by("brand_id", "pk")[:_BATCH_SIZE]:
        by_brand.setdefault(delivery.brand, []).append(delivery)
    return sum(_miss_in_brand(brand, rows) for brand, rows in by_brand.items())


def _miss_in_brand(brand: Brand, rows: list[Delivery]) -> int:
    """Those of a brand together; should one of them break that, each by itself, so that it spoils none of the others."""
    try:
        return _mark_missed(brand, rows)
    except OperationalError:
        raise
    except Exception:
        log.exception("sweep.batch_failed")
    count = 0
    for row in rows:
        with delivery_boundary("miss", row):
            count += _mark_missed(brand, [row])
    return count


def _mark_missed(brand: Brand, rows: list[Delivery]) -> int:
    with change_posts(System(brand), deliveries=[row.pk for row in rows]) as change:
        schedules = {}
        for row in rows:
            # Whoever did something about it meanwhile has seen to it.
            if row.pk in change.deliveries and change.deliveries[row.pk].revision == row.revision:
                before = change.schedule(row)
                words = MISSED_WORDS[before.held_for or Hold.SIGNOFF]
                missed = next_state(before.state, Event.MISS)
                schedules[row.pk] = replace(before, state=missed, reason=words, reason_code="missed")
        change.apply(Decision(schedules=schedules))
        for row in (row for row in rows if row.pk in schedules):
            change.record("miss", "delivery", row.pk, say("delivery.missed", profile=row.profile.handle))
            notify_missed(row)
    return len(schedules)


def delivery_boundary(step: str, delivery: Delivery) -> AbstractContextManager[None]:
    """A boundary around what is done with one delivery."""
    words = f"“{delivery.headline or 'a post'}” for {delivery.profile.handle}"
    return failure_boundary(step, f"delivery {delivery.pk}", delivery.brand_id, words)


def notify_missed(delivery: Delivery) -> None:
    """What nobody signed in time is told to those who plan, to its author and to who watches; a pause tells for itself."""
    if delivery.held_for != Hold.SIGNOFF:
        return
    post, brand = delivery.post, delivery.brand
    told = say("post.missed_signoff", post=title_of(post), profile=delivery.profile.handle)
    key = f"missed:{delivery.pk}:{delivery.due_at}"
    count = notify_watchers(brand, post, "missed", key, told)
    notify_planners(brand, "missed", key, told, f"calendar?open={delivery.pk}")
    log.info("delivery.missed", delivery=delivery.pk, told=count)


def enqueue_ahead() -> int:
    """Give a job to every delivery that is due soon and was planned when it wasn't. How many."""
    until = db_now() + AHEAD
    # What was put off goes at the later of its two times; either of them is near.
    near = Q(due_at__gt=db_now()) | Q(not_before__gt=db_now())
    coming = Delivery.objects.filter(near, state=DeliveryState.PLANNED, due_at__lte=until)
    rows = coming.annotate(at=Coalesce(Greatest("due_at", "not_before"), F("due_at"))).filter(at__lte=until)
    wanted = list(rows.order_by("at").values_list("pk", "at")[:_BATCH_SIZE])
    if not wanted:
        return 0
    known = {(arguments.get("delivery"), at) for at, arguments in waiting_jobs("send")}
    without = [one for one in wanted if one not in known]
    enqueue_deliveries(without)
    return len(without)


def sweep_overdue(grace: timedelta = _GRACE) -> int:
    """Give a job to every delivery that is overdue by `grace`, and one to each that is being sent, for when its lease ends.

    Jobs too many do no harm: a claim decides. How many were found.
    """
    due = (
        Q(state=DeliveryState.PLANNED)
        & Q(due_at__lte=db_now() - grace)
        & (Q(not_before=None) | Q(not_before__lte=db_now() - grace))
    )
    left = Q(state=DeliveryState.SENDING)
    found = (
        Delivery.objects.filter(due | left)
        .annotate(at=Coalesce(F("lease_until"), F("due_at")))
        .order_by("due_at")[:_BATCH_SIZE]
    )
    for delivery in found:
        enqueue_delivery(delivery, delivery.at)
    if found:
        log.info("sweep.done", found=len(found))
    return len(found)
