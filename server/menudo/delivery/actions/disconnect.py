"""Disconnect a profile: what is planned for it becomes drafts again, or is called off."""

from typing import Literal

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Conflict
from menudo.base.sealed import unseal
from menudo.history.actions.record import Actor
from menudo.networks import sign_in
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import System, change_posts
from menudo.profiles.models import Connection, Profile
from menudo_core.signoff.schedule import unschedule
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
    open_ones = profile.deliveries.exclude(state__in=[DeliveryState.UNPLANNED, DeliveryState.PUBLISHED])
    with transaction.atomic():
        profile = Profile.objects.select_for_update(of=("self",), no_key=True).get(pk=profile.pk)
        if profile.state == Profile.State.DISCONNECTED:
            raise Conflict(f"{profile.handle} is disconnected already.")
        ids = list(open_ones.values_list("pk", flat=True))
        with change_posts(System(profile.brand, actor), deliveries=ids) as change:
            schedules = {}
            for row in (change.deliveries[id] for id in ids if id in change.deliveries):
                schedule = change.schedule(row)
                if schedule.state is DeliveryState.SENDING:
                    raise Conflict(f"A post is being sent to {profile.handle} just now. Try again in a minute.")
                if takes(schedule.state, event) and not schedule.may_be_out:
                    schedules[row.pk] = unschedule(schedule, event)
            connection = profile.connection
            profile.state, profile.connection = Profile.State.DISCONNECTED, None
            profile.save(update_fields=["state", "connection"])
            change.apply(Decision(schedules=schedules))
            count = len(schedules)
            done = "called off" if then == "call_off" else "made drafts again"
            words = f"disconnected {profile.handle}; {count} planned {done}"
            change.record("disconnect", "profile", profile.pk, words)
        tell(profile.brand_id, "profile", profile.pk)
        tell(profile.brand_id, "delivery", 0)
    if connection is not None and not connection.profiles.exists():
        _end(connection)
    return count


def _end(connection: Connection) -> None:
    token = unseal(connection.refresh_token) if connection.refresh_token else unseal(connection.access_token)
    connection.delete()
    sign_in.revoke(connection.endpoints, token)
