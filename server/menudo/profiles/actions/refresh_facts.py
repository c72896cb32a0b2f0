"""Ask the network how a profile stands now."""

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import ConflictError
from menudo.base.sentences import say
from menudo.history.actions.record_event import record_event
from menudo.networks import sign_in
from menudo.networks.protocol import UnreachableError
from menudo.networks.registry import open_adapter
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.profiles.actions.refresh_token import mark_connection_ended, working_token
from menudo.profiles.actions.save_profiles import connection_state
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for


def refresh_facts(context: BrandContext, profile: Profile) -> Profile:
    """Read the profile's facts anew: a condition that was mended makes it ready. Raises ConflictError when it can't be asked."""
    context.require(Capability.MANAGE_PROFILES)
    name = sheet_for(context.brand.pk, profile.network).name
    connection = profile.connection
    if connection is None:
        raise ConflictError(say("profile.no_connection", profile=profile.handle))
    try:
        token = working_token(connection)
        destinations = open_adapter(connection.endpoints, token).destinations()
    except sign_in.ConnectionEndedError:
        mark_connection_ended(connection)
        profile.refresh_from_db()
        return profile
    except (sign_in.NetworkError, UnreachableError) as error:
        raise ConflictError(say("network.no_answer", network=name, reason=str(error))) from error
    one = next((r for r in destinations if r.remote_id == profile.remote_id), None)
    if one is None:
        raise ConflictError(say("profile.not_given", network=name, profile=profile.handle))
    with transaction.atomic():
        profile = Profile.objects.select_for_update(of=("self",), no_key=True).get(pk=profile.pk)
        before = profile.state
        profile.facts, profile.followers, profile.url = dict(one.facts), one.followers, one.url
        profile.name, profile.handle, profile.state = one.name, one.handle, connection_state(profile.network, one)
        profile.save(update_fields=["facts", "followers", "url", "name", "handle", "state"])
        if before != profile.state:
            record_event(
                context.brand.pk,
                context.actor,
                "check",
                "profile",
                profile.pk,
                say("profile.checked", profile=profile.handle, state=profile.state.replace("_", " ")),
            )
        publish_change(context.brand.pk, "profile", profile.pk)
    return profile
