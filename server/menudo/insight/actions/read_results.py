"""Ask the networks what our posts have earned, and keep it: each profile's in a job of its own."""

from datetime import datetime, timedelta

from django.db.models import QuerySet

from menudo.base import clock
from menudo.base.engine import enqueue_outward
from menudo.insight.models import Reading
from menudo.networks import sign_in
from menudo.networks.registry import open_adapter, queried_address
from menudo.posts.models import Delivery
from menudo.profiles.actions.refresh_token import working_token
from menudo.profiles.models import Profile
from menudo_core.signoff.states import DeliveryState

# What is older hardly earns any more.
_LOOKS_BACK = timedelta(days=30)


def enqueue_readings() -> int:
    """A job for every connected profile with posts of the last 30 days. How many."""
    profiles = _profiles_to_read().filter(connection__isnull=False).select_related("connection").order_by("pk")
    return sum(
        enqueue_outward("read_results", f"results:{p.pk}", queried_address(p.connection.endpoints), profile=p.pk)
        for p in profiles
        if p.connection is not None
    )


def read_results() -> int:
    """All of them now, one after another. How many readings were kept."""
    return sum(
        read_profile_results(profile_id)
        for profile_id in _profiles_to_read().order_by("pk").values_list("pk", flat=True)
    )


def read_profile_results(profile_id: int) -> int:
    """What one profile's posts have earned; one that doesn't answer is left for the next hour. How many readings were kept."""
    now = clock.now()
    profile = Profile.objects.select_related("connection").filter(pk=profile_id).first()
    connection = profile.connection if profile else None
    if profile is None or connection is None:
        return 0
    try:
        wire = open_adapter(connection.endpoints, working_token(connection))
        earned = {one.url: one for one in wire.results(profile.remote_id)}
    except (sign_in.ConnectionEndedError, sign_in.NetworkError):
        return 0
    rows = [
        Reading(
            delivery=d,
            brand_id=d.brand_id,
            profile_id=d.profile_id,
            published_at=d.published_at,
            read_at=now,
            reach=one.reach,
            reactions=one.reactions,
            clicks=one.clicks,
        )
        for d in _recent_deliveries(now).filter(profile=profile)
        if (one := earned.get(d.remote_url)) and d.published_at
    ]
    Reading.objects.bulk_create(
        rows,
        update_conflicts=True,
        unique_fields=["delivery"],
        update_fields=["read_at", "reach", "reactions", "clicks"],
    )
    return len(rows)


def _recent_deliveries(now: datetime) -> QuerySet[Delivery]:
    return Delivery.objects.filter(state=DeliveryState.PUBLISHED, published_at__gte=now - _LOOKS_BACK)


def _profiles_to_read() -> QuerySet[Profile]:
    recent = _recent_deliveries(clock.now())
    return Profile.objects.filter(state=Profile.State.CONNECTED, pk__in=recent.values("profile"))
