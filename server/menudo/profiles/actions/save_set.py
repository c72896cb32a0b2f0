"""Make, change and delete profile sets."""

from django.db import IntegrityError, transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.profiles.models import Profile, ProfileSet


def create_set(context: BrandContext, name: str, profiles: list[int]) -> ProfileSet:
    """A new set. Raises InvalidError."""
    return _save_set(context, ProfileSet(brand=context.brand), name, profiles)


def update_set(context: BrandContext, set_id: int, name: str, profiles: list[int]) -> ProfileSet:
    """Another name, other members. What is planned already stays as it is. Raises NotFoundError, InvalidError."""
    return _save_set(context, _set_of(context, set_id), name, profiles)


def delete_set(context: BrandContext, set_id: int) -> None:
    """The set goes; its profiles and their posts stay. Raises NotFoundError."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        found = _set_of(context, set_id)
        record_event(context.brand.pk, context.actor, "delete", "set", found.pk, say("set.deleted", name=found.name))
        found.delete()
        publish_change(context.brand.pk, "set", set_id)


def _set_of(context: BrandContext, set_id: int) -> ProfileSet:
    return first_or_404(ProfileSet.objects.filter(brand=context.brand, pk=set_id))


def _save_set(context: BrandContext, row: ProfileSet, name: str, profiles: list[int]) -> ProfileSet:
    context.require(Capability.WRITE)
    name = name.strip()
    known = set(Profile.objects.filter(brand=context.brand, pk__in=profiles).values_list("pk", flat=True))
    faults = [
        Fault(f"/profiles/{i}", say("profile.foreign"))
        for i, profile_id in enumerate(profiles)
        if profile_id not in known
    ]
    if words := storage_refusal(name):
        faults.append(Fault("/name", words))
    if not name:
        faults.append(Fault("/name", say("set.nameless")))
    if not profiles:
        faults.append(Fault("/profiles", say("set.no_profiles")))
    if faults:
        raise InvalidError(faults=faults)
    row.name = name
    verb = "changed" if row.pk else "made"
    try:
        with transaction.atomic():
            row.save()
            row.profiles.set(known)
            record_event(context.brand.pk, context.actor, verb, "set", row.pk, say(f"set.{verb}", name=name))
            publish_change(context.brand.pk, "set", row.pk)
    except IntegrityError as error:
        raise InvalidError.at("/name", say("set.name_taken", name=name)) from error
    return row
