"""Add a profile that a person publishes to: of a network that allows no program, or of any place at all."""

import secrets

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.profiles.actions.set_timetable import create_default_timetable
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo_core.networks.load import permissive_sheet


def add_by_hand(context: BrandContext, name: str, handle: str, network: str, kind: str, url: str) -> Profile:
    """The new profile. `network` empty: a place without a rule sheet. Raises InvalidError, each fault at its field."""
    context.require(Capability.MANAGE_PROFILES)
    name, handle, url = name.strip(), handle.strip(), url.strip()
    sheet = sheets_of(context.brand.pk).get(network or permissive_sheet().network)
    faults = [
        Fault(f"/{field}", words)
        for field, text in (("name", name), ("handle", handle))
        if (words := storage_refusal(text))
    ]
    if not name:
        faults.append(Fault("/name", say("profile.nameless")))
    if url and not url.startswith(("http://", "https://")):
        faults.append(Fault("/url", say("address.not_whole_or_empty")))
    if sheet is None:
        faults.append(Fault("/network", say("network.unknown")))
    elif kind not in {k.kind for k in sheet.kinds}:
        faults.append(Fault("/kind", say("profile.kind", network=sheet.name)))
    if faults or sheet is None:
        raise InvalidError(faults=faults)
    with transaction.atomic():
        profile = Profile.objects.create(
            brand=context.brand,
            network=sheet.network,
            remote_id=f"by-hand-{secrets.token_hex(8)}",
            handle=(handle or name)[:120],
            name=name,
            kind=kind,
            url=url,
            state=Profile.State.BY_HAND,
            keeper=context.user,
        )
        create_default_timetable(profile)
        record_event(
            context.brand.pk,
            context.actor,
            "add",
            "profile",
            profile.pk,
            say("profile.added_by_hand", profile=profile.handle),
        )
        publish_change(context.brand.pk, "profile", profile.pk)
    return profile
