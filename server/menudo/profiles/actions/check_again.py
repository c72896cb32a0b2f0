"""Ask the network how a profile stands now."""

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.history.actions.record import record
from menudo.networks import sign_in
from menudo.networks.protocol import Unreachable
from menudo.networks.registry import open_adapter
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.profiles.actions.keep_profiles import state_by
from menudo.profiles.actions.token import mark_ended, working_token
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for


def check_again(place: Here, profile: Profile) -> Profile:
    """Read the profile's facts anew: a condition that was mended makes it ready. Raises Conflict when it can't be asked."""
    place.needs(May.MANAGE_PROFILES)
    name = sheet_for(place.brand.pk, profile.network).name
    connection = profile.connection
    if connection is None:
        raise Conflict(f"{profile.handle} has no connection to ask through. Reconnect it.")
    try:
        token = working_token(connection)
        told = open_adapter(connection.endpoints, token).places()
    except sign_in.Ended:
        mark_ended(connection)
        profile.refresh_from_db()
        return profile
    except (sign_in.NetworkError, Unreachable) as error:
        raise Conflict(f"{name} is not answering just now: {error}") from error
    one = next((r for r in told if r.remote_id == profile.remote_id), None)
    if one is None:
        raise Conflict(f"{name} no longer gives {profile.handle} to this sign-in. Choose again at {name}.")
    with transaction.atomic():
        profile = Profile.objects.select_for_update(of=("self",)).get(pk=profile.pk)
        before = profile.state
        profile.facts, profile.followers, profile.url = dict(one.facts), one.followers, one.url
        profile.name, profile.handle, profile.state = one.name, one.handle, state_by(profile.network, one)
        profile.save(update_fields=["facts", "followers", "url", "name", "handle", "state"])
        if before != profile.state:
            record(
                place.brand.pk,
                place.actor,
                "check",
                "profile",
                profile.pk,
                f"{profile.handle} is {profile.state.replace('_', ' ')}",
            )
        tell(place.brand.pk, "profile", profile.pk)
    return profile
