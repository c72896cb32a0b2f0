"""A client's link: asks them to connect their own profiles, without an account."""

from datetime import timedelta

from django.db import transaction

from menudo.base import clock
from menudo.base.problems import Fault, InvalidError, NotFoundError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.base.tokens import hash_token, new_token
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.profiles.models import ConnectLink
from menudo.profiles.schemas import RequestedNetwork
from menudo.profiles.sheets import can_connect
from menudo_core.networks.load import shipped_sheets


def create_link(
    context: BrandContext, display_name: str, wants: list[RequestedNetwork], days: int
) -> tuple[ConnectLink, str]:
    """The link, and its token: shown once, kept as a hash. Raises InvalidError."""
    context.require(Capability.MANAGE_PROFILES)
    display_name = display_name.strip()
    faults = []
    if not display_name or storage_refusal(display_name):
        faults.append(Fault("/display_name", storage_refusal(display_name) or say("link.nameless")))
    if not wants:
        faults.append(Fault("/requested", say("link.no_network")))
    for n, want in enumerate(wants):
        sheet = shipped_sheets().get(want.network)
        direct = {k.kind for k in sheet.kinds if k.direct} if sheet and can_connect(sheet) else set()
        if not want.kinds or not set(want.kinds) <= direct:
            faults.append(Fault(f"/requested/{n}", say("profile.kind_unconnectable")))
    if faults:
        raise InvalidError(faults=faults)
    token = new_token()
    with transaction.atomic():
        link = ConnectLink.objects.create(
            brand=context.brand,
            token_hash=hash_token(token),
            display_name=display_name,
            requested=[want.model_dump() for want in wants],
            created_by=context.user,
            created_at=clock.now(),
            expires_at=clock.now() + timedelta(days=days),
        )
        record_event(
            context.brand.pk,
            context.actor,
            "offer",
            "link",
            link.pk,
            say("link.made", name=display_name),
        )
    return link, token


def revoke_link(context: BrandContext, link_id: int) -> None:
    """The link leads nowhere from now on; what was connected by it stays. Raises NotFoundError."""
    context.require(Capability.MANAGE_PROFILES)
    with transaction.atomic():
        link = (
            ConnectLink.objects.select_for_update(no_key=True)
            .filter(brand=context.brand, pk=link_id, revoked_at=None)
            .first()
        )
        if link is None:
            raise NotFoundError()
        link.revoked_at = clock.now()
        link.save(update_fields=["revoked_at"])
        record_event(
            context.brand.pk, context.actor, "revoke", "link", link.pk, say("link.revoked", name=link.display_name)
        )


def open_link(token: str) -> ConnectLink:
    """The link of a token that is still good. Raises NotFoundError for any other."""
    link = (
        ConnectLink.objects.select_related("brand", "created_by")
        .filter(token_hash=hash_token(token), revoked_at=None)
        .first()
    )
    if link is None or link.expires_at < clock.now():
        raise NotFoundError(say("link.ended"))
    return link
