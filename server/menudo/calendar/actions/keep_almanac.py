"""Which days worth a post a brand sees, and its own dates."""

from datetime import date

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.base.rows import the_one
from menudo.calendar.models import Almanac, OwnDate
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo_core.almanac.observances import observances
from menudo_core.almanac.public_holidays import countries
from menudo_core.almanac.rules import BadRule, day_of
from menudo_core.text.clean import unusable

_MOST_COUNTRIES, _MOST_DATES = 12, 200


def keep_almanac(place: Here, chosen: list[str], shows: bool, without: list[str]) -> Almanac:
    """Public holidays of these countries; observances, or none, but for those `without`. Raises Invalid."""
    place.needs(May.WRITE)
    known = countries()
    for n, code in enumerate(chosen):
        if code not in known:
            raise Invalid.at(f"/countries/{n}", f"No holidays are known for “{code[:10]}”.", "choice")
    if len(set(chosen)) > _MOST_COUNTRIES:
        raise Invalid.at("/countries", f"At most {_MOST_COUNTRIES} countries.", "many")
    keys = {one.key for one in observances()}
    with transaction.atomic():
        kept, _ = Almanac.objects.get_or_create(brand=place.brand)
        kept.countries = sorted(set(chosen))
        kept.observances = shows
        kept.without = sorted(set(without) & keys)
        kept.save()
        record(place.brand.pk, place.actor, "keep_almanac", "almanac", kept.pk, "changed the almanac")
        tell(place.brand.pk, "almanac", kept.pk)
    return kept


def keep_own_date(place: Here, id: int | None, name: str, rule: str) -> OwnDate:
    """A date of the brand's own: one day (2026-12-13) or every year by a rule (12-13). Raises Invalid, NotFound."""
    place.needs(May.WRITE)
    row = _own_date(place, id) if id is not None else OwnDate(brand=place.brand)
    name, rule = " ".join(name.split()), rule.strip().lower()
    if words := unusable(name) or ("" if name else "Give the day a name."):
        raise Invalid.at("/name", words)
    if not _readable(rule):
        words = "Write a day as 2026-12-13, or for every year as 12-13, “first sun of 05” or “easter +1”."
        raise Invalid.at("/rule", words, "rule")
    if id is None and OwnDate.objects.filter(brand=place.brand).count() >= _MOST_DATES:
        raise Invalid.at("/name", f"There are {_MOST_DATES} dates already.", "many")
    with transaction.atomic():
        row.name, row.rule = name[:120], rule
        row.save()
        record(place.brand.pk, place.actor, "keep_date", "almanac", row.pk, f"kept the date {name}")
        tell(place.brand.pk, "almanac", row.pk)
    return row


def delete_own_date(place: Here, id: int) -> None:
    place.needs(May.WRITE)
    with transaction.atomic():
        row = _own_date(place, id)
        record(place.brand.pk, place.actor, "delete_date", "almanac", row.pk, f"deleted the date {row.name}")
        row.delete()
        tell(place.brand.pk, "almanac", id)


def _own_date(place: Here, id: int) -> OwnDate:
    return the_one(OwnDate.objects.filter(brand=place.brand, pk=id))


def _readable(rule: str) -> bool:
    try:
        if len(rule) == 10 and rule[4] == "-":
            date.fromisoformat(rule)
        else:
            day_of(rule, 2028)
    except (BadRule, ValueError):
        return False
    return True
