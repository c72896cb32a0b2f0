"""Come back from a network, with profiles or without."""

from collections.abc import Collection
from dataclasses import dataclass, field

from django.db import transaction

from menudo.base import clock
from menudo.base.sealed import unseal
from menudo.base.tokens import hashed
from menudo.history.actions.record import Actor
from menudo.networks import sign_in
from menudo.networks.protocol import Place, Unreachable
from menudo.networks.registry import open_adapter
from menudo.people.capabilities import May
from menudo.people.models import Brand, Membership, User
from menudo.profiles.actions.keep_profiles import keep_profiles
from menudo.profiles.models import ConnectLink, PendingConnection, Profile
from menudo_core.networks.load import shipped


class TripFailed(Exception):
    """Coming back didn't connect anything; `brand` and `by_link` say where to show the words, when that is known."""

    def __init__(self, words: str, pending: PendingConnection | None = None) -> None:
        self.words = words
        self.brand = pending.brand.slug if pending else ""
        self.by_link = pending is not None and pending.link_id is not None
        super().__init__(words)


@dataclass(frozen=True, slots=True)
class Arrived:
    """What a trip brought: profiles kept, those dropped at the network, and names of kinds that weren't asked for."""

    brand: Brand
    link: ConnectLink | None
    kept: list[Profile]
    dropped: list[Profile]
    left: list[str] = field(default_factory=list)


def come_back(user: User | None, trips: Collection[str], params: dict[str, str]) -> Arrived:
    """The network sent somebody back. `trips` are the state hashes this browser set out with by a link. Raises TripFailed."""
    pending = _pending(user, trips, params.get("state", ""))
    name = shipped()[pending.network].name
    issuer = pending.endpoints.get("issuer", "")
    if issuer and params.get("iss") not in (None, issuer):
        raise TripFailed("The answer came from another network than the one you went to. Start again.", pending)
    if said := params.get("error"):
        if said == "access_denied":
            raise TripFailed(f"You said no at {name}, so nothing was connected. You can try again any time.", pending)
        raise TripFailed(f"{name} could not finish: {params.get('error_description') or said}.", pending)
    actor = _actor(pending, user)
    try:
        tokens = sign_in.exchange(pending.endpoints, params.get("code", ""), unseal(pending.verifier))
        remote = open_adapter(pending.endpoints, tokens.access).places()
    except sign_in.NetworkError as error:
        raise TripFailed(str(error), pending) from error
    except Unreachable as error:
        words = f"{name} let you in but is not answering ({error}). Connect again in a few minutes."
        raise TripFailed(words, pending) from error
    wanted, left = _wanted(pending.link, pending.network, remote)
    if not wanted:
        raise TripFailed(f"None of what you chose at {name} is of a kind that this link asks for.", pending)
    kept, dropped = keep_profiles(pending, tokens, wanted, actor)
    return Arrived(pending.brand, pending.link, kept, dropped, left)


def _pending(user: User | None, trips: Collection[str], state: str) -> PendingConnection:
    words = "This way back is not one Menudo knows, or it is too old. Start again."
    with transaction.atomic():
        waiting = PendingConnection.objects.select_for_update(of=("self",)).select_related("brand", "link")
        pending = waiting.filter(state_hash=hashed(state)).first()
        if pending is None or pending.ends < clock.now():
            raise TripFailed(words)
        # The way back is for the browser that set out: by who is signed in, or by what its session holds.
        if pending.link_id is None and (user is None or pending.user_id != user.pk):
            raise TripFailed(words)
        if pending.link is not None and (
            pending.state_hash not in trips or pending.link.revoked or pending.link.ends < clock.now()
        ):
            raise TripFailed(words)
        pending.delete()
    return pending


def _actor(pending: PendingConnection, user: User | None) -> Actor:
    if pending.link is not None:
        return Actor(None, f"{pending.link.called} (by link)")
    member = Membership.objects.filter(brand=pending.brand, user=user).first()
    if user is None or member is None or May.MANAGE_PROFILES not in member.capabilities:
        raise TripFailed("You may no longer manage profiles in this brand.", pending)
    return Actor(user.pk, user.name)


def _wanted(link: ConnectLink | None, network: str, remote: list[Place]) -> tuple[list[Place], list[str]]:
    """What may be kept: all, or by a link only the kinds it asks for."""
    if link is None:
        return remote, []
    kinds = {kind for want in link.wants if want["network"] == network for kind in want["kinds"]}
    return [r for r in remote if r.kind in kinds], [r.handle for r in remote if r.kind not in kinds]
