"""Make a brand, and change what it is called, its zone and its ink."""

import re
import unicodedata
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.db import IntegrityError, transaction

from menudo.base.addresses import RESERVED_SLUGS
from menudo.base.live import tell
from menudo.base.problems import Fault, Forbidden, Invalid
from menudo.history.actions.record import Actor, record
from menudo.people.capabilities import ROLES, May
from menudo.people.here import Here
from menudo.people.models import Brand, Membership, User
from menudo_core.text.clean import unusable

INKS = ("epazote", "maize", "anil", "pimenton")


def make_brand(user: User, name: str, zone: str, ink: str) -> Brand:
    """A new brand with its maker as coordinator. Raises Invalid, Forbidden."""
    members = Membership.objects.filter(user=user)
    if members.exists() and not members.filter(capabilities__contains=[May.MANAGE_PEOPLE]).exists():
        raise Forbidden("A new brand is for its coordinator to make.")
    name = name.strip()
    _checked(name, zone, ink)
    base = _slug(name)
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
                record(brand.pk, Actor(user.pk, user.name), "make", "brand", brand.pk, f"made the brand {name}")
            return brand
        except IntegrityError:
            continue
    raise Invalid.at("/name", "There are too many brands of that name.", "taken")


def change_brand(place: Here, name: str, zone: str, ink: str) -> Brand:
    """Another name, zone or ink; its address stays. What is planned keeps its instant. Raises Invalid."""
    place.needs(May.MANAGE_PEOPLE)
    name = name.strip()
    _checked(name, zone, ink)
    with transaction.atomic():
        brand = Brand.objects.select_for_update(no_key=True).get(pk=place.brand.pk)
        before = {"name": brand.name, "zone": brand.zone, "ink": brand.ink}
        brand.name, brand.zone, brand.ink = name, zone, ink
        brand.save(update_fields=["name", "zone", "ink"])
        after = {"name": name, "zone": zone, "ink": ink}
        if after != before:
            record(brand.pk, place.actor, "change", "brand", brand.pk, "changed the brand", before, after)
        tell(brand.pk, "brand", brand.pk)
    return brand


def _checked(name: str, zone: str, ink: str) -> None:
    faults = []
    if not name or unusable(name):
        faults.append(Fault("/name", unusable(name) or "Give the brand a name.", "missing"))
    try:
        ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        faults.append(Fault("/zone", f"There is no time zone “{zone[:60]}”. Choose one like Europe/Madrid.", "zone"))
    if ink not in INKS:
        faults.append(Fault("/ink", f"The ink is one of: {', '.join(INKS)}."))
    if faults:
        raise Invalid(faults=faults)


def _slug(name: str) -> str:
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:48] or "brand"
