"""What lies across the days of a window: campaigns and the almanac."""

from datetime import date

from django.db.models import Q

from menudo.calendar.models import Almanac, CustomDate
from menudo.calendar.schemas import AlmanacDay, BandsOut, CampaignBand
from menudo.people.models import Brand
from menudo.posts.models import Campaign
from menudo_core.almanac.observances import custom_days, observance_days
from menudo_core.almanac.public_holidays import public_holidays
from menudo_core.almanac.rules import Day


def almanac_days(brand: Brand, first: date, last: date) -> list[Day]:
    """The brand's almanac from `first` to `last`, earliest first: two statements."""
    kept = Almanac.objects.filter(brand=brand).first() or Almanac(brand=brand)
    custom_dates = CustomDate.objects.filter(brand=brand).values_list("pk", "name", "rule")
    found = [*custom_days(custom_dates, first, last), *public_holidays(kept.countries, first, last)]
    if kept.observances:
        found += observance_days(first, last, frozenset(kept.excluded))
    return sorted(found, key=lambda d: d.day)


def window_bands(brand: Brand, first: date, last: date) -> BandsOut:
    """Almanac and campaigns of a window, as its days count: three statements."""
    almanac = [
        AlmanacDay(
            day=(d.day - first).days,
            date=d.day,
            name=d.name,
            kind=d.kind,
            country=d.country,
            key=d.key,
        )
        for d in almanac_days(brand, first, last)
    ]
    rows = Campaign.objects.filter(Q(starts_on__lte=last) & Q(ends_on__gte=first), brand=brand).order_by(
        "starts_on", "pk"
    )
    campaigns = [
        CampaignBand(
            id=c.pk,
            name=c.name,
            ink=c.ink,
            first=max((c.starts_on - first).days, 0),
            last=min((c.ends_on - first).days, (last - first).days),
            begins=c.starts_on >= first,
            ends=c.ends_on <= last,
        )
        for c in rows
    ]
    return BandsOut(almanac=almanac, campaigns=campaigns)
