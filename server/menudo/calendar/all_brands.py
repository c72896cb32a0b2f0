"""The calendar across all of a person's brands."""

from datetime import date, datetime, time
from zoneinfo import ZoneInfo

from menudo.calendar.queries import TICKET, calendar_deliveries, lane_of, ticket_of, window_days
from menudo.calendar.schemas import AllBrandsWindow, LaneOut, TicketRow
from menudo.people.models import Membership, User
from menudo.profiles.models import Profile
from menudo.profiles.pauses import pauses_of
from menudo_core.timing.walltimes import day_bounds


def all_brand_lanes(user: User, first: date, days: int, now: datetime) -> AllBrandsWindow:
    """Lanes of every brand the person belongs to, each in its own zone: four statements, however many brands."""
    brands = [m.brand for m in Membership.objects.filter(user=user).select_related("brand").order_by("brand__name")]
    zones = {b.pk: ZoneInfo(b.zone) for b in brands}
    bounds = [day_bounds(datetime.combine(first, time()), zone, days) for zone in zones.values()]
    cards: dict[int, list[TicketRow]] = {b.pk: [] for b in brands}
    if bounds:
        found = calendar_deliveries(min(b[0] for b in bounds), max(b[1] for b in bounds)).filter(
            brand_id__in=list(zones)
        )
        for brand, *row in found.values_list("brand_id", *TICKET):
            card = ticket_of(tuple(row), zones[brand], first.toordinal())
            if 0 <= card["day"] < days:
                cards[brand].append(card)
    pauses = pauses_of(zones)
    lanes: dict[int, list[LaneOut]] = {b.pk: [] for b in brands}
    for p in Profile.objects.filter(brand_id__in=list(zones)):
        if p.state != Profile.State.DISCONNECTED or any(c["profile"] == p.pk for c in cards[p.brand_id]):
            lanes[p.brand_id].append(lane_of(p, pauses, now))
    return {
        "days": window_days(first, days, now.astimezone(next(iter(zones.values()), ZoneInfo("UTC"))).date()),
        "brands": [
            {"slug": b.slug, "name": b.name, "ink": b.ink, "zone": b.zone, "lanes": lanes[b.pk], "tickets": cards[b.pk]}
            for b in brands
        ],
    }
