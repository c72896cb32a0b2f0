"""Who may do what in a brand."""

from menudo.people.capabilities import Capability
from menudo.people.models import Brand, Membership


def members_with(brand: Brand | int, may: Capability) -> list[int]:
    """The ids of the people with a capability there."""
    members = Membership.objects.filter(brand=brand, capabilities__contains=[may])
    return list(members.values_list("user_id", flat=True))
