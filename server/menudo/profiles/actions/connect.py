"""Go to a network to connect profiles, and come back."""

import hashlib
import secrets
from datetime import timedelta

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Invalid
from menudo.base.sealed import seal, unseal
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Membership, User
from menudo.profiles.actions.set_timetable import first_timetable
from menudo.profiles.models import Connection, PendingConnection, Profile
from menudo.profiles.wire import sign_in
from menudo.profiles.wire.micropub import Micropub, Unreachable
from menudo.profiles.wire.protocol import RemoteProfile
from menudo_core.networks.load import shipped

TRIP = timedelta(minutes=20)


class TripFailed(Exception):
    """Coming back didn't connect anything; `brand` is where to show the words, when it is known."""

    def __init__(self, words: str, brand: str = "") -> None:
        self.words, self.brand = words, brand
        super().__init__(words)


def set_out(place: Here, network: str) -> str:
    """Begin a trip; the address at the network to send the person to."""
    place.needs(May.MANAGE_PROFILES)
    sheet = shipped().get(network)
    if sheet is None or not any(kind.direct for kind in sheet.kinds):
        raise Invalid.at("/network", "There is no such network to connect.")
    try:
        endpoints = sign_in.discover(sign_in.issuer_of(network))
    except sign_in.NetworkError as error:
        raise Conflict(str(error)) from error
    state, verifier = secrets.token_urlsafe(32), secrets.token_urlsafe(64)
    PendingConnection.objects.filter(ends__lt=clock.now()).delete()
    PendingConnection.objects.create(
        state_hash=_hash(state),
        verifier=seal(verifier),
        brand=place.brand,
        user=place.user,
        network=network,
        endpoints=endpoints,
        ends=clock.now() + TRIP,
    )
    return sign_in.address_to_go_to(endpoints, state, verifier)


def come_back(user: User, params: dict[str, str]) -> tuple[str, list[Profile]]:
    """The network sent the person back: the brand's slug and the profiles now connected. Raises TripFailed."""
    pending = _pending(user, params.get("state", ""))
    brand, name = pending.brand, shipped()[pending.network].name
    if params.get("iss") not in (None, pending.endpoints["issuer"]):
        raise TripFailed("The answer came from another network than the one you went to. Start again.", brand.slug)
    if said := params.get("error"):
        if said == "access_denied":
            raise TripFailed(
                f"You said no at {name}, so nothing was connected. You can try again any time.", brand.slug
            )
        raise TripFailed(f"{name} could not finish: {params.get('error_description') or said}.", brand.slug)
    member = Membership.objects.filter(brand=brand, user=user).first()
    if member is None or May.MANAGE_PROFILES not in member.capabilities:
        raise TripFailed("You may no longer manage profiles in this brand.", brand.slug)
    try:
        tokens = sign_in.exchange(pending.endpoints, params.get("code", ""), unseal(pending.verifier))
        remote = Micropub(sign_in.client(), pending.endpoints, tokens.access).profiles()
    except sign_in.NetworkError as error:
        raise TripFailed(str(error), brand.slug) from error
    except Unreachable as error:
        raise TripFailed(
            f"{name} let you in but is not answering ({error}). Connect again in a few minutes.", brand.slug
        ) from error
    return brand.slug, _keep(Here(user, brand, frozenset(member.capabilities)), pending, tokens, remote)


def _pending(user: User, state: str) -> PendingConnection:
    with transaction.atomic():
        pending = (
            PendingConnection.objects.select_for_update()
            .select_related("brand")
            .filter(state_hash=_hash(state))
            .first()
        )
        if pending is None or pending.user_id != user.pk or pending.ends < clock.now():
            raise TripFailed("This way back is not one Menudo knows, or it is too old. Start again from Profiles.")
        pending.delete()
    return pending


def _keep(
    place: Here, pending: PendingConnection, tokens: sign_in.Tokens, remote: list[RemoteProfile]
) -> list[Profile]:
    with transaction.atomic():
        connection, _ = Connection.objects.update_or_create(
            brand=place.brand,
            network=pending.network,
            account=tokens.account,
            defaults={
                "state": Connection.State.CONNECTED,
                "access_token": seal(tokens.access),
                "refresh_token": seal(tokens.refresh) if tokens.refresh else "",
                "access_ends": tokens.access_ends,
                "ends": tokens.ends,
                "endpoints": pending.endpoints,
            },
        )
        kept = []
        for one in remote:
            profile, new = Profile.objects.update_or_create(
                brand=place.brand,
                network=pending.network,
                remote_id=one.remote_id,
                defaults={
                    "connection": connection,
                    "handle": one.handle,
                    "name": one.name,
                    "kind": one.kind,
                    "state": Profile.State.CONNECTED,
                },
            )
            if new:
                first_timetable(profile)
            words = f"{'connected' if new else 'reconnected'} {one.handle} on {shipped()[pending.network].name}"
            record(place.brand.pk, place.actor, "connect", "profile", profile.pk, words)
            tell(place.brand.pk, "profile", profile.pk)
            kept.append(profile)
        dropped = connection.profiles.exclude(pk__in=[p.pk for p in kept])
        dropped.update(state=Profile.State.RECONNECT)
    return kept


def _hash(state: str) -> str:
    return hashlib.sha256(state.encode("utf-8", "replace")).hexdigest()
