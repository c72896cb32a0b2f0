"""A client's link: asks them to connect their own profiles, without an account."""

from datetime import timedelta

from django.db import transaction

from menudo.base import clock
from menudo.base.problems import Fault, Invalid, NotFound
from menudo.base.tokens import hashed, new_token
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.profiles.models import ConnectLink
from menudo.profiles.sheets import can_connect
from menudo_core.networks.load import shipped
from menudo_core.text.clean import unusable


def offer_link(place: Here, called: str, wants: list[dict], days: int) -> tuple[ConnectLink, str]:
    """The link, and its token: shown once, kept as a hash. Raises Invalid."""
    place.needs(May.MANAGE_PROFILES)
    called = called.strip()
    faults = []
    if not called or unusable(called):
        faults.append(Fault("/called", unusable(called) or "Say whom the link is for.", "missing"))
    if not wants:
        faults.append(Fault("/wants", "Choose at least one network to ask for.", "missing"))
    for place_in, want in enumerate(wants):
        sheet = shipped().get(want["network"])
        direct = {k.kind for k in sheet.kinds if k.direct} if sheet and can_connect(sheet) else set()
        if not want["kinds"] or not set(want["kinds"]) <= direct:
            faults.append(Fault(f"/wants/{place_in}", "Menudo can't connect that kind of profile."))
    if faults:
        raise Invalid(faults=faults)
    token = new_token()
    with transaction.atomic():
        link = ConnectLink.objects.create(
            brand=place.brand, token_hash=hashed(token), called=called, wants=wants, by=place.user, made=clock.now(),
            ends=clock.now() + timedelta(days=days),
        )  # fmt: skip
        record(place.brand.pk, place.actor, "offer", "link", link.pk, f"made a link for {called} to connect profiles")
    return link, token


def revoke_link(place: Here, id: int) -> None:
    """The link leads nowhere from now on; what was connected by it stays. Raises NotFound."""
    place.needs(May.MANAGE_PROFILES)
    with transaction.atomic():
        link = ConnectLink.objects.select_for_update().filter(brand=place.brand, pk=id, revoked=None).first()
        if link is None:
            raise NotFound()
        link.revoked = clock.now()
        link.save(update_fields=["revoked"])
        record(place.brand.pk, place.actor, "revoke", "link", link.pk, f"revoked the link for {link.called}")


def open_link(token: str) -> ConnectLink:
    """The link of a token that is still good. Raises NotFound for any other."""
    link = ConnectLink.objects.select_related("brand", "by").filter(token_hash=hashed(token), revoked=None).first()
    if link is None or link.ends < clock.now():
        raise NotFound("This link has ended or was taken back. Ask for a new one.")
    return link
