"""Which days worth a post a brand sees, and its own dates."""

from datetime import date

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import InvalidError
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.calendar.models import Almanac, CustomDate
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo_core.almanac.observances import all_observances
from menudo_core.almanac.public_holidays import holiday_countries
from menudo_core.almanac.rules import InvalidRuleError, day_of

_MOST_COUNTRIES, _MOST_DATES = 12, 200


def save_almanac(context: BrandContext, chosen: list[str], shows: bool, without: list[str]) -> Almanac:
    """Public holidays of these countries; observances, or none, but for those `without`. Raises InvalidError."""
    context.require(Capability.WRITE)
    known = holiday_countries()
    for n, code in enumerate(chosen):
        if code not in known:
            raise InvalidError.at(f"/countries/{n}", say("almanac.no_holidays", country=code[:10]))
    if len(set(chosen)) > _MOST_COUNTRIES:
        raise InvalidError.at("/countries", say("almanac.many_countries", most=_MOST_COUNTRIES))
    keys = {one.key for one in all_observances()}
    with transaction.atomic():
        kept, _ = Almanac.objects.get_or_create(brand=context.brand)
        kept.countries = sorted(set(chosen))
        kept.observances = shows
        kept.excluded = sorted(set(without) & keys)
        kept.save()
        record_event(context.brand.pk, context.actor, "keep_almanac", "almanac", kept.pk, say("almanac.changed"))
        publish_change(context.brand.pk, "almanac", kept.pk)
    return kept


def save_custom_date(context: BrandContext, date_id: int | None, name: str, rule: str) -> CustomDate:
    """A date of the brand's own: one day (2026-12-13) or every year by a rule (12-13). Raises InvalidError, NotFoundError."""
    context.require(Capability.WRITE)
    row = _custom_date(context, date_id) if date_id is not None else CustomDate(brand=context.brand)
    name, rule = " ".join(name.split()), rule.strip().lower()
    if words := storage_refusal(name) or (None if name else say("almanac.nameless")):
        raise InvalidError.at("/name", words)
    if not _is_valid_rule(rule):
        raise InvalidError.at("/rule", say("almanac.rule"))
    if date_id is None and CustomDate.objects.filter(brand=context.brand).count() >= _MOST_DATES:
        raise InvalidError.at("/name", say("almanac.many_dates", most=_MOST_DATES))
    with transaction.atomic():
        row.name, row.rule = name[:120], rule
        row.save()
        record_event(context.brand.pk, context.actor, "keep_date", "almanac", row.pk, say("date.kept", name=name))
        publish_change(context.brand.pk, "almanac", row.pk)
    return row


def delete_custom_date(context: BrandContext, date_id: int) -> None:
    context.require(Capability.WRITE)
    with transaction.atomic():
        row = _custom_date(context, date_id)
        record_event(
            context.brand.pk, context.actor, "delete_date", "almanac", row.pk, say("date.deleted", name=row.name)
        )
        row.delete()
        publish_change(context.brand.pk, "almanac", date_id)


def _custom_date(context: BrandContext, date_id: int) -> CustomDate:
    return first_or_404(CustomDate.objects.filter(brand=context.brand, pk=date_id))


def _is_valid_rule(rule: str) -> bool:
    try:
        if len(rule) == 10 and rule[4] == "-":
            date.fromisoformat(rule)
        else:
            day_of(rule, 2028)
    except (InvalidRuleError, ValueError):
        return False
    return True
