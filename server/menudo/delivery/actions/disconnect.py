"""Disconnect a profile: what is planned for it becomes drafts again, or is called off."""

from typing import Literal

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.base.sealed import unseal
from menudo.history.actions.record import Actor, record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.schedule import take_off, write_deliveries
from menudo.posts.locking import lock_deliveries
from menudo.profiles.models import Connection, Profile
from menudo.profiles.wire import sign_in
from menudo_core.signoff.states import DeliveryState, Event, takes

Then = Literal["drafts", "call_off"]
_EVENTS = {"drafts": Event.UNPLAN, "call_off": Event.CALL_OFF}


def disconnect(place: Here, profile: Profile, then: Then) -> int:
    """Disconnect as a person who manages profiles. How many deliveries were changed."""
    place.needs(May.MANAGE_PROFILES)
    return let_go(profile, then, place.actor)


def let_go(profile: Profile, then: Then, actor: Actor) -> int:
    """Disconnect; a sign-in that no profile needs any longer is ended at the network too. Raises Conflict while one is being sent."""
    event = _EVENTS[then]
    with transaction.atomic():
        profile = Profile.objects.select_for_update(of=("self",), no_key=True).get(pk=profile.pk)
        if profile.state == Profile.State.DISCONNECTED:
            raise Conflict(f"{profile.handle} is disconnected already.")
        open_ones = profile.deliveries.exclude(state__in=[DeliveryState.UNPLANNED, DeliveryState.PUBLISHED])
        changed = []
        for row in lock_deliveries(open_ones).values():
            state = DeliveryState(row.state)
            if state is DeliveryState.SENDING:
                raise Conflict(f"A post is being sent to {profile.handle} just now. Try again in a minute.")
            if takes(state, event) and row.reason_code != "unsure":
                take_off(row, event)
                changed.append(row)
        write_deliveries(changed)
        count = len(changed)
        connection = profile.connection
        profile.state, profile.connection = Profile.State.DISCONNECTED, None
        profile.save(update_fields=["state", "connection"])
        done = "called off" if then == "call_off" else "made drafts again"
        record(
            profile.brand_id,
            actor,
            "disconnect",
            "profile",
            profile.pk,
            f"disconnected {profile.handle}; {count} planned {done}",
        )
        tell(profile.brand_id, "profile", profile.pk)
        tell(profile.brand_id, "delivery", 0)
    if connection is not None and not connection.profiles.exists():
        _end(connection)
    return count


def _end(connection: Connection) -> None:
    token = unseal(connection.refresh_token) if connection.refresh_token else unseal(connection.access_token)
    connection.delete()
    sign_in.revoke(connection.endpoints, token)
