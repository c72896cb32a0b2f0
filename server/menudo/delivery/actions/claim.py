"""Claim deliveries for sending: one conditional UPDATE for all of them, and a lease that runs out."""

import os
import secrets
import socket
from collections.abc import Iterable, Mapping
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.db import IntegrityError, transaction
from django.db.models import Exists, F, Func, JSONField, OuterRef, Q, QuerySet, TextField, Value
from django.db.models.functions import Cast

from menudo.base.clock import db_now
from menudo.posts.models import Delivery
from menudo.posts.sent_content import SentContent
from menudo.posts.serializers import store_sent_content
from menudo.profiles.models import Profile
from menudo_core.signoff.states import DeliveryState

# A network and a site (empty for a network): what hangs, hangs for all of it.
Lane = tuple[str, str]
_SKEW = timedelta(seconds=5)
LEASE_HOLDER = f"{socket.gethostname()[:40]}:{os.getpid()}"


class LeaseLostError(BaseException):
    """Another worker has taken it over; this one stops without a trace. Nothing broke: no boundary catches it."""


def claim_due(only: int | None = None, limit: int = 1, without: Iterable[Lane] = ()) -> list[Delivery]:
    """Up to `limit` deliveries that are due, now this call's to send, the oldest first and at most one of a profile; or
    none but `only`. Empty: nothing is due, or others are at it. `without`: lanes of which nothing is taken, each a network
    and a site.

    The clock is the database's, so that all workers have the same. Whoever claims holds the profile's row for that
    moment, so that two don't reach for the same profile; should they all the same, a partial unique index lets a profile
    have one delivery in sending at a time. The lease bears a name of its own for each claim: what one thread took is
    never taken for another's.
    """
    name = f"{LEASE_HOLDER}:{secrets.token_hex(6)}"
    try:
        with transaction.atomic():
            chosen = _ids_to_claim(only, limit, without)
            if not chosen:
                return []
            # Whoever holds a row just now is doing something about it: it is passed over, and nobody waits for anybody.
            free = (
                _claimable(_is_due() | _is_left_behind())
                .filter(pk__in=chosen)
                .select_for_update(of=("self",), skip_locked=True, no_key=True)
            )
            Delivery.objects.filter(pk__in=free.values("pk")).update(
                state=DeliveryState.SENDING,
                lease_until=db_now() + settings.LEASE,
                lease_holder=name,
                tries=F("tries") + 1,
                revision=F("revision") + 1,
            )
    except IntegrityError:
        return []
    mine = Delivery.objects.filter(pk__in=chosen, lease_holder=name, state=DeliveryState.SENDING)
    return list(mine.select_related("post__campaign", "brand", "profile__connection").order_by("due_at", "pk"))


def first_due() -> list[Delivery]:
    """The one that a claim would take first, if there is any."""
    return list(Delivery.objects.filter(pk__in=[pk for _, pk, _ in _first_to_claim(1)]))


def is_anyone_sending() -> bool:
    """Whether any worker holds a delivery just now."""
    return Delivery.objects.filter(state=DeliveryState.SENDING).exclude(lease_expired()).exists()


def _claimable(kind: Q) -> QuerySet[Delivery]:
    """What of a kind may be claimed; never what is in the bin."""
    return Delivery.objects.filter(kind, post__deleted_at=None)


def _is_due() -> Q:
    """Due, with nothing of its profile in sending."""
    busy = Delivery.objects.filter(profile=OuterRef("profile"), state=DeliveryState.SENDING)
    due = Q(~Exists(busy), state=DeliveryState.PLANNED, due_at__lte=db_now())
    return due & (Q(not_before=None) | Q(not_before__lte=db_now()))


def _is_left_behind() -> Q:
    """Of a worker whose lease ran out."""
    return Q(state=DeliveryState.SENDING) & lease_expired()


