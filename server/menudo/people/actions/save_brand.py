"""Make a brand, and change what it is called, its zone and its ink."""

import re
import unicodedata
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.db import IntegrityError, transaction

from menudo.base.addresses import RESERVED_SLUGS
from menudo.base.live import publish_change
from menudo.base.problems import Fault, ForbiddenError, InvalidError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import Actor, record_event
from menudo.people.capabilities import ROLES, Capability
from menudo.people.context import BrandContext
from menudo.people.models import Brand, Membership, User

INKS = ("epazote", "maize", "anil", "pimenton")


def make_brand(user: User, name: str, zone: str, ink: str) -> Brand:
    """A new brand with its maker as coordinator. Raises InvalidError, ForbiddenError."""
    members = Membership.objects.filter(user=user)
    if members.exists() and not members.filter(capabilities__contains=[Capability.MANAGE_PEOPLE]).exists():
        raise ForbiddenError(say("brand.not_yours"))
    name = name.strip()
    _validate(name, zone, ink)
    base = _free_slug(name)
    for number in range(1, 200):
        slug = base if number == 1 else f"{base[:44]}-{number}"
        if slug in RESERVED_SLUGS:
            continue
        try:
            with transaction.atomic():
                brand = Brand.objects.create(slug=slug, name=name, zone=zone, ink=ink)
                Membership.objects.create(
                    brand=brand, user=user, role="coordinator", capabilities=sorted(ROLES["coordinator"])
                )
                record_event(
                    brand.pk, Actor(user.pk, user.name), "make", "brand", brand.pk, say("brand.made", name=name)
                )
            return brand
        except IntegrityError:
            continue
    raise InvalidError.at("/name", say("brand.many_of_name"))


def change_brand(context: BrandContext, name: str, zone: str, ink: str) -> Brand:
    """Another name, zone or ink; its address stays. What is planned keeps its instant. Raises InvalidError."""
    context.require(Capability.MANAGE_PEOPLE)
    name = name.strip()
    _validate(name, zone, ink)
    with transaction.atomic():
        brand = Brand.objects.select_for_update(no_key=True).get(pk=context.brand.pk)
        before = {"name": brand.name, "zone": brand.zone, "ink": brand.ink}
        brand.name, brand.zone, brand.ink = name, zone, ink
        brand.save(update_fields=["name", "zone", "ink"])
        after = {"name": name, "zone": zone, "ink": ink}
        if after != before:
            record_event(brand.pk, context.actor, "change", "brand", brand.pk, say("brand.changed"), before, after)
        publish_change(brand.pk, "brand", brand.pk)
    return brand


def _validate(name: str, zone: str, ink: str) -> None:
    faults = []
    if not name or storage_refusal(name):
        faults.append(Fault("/name", storage_refusal(name) or say("brand.nameless")))
    try:
        ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        faults.append(Fault("/zone", say("zone.unknown", zone=zone[:60])))
    if ink not in INKS:
        faults.append(Fault("/ink", say("brand.ink", choices=", ".join(INKS))))
    if faults:
        raise InvalidError(faults=faults)


def _free_slug(name: str) -> str:
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:48] or "brand"
