"""The grid proof: a photo profile's page as it will be, and swapping the times of two of its posts."""

from datetime import datetime
from zoneinfo import ZoneInfo

from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.calendar import schemas_views
from menudo.people.context import BrandContext
from menudo.posts.models import Delivery
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.proof import has_grid
from menudo_core.signoff.states import DeliveryState, Event, accepts
from menudo_core.timing.walltimes import wall_time_in

_UPCOMING_STATES = [DeliveryState.PLANNED, DeliveryState.HELD, DeliveryState.SENDING, DeliveryState.HAND]
_MOST_TO_COME, _MOST_OUT = 60, 30


def profile_grid(context: BrandContext, profile: Profile, now: datetime) -> schemas_views.GridOut:
    """The profile's tiles, the newest first as its page shows them: what is planned, then what is out. Two statements."""
    sheet = sheet_for(context.brand.pk, profile.network)
    if not has_grid(sheet):
        raise InvalidError.at("path:id", say("profile.not_pictures", profile=profile.handle))
    zone = ZoneInfo(profile.zone or context.brand.zone)
    mine = Delivery.objects.filter(brand=context.brand, profile=profile, post__deleted_at__isnull=True)
    to_come = mine.filter(state__in=_UPCOMING_STATES).order_by("due_at", "pk")[:_MOST_TO_COME]
    out = mine.filter(state=DeliveryState.PUBLISHED).order_by("-published_at", "-pk")[:_MOST_OUT]
    tiles = [_tile_of(d, zone, now) for d in reversed(list(to_come))] + [_tile_of(d, zone, now) for d in out]
    return schemas_views.GridOut(
        profile=profile.pk,
        handle=profile.handle,
        zone=zone.key,
        ratio=sheet.proof.crop or 1.0,
        tiles=tiles,
    )


def _tile_of(d: Delivery, zone: ZoneInfo, now: datetime) -> schemas_views.TileOut:
    at = d.published_at if d.state == DeliveryState.PUBLISHED and d.published_at else d.due_at
    moves = accepts(DeliveryState(d.state), Event.MOVE) and d.due_at is not None and d.due_at > now
    return schemas_views.TileOut(
        delivery=d.pk,
        post=d.post_id,
        revision=d.revision,
        state=d.state,
        thumb=d.thumb_id,
        pictures=d.picture_count,
        headline=d.headline,
        moves=moves,
        wall_time=wall_time_in(at, zone).isoformat(timespec="minutes") if at else None,
    )
