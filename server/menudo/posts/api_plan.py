"""Routes for moving and marking many at once, for looking at times, and for campaigns."""

from typing import Any

from django.db import transaction
from django.http import HttpRequest
from ninja import Router, Status

from menudo.base import clock
from menudo.base.problems import ERRORS
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.posts import campaigns, plan_io, reads, schemas
from menudo.posts.actions.campaigns import delete_campaign, keep_campaign
from menudo.posts.actions.follow_zone import follow_zone
from menudo.posts.actions.mark import mark
from menudo.posts.actions.shift import Move, Moved, shift
from menudo.posts.actions.unplan import call_off_many
from menudo.posts.times import times
from menudo_core.timing.walltimes import wall_in

router = Router(tags=["planning"])


@router.post("/brands/{brand}/moves", response={200: schemas.MovedOut, **ERRORS}, operation_id="moveMany")
def move_many(request: HttpRequest, brand: str, data: schemas.MovesIn) -> dict[str, Any]:
    """Move deliveries: to other times or profiles, or to the tray. What can't be moved is left with its reason."""
    place = here(request, brand, May.PUBLISH)
    return _moved(shift(place, [Move(m.id, m.revision, m.wall, m.profile, m.snap) for m in data.moves], data.whole))


@router.post("/brands/{brand}/called-off", response={200: schemas.MovedOut, **ERRORS}, operation_id="callOffMany")
def off_many(request: HttpRequest, brand: str, data: plan_io.OffIn) -> dict[str, Any]:
    """Call deliveries off. What can't be is left with its reason."""
    return _moved(call_off_many(here(request, brand, May.PUBLISH), data.deliveries))


def _moved(done: Moved) -> dict[str, Any]:
    left = [{"delivery": id, "words": words} for id, words in done.left]
    return {"moved": done.moved, "left": left, "undo": done.undo}


@router.post("/brands/{brand}/posts/{id}/times", response={200: list[schemas.TimeOut], **ERRORS}, operation_id="times")
def look(request: HttpRequest, brand: str, id: int, data: plan_io.LookIn) -> list[dict[str, Any]]:
    """When each profile of a post would go out. Nothing is planned; planned with the same seed, it is these times."""
    place = here(request, brand, May.PUBLISH)
    with transaction.atomic():
        mine = reads.post(place, id).deliveries.select_related("post", "profile", "brand").order_by("pk")
        rows = [d for d in mine if data.profiles is None or d.profile_id in data.profiles]
        found = times(place, rows, data.when, clock.now())
    return [
        {
            "profile": d.profile_id, "zone": t.zone.key, "delay": t.delay, "sway": t.sway, "words": "" if t.at else t.why_not,
            "wall": wall_in(t.at, t.zone).isoformat(timespec="minutes") if t.at else None,
        }
        for d in rows
        if (t := found[d.pk])
    ]  # fmt: skip


@router.post("/brands/{brand}/marks", response={200: plan_io.MarkedOut, **ERRORS}, operation_id="markPosts")
def marks(request: HttpRequest, brand: str, data: plan_io.MarkIn) -> dict[str, int]:
    """Put labels on posts, take them off, gather them in a campaign."""
    place = here(request, brand, May.WRITE)
    return {"posts": mark(place, data.posts, data.put, data.off, data.campaign, data.sets_campaign)}


@router.get("/brands/{brand}/campaigns", response={200: list[plan_io.CampaignOut], **ERRORS}, operation_id="campaigns")
def all_campaigns(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """The brand's campaigns and how far each is."""
    return campaigns.campaigns(here(request, brand))


@router.post("/brands/{brand}/campaigns", response={201: plan_io.CampaignOut, **ERRORS}, operation_id="makeCampaign")
def make_campaign(request: HttpRequest, brand: str, data: plan_io.CampaignIn) -> Status[dict[str, Any]]:
    """A new campaign."""
    place = here(request, brand, May.WRITE)
    return Status(201, campaigns.campaign(place, keep_campaign(place, None, **data.model_dump()).pk))


@router.put(
    "/brands/{brand}/campaigns/{id}", response={200: plan_io.CampaignOut, **ERRORS}, operation_id="changeCampaign"
)
def change_campaign(request: HttpRequest, brand: str, id: int, data: plan_io.CampaignIn) -> dict[str, Any]:
    """Change a campaign."""
    place = here(request, brand, May.WRITE)
    return campaigns.campaign(place, keep_campaign(place, id, **data.model_dump()).pk)


@router.delete("/brands/{brand}/campaigns/{id}", response={204: None, **ERRORS}, operation_id="deleteCampaign")
def no_campaign(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Delete a campaign; its posts stay."""
    delete_campaign(here(request, brand, May.WRITE), id)
    return Status(204, None)


@router.post("/brands/{brand}/zone-followed", response={200: plan_io.FollowedOut, **ERRORS}, operation_id="followZone")
def follow(request: HttpRequest, brand: str, data: plan_io.FollowIn) -> dict[str, int]:
    """After a zone was changed: what is planned in it keeps the time on the wall, or the moment."""
    place = here(request, brand, May.MANAGE_PROFILES)
    followed, stay = follow_zone(place, data.profile, data.was, data.hold)
    return {"followed": followed, "stay": stay}
