"""Routes for the calendar and the day strip."""

from datetime import date
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.calendar.all_brands import all_brand_lanes
from menudo.calendar.cards import CardsQuery, cards_page
from menudo.calendar.filters import FilterParams
from menudo.calendar.pending import pending_items
from menudo.calendar.schemas import (
    AdvicePage,
    AllBrandsWindow,
    AllOut,
    CalendarWindow,
    CardsOut,
    CardsPage,
    FilterIn,
    Gather,
    TrayPage,
    WindowOut,
    dump_window,
)
from menudo.calendar.schemas_today import StripOut, TodayOut
from menudo.calendar.spacing import with_advice
from menudo.calendar.strip import next_day_strip
from menudo.calendar.today import today_page
from menudo.calendar.tray import unplanned_posts
from menudo.calendar.window import calendar_window
from menudo.people.context import brand_context, current_user
from menudo.talk.schemas import AssignedOut

router = Router(tags=["calendar"])
MAX_DAYS = 62
_LAST_DATE = date(9000, 1, 1)


@router.get("/brands/{brand}/calendar", response=WindowOut, operation_id="calendar")
def get_window(
    request: HttpRequest,
    brand: str,
    narrow: Query[FilterIn],
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=MAX_DAYS)] = 14,
    gather: Gather = "profile",
) -> HttpResponse:
    """A window of the calendar, by default 14 days from today in the brand's zone. Of more cards than can be read it says how many
    there are: for each profile's days, or of each network on a day or in an hour."""
    context = brand_context(request, brand)
    now = clock.now()
    first = require_in_range(first or now.astimezone(context.zone).date())
    return _json_response(
        calendar_window(context, first, days, now, FilterParams(**narrow.model_dump()).to_filter(context), gather)
    )


@router.get("/brands/{brand}/tray", response=TrayPage, operation_id="tray")
def list_tray(request: HttpRequest, brand: str, narrow: Query[FilterIn]) -> TrayPage:
    """The drafts without a date that a filter leaves, the last changed first: 60 at most, and how many there are."""
    context = brand_context(request, brand)
    return unplanned_posts(context, FilterParams(**narrow.model_dump()).to_filter(context))


@router.get("/brands/{brand}/calendar/cards", response=CardsOut, operation_id="cards")
def list_cards(
    request: HttpRequest,
    brand: str,
    narrow: Query[FilterIn],
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=MAX_DAYS)] = 14,
    after: Annotated[str, Field(max_length=40, description="the `next` of the page before")] = "",
    origin: Annotated[date | None, Field(description="the day that counts as nought, by default the first")] = None,
    marks: Annotated[
        bool, Field(description="also gaps and crowding of the profiles that are asked for by name")
    ] = False,
) -> HttpResponse:
    """The cards of a window, earliest first, a page at a time: of the profiles in sight, or of a heap that is opened."""
    context = brand_context(request, brand)
    first = require_in_range(first or clock.now().astimezone(context.zone).date())
    asked = FilterParams(**narrow.model_dump()).to_filter(context)
    counted_from = require_in_range(origin or first, "query:origin")
    return _json_response(cards_page(context, CardsQuery(first, days, counted_from, asked, after, marks)))


def _json_response(window: CalendarWindow | CardsPage | AllBrandsWindow) -> HttpResponse:
    """Thousands of cards: written as they are read, and held against the schema by a test instead of at each answer."""
    return HttpResponse(dump_window(window), content_type="application/json")


@router.get("/brands/{brand}/calendar/advice", response=AdvicePage, operation_id="spacing")
def list_advice(
    request: HttpRequest,
    brand: str,
    narrow: Query[FilterIn],
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=MAX_DAYS)] = 14,
    after: Annotated[int, Field(ge=0, le=1_000_000, description="how many lanes to pass over")] = 0,
) -> AdvicePage:
    """Gaps, crowding and repetition among what is still to come, each with why and a proposed time; a few lanes at a time. Of the
    filter, what it says of profiles counts."""
    context, now = brand_context(request, brand), clock.now()
    first = require_in_range(first or now.astimezone(context.zone).date())
    return with_advice(context, first, days, now, FilterParams(**narrow.model_dump()).to_filter(context), after)


def require_in_range(day: date, field: str = "query:first") -> date:
    """The day, when a calendar has it. Raises InvalidError at the field."""
    if not date(1970, 1, 2) <= day <= _LAST_DATE:
        raise InvalidError.at(field, say("calendar.far"))
    return day


@router.get("/calendar", response=AllOut, operation_id="allBrands")
def get_all_brands(
    request: HttpRequest, first: date | None = None, days: Annotated[int, Field(ge=1, le=MAX_DAYS)] = 14
) -> HttpResponse:
    """The calendar across all my brands, each in its own zone."""
    now = clock.now()
    return _json_response(all_brand_lanes(current_user(request), require_in_range(first or now.date()), days, now))


@router.get("/brands/{brand}/today", response=TodayOut, operation_id="today")
def get_today(request: HttpRequest, brand: str) -> TodayOut:
    """The morning page: what goes out, what waits for a person, what is in trouble."""
    return today_page(brand_context(request, brand), clock.now())


@router.get("/assigned", response=AssignedOut, operation_id="assigned")
def list_pending(request: HttpRequest) -> AssignedOut:
    """What waits on me in every brand of mine, the most urgent first."""
    return pending_items(current_user(request))


@router.get("/brands/{brand}/strip", response=StripOut, operation_id="strip")
def get_strip(request: HttpRequest, brand: str) -> StripOut:
    """The next 24 hours."""
    return next_day_strip(brand_context(request, brand), clock.now())
