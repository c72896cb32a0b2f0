"""Ask the network how a profile stands, and look again at what waits for it."""

from django.db import transaction

from menudo.people.context import BrandContext
from menudo.posts.change.recompute_holds import recompute_holds
from menudo.profiles.actions.refresh_facts import refresh_facts
from menudo.profiles.models import Profile


def recheck_profile(context: BrandContext, profile: Profile) -> Profile:
    """The profile as it stands now; what was held for it is released or held accordingly."""
    profile = refresh_facts(context, profile)
    with transaction.atomic():
        recompute_holds(context.brand.pk, [profile.pk])
    return profile
