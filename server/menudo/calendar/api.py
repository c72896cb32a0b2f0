"""Routes for the calendar, the day strip and the profiles page."""

import json
from datetime import date, datetime
from typing import Annotated, Any

from django.db.models import Count, Max, Q
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import ERRORS, Invalid
from menudo.calendar import reads
from menudo.calendar.everywhere import everywhere
from menudo.calendar.narrow import Asked
from menudo.calendar.schemas import AdviceOut, AllOut, StripOut, TodayOut, WindowOut
from menudo.calendar.spacing import counselled
from menudo.calendar.today import today
from menudo.calendar.waiting import waiting
from menudo.people.here import Here, here, signed_in
from menudo.profiles.reads import pauses, profiles, unmet_of, wishes_out
from menudo.profiles.schemas import ProfileOut
from menudo.profiles.sheets import sheets_of
from menudo.profiles.standing import usable
from menudo.talk.schemas import WaitingOut
from menudo_core.networks.sheet import RuleSheet
from menudo_core.profiles.endings import WARN_DAYS, days_left
from menudo_core.signoff.states import DeliveryState

router = Router(tags=["calendar"])
MOST_DAYS = 62
_PLANNED = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.HAND]
_FURTHEST = date(9000, 1, 1)


class FilterIn(Schema):
    """The filter of every view: ids and names with commas; empty is all."""

    sets: str = Field(default="", max_length=2000, description="profile sets")
    profiles: str = Field(default="", max_length=5000)
    networks: str = Field(default="", max_length=2000)
    states: str = Field(default="", max_length=300, description="of deliveries")
    labels: str = Field(default="", max_length=2000)
    campaigns: str = Field(default="", max_length=2000)
    people: str = Field(default="", max_length=2000, description="authors")
    words: str = Field(default="", max_length=200, description="in title, text or card")


@router.get("/brands/{brand}/calendar", response={200: WindowOut, **ERRORS}, operation_id="calendar")
def window(
    request: HttpRequest,
    brand: str,
    narrow: Query[FilterIn],
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 14,
) -> HttpResponse:
    """A window of the calendar, by default 14 days from today in the brand's zone."""
    place = here(request, brand)
    now = clock.now()
    first = within(first or now.astimezone(place.zone).date())
    found = reads.window(place, first, days, now, Asked(**narrow.model_dump()).narrow(place))
    return _as_it_is(found)


def _as_it_is(found: dict[str, Any]) -> HttpResponse:
    """Thousands of cards: written as they are read, and held against the schema by a test instead of at each answer."""
    return HttpResponse(json.dumps(found, default=str), content_type="application/json")


@router.get("/brands/{brand}/calendar/advice", response={200: list[AdviceOut], **ERRORS}, operation_id="spacing")
def spacing(
    request: HttpRequest, brand: str, first: date | None = None, days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 14
) -> list[dict[str, Any]]:
    """Gaps, crowding and repetition among what is still to come, each with why and a proposed time."""
    place, now = here(request, brand), clock.now()
    return counselled(place, within(first or now.astimezone(place.zone).date()), days, now)


def within(first: date) -> date:
    if not date(1970, 1, 2) <= first <= _FURTHEST:
        raise Invalid.at("query:first", "The calendar runs from 1970 to 9000.", "far")
    return first


@router.get("/calendar", response={200: AllOut, **ERRORS}, operation_id="everywhere")
def all_brands(
    request: HttpRequest, first: date | None = None, days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 14
) -> HttpResponse:
    """The calendar across all my brands, each in its own zone."""
    now = clock.now()
    return _as_it_is(everywhere(signed_in(request), within(first or now.date()), days, now))


@router.get("/brands/{brand}/today", response={200: TodayOut, **ERRORS}, operation_id="today")
def morning(request: HttpRequest, brand: str) -> dict[str, Any]:
    """The morning page: what goes out, what waits for a person, what is in trouble."""
    return today(here(request, brand), clock.now())


@router.get("/waiting", response={200: WaitingOut, **ERRORS}, operation_id="waiting")
def on_me(request: HttpRequest) -> WaitingOut:
    """What waits on me in every brand of mine, the most urgent first."""
    return waiting(signed_in(request))


@router.get("/brands/{brand}/strip", response={200: StripOut, **ERRORS}, operation_id="strip")
def strip(request: HttpRequest, brand: str) -> dict[str, Any]:
    """The next 24 hours."""
    return reads.strip(here(request, brand), clock.now())


@router.get("/brands/{brand}/profiles", response={200: list[ProfileOut], **ERRORS}, operation_id="profiles")
def all_profiles(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """Every profile of the brand, with what is planned for it and what is in trouble."""
    place = here(request, brand)
    now = clock.now()
    counted = profiles(place).annotate(
        planned=Count("deliveries", filter=Q(deliveries__state__in=_PLANNED)),
        trouble=Count("deliveries", filter=Q(deliveries__state__in=[DeliveryState.TROUBLE, DeliveryState.MISSED])),
        last_published=Max("deliveries__published_at"),
    )
    # Where rows are grouped, the model's own order doesn't hold.
    counted = counted.order_by("network", "handle", "pk")
    paused = {p["profile"]: p for p in pauses(place.brand)}
    sheets = sheets_of(place.brand.pk)
    return [_profile(p, place, paused.get(p.pk), sheets, now) for p in counted]


def _profile(p: Any, place: Here, paused: dict | None, sheets: dict[str, RuleSheet], now: datetime) -> dict[str, Any]:
    connection = p.connection
    ends = connection.ends if connection else None
    left = days_left(ends, now) if ends else None
    return {
        "id": p.pk, "network": p.network, "handle": p.handle, "name": p.name, "called": p.called, "kind": p.kind, "url": p.url, "site": p.site,
        "followers": p.followers, "zone": p.zone or place.brand.zone, "zone_own": bool(p.zone), "state": p.state,
        "usable": usable(p), "paused": paused, "account": connection.account if connection else "",
        "connection": connection.pk if connection else None, "connection_ends": ends, "ends_in_days": left,
        "warning": left is not None and left <= max(WARN_DAYS),
        "by_link": connection.link.called if connection and connection.link else "", "unmet": unmet_of(p, sheets),
        "keeper": p.keeper_id, "keeper_name": p.keeper.name if p.keeper else "", "planned": p.planned, "trouble": p.trouble,
        "last_published": p.last_published, "wishes": wishes_out(p),
        "slots": [{"weekday": s.weekday, "at": s.at, "label": s.label_id} for s in p.slots.all()],
    }  # fmt: skip
