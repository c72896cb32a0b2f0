"""What a profile wishes of its spacing, and its waking hours."""

from datetime import time

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.profiles.models import Profile


def wish(
    place: Here, profile: Profile, most_days: int | None, least_minutes: int | None, repeat_days: int | None,
    wakes: time, sleeps: time,
) -> Profile:  # fmt: skip
    """Set them all; None is no wish. What is planned stays: these are advice. Raises Invalid."""
    place.needs(May.MANAGE_PROFILES)
    wakes, sleeps = (t.replace(second=0, microsecond=0, tzinfo=None) for t in (wakes, sleeps))
    if sleeps <= wakes:
        raise Invalid.at("/sleeps", "The waking hours end after they begin, on the same day.", "order")
    with transaction.atomic():
        profile.most_days, profile.least_minutes, profile.repeat_days = most_days, least_minutes, repeat_days
        profile.wakes, profile.sleeps = wakes, sleeps
        profile.save(update_fields=["most_days", "least_minutes", "repeat_days", "wakes", "sleeps"])
        record(place.brand.pk, place.actor, "wish", "profile", profile.pk, f"changed the wishes of {profile.handle}")
        tell(place.brand.pk, "profile", profile.pk)
    return profile
