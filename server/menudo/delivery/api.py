"""Routes for what stands in the way of posts: pauses, ended connections, what was missed; and for publishing by hand."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from menudo.base import clock
from menudo.base.problems import ERRORS
from menudo.base.revisions import began_from
from menudo.delivery import reads, schemas
from menudo.delivery.actions import hand, pause
from menudo.delivery.actions.catch_up import catch_up
from menudo.delivery.actions.comment import try_comment
from menudo.delivery.actions.disconnect import disconnect
from menudo.delivery.actions.look_again import look_again
from menudo.people.capabilities import May
from menudo.people.here import Here, here, signed_in
from menudo.people.models import Membership
from menudo.posts.models import Delivery
from menudo.posts.reads import delivery as one_delivery
from menudo.posts.reads import delivery_out
from menudo.posts.schemas import ChangedOut, DeliveryOut
from menudo.profiles.reads import pause_out, profile
from menudo.profiles.schemas import PauseOut

router = Router(tags=["delivery"])


@router.get("/brands/{brand}/standing", response={200: schemas.StandingOut, **ERRORS}, operation_id="standing")
def standing(request: HttpRequest, brand: str) -> dict[str, Any]:
    """What stands in the way of the brand's posts just now."""
    return reads.standing(here(request, brand).brand, clock.now())


@router.post("/brands/{brand}/profiles/{id}/check", response={200: str, **ERRORS}, operation_id="checkProfile")
def check(request: HttpRequest, brand: str, id: int) -> str:
    """Ask the network whether the profile's conditions are met now. Its state."""
    place = here(request, brand, May.MANAGE_PROFILES)
    return look_again(place, profile(place, id)).state


@router.post(
    "/brands/{brand}/profiles/{id}/disconnect",
    response={200: schemas.CountOut, **ERRORS},
    operation_id="disconnectProfile",
)
def put_off(request: HttpRequest, brand: str, id: int, data: schemas.DisconnectIn) -> dict[str, int]:
    """Disconnect a profile. How many planned deliveries were made drafts or called off."""
    place = here(request, brand, May.MANAGE_PROFILES)
    return {"count": disconnect(place, profile(place, id), data.then)}


@router.post("/brands/{brand}/pauses", response={201: PauseOut, **ERRORS}, operation_id="pause")
def begin_pause(request: HttpRequest, brand: str, data: schemas.PauseIn) -> Status[dict[str, Any]]:
    """Pause a profile or the brand, from now on."""
    place = here(request, brand, May.PUBLISH)
    whose = profile(place, data.profile) if data.profile is not None else None
    return Status(201, pause_out(pause.pause(place, whose, data.until, data.why)))


@router.post("/brands/{brand}/pauses/{id}/end", response={200: PauseOut, **ERRORS}, operation_id="resume")
def end_pause(request: HttpRequest, brand: str, id: int) -> dict[str, Any]:
    """Resume. What was missed waits for a choice."""
    return pause_out(pause.resume(here(request, brand, May.PUBLISH), id))


def _mine(request: HttpRequest) -> list[Here]:
    """Every brand in which the person may publish."""
    user = signed_in(request)
    members = Membership.objects.select_related("brand").filter(user=user, capabilities__contains=[May.PUBLISH])
    return [Here(user, m.brand, frozenset(m.capabilities)) for m in members]


@router.post("/pauses", response={200: schemas.CountOut, **ERRORS}, operation_id="pauseAll")
def pause_all(request: HttpRequest, data: schemas.PauseAllIn) -> dict[str, int]:
    """Pause every brand one may publish in. How many; those paused already stay as they are."""
    return {"count": pause.pause_all(_mine(request), data.until, data.why)}


@router.post("/pauses/end", response={200: schemas.CountOut, **ERRORS}, operation_id="resumeAll")
def resume_all(request: HttpRequest) -> dict[str, int]:
    """Resume every brand one may publish in. How many."""
    return {"count": pause.resume_all(_mine(request))}


@router.post("/brands/{brand}/catch-up", response={200: schemas.CaughtUpOut, **ERRORS}, operation_id="catchUp")
def choose(request: HttpRequest, brand: str, data: schemas.CatchUpIn) -> dict[str, int]:
    """Say what happens to what was missed while paused or disconnected."""
    caught = catch_up(here(request, brand, May.PUBLISH), data.choice)
    return {"count": caught.count, "undo": caught.undo}


def _by_hand(response: HttpResponse, row: Delivery) -> DeliveryOut:
    response["ETag"] = f'"{row.revision}"'
    return delivery_out(row)


@router.post("/brands/{brand}/deliveries/{id}/done", response={200: DeliveryOut, **ERRORS}, operation_id="handDone")
def done(request: HttpRequest, response: HttpResponse, brand: str, id: int, data: schemas.DoneIn) -> DeliveryOut:
    """It is published by hand (If-Match)."""
    place = here(request, brand)
    return _by_hand(response, hand.done(place, one_delivery(place, id), data.url, began_from(request)))


@router.post(
    "/brands/{brand}/deliveries/{id}/not-done", response={200: DeliveryOut, **ERRORS}, operation_id="handNotDone"
)
def not_done(request: HttpRequest, response: HttpResponse, brand: str, id: int, data: schemas.NotDoneIn) -> DeliveryOut:
    """It won't be published by hand, and why (If-Match)."""
    place = here(request, brand)
    return _by_hand(response, hand.not_done(place, one_delivery(place, id), data.why, began_from(request)))


@router.post("/brands/{brand}/deliveries/{id}/later", response={200: DeliveryOut, **ERRORS}, operation_id="handLater")
def later(request: HttpRequest, response: HttpResponse, brand: str, id: int, data: schemas.LaterIn) -> DeliveryOut:
    """It will be published by hand at another time (If-Match)."""
    place = here(request, brand)
    return _by_hand(response, hand.later(place, one_delivery(place, id), data.wall, began_from(request)))


@router.post("/brands/{brand}/deliveries/{id}/comment", response={200: ChangedOut, **ERRORS}, operation_id="tryComment")
def comment_again(request: HttpRequest, response: HttpResponse, brand: str, id: int) -> dict[str, Any]:
    """Try the first comment again that failed alone (If-Match)."""
    place = here(request, brand, May.PUBLISH)
    row = try_comment(place, one_delivery(place, id), began_from(request))
    return {"delivery": _by_hand(response, row), "undo": None}
