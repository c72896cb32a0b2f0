"""The calendar across all of a person's brands."""

from collections import Counter, defaultdict
from datetime import date, datetime
from zoneinfo import ZoneInfo

from django.db.models import Count

from menudo.calendar.cards import BRAND, CARD, cards_of
from menudo.calendar.deliveries import calendar_deliveries, window_bounds
from menudo.calendar.gathering import heaps_by_brand
from menudo.calendar.schemas import AllBrandsWindow, LaneOut, TicketRow
from menudo.calendar.window import lane_of, window_days
from menudo.people.models import Membership, User
from menudo.profiles.models import Profile
from menudo.profiles.pauses import pauses_of

# As many cards as can be read, of all brands, and as many rows of one.
_CARDS, _LANES = 900, 60


def all_brand_lanes(user: User, first: date, days: int, now: datetime) -> AllBrandsWindow:
    """Lanes and cards of every brand the person belongs to, each in its own zone; of brands with more than can be read, how many of
    each network stand on each day instead. Seven statements, and one for each zone of these, however many brands."""
    brands = [m.brand for m in Membership.objects.filter(user=user).select_related("brand").order_by("brand__name")]
    zones = {b.pk: ZoneInfo(b.zone) for b in brands}
    bounds = [window_bounds(first, days, zone) for zone in zones.values()] or [(now, now)]
    there = calendar_deliveries(list(zones), min(b[0] for b in bounds), max(b[1] for b in bounds))
    profiles = list(Profile.objects.filter(brand__in=list(zones)))
    counts = dict(there.order_by().values_list("brand_id").annotate(Count("pk")))
    wide = _wide_brands(counts, Counter(p.brand_id for p in profiles))
    heaps = heaps_by_brand(there, first, days, {pk: zones[pk] for pk in wide})
    rows = list(there.exclude(brand__in=wide).values_list(*CARD))
    cards: dict[int, list[TicketRow]] = defaultdict(list)
    for row, card in zip(rows, cards_of(rows, zones, first), strict=True):
        if 0 <= card["day"] < days:
            cards[row[BRAND]].append(card)
    pauses = pauses_of(zones)
    lanes: dict[int, list[LaneOut]] = defaultdict(list)
    busy = {card["profile"] for of_one in cards.values() for card in of_one}
    for p in profiles:
        if p.brand_id not in wide and (p.state != Profile.State.DISCONNECTED or p.pk in busy):
            lanes[p.brand_id].append(lane_of(p, pauses, now))
    return {
        "days": window_days(first, days, now.astimezone(next(iter(zones.values()), ZoneInfo("UTC"))).date()),
        "brands": [
            {
                "slug": b.slug,
                "name": b.name,
                "ink": b.ink,
                "zone": b.zone,
                "lanes": lanes[b.pk],
                "tickets": cards[b.pk],
                "heaps": heaps.get(b.pk, []),
            }
            for b in brands
        ],
    }


def _wide_brands(cards: dict[int, int], profiles: dict[int, int]) -> set[int]:
    """The brands that have more than can be read: too many rows, and the busiest until the others' cards can be read together."""
    wide = {brand for brand, count in profiles.items() if count > _LANES}
    left = sum(count for brand, count in cards.items() if brand not in wide)
    for brand in sorted(cards.keys() - wide, key=lambda one: (-cards[one], one)):
        if left <= _CARDS:
            break
        wide.add(brand)
        left -= cards[brand]
    return wide
