"""Come back from a network, with profiles or without."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field

from django.db import transaction

from menudo.base import clock
from menudo.base.sealing import unseal
from menudo.base.tokens import hash_token
from menudo.history.actions.record_event import Actor
from menudo.networks import sign_in
from menudo.networks.protocol import Destination, UnreachableError
from menudo.networks.registry import open_adapter
from menudo.people.capabilities import Capability
from menudo.people.models import Brand, Membership, User
from menudo.profiles.actions.save_profiles import save_profiles
from menudo.profiles.models import ConnectLink, PendingConnection, Profile
from menudo_core.networks.load import shipped_sheets


class ConnectFailedError(Exception):
    """Coming back didn't connect anything; `brand` and `by_link` say where to show the words, when that is known."""

    def __init__(self, words: str, pending: PendingConnection | None = None) -> None:
        self.words = words
        self.brand = pending.brand.slug if pending else ""
        self.by_link = pending is not None and pending.link_id is not None
        super().__init__(words)


@dataclass(frozen=True, slots=True)
class ConnectResult:
    """What a trip brought: profiles kept, those dropped at the network, and names of kinds that weren't asked for."""

    brand: Brand
    link: ConnectLink | None
    kept: list[Profile]
    dropped: list[Profile]
    left: list[str] = field(default_factory=list)


def finish_connecting(user: User | None, state_hashes: Collection[str], params: dict[str, str]) -> ConnectResult:
    """The network sent somebody back. `state_hashes` are those this browser set out with by a link. Raises ConnectFailedError."""
    pending = _pending_connection(user, state_hashes, params.get("state", ""))
    name = shipped_sheets()[pending.network].name
    issuer = pending.endpoints.get("issuer", "")
    unsaid = () if pending.endpoints.get("says_issuer") else (None,)
    if issuer and params.get("iss") not in (*unsaid, issuer):
        raise ConnectFailedError("The answer came from another network than the one you went to. Start again.", pending)
    if error_code := params.get("error"):
        if error_code == "access_denied":
            raise ConnectFailedError(
                f"You said no at {name}, so nothing was connected. You can try again any time.", pending
            )
        raise ConnectFailedError(f"{name} could not finish: {params.get('error_description') or error_code}.", pending)
    actor = _actor_of(pending, user)
    try:
        tokens = sign_in.exchange_code(pending.endpoints, params.get("code", ""), unseal(pending.verifier))
        remote = open_adapter(pending.endpoints, tokens.access).destinations()
    except sign_in.NetworkError as error:
        raise ConnectFailedError(str(error), pending) from error
    except UnreachableError as error:
        words = f"{name} let you in but is not answering ({error}). Connect again in a few minutes."
        raise ConnectFailedError(words, pending) from error
    wanted, left = _requested_places(pending.link, pending.network, remote)
    if not wanted:
        raise ConnectFailedError(f"None of what you chose at {name} is of a kind that this link asks for.", pending)
    kept, dropped = save_profiles(pending, tokens, wanted, actor)
    return ConnectResult(pending.brand, pending.link, kept, dropped, list(left))


def _pending_connection(user: User | None, state_hashes: Collection[str], state: str) -> PendingConnection:
    words = "This way back is not one Menudo knows, or it is too old. Start again."
    with transaction.atomic():
        waiting = PendingConnection.objects.select_for_update(of=("self",)).select_related("brand", "link")
        pending = waiting.filter(state_hash=hash_token(state)).first()
        if pending is None or pending.expires_at < clock.now():
            raise ConnectFailedError(words)
        # The way back is for the browser that set out: by who is signed in, or by what its session holds.
        if pending.link_id is None and (user is None or pending.user_id != user.pk):
            raise ConnectFailedError(words)
        if pending.link is not None and (
            pending.state_hash not in state_hashes or pending.link.revoked_at or pending.link.expires_at < clock.now()
        ):
            raise ConnectFailedError(words)
        pending.delete()
    return pending


def _actor_of(pending: PendingConnection, user: User | None) -> Actor:
    if pending.link is not None:
        return Actor(None, f"{pending.link.display_name} (by link)")
    member = Membership.objects.filter(brand=pending.brand, user=user).first()
    if user is None or member is None or Capability.MANAGE_PROFILES not in member.capabilities:
        raise ConnectFailedError("You may no longer manage profiles in this brand.", pending)
    return Actor(user.pk, user.name)


def _requested_places(
    link: ConnectLink | None, network: str, remote: list[Destination]
) -> tuple[list[Destination], Sequence[str]]:
    """What may be kept: all, or by a link only the kinds it asks for; and the handles of the others."""
    if link is None:
        return remote, []
    kinds = {kind for want in link.requested if want["network"] == network for kind in want["kinds"]}
    return [r for r in remote if r.kind in kinds], [r.handle for r in remote if r.kind not in kinds]
