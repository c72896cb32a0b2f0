"""Checking a network's own fields against its rule sheet."""

import re
from collections.abc import Iterator
from datetime import datetime

from menudo_core.networks.content import Content
from menudo_core.networks.findings import Finding, Level
from menudo_core.networks.places import Ages, InvalidAgesError, unknown_codes
from menudo_core.networks.sheet import FieldRule, RuleSheet
from menudo_core.text.clusters import UNIT_WORDS, measure
from menudo_core.text.links import is_web_address
from menudo_core.text.storable import unstorable_reason

_MOMENT = re.compile(r"\d{4}-\d\d-\d\d[T ]\d\d:\d\d(:\d\d)?")


def field_applies(rule: FieldRule, content: Content) -> bool:
    """Whether the field is asked for now: always, or while another field has one of its values."""
    return rule.when is None or content.fields.get(rule.when[0], "") in rule.when[1]


def applicable_fields(sheet: RuleSheet, content: Content) -> list[FieldRule]:
    """The network's own fields that are asked for now and say something: what is sent, and nothing else."""
    return [rule for rule in sheet.fields if field_applies(rule, content) and content.fields.get(rule.name, "").strip()]


def field_findings(content: Content, sheet: RuleSheet) -> Iterator[Finding]:
    """What the sheet says of its own fields, as far as they are asked for."""
    for rule in sheet.fields:
        if not field_applies(rule, content):
            continue
        value = content.fields.get(rule.name, "").strip()
        yield from _field_value_findings(value, rule, sheet)
        yield from _relation_findings(value, rule, content, sheet)


def _field_value_findings(value: str, rule: FieldRule, sheet: RuleSheet) -> Iterator[Finding]:
    field, label = f"fields/{rule.name}", rule.label.lower()
    if not value:
        if rule.required:
            yield Finding(Level.STOPS, "required", field, f"{sheet.name} needs a {label}. Fill it in.")
        return
    if words := unstorable_reason(value):
        yield Finding(Level.STOPS, "unusable", field, words)
    length = measure(value, sheet.text.unit)
    if rule.limit is not None and length > rule.limit:
        words = (
            f"The {label} may have {rule.limit:,} {UNIT_WORDS[sheet.text.unit]} on {sheet.name}; this has {length:,}."
        )
        yield Finding(Level.STOPS, "too_long", field, words, str(rule.limit), str(length))
    if rule.choices and value not in rule.choices:
        words = f"The {label} on {sheet.name} is one of: {', '.join(rule.choices)}."
        yield Finding(Level.STOPS, "choice", field, words, "", value)
    if rule.type == "address" and not is_web_address(value):
        yield Finding(Level.STOPS, "address", field, f"The {label} must be a whole web address, with https://.")
    yield from _type_findings(field, value, rule)


def _type_findings(field: str, value: str, rule: FieldRule) -> Iterator[Finding]:
    label = rule.label.lower()
    if rule.type == "date" and _parse_wall_time(value) is None:
        yield Finding(Level.STOPS, "date", field, f"The {label} must be a day and a time.", "", value)
    if rule.type == "countries" and (unknown := unknown_codes(value)):
        words = f"No country or region of ISO 3166 is {', '.join(unknown)}. Write codes such as ES or PT-11."
        yield Finding(Level.STOPS, "places", field, words, "", ", ".join(unknown))
    if rule.type == "ages":
        try:
            Ages.parse(value)
        except InvalidAgesError as error:
            yield Finding(Level.STOPS, "ages", field, str(error), "", value)


def _relation_findings(value: str, rule: FieldRule, content: Content, sheet: RuleSheet) -> Iterator[Finding]:
    """What the field says beside the others: a date after another, a button that leads somewhere."""
    field = f"fields/{rule.name}"
    if rule.after and value:
        first, second = _parse_wall_time(content.fields.get(rule.after, "").strip()), _parse_wall_time(value)
        other = next((r.label.lower() for r in sheet.fields if r.name == rule.after), rule.after)
        if first and second and second <= first:
            words = f"The {rule.label.lower()} must be later than the {other}."
            yield Finding(Level.STOPS, "order", field, words, "", value)
    if (
        rule.link_unless is not None
        and value
        and value not in rule.link_unless
        and not _has_destination(content, sheet)
    ):
        words = f"The button “{value}” needs a link to lead to. Add one, or choose {' or '.join(rule.link_unless) or 'no button'}."
        yield Finding(Level.STOPS, "button_link", field, words, "", value)


def _has_destination(content: Content, sheet: RuleSheet) -> bool:
    addresses = [content.fields.get(r.name, "") for r in applicable_fields(sheet, content) if r.type == "address"]
    return bool(content.link.strip() or any(addresses))


def _parse_wall_time(value: str) -> datetime | None:
    """A wall time without a zone, as the field's place has it (ISO 8601: 2026-11-26T15:00); None when it is none."""
    try:
        return datetime.fromisoformat(value) if _MOMENT.fullmatch(value) else None
    except ValueError:
        return None
