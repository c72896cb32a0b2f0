"""Routes for trouble, for what is out already, and for how fresh listings are."""

from datetime import datetime
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import ERRORS
from menudo.base.revisions import began_from
from menudo.base.schemas import In
from menudo.delivery.actions.at_the_network import bring_up_to_date, take_down
from menudo.delivery.listings import listings
from menudo.delivery.troubles import troubles
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.posts.actions.retry_many import retry_many
from menudo.posts.content_io import Id
from menudo.posts.reads import delivery, delivery_out
from menudo.posts.schemas import ChangedOut, LeftDelivery

router = Router(tags=["delivery"])


class TroubleItem(Schema):
    """One delivery that needs a person."""

    delivery: int
    post: int
    revision: int
    headline: str
    handle: str
    network: str
    due_at: datetime | None
    state: str
    reason: str
    tries: int
    can: list[str]


class TroubleGroup(Schema):
    """Trouble of one cause. `mend`: retry, write, look, reconnect, plan, sign or comment."""

    cause: str
    network: str
    title: str
    advice: str
    mend: str
    items: list[TroubleItem]


class SentCount(Schema):
    profile: int
    handle: str
    network: str
    sent: int
    failed: int


class TroublesOut(Schema):
    groups: list[TroubleGroup]
    counts: list[SentCount]
    days: int


class RetryAt(In):
    id: Id
    revision: int


class RetriesIn(In):
    deliveries: list[RetryAt] = Field(min_length=1, max_length=500)


class RetriedOut(Schema):
    done: int
    left: list[LeftDelivery]


class ListingOut(Schema):
    """How fresh a location's listing is. `ends_at`: when the last post that is there ends; null: none is there."""

    profile: int
    handle: str
    last_at: datetime | None
    ends_at: datetime | None
    next_at: datetime | None
    there: int
    cap: int | None
    state: str = Field(description="fresh, ending (within two days) or empty")


@router.get("/brands/{brand}/troubles", response={200: TroublesOut, **ERRORS}, operation_id="troubles")
def all_troubles(
    request: HttpRequest,
    brand: str,
    days: Annotated[int, Query(ge=1, le=366)] = 30,
    profile: Annotated[int | None, Query(ge=1, le=2**63 - 1)] = None,
) -> dict[str, Any]:
    """Everything that needs a person, by cause; and counts of sent and failed by profile."""
    return troubles(here(request, brand).brand, days, profile, clock.now())


@router.post("/brands/{brand}/troubles/retry", response={200: RetriedOut, **ERRORS}, operation_id="retryMany")
def again(request: HttpRequest, brand: str, data: RetriesIn) -> dict[str, Any]:
    """Send many again."""
    done, left = retry_many(here(request, brand, May.PUBLISH), [(d.id, d.revision) for d in data.deliveries])
    return {"done": done, "left": [{"delivery": id, "words": words} for id, words in left]}


@router.post("/brands/{brand}/deliveries/{id}/take-down", response={200: ChangedOut, **ERRORS}, operation_id="takeDown")
def down(request: HttpRequest, response: HttpResponse, brand: str, id: int) -> dict[str, Any]:
    """Take a published post down at the network (If-Match)."""
    place = here(request, brand, May.DELETE)
    row = take_down(place, delivery(place, id), began_from(request))
    response["ETag"] = f'"{row.revision}"'
    return {"delivery": delivery_out(row), "undo": None}


@router.post(
    "/brands/{brand}/deliveries/{id}/update-there", response={200: ChangedOut, **ERRORS}, operation_id="updateThere"
)
def update(request: HttpRequest, response: HttpResponse, brand: str, id: int) -> dict[str, Any]:
    """Bring the text of a published post up to date at the network (If-Match)."""
    place = here(request, brand, May.PUBLISH)
    row = bring_up_to_date(place, delivery(place, id), began_from(request))
    response["ETag"] = f'"{row.revision}"'
    return {"delivery": delivery_out(row), "undo": None}


@router.get("/brands/{brand}/listings", response={200: list[ListingOut], **ERRORS}, operation_id="listings")
def all_listings(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """How fresh each location's listing is: the emptiest first."""
    return listings(here(request, brand).brand, clock.now())
