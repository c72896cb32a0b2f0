"""After a zone was changed: what is planned keeps either the time on the wall or the moment."""

from datetime import UTC, datetime
from typing import Literal
from zoneinfo import ZoneInfo

from django.db import transaction
from django.db.models import Q

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.base.rows import write_fields
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.due import put_jobs
from menudo.posts.actions.rehold import rehold
from menudo.posts.actions.resign import moved
from menudo.posts.locking import lock_deliveries
from menudo.posts.models import Delivery
from menudo.posts.times import zone_of
from menudo.profiles.actions.describe import real_zone
from menudo.profiles.reads import profile as profile_of
from menudo_core.signoff.states import DeliveryState
from menudo_core.timing.walltimes import resolve, wall_in

Hold = Literal["wall", "instant"]
_STANDS = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND]


def follow_zone(place: Here, profile: int | None, was: str, hold: Hold) -> tuple[int, int]:
    """Everything planned in the zone `was` is meant in the present one: of a profile, or (None) of all that have the
    brand's. How many followed, and how many stay because their new moment has passed.

    `wall`: 15:00 stays 15:00, and the moment moves. `instant`: the moment stays, and is told in the new zone.
    """
    place.needs(May.MANAGE_PROFILES)
    real_zone(was, "/was")
    if profile is not None:
        rows = Delivery.objects.filter(profile=profile_of(place, profile))
    else:
        rows = Delivery.objects.filter(Q(profile__zone="") | Q(profile__zone=was), profile__brand=place.brand)
    if hold not in ("wall", "instant"):
        raise Invalid.at("/hold", "Say whether the wall time or the moment holds.")
    now, followed, stay = clock.now(), 0, 0
    with transaction.atomic():
        found = rows.filter(brand=place.brand, zone=was, state__in=_STANDS, due_at__gt=now)
        changed = []
        for delivery in lock_deliveries(found).values():
            zone = zone_of(place, delivery.profile)
            if delivery.due_at is None or delivery.wall is None or zone.key == was:
                continue
            if not _meant_in(delivery, zone, hold, now):
                stay += 1
                continue
            changed.append(delivery)
            followed += 1
        write_fields(changed, ["due_at", "wall", "zone", "revision"])
        put_jobs((d.pk, d.due_at) for d in changed if d.state == DeliveryState.PLANNED and hold == "wall")
        rehold(Delivery.objects.filter(pk__in=[d.pk for d in changed]))
        moved(place.brand, {d.post_id for d in changed}, place.user.pk)
        words = (
            f"{followed} planned posts keep their {'time on the wall' if hold == 'wall' else 'moment'} in the new zone"
        )
        record(place.brand.pk, place.actor, "zone", "profile", profile or 0, words)
        tell(place.brand.pk, "delivery", 0)
    return followed, stay


def _meant_in(delivery: Delivery, zone: ZoneInfo, hold: Hold, now: datetime) -> bool:
    """Write the new meaning; False when the moment it gives has passed."""
    if hold == "wall" and delivery.wall is not None:
        due = resolve(delivery.wall.replace(tzinfo=None), zone)
        if due.instant <= now:
            return False
        delivery.due_at, delivery.wall = due.instant, due.wall.replace(tzinfo=UTC)
    elif delivery.due_at is not None:
        delivery.wall = wall_in(delivery.due_at, zone).replace(tzinfo=UTC)
    delivery.zone = zone.key
    delivery.revision += 1
    return True
