"""Ask the network how a profile stands, and look again at what waits for it."""

from django.db import transaction

from menudo.people.here import Here
from menudo.posts.change.holds import recompute_holds
from menudo.posts.models import Delivery
from menudo.profiles.actions.check_again import check_again
from menudo.profiles.models import Profile


def look_again(place: Here, profile: Profile) -> Profile:
    """The profile as it stands now; what was held for it is released or held accordingly."""
    profile = check_again(place, profile)
    with transaction.atomic():
        recompute_holds(Delivery.objects.filter(profile=profile))
    return profile
