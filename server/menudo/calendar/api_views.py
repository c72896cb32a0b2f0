"""Routes for kept views, calendar addresses, the almanac, peeks, the grid proof and the plan as CSV."""

from datetime import date, timedelta
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import ERRORS
from menudo.calendar import view_io
from menudo.calendar.actions import keep_almanac as almanacs
from menudo.calendar.actions.keep_view import delete_view, keep_view
from menudo.calendar.actions.subscribe import address_of, revoke, subscribe
from menudo.calendar.api import MOST_DAYS, FilterIn, within
from menudo.calendar.grid import grid
from menudo.calendar.models import Almanac, KeptView, OwnDate, Subscription
from menudo.calendar.narrow import Asked
from menudo.calendar.out import plan_csv, planned
from menudo.calendar.peek import peek
from menudo.people.capabilities import May
from menudo.people.here import Here, here
from menudo.posts.actions.swap import swap
from menudo.profiles.reads import profile
from menudo_core.almanac.observances import observances, observed
from menudo_core.almanac.public_holidays import countries

router = Router(tags=["calendar"])


@router.get("/brands/{brand}/views", response={200: list[view_io.ViewOut], **ERRORS}, operation_id="views")
def views(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """One's own kept views, and those others share."""
    place = here(request, brand)
    rows = KeptView.objects.filter(brand=place.brand).select_related("user")
    return [_view(v, place) for v in rows if v.shared or v.user_id == place.user.pk]


def _view(v: KeptView, place: Here) -> dict[str, Any]:
    mine = v.user_id == place.user.pk
    return {"id": v.pk, "name": v.name, "query": v.query, "shared": v.shared, "mine": mine, "by": v.user.name}


@router.post("/brands/{brand}/views", response={201: view_io.ViewOut, **ERRORS}, operation_id="keepView")
def new_view(request: HttpRequest, brand: str, data: view_io.ViewIn) -> Status[dict[str, Any]]:
    """Keep a view and its filter under a name, over one's own of that name."""
    place = here(request, brand)
    return Status(201, _view(keep_view(place, data.name, data.query, data.shared), place))


@router.delete("/brands/{brand}/views/{id}", response={204: None, **ERRORS}, operation_id="deleteView")
def no_view(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Delete a kept view."""
    delete_view(here(request, brand), id)
    return Status(204, None)


@router.get(
    "/brands/{brand}/subscriptions",
    response={200: list[view_io.SubscriptionOut], **ERRORS},
    operation_id="subscriptions",
)
def subscriptions(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """The addresses at which other programs read the calendar: one's own, and with the right to manage people all."""
    place = here(request, brand)
    rows = Subscription.objects.filter(brand=place.brand, revoked=None).select_related("user").order_by("-made", "-pk")
    if May.MANAGE_PEOPLE not in place.capabilities:
        rows = rows.filter(user=place.user)
    return [_subscription(s, place) for s in rows]


def _subscription(s: Subscription, place: Here) -> dict[str, Any]:
    own = s.user_id == place.user.pk
    return {"id": s.pk, "name": s.name, "by": s.user.name, "own": own, "made": s.made, "read": s.read}


@router.post("/brands/{brand}/subscriptions", response={201: view_io.SubscribedOut, **ERRORS}, operation_id="subscribe")
def new_subscription(request: HttpRequest, brand: str, data: view_io.SubscribeIn) -> Status[dict[str, Any]]:
    """Make a secret address. It is told this once."""
    place = here(request, brand)
    made, token = subscribe(place, data.profiles, data.mine)
    made.refresh_from_db()
    return Status(201, {"subscription": _subscription(made, place), "address": address_of(token)})


@router.delete("/brands/{brand}/subscriptions/{id}", response={204: None, **ERRORS}, operation_id="unsubscribe")
def no_subscription(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Revoke an address."""
    revoke(here(request, brand), id)
    return Status(204, None)


@router.get("/brands/{brand}/almanac", response={200: view_io.AlmanacOut, **ERRORS}, operation_id="almanac")
def almanac(request: HttpRequest, brand: str) -> dict[str, Any]:
    """Which days worth a post the brand sees, and all there are to choose from."""
    return _almanac(here(request, brand))


def _almanac(place: Here) -> dict[str, Any]:
    kept = Almanac.objects.filter(brand=place.brand).first() or Almanac(brand=place.brand)
    today = clock.now().astimezone(place.zone).date()
    next_: dict[str, date] = {}
    for day in observed(today, today + timedelta(days=8 * 366)):
        next_.setdefault(day.key, day.day)
    return {
        "countries": kept.countries, "observances": kept.observances, "without": kept.without,
        "own": list(OwnDate.objects.filter(brand=place.brand)),
        "known": [{"code": code, "name": name} for code, name in countries().items()],
        "all": [{"key": o.key, "name": o.name, "next": next_[o.key], "topics": list(o.topics)} for o in observances()],
    }  # fmt: skip


@router.put("/brands/{brand}/almanac", response={200: view_io.AlmanacOut, **ERRORS}, operation_id="keepAlmanac")
def set_almanac(request: HttpRequest, brand: str, data: view_io.AlmanacIn) -> dict[str, Any]:
    """Choose countries and observances."""
    place = here(request, brand, May.WRITE)
    almanacs.keep_almanac(place, data.countries, data.observances, data.without)
    return _almanac(place)


@router.post("/brands/{brand}/almanac/dates", response={201: view_io.OwnDateOut, **ERRORS}, operation_id="makeDate")
def new_date(request: HttpRequest, brand: str, data: view_io.OwnDateIn) -> Status[OwnDate]:
    """A date of the brand's own."""
    return Status(201, almanacs.keep_own_date(here(request, brand, May.WRITE), None, data.name, data.rule))


@router.put(
    "/brands/{brand}/almanac/dates/{id}", response={200: view_io.OwnDateOut, **ERRORS}, operation_id="changeDate"
)
def other_date(request: HttpRequest, brand: str, id: int, data: view_io.OwnDateIn) -> OwnDate:
    """Change a date of the brand's own."""
    return almanacs.keep_own_date(here(request, brand, May.WRITE), id, data.name, data.rule)


@router.delete("/brands/{brand}/almanac/dates/{id}", response={204: None, **ERRORS}, operation_id="deleteDate")
def no_date(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Delete a date of the brand's own."""
    almanacs.delete_own_date(here(request, brand, May.WRITE), id)
    return Status(204, None)


@router.get("/brands/{brand}/posts/{id}/peek", response={200: view_io.PeekOut, **ERRORS}, operation_id="peek")
def show_peek(request: HttpRequest, brand: str, id: int) -> dict[str, Any]:
    """What a card says without opening it: each network's wording, media, states, findings, and who."""
    return peek(here(request, brand), id)


@router.get("/brands/{brand}/profiles/{id}/grid", response={200: view_io.GridOut, **ERRORS}, operation_id="gridProof")
def show_grid(request: HttpRequest, brand: str, id: int) -> dict[str, Any]:
    """A photo profile's page as it will be."""
    place = here(request, brand)
    return grid(place, profile(place, id), clock.now())


@router.post("/brands/{brand}/swaps", response={200: view_io.SwappedOut, **ERRORS}, operation_id="swapTimes")
def swapped(request: HttpRequest, brand: str, data: view_io.SwapIn) -> dict[str, int]:
    """Let two posts of one profile change places: their times swap."""
    place = here(request, brand, May.PUBLISH)
    return {"undo": swap(place, (data.one.id, data.one.revision), (data.other.id, data.other.revision))}


@router.get("/brands/{brand}/plan", response={200: list[view_io.SaidOut], **ERRORS}, operation_id="planned")
def in_full(
    request: HttpRequest,
    brand: str,
    narrow: Query[FilterIn],
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 14,
) -> list[dict[str, Any]]:
    """What each delivery of the window says, in full."""
    place = here(request, brand)
    begins = within(first or clock.now().astimezone(place.zone).date())
    found = planned(place, begins, days, Asked(**narrow.model_dump()).narrow(place))
    return [
        {
            "delivery": one.id,
            "text": one.content.text,
            "link": one.content.link,
            "first_comment": one.content.first_comment,
            "media": list(one.content.media),
        }
        for one in found
    ]


@router.get("/brands/{brand}/plan.csv", response={200: None, **ERRORS}, operation_id="planCsv")
def as_csv(
    request: HttpRequest,
    brand: str,
    narrow: Query[FilterIn],
    first: date | None = None,
    days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 14,
) -> HttpResponse:
    """The window as CSV, in columns that can be brought in again."""
    place = here(request, brand)
    begins = within(first or clock.now().astimezone(place.zone).date())
    body = plan_csv(place, begins, days, Asked(**narrow.model_dump()).narrow(place))
    response = HttpResponse(body, content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{place.brand.slug}-{begins}.csv"'
    return response
