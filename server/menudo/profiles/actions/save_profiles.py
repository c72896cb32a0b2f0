"""Keep what a sign-in at a network was given: its connection, and its profiles as they stand."""

from collections.abc import Iterable

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.sealing import seal
from menudo.base.sentences import say
from menudo.history.actions.record_event import Actor, record_event
from menudo.networks.protocol import Destination
from menudo.networks.sign_in import Tokens
from menudo.profiles.actions.set_timetable import create_default_timetable
from menudo.profiles.models import Connection, PendingConnection, Profile
from menudo_core.networks.conditions import unmet_conditions
from menudo_core.networks.load import shipped_sheets


def save_profiles(
    pending: PendingConnection, tokens: Tokens, remote: Iterable[Destination], actor: Actor
) -> tuple[list[Profile], list[Profile]]:
    """The profiles now kept, and those of the same sign-in that were dropped at the network: their posts stay."""
    with transaction.atomic():
        connection, _ = Connection.objects.update_or_create(
            brand=pending.brand,
            network=pending.network,
            account=tokens.account[:200],
            # By a link, only what it asks for is chosen: what the same account has connected otherwise stays as it is.
            link=pending.link,
            defaults={
                "state": Connection.State.CONNECTED,
                "access_token": seal(tokens.access),
                "refresh_token": seal(tokens.refresh) if tokens.refresh else "",
                "access_expires_at": tokens.access_expires_at,
                "expires_at": tokens.expires_at,
                "endpoints": pending.endpoints,
                "address": pending.endpoints.get("site", "")[:300],
                "warned_days": None,
            },
        )
        kept = [_save_profile(connection, one, actor) for one in remote]
        dropped = list(connection.profiles.exclude(pk__in=[p.pk for p in kept]))
        for profile in dropped:
            profile.state, profile.connection = Profile.State.DISCONNECTED, None
            profile.save(update_fields=["state", "connection"])
            record_event(
                connection.brand_id,
                actor,
                "drop",
                "profile",
                profile.pk,
                say("profile.dropped", profile=profile.handle),
            )
            publish_change(connection.brand_id, "profile", profile.pk)
        # A page that two sign-ins manage is with the newer one; a sign-in that nothing hangs on any longer is forgotten.
        Connection.objects.filter(brand=pending.brand, network=pending.network, profiles=None).exclude(
            pk=connection.pk
        ).delete()
    return kept, dropped


def _save_profile(connection: Connection, one: Destination, actor: Actor) -> Profile:
    values = {
        "connection": connection,
        "handle": one.handle,
        "name": one.name,
        "kind": one.kind,
        "url": one.url,
        "followers": one.followers,
        "facts": dict(one.facts),
        "state": connection_state(connection.network, one),
    }
    profile, new = Profile.objects.update_or_create(
        brand=connection.brand,
        network=connection.network,
        site=connection.address,
        remote_id=one.remote_id,
        defaults=values,
    )
    if new:
        create_default_timetable(profile)
    record_event(
        connection.brand_id,
        actor,
        "connect",
        "profile",
        profile.pk,
        say(
            "profile.connected" if new else "profile.reconnected",
            profile=one.handle,
            network=shipped_sheets()[connection.network].name,
        ),
    )
    publish_change(connection.brand_id, "profile", profile.pk)
    return profile


def connection_state(network: str, one: Destination) -> Profile.State:
    """Connected, or not ready while a condition of its kind isn't met."""
    kind = shipped_sheets()[network].profile_kind(one.kind)
    return Profile.State.NOT_READY if kind and unmet_conditions(kind, one.facts) else Profile.State.CONNECTED
