"""Networks and profiles, as pages need them."""

from django.db.models import Prefetch, QuerySet

from menudo.base.problems import NotFound
from menudo.people.here import Here
from menudo.profiles.models import Profile, Slot
from menudo.profiles.schemas import KindOut, NetworkOut
from menudo_core.networks.load import shipped

# Grows as stand-ins do; the other sheets are there for the Bench and for by hand.
CONNECTS = frozenset({"brisk"})


def networks() -> list[NetworkOut]:
    """Every network there is a rule sheet for."""
    return [
        NetworkOut(
            network=s.network, name=s.name, letters=s.letters, shape=s.shape, about=s.about,
            kinds=[KindOut(kind=k.kind, name=k.name, direct=k.direct, conditions=list(k.conditions)) for k in s.kinds],
            connects=s.network in CONNECTS,
        )
        for s in shipped().values()
    ]  # fmt: skip


def profiles(place: Here) -> QuerySet[Profile]:
    """The brand's profiles, with their connection and slots: two statements."""
    slots = Prefetch("slots", Slot.objects.order_by("weekday", "at"))
    return Profile.objects.filter(brand=place.brand).select_related("connection").prefetch_related(slots)


def profile(place: Here, id: int) -> Profile:
    """One profile of the brand. Raises NotFound, also for another brand's."""
    found = profiles(place).filter(pk=id).first()
    if found is None:
        raise NotFound()
    return found
