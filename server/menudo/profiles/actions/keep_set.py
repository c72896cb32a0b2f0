"""Make, change and delete profile sets."""

from django.db import IntegrityError, transaction

from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.base.rows import the_one
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.profiles.models import Profile, ProfileSet
from menudo_core.text.clean import unusable


def make_set(place: Here, name: str, profiles: list[int]) -> ProfileSet:
    """A new set. Raises Invalid."""
    return _keep(place, ProfileSet(brand=place.brand), name, profiles)


def change_set(place: Here, id: int, name: str, profiles: list[int]) -> ProfileSet:
    """Another name, other members. What is planned already stays as it is. Raises NotFound, Invalid."""
    return _keep(place, _found(place, id), name, profiles)


def delete_set(place: Here, id: int) -> None:
    """The set goes; its profiles and their posts stay. Raises NotFound."""
    place.needs(May.WRITE)
    with transaction.atomic():
        found = _found(place, id)
        record(place.brand.pk, place.actor, "delete", "set", found.pk, f"deleted the set “{found.name}”")
        found.delete()
        tell(place.brand.pk, "set", id)


def _found(place: Here, id: int) -> ProfileSet:
    return the_one(ProfileSet.objects.filter(brand=place.brand, pk=id))


def _keep(place: Here, row: ProfileSet, name: str, profiles: list[int]) -> ProfileSet:
    place.needs(May.WRITE)
    name = name.strip()
    known = set(Profile.objects.filter(brand=place.brand, pk__in=profiles).values_list("pk", flat=True))
    faults = [
        Fault(f"/profiles/{i}", "This profile isn't one of this brand's.", "foreign")
        for i, id in enumerate(profiles)
        if id not in known
    ]
    if words := unusable(name):
        faults.append(Fault("/name", words))
    if not name:
        faults.append(Fault("/name", "Give the set a name.", "missing"))
    if not profiles:
        faults.append(Fault("/profiles", "Choose at least one profile for the set.", "missing"))
    if faults:
        raise Invalid(faults=faults)
    row.name = name
    verb = "changed" if row.pk else "made"
    try:
        with transaction.atomic():
            row.save()
            row.profiles.set(known)
            record(place.brand.pk, place.actor, verb, "set", row.pk, f"{verb} the set “{name}”")
            tell(place.brand.pk, "set", row.pk)
    except IntegrityError as error:
        raise Invalid.at("/name", f"There is a set named “{name}” already.", "taken") from error
    return row
