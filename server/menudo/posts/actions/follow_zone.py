"""After a zone was changed: what is planned keeps either the time on the wall or the moment."""

from typing import Literal

from django.db.models import Q

from menudo.base import clock
from menudo.base.problems import Invalid
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Delivery
from menudo.posts.times import zone_of
from menudo.profiles.actions.describe import real_zone
from menudo.profiles.reads import profile as profile_of
from menudo_core.signoff.schedule import Schedule, meant_in
from menudo_core.signoff.states import DeliveryState

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
    meant = Q(brand=place.brand, zone=was, state__in=_STANDS, due_at__gt=clock.now())
    wanted = list(rows.filter(meant).values_list("pk", flat=True))
    with change_posts(place, deliveries=wanted) as change:
        schedules: dict[int, Schedule] = {}
        stay = 0
        for row in (change.deliveries[id] for id in wanted if id in change.deliveries):
            before, zone = change.schedule(row), zone_of(place, row.profile)
            if before.state not in _STANDS or before.zone != was or zone.key == was:
                continue
            if before.due_at is None or before.due_at <= change.now:
                continue
            after = meant_in(before, zone, keeps_wall=hold == "wall")
            if after.due_at is None or after.due_at <= change.now:
                stay += 1
                continue
            schedules[row.pk] = after
        change.apply(Decision(schedules=schedules))
        kept = "time on the wall" if hold == "wall" else "moment"
        words = f"{len(schedules)} planned posts keep their {kept} in the new zone"
        change.record("zone", "profile", profile or 0, words)
    return len(schedules), stay
