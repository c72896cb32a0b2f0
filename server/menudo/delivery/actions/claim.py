"""Claim a delivery for sending: one conditional UPDATE, and a lease that runs out."""

import os
import socket

from django.conf import settings
from django.db import IntegrityError, transaction
from django.db.models import F, Q

from menudo.base.clock import db_now
from menudo.posts.models import Delivery
from menudo_core.signoff.states import DeliveryState

WHO = f"{socket.gethostname()}:{os.getpid()}"


def claim(id: int) -> Delivery | None:
    """The delivery, now this worker's to send; None when it is not due, not planned, or another's.

    The clock is the database's, so that all workers have the same. A partial unique index
    lets a profile have one delivery in sending at a time: losing that race is a None too.
    """
    due = Q(state=DeliveryState.PLANNED, due_at__lte=db_now()) & (Q(not_before=None) | Q(not_before__lte=db_now()))
    left = Q(state=DeliveryState.SENDING, lease_until__lt=db_now())
    try:
        with transaction.atomic():
            claimed = Delivery.objects.filter(due | left, pk=id).update(
                state=DeliveryState.SENDING,
                lease_until=db_now() + settings.LEASE,
                lease_by=WHO,
                tries=F("tries") + 1,
                revision=F("revision") + 1,
            )
    except IntegrityError:
        return None
    if not claimed:
        return None
    return Delivery.objects.select_related("post", "brand", "profile__connection").get(pk=id)


def next_due(profile_id: int) -> int | None:
    """The next delivery of a profile that is due. Its own job may have come while another was being sent."""
    waiting = Delivery.objects.filter(profile_id=profile_id, state=DeliveryState.PLANNED, due_at__lte=db_now())
    return (
        waiting.filter(Q(not_before=None) | Q(not_before__lte=db_now()))
        .order_by("due_at", "id")
        .values_list("pk", flat=True)
        .first()
    )


def still_mine(delivery: Delivery, step: str) -> bool:
    """Renew the lease and note how far sending got. False: the lease ran out and another worker has it."""
    mine = Delivery.objects.filter(pk=delivery.pk, state=DeliveryState.SENDING, lease_by=WHO, tries=delivery.tries)
    delivery.step = step
    return bool(mine.update(step=step, lease_until=db_now() + settings.LEASE))
