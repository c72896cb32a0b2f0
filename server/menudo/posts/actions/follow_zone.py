"""After a zone was changed: what is planned keeps either the time on the wall or the moment."""

from collections.abc import Iterable, Iterator
from itertools import groupby
from operator import itemgetter
from typing import Literal

from django.db.models import Q

from menudo.base import clock
from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Delivery
from menudo.posts.times import profile_zone
from menudo.profiles.actions.describe_profile import parse_zone
from menudo.profiles.queries import profile_of
from menudo_core.signoff.schedule import Schedule, reinterpret_in_zone
from menudo_core.signoff.states import DeliveryState

Hold = Literal["wall", "instant"]
_STANDS = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND]
# About a fifth of a second's work.
_AT_ONCE = 200


def follow_zone(context: BrandContext, profile: int | None, was: str, hold: Hold) -> tuple[int, int]:
    """Everything planned in the zone `was` is meant in the present one: of a profile, or (None) of all that have the
    brand's. How many followed, and how many stay because their new moment has passed.

    `wall`: 15:00 stays 15:00, and the moment moves. `instant`: the moment stays, and is told in the new zone.
    """
    context.require(Capability.MANAGE_PROFILES)
    parse_zone(was, "/was")
    if profile is not None:
        rows = Delivery.objects.filter(profile=profile_of(context, profile))
    else:
        rows = Delivery.objects.filter(Q(profile__zone="") | Q(profile__zone=was), profile__brand=context.brand)
    if hold not in ("wall", "instant"):
        raise InvalidError.at("/hold", say("zone.hold"))
    meant = Q(brand=context.brand, zone=was, state__in=_STANDS, due_at__gt=clock.now())
    wanted = rows.filter(meant).order_by("post_id", "pk").values_list("pk", "post_id")
    followed = stay = 0
    try:
        for piece in _pieces(wanted):
            more, less = _follow(context, piece, was, hold)
            followed, stay = followed + more, stay + less
    finally:
        # Also where something breaks in the midst of it: what followed until then has followed.
        if followed:
            kept = say(f"zone.{hold}_kept", count=followed)
            record_event(context.brand.pk, context.actor, "zone", "profile", profile or 0, kept)
    return followed, stay


def _pieces(wanted: Iterable[tuple[int, int]]) -> Iterator[list[int]]:
    """The deliveries in pieces (id and post), those of a post together: whoever plans waits for a piece, not for all of a large office."""
    piece: list[int] = []
    for _, of_post in groupby(wanted, key=itemgetter(1)):
        if len(piece) >= _AT_ONCE:
            yield piece
            piece = []
        piece += [pk for pk, _ in of_post]
    if piece:
        yield piece


def _follow(context: BrandContext, wanted: list[int], was: str, hold: Hold) -> tuple[int, int]:
    with change_posts(context, deliveries=wanted) as change:
        schedules: dict[int, Schedule] = {}
        stay = 0
        for row in (change.deliveries[delivery_id] for delivery_id in wanted if delivery_id in change.deliveries):
            before, zone = change.schedule(row), profile_zone(context, row.profile)
            if before.state not in _STANDS or before.zone != was or zone.key == was:
                continue
            if before.due_at is None or before.due_at <= change.now:
                continue
            after = reinterpret_in_zone(before, zone, keeps_wall=hold == "wall")
            if after.due_at is None or after.due_at <= change.now:
                stay += 1
                continue
            schedules[row.pk] = after
        change.apply(Decision(schedules=schedules))
    return len(schedules), stay
