"""What has gone out of a profile, for what its network still takes."""

from datetime import datetime, timedelta

from django.conf import settings

from menudo.posts.models import Delivery
from menudo.profiles.sheets import sheet_for
from menudo_core.sending.quota import PublishedItem, Wait, quota_wait
from menudo_core.signoff.states import DeliveryState


def published_items(profile: int, since: datetime) -> list[PublishedItem]:
    """The profile's posts that are still at the network and went out since an instant."""
    out = Delivery.objects.filter(profile_id=profile, state=DeliveryState.PUBLISHED, published_at__gte=since)
    return [
        PublishedItem(at, len(files or ()))
        for at, files in out.values_list("published_at", "sent_content__media")
        if at
    ]


def quota_wait_for(delivery: Delivery, files: int, now: datetime) -> Wait | None:
    """Whether the network takes no more of the profile just now, and until when. One statement where it has limits.

    What may be there already is no new post: it isn't made to wait. `files`: how many it brings.
    """
    sheet = sheet_for(delivery.brand_id, delivery.profile.network)
    pace = sheet.pace
    if not settings.PACE or delivery.step == Delivery.Step.CREATE:
        return None
    if not (pace.posts_a_day or pace.media_a_day or pace.seconds_between or pace.posts_kept):
        return None
    days = max(sheet.life_days or 1, 1) if pace.posts_kept else 1
    sent = published_items(delivery.profile_id, now - timedelta(days=days))
    return quota_wait(pace, sheet.life_days, sheet.name, sent, now, files)
