"""What a profile wishes of its spacing, and its waking hours."""

from datetime import time

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.profiles.models import Profile


def save_spacing(
    context: BrandContext,
    profile: Profile,
    max_gap_days: int | None,
    min_gap_minutes: int | None,
    min_repeat_days: int | None,
    waking_from: time,
    waking_until: time,
) -> Profile:
    """Set them all; None is no wish. What is planned stays: these are advice. Raises InvalidError."""
    context.require(Capability.MANAGE_PROFILES)
    waking_from, waking_until = (t.replace(second=0, microsecond=0, tzinfo=None) for t in (waking_from, waking_until))
    if waking_until <= waking_from:
        raise InvalidError.at("/waking_until", say("spacing.waking_order"))
    with transaction.atomic():
        profile.max_gap_days, profile.min_gap_minutes, profile.min_repeat_days = (
            max_gap_days,
            min_gap_minutes,
            min_repeat_days,
        )
        profile.waking_from, profile.waking_until = waking_from, waking_until
        profile.save(
            update_fields=["max_gap_days", "min_gap_minutes", "min_repeat_days", "waking_from", "waking_until"]
        )
        record_event(
            context.brand.pk,
            context.actor,
            "wish",
            "profile",
            profile.pk,
            say("spacing.changed", profile=profile.handle),
        )
        publish_change(context.brand.pk, "profile", profile.pk)
    return profile