def lease_expired() -> Q:
    """A lease that ran out; or one longer than any can be: the clock was set back since, and nobody may be left to end it."""
    return Q(lease_until__lt=db_now()) | Q(lease_until__gt=db_now() + settings.LEASE + _SKEW)


def _ids_to_claim(only: int | None, most: int, without: Iterable[Lane]) -> list[int]:
    """The ids to claim, one of a profile; their profiles' rows are held."""
    of_profile: dict[int, int] = {}
    for _, pk, profile in _first_to_claim(most * 4, only, without):
        if len(of_profile) < most:
            of_profile.setdefault(profile, pk)
    if not of_profile:
        return []
    free = Profile.objects.select_for_update(skip_locked=True, no_key=True).filter(pk__in=of_profile)
    return [of_profile[profile] for profile in free.values_list("pk", flat=True)]


def _first_to_claim(
    most: int, only: int | None = None, without: Iterable[Lane] = ()
) -> list[tuple[datetime, int, int]]:
    """The first that may be claimed: when each is due, its id and its profile."""
    rows: list[tuple[datetime, int, int]] = []
    # Each kind by the index that it has: asked for together, every delivery there is was looked at.
    for kind in (_is_due(), _is_left_behind()):
        found = _claimable(kind) if only is None else _claimable(kind).filter(pk=only)
        for network, site in without:
            found = found.exclude(profile__network=network, profile__site=site)
        values = found.order_by("due_at", "pk").values_list("due_at", "pk", "profile_id")[:most]
        rows += [(due, pk, profile) for due, pk, profile in values if due is not None]
    return sorted(rows)[:most]


def leased_rows(deliveries: Iterable[Delivery]) -> QuerySet[Delivery]:
    """The rows of deliveries that their own claims hold still: one that was taken again since is another's."""
    by_name: dict[str, list[int]] = {}
    for d in deliveries:
        by_name.setdefault(d.lease_holder, []).append(d.pk)
    theirs = Q(pk__in=())
    for name, ids in by_name.items():
        theirs |= Q(pk__in=ids, lease_holder=name)
    return Delivery.objects.filter(theirs, state=DeliveryState.SENDING)


def renew_lease(delivery: Delivery, step: str, trying: SentContent | None = None) -> bool:
    """Renew the lease and note how far sending got, and with what. False: the lease ran out and another worker has it."""
    delivery.step = step
    rows, until = leased_rows([delivery]), db_now() + settings.LEASE
    if trying is None:
        return bool(rows.update(step=step, lease_until=until))
    delivery.attempted_content = store_sent_content(trying)
    return bool(rows.update(step=step, lease_until=until, attempted_content=delivery.attempted_content))


def begin_sending(trying: Mapping[Delivery, SentContent]) -> list[Delivery]:
    """Renew the leases of all that are about to be created, and note that, and with what. Those that were lost are left out."""
    if not trying:
        return []
    for delivery, content in trying.items():
        delivery.step, delivery.attempted_content = Delivery.Step.CREATE, store_sent_content(content)
    kept = value_by_id({d.pk: d.attempted_content for d in trying})
    held = leased_rows(trying)
    with transaction.atomic():
        list(held.select_for_update(no_key=True).order_by("pk").values_list("pk"))
        done = held.update(step=Delivery.Step.CREATE, lease_until=db_now() + settings.LEASE, attempted_content=kept)
    if done == len(trying):
        return list(trying)
    mine = set(held.values_list("pk", flat=True))
    return [d for d in trying if d.pk in mine]


def value_by_id(values: Mapping[int, Any], text: bool = False) -> Func:
    """Each row's own value, by its id, in one expression: JSON, or with `text` a text."""
    by_id = Value({str(pk): value for pk, value in values.items()}, JSONField())
    return Func(
        by_id,
        Cast(F("pk"), TextField()),
        function="jsonb_extract_path_text" if text else "jsonb_extract_path",
        output_field=TextField() if text else JSONField(),
    )
