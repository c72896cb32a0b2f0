"""What lies across the days of a window: campaigns and the almanac."""

from datetime import date
from typing import Any

from django.db.models import Q

from menudo.calendar.models import Almanac, OwnDate
from menudo.people.models import Brand
from menudo.posts.models import Campaign
from menudo_core.almanac.observances import observed, own_days
from menudo_core.almanac.public_holidays import public
from menudo_core.almanac.rules import Day


def days_worth(brand: Brand, first: date, last: date) -> list[Day]:
    """The brand's almanac from `first` to `last`, earliest first: two statements."""
    kept = Almanac.objects.filter(brand=brand).first() or Almanac(brand=brand)
    own = OwnDate.objects.filter(brand=brand).values_list("pk", "name", "rule")
    found = [*own_days(own, first, last), *public(kept.countries, first, last)]
    if kept.observances:
        found += observed(first, last, frozenset(kept.without))
    return sorted(found, key=lambda d: d.day)


def bands(brand: Brand, first: date, last: date) -> dict[str, list[dict[str, Any]]]:
    """Almanac and campaigns of a window, as its days count: three statements."""
    almanac = [
        {
            "day": (d.day - first).days, "date": d.day, "name": d.name, "kind": d.kind, "country": d.country, "key": d.key,
        }
        for d in days_worth(brand, first, last)
    ]  # fmt: skip
    rows = Campaign.objects.filter(Q(starts__lte=last) & Q(ends__gte=first), brand=brand).order_by("starts", "pk")
    campaigns = [
        {
            "id": c.pk, "name": c.name, "ink": c.ink, "first": max((c.starts - first).days, 0),
            "last": min((c.ends - first).days, (last - first).days), "begins": c.starts >= first, "ends": c.ends <= last,
        }
        for c in rows
    ]  # fmt: skip
    return {"almanac": almanac, "campaigns": campaigns}
