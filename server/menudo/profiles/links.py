"""What a client's link shows, to the brand's people and to the client."""

from django.conf import settings

from menudo.profiles.models import ConnectLink, Profile
from menudo.profiles.queries import network_out, unmet_conditions_of
from menudo.profiles.schemas import LinkedOut, LinkOut, LinkPage, RequestedNetwork
from menudo.profiles.sheets import sheets_of
from menudo_core.networks.sheet import RuleSheet


def link_address(token: str) -> str:
    return f"{settings.PUBLIC_URL}/link/{token}"


def link_out(link: ConnectLink, sheets: dict[str, RuleSheet]) -> LinkOut:
    return LinkOut(
        id=link.pk,
        display_name=link.display_name,
        requested=[RequestedNetwork(**want) for want in link.requested],
        expires_at=link.expires_at,
        created_by=link.created_by.name if link.created_by else "",
        profiles=linked_profiles(link, sheets),
    )


def linked_profiles(link: ConnectLink, sheets: dict[str, RuleSheet]) -> list[LinkedOut]:
    """The profiles that stand connected by the link."""
    found = [p for c in link.connections.all() for p in c.profiles.all() if p.state != Profile.State.DISCONNECTED]
    return [
        LinkedOut(
            id=p.pk,
            network=p.network,
            handle=p.handle,
            name=p.name,
            state=p.state,
            unmet=unmet_conditions_of(p, sheets),
        )
        for p in found
    ]


def link_page(link: ConnectLink) -> LinkPage:
    """What the client sees: who asks, for what, and what stands connected in their name. Nothing else of the brand."""
    sheets = sheets_of(link.brand_id)
    asked = {want["network"]: set(want["kinds"]) for want in link.requested}
    networks = []
    for network, kinds in asked.items():
        shown = network_out(sheets[network])
        networks.append(shown.model_copy(update={"kinds": [k for k in shown.kinds if k.kind in kinds]}))
    return LinkPage(
        brand=link.brand.name,
        ink=link.brand.ink,
        created_by=link.created_by.name if link.created_by else link.brand.name,
        display_name=link.display_name,
        expires_at=link.expires_at,
        requested=[RequestedNetwork(**want) for want in link.requested],
        networks=networks,
        profiles=linked_profiles(link, sheets),
    )
