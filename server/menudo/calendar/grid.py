"""The grid proof: a photo profile's page as it will be, and swapping the times of two of its posts."""

from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from menudo.base.problems import Invalid
from menudo.people.here import Here
from menudo.posts.models import Delivery
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.proof import has_grid
from menudo_core.signoff.states import DeliveryState, Event, takes
from menudo_core.timing.walltimes import wall_in

_TO_COME = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.SENDING, DeliveryState.HAND]
_MOST_TO_COME, _MOST_OUT = 60, 30


def grid(place: Here, profile: Profile, now: datetime) -> dict[str, Any]:
    """The profile's tiles, the newest first as its page shows them: what is planned, then what is out. Two statements."""
    sheet = sheet_for(place.brand.pk, profile.network)
    if not has_grid(sheet):
        raise Invalid.at("path:id", f"{profile.handle} isn't a page of pictures.", "kind")
    zone = ZoneInfo(profile.zone or place.brand.zone)
    mine = Delivery.objects.filter(brand=place.brand, profile=profile, post__binned__isnull=True)
    to_come = mine.filter(state__in=_TO_COME).order_by("due_at", "pk")[:_MOST_TO_COME]
    out = mine.filter(state=DeliveryState.PUBLISHED).order_by("-published_at", "-pk")[:_MOST_OUT]
    tiles = [_tile(d, zone, now) for d in reversed(list(to_come))] + [_tile(d, zone, now) for d in out]
    return {
        "profile": profile.pk,
        "handle": profile.handle,
        "zone": zone.key,
        "ratio": sheet.proof.crop or 1.0,
        "tiles": tiles,
    }


def _tile(d: Delivery, zone: ZoneInfo, now: datetime) -> dict[str, Any]:
    at = d.published_at if d.state == DeliveryState.PUBLISHED and d.published_at else d.due_at
    moves = takes(DeliveryState(d.state), Event.MOVE) and d.due_at is not None and d.due_at > now
    return {
        "delivery": d.pk, "post": d.post_id, "revision": d.revision, "state": d.state, "thumb": d.thumb_id,
        "pictures": d.pictures, "headline": d.headline, "moves": moves,
        "wall": wall_in(at, zone).isoformat(timespec="minutes") if at else None,
    }  # fmt: skip
