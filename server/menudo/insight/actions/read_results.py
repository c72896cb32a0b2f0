"""Ask the networks what our posts have earned, and keep it: each profile's in a job of its own."""

from datetime import datetime, timedelta

from django.db.models import QuerySet

from menudo.base import clock
from menudo.base.engine import outward
from menudo.insight.models import Reading
from menudo.networks import sign_in
from menudo.networks.registry import asked_address, open_adapter
from menudo.posts.models import Delivery
from menudo.profiles.actions.token import working_token
from menudo.profiles.models import Profile
from menudo_core.signoff.states import DeliveryState

# What is older hardly earns any more.
_LOOKS_BACK = timedelta(days=30)


def put_readings() -> int:
    """A job for every connected profile with posts of the last 30 days. How many."""
    profiles = _worth_reading().filter(connection__isnull=False).select_related("connection").order_by("pk")
    return sum(
        outward("read_results", f"results:{p.pk}", asked_address(p.connection.endpoints), profile=p.pk)
        for p in profiles
        if p.connection is not None
    )


def read_results() -> int:
    """All of them now, one after another. How many readings were kept."""
    return sum(read_profile(id) for id in _worth_reading().order_by("pk").values_list("pk", flat=True))


def read_profile(id: int) -> int:
    """What one profile's posts have earned; one that doesn't answer is left for the next hour. How many readings were kept."""
    now = clock.now()
    profile = Profile.objects.select_related("connection").filter(pk=id).first()
    connection = profile.connection if profile else None
    if profile is None or connection is None:
        return 0
    try:
        wire = open_adapter(connection.endpoints, working_token(connection))
        earned = {one.url: one for one in wire.results(profile.remote_id)}
    except (sign_in.Ended, sign_in.NetworkError):
        return 0
    rows = [
        Reading(
            delivery=d, brand_id=d.brand_id, profile_id=d.profile_id, at=d.published_at, read=now,
            reach=one.reach, reactions=one.reactions, clicks=one.clicks,
        )
        for d in _recent(now).filter(profile=profile)
        if (one := earned.get(d.remote_url)) and d.published_at
    ]  # fmt: skip
    Reading.objects.bulk_create(
        rows, update_conflicts=True, unique_fields=["delivery"],
        update_fields=["read", "reach", "reactions", "clicks"],
    )  # fmt: skip
    return len(rows)


def _recent(now: datetime) -> QuerySet[Delivery]:
    return Delivery.objects.filter(state=DeliveryState.PUBLISHED, published_at__gte=now - _LOOKS_BACK)


def _worth_reading() -> QuerySet[Profile]:
    recent = _recent(clock.now())
    return Profile.objects.filter(state=Profile.State.CONNECTED, pk__in=recent.values("profile"))
