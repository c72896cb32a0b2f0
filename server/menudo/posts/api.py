"""Routes for posts and deliveries."""

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from menudo.base.problems import ERRORS
from menudo.base.revisions import began_from
from menudo.history.models import Entry
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.people.models import User
from menudo.posts import reads, schemas
from menudo.posts.actions import attend as attending
from menudo.posts.actions import bin as bin_actions
from menudo.posts.actions import move as move_action
from menudo.posts.actions import plan as plan_action
from menudo.posts.actions import retry as retry_actions
from menudo.posts.actions import save as save_actions
from menudo.posts.actions import undo as undo_action
from menudo.posts.actions import unplan as unplan_actions
from menudo.posts.actions.duplicate import duplicate
from menudo.posts.actions.go_back import go_back, has_state
from menudo.posts.models import Delivery, Post

router = Router(tags=["posts"])


def _tagged(response: HttpResponse, post: Post) -> schemas.PostOut:
    response["ETag"] = f'"{post.revision}"'
    return reads.post_out(post)


def _changed(response: HttpResponse, delivery: Delivery, undo: int | None = None) -> dict[str, Any]:
    response["ETag"] = f'"{delivery.revision}"'
    return {"delivery": reads.delivery_out(delivery), "undo": undo}


@router.post("/brands/{brand}/posts", response={201: schemas.PostOut, **ERRORS}, operation_id="makePost")
def make(request: HttpRequest, response: HttpResponse, brand: str, data: schemas.PostIn) -> Status[schemas.PostOut]:
    """A new draft."""
    return Status(201, _tagged(response, save_actions.make(here(request, brand, May.WRITE), data)))


@router.get("/brands/{brand}/posts/{id}", response={200: schemas.PostOut, **ERRORS}, operation_id="post")
def show(request: HttpRequest, response: HttpResponse, brand: str, id: int) -> schemas.PostOut:
    """A whole post; its revision is the ETag."""
    return _tagged(response, reads.post(here(request, brand), id))


@router.put("/brands/{brand}/posts/{id}", response={200: schemas.PostOut, **ERRORS}, operation_id="savePost")
def save(request: HttpRequest, response: HttpResponse, brand: str, id: int, data: schemas.PostIn) -> schemas.PostOut:
    """Keep a changed post (If-Match)."""
    place = here(request, brand, May.WRITE)
    return _tagged(response, save_actions.save(place, reads.post(place, id), data, began_from(request)))


