"""Hold what may no longer go out and release what may again, after a pause or a connection has changed.

Which rows that is, the database finds; what becomes of each, the core says (`holds.py`). An office of 36,000 planned deliveries is held
in pieces, so that nobody who plans waits for all of it: what is due first at once, the rest by a job.
"""

from collections.abc import Collection, Sequence
from datetime import datetime

from django.db import transaction
from django.db.models import Case, CharField, Exists, F, OuterRef, Prefetch, Q, QuerySet, Value, When

from menudo.base import clock
from menudo.base.engine import enqueue
from menudo.base.live import publish_change
from menudo.base.rows import write_fields
from menudo.notices.failures import failure_boundary
from menudo.posts.actions.enqueue_delivery import enqueue_deliveries
from menudo.posts.change.holds import OPEN_STATES, SIGNED_STATES, refresh_holds
from menudo.posts.change.locks import pass_gate, shut_gate
from menudo.posts.models import Delivery
from menudo.posts.serializers_schedule import SCHEDULE_FIELDS
from menudo.profiles.models import Pause, Profile
from menudo.profiles.pauses import USABLE_STATES, pauses_of
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState

# About a tenth of a second's work.
_AT_ONCE = 500
# The periodic task that runs recheck_holds.
RECHECK = "look_again"


def recompute_holds(brand: int, profiles: Collection[int] | None = None) -> int:
    """See to the brand's deliveries, or only to those of these profiles, after what holds them has changed. Part of the caller's
    transaction, which has locked no posts. How many changed at once.

    What is beyond a piece is seen to by a job when that transaction is over. Meanwhile nothing of it goes out: sending looks at pauses
    and connections itself.
    """
    # From here on whoever plans sees what has changed, and whoever has planned has finished.
    shut_gate([brand])
    rows = _misheld(clock.now()).filter(brand=brand)
    found = _first_due(rows if profiles is None else rows.filter(profile__in=profiles), _AT_ONCE + 1)
    changed = _recompute(brand, found[:_AT_ONCE])
    if changed:
        publish_change(brand, "delivery", 0)
    if len(found) > _AT_ONCE:
        enqueue(RECHECK)
    return changed


def recheck_holds() -> int:
    """See to whatever stands otherwise than pauses and connections have it, piece by piece, each in a transaction of its own. How many
    changed."""
    found = _misheld(clock.now()).order_by("brand_id").values_list("brand_id", flat=True).distinct()
    total = 0
    for brand in list(found):
        with failure_boundary("look_again", f"brand {brand}", brand, "what is held"):
            total += _recheck_brand(brand)
    return total


def _recheck_brand(brand: int) -> int:
    total, ids = 0, _first_due(_misheld(clock.now()).filter(brand=brand))
    for start in range(0, len(ids), _AT_ONCE):
        with transaction.atomic():
            # Nobody waits: who plans at the same time sees the same pauses, and who changes those waits for this piece.
            pass_gate(brand)
            total += _recompute(brand, ids[start : start + _AT_ONCE])
    if total:
        publish_change(brand, "delivery", 0)
    return total


def _first_due(rows: QuerySet[Delivery], most: int | None = None) -> list[int]:
    return list(rows.order_by("due_at", "pk").values_list("pk", flat=True)[:most])


def _recompute(brand: int, ids: Sequence[int]) -> int:
    """Have those of the brand's deliveries held or released, as what holds them stands now. How many changed."""
    rows = Delivery.objects.filter(pk__in=ids, state__in=OPEN_STATES).only(
        *SCHEDULE_FIELDS, "brand", "signoff_state", "revision"
    )
    profiles = Prefetch("profile", Profile.objects.only("brand", "state"))
    locked = rows.select_for_update(of=("self",), no_key=True).order_by("pk").prefetch_related(profiles)
    changed = refresh_holds(locked, pauses_of([brand]), clock.now())
    for row in changed:
        row.revision += 1
    write_fields(changed, ["state", "held_for", "revision"])
    enqueue_deliveries((row.pk, row.due_at) for row in changed if row.state == DeliveryState.PLANNED)
    return len(changed)


def _misheld(now: datetime) -> QuerySet[Delivery]:
    """What stands otherwise than `hold_for` and `apply_hold` would have it, as one condition."""
    in_hand = Q(step=Delivery.Step.HAND)
    pause = Pause.objects.filter(
        Q(profile=OuterRef("profile")) | Q(profile=None),
        Q(ends_at=None) | Q(ends_at__gt=OuterRef("decided_at")),
        brand=OuterRef("brand"),
        ended_at=None,
        starts_at__lte=OuterRef("decided_at"),
    )
    why = Case(
        When(~Q(signoff_state__in=SIGNED_STATES), then=Value(Hold.SIGNOFF)),
        When(~Q(profile__state__in=USABLE_STATES), then=Value(Hold.RECONNECT)),
        When(Exists(pause), then=Value(Hold.PAUSED)),
        default=Value(""),
        output_field=CharField(),
    )
    held = Q(state=DeliveryState.HELD)
    # What is held past its time is left to be missed, unless a person has it in hand.
    left_alone = held & Q(why="", due_at__lte=now) & ~in_hand
    rows = Delivery.objects.filter(state__in=OPEN_STATES)
    rows = rows.annotate(decided_at=Case(When(in_hand, then=Value(now)), default=F("due_at"))).annotate(why=why)
    return rows.filter(~Q(held_for=F("why")) | (held & Q(why=""))).exclude(left_alone)
