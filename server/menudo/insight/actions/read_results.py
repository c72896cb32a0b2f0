"""Ask the networks what our posts have earned, and keep it."""

from datetime import timedelta

from menudo.base import clock
from menudo.insight.models import Reading
from menudo.posts.models import Delivery
from menudo.profiles.actions.token import working_token
from menudo.profiles.models import Profile
from menudo.profiles.wire import sign_in
from menudo.profiles.wire.micropub import Micropub
from menudo_core.signoff.states import DeliveryState

# What is older hardly earns any more.
_LOOKS_BACK = timedelta(days=30)


def read_results() -> int:
    """Every connected profile with posts of the last 30 days; one that doesn't answer is left for the next hour. How many
    readings were kept."""
    now, kept = clock.now(), 0
    recent = Delivery.objects.filter(state=DeliveryState.PUBLISHED, published_at__gte=now - _LOOKS_BACK)
    profiles = Profile.objects.filter(state=Profile.State.CONNECTED, pk__in=recent.values("profile"))
    for profile in profiles.select_related("connection").order_by("pk"):
        connection = profile.connection
        if connection is None:
            continue
        try:
            wire = Micropub(sign_in.client_for(connection.endpoints), connection.endpoints, working_token(connection))
            earned = {one.url: one for one in wire.results(profile.remote_id)}
        except (sign_in.Ended, sign_in.NetworkError):
            continue
        rows = [
            Reading(
                delivery=d, brand_id=d.brand_id, profile_id=d.profile_id, at=d.published_at, read=now,
                reach=one.reach, reactions=one.reactions, clicks=one.clicks,
            )
            for d in recent.filter(profile=profile)
            if (one := earned.get(d.remote_url)) and d.published_at
        ]  # fmt: skip
        Reading.objects.bulk_create(
            rows, update_conflicts=True, unique_fields=["delivery"],
            update_fields=["read", "reach", "reactions", "clicks"],
        )  # fmt: skip
        kept += len(rows)
    return kept