@router.delete("/brands/{brand}/posts/{id}", response={204: None, **ERRORS}, operation_id="binPost")
def put_in_bin(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Put a draft in the bin."""
    place = here(request, brand)
    bin_actions.put_in_bin(place, reads.post(place, id))
    return Status(204, None)


@router.post(
    "/brands/{brand}/posts/{id}/restore", response={200: schemas.PostOut, **ERRORS}, operation_id="restorePost"
)
def restore(request: HttpRequest, response: HttpResponse, brand: str, id: int) -> schemas.PostOut:
    """Take a post out of the bin."""
    return _tagged(response, bin_actions.restore(here(request, brand), id))


@router.get(
    "/brands/{brand}/posts/{id}/history", response={200: list[schemas.EntryOut], **ERRORS}, operation_id="postHistory"
)
def history(request: HttpRequest, brand: str, id: int) -> list[dict]:
    """What happened to a post and its deliveries, newest first."""
    place = here(request, brand)
    post = reads.post(place, id)
    own = Entry.objects.filter(brand_id=place.brand.pk, kind="post", object_id=post.pk)
    theirs = Entry.objects.filter(
        brand_id=place.brand.pk, kind="delivery", object_id__in=post.deliveries.values_list("pk", flat=True)
    )
    found = own.union(theirs).order_by("-id")[:200]
    return [{"id": e.pk, "at": e.at, "who": e.actor_name, "words": e.words, "state": has_state(e)} for e in found]


@router.post(
    "/brands/{brand}/posts/{id}/back-to/{entry}", response={200: schemas.PostOut, **ERRORS}, operation_id="goBack"
)
def back_to(request: HttpRequest, response: HttpResponse, brand: str, id: int, entry: int) -> schemas.PostOut:
    """Go back to how the post was after an entry of its history (If-Match)."""
    place = here(request, brand, May.WRITE)
    return _tagged(response, go_back(place, reads.post(place, id), entry, began_from(request)))


@router.post(
    "/brands/{brand}/posts/{id}/duplicate", response={201: schemas.PostOut, **ERRORS}, operation_id="duplicatePost"
)
def make_copy(
    request: HttpRequest, response: HttpResponse, brand: str, id: int, data: schemas.DuplicateIn
) -> Status[schemas.PostOut]:
    """A copy as a new draft, with or without the times."""
    place = here(request, brand, May.WRITE)
    return Status(201, _tagged(response, duplicate(place, reads.post(place, id), data.times)))


@router.get("/brands/{brand}/bin", response={200: list[schemas.BinnedOut], **ERRORS}, operation_id="bin")
def binned(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """The posts in the bin, newest first."""
    return reads.binned(here(request, brand))


@router.post(
    "/brands/{brand}/posts/{id}/here", response={200: list[schemas.AttendantOut], **ERRORS}, operation_id="attend"
)
def attend(request: HttpRequest, brand: str, id: int) -> list[User]:
    """Say that one has the post open. Who else has."""
    place = here(request, brand)
    return attending.attend(place, reads.post(place, id))


@router.delete("/brands/{brand}/posts/{id}/here", response={204: None, **ERRORS}, operation_id="leave")
def leave(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Say that one has closed the post."""
    place = here(request, brand)
    attending.leave(place, reads.post(place, id))
    return Status(204, None)


@router.post("/brands/{brand}/posts/{id}/plan", response={200: schemas.PlanOut, **ERRORS}, operation_id="planPost")
def plan(request: HttpRequest, response: HttpResponse, brand: str, id: int, data: schemas.PlanIn) -> dict[str, Any]:
    """Plan every delivery that fits; the others are left with their reason (If-Match)."""
    place = here(request, brand, May.PUBLISH)
    done = plan_action.plan(place, reads.post(place, id), data.when, data.profiles, began_from(request))
    left = [{"profile": profile, "words": words} for profile, words in done.left]
    return {"post": _tagged(response, done.post), "planned": done.planned, "left": left, "undo": done.undo}


@router.get("/brands/{brand}/deliveries/{id}", response={200: schemas.DeliveryPage, **ERRORS}, operation_id="delivery")
def show_delivery(request: HttpRequest, brand: str, id: int) -> schemas.DeliveryPage:
    """One delivery, with what it says."""
    return reads.delivery_page(reads.delivery(here(request, brand), id))


@router.post(
    "/brands/{brand}/deliveries/{id}/move", response={200: schemas.ChangedOut, **ERRORS}, operation_id="moveDelivery"
)
def move(request: HttpRequest, response: HttpResponse, brand: str, id: int, data: schemas.MoveIn) -> dict[str, Any]:
    """Give a delivery another time (If-Match)."""
    place = here(request, brand, May.PUBLISH)
    return _changed(response, *move_action.move(place, reads.delivery(place, id), data.wall, began_from(request)))


@router.post(
    "/brands/{brand}/deliveries/{id}/unplan",
    response={200: schemas.ChangedOut, **ERRORS},
    operation_id="unplanDelivery",
)
def unplan(request: HttpRequest, response: HttpResponse, brand: str, id: int) -> dict[str, Any]:
    """Take a delivery off the calendar (If-Match)."""
    place = here(request, brand, May.PUBLISH)
    return _changed(response, *unplan_actions.unplan(place, reads.delivery(place, id), began_from(request)))


@router.post(
    "/brands/{brand}/deliveries/{id}/call-off",
    response={200: schemas.ChangedOut, **ERRORS},
    operation_id="callOffDelivery",
)
def call_off(request: HttpRequest, response: HttpResponse, brand: str, id: int) -> dict[str, Any]:
    """Call a delivery off (If-Match)."""
    place = here(request, brand, May.PUBLISH)
    return _changed(response, *unplan_actions.call_off(place, reads.delivery(place, id), began_from(request)))


@router.post(
    "/brands/{brand}/deliveries/{id}/retry", response={200: schemas.ChangedOut, **ERRORS}, operation_id="retryDelivery"
)
def retry(request: HttpRequest, response: HttpResponse, brand: str, id: int) -> dict[str, Any]:
    """Send a delivery in trouble again (If-Match)."""
    place = here(request, brand, May.PUBLISH)
    return _changed(response, retry_actions.retry(place, reads.delivery(place, id), began_from(request)))


@router.post(
    "/brands/{brand}/deliveries/{id}/settle",
    response={200: schemas.ChangedOut, **ERRORS},
    operation_id="settleDelivery",
)
def settle(request: HttpRequest, response: HttpResponse, brand: str, id: int, data: schemas.SettleIn) -> dict[str, Any]:
    """Say whether a delivery that may have gone out is at the network (If-Match)."""
    place = here(request, brand, May.PUBLISH)
    found = reads.delivery(place, id)
    return _changed(response, retry_actions.settle(place, found, data.is_there, data.url, began_from(request)))


@router.post("/brands/{brand}/undo/{entry}", response={200: schemas.UndoneOut, **ERRORS}, operation_id="undo")
def undo(request: HttpRequest, brand: str, entry: int) -> dict[str, str]:
    """Undo what one did oneself."""
    return {"words": undo_action.undo(here(request, brand, May.PUBLISH), entry)}
