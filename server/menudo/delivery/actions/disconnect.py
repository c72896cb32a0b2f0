"""Disconnect a profile: what is planned for it becomes drafts again, or is called off."""

from typing import Literal

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import ConflictError
from menudo.base.sealing import unseal
from menudo.base.sentences import say
from menudo.history.actions.record_event import Actor
from menudo.networks import sign_in
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import Decision
from menudo.posts.change.kernel import System, change_posts
from menudo.profiles.models import Connection, Profile
from menudo_core.signoff.schedule import unschedule
from menudo_core.signoff.states import DeliveryState, Event, accepts

Then = Literal["drafts", "call_off"]
_EVENTS = {"drafts": Event.UNPLAN, "call_off": Event.CALL_OFF}


def disconnect_profile(context: BrandContext, profile: Profile, then: Then) -> int:
    """Disconnect as a person who manages profiles. How many deliveries were changed."""
    context.require(Capability.MANAGE_PROFILES)
    return release_profile(profile, then, context.actor)


def release_profile(profile: Profile, then: Then, actor: Actor) -> int:
    """Disconnect; a sign-in that no profile needs any longer is ended at the network too. Raises ConflictError while one is being sent."""
    event = _EVENTS[then]
    open_ones = profile.deliveries.exclude(state__in=[DeliveryState.UNPLANNED, DeliveryState.PUBLISHED])
    with transaction.atomic():
        profile = Profile.objects.select_for_update(of=("self",), no_key=True).get(pk=profile.pk)
        if profile.state == Profile.State.DISCONNECTED:
            raise ConflictError(say("profile.disconnected_already", profile=profile.handle))
        ids = list(open_ones.values_list("pk", flat=True))
        with change_posts(System(profile.brand, actor), deliveries=ids) as change:
            schedules = {}
            for row in (change.deliveries[delivery_id] for delivery_id in ids if delivery_id in change.deliveries):
                schedule = change.schedule(row)
                if schedule.state is DeliveryState.SENDING:
                    raise ConflictError(say("profile.sending", profile=profile.handle))
                if accepts(schedule.state, event) and not schedule.may_be_out:
                    schedules[row.pk] = unschedule(schedule, event)
            connection = profile.connection
            profile.state, profile.connection = Profile.State.DISCONNECTED, None
            profile.save(update_fields=["state", "connection"])
            change.apply(Decision(schedules=schedules))
            code = "profile.disconnected_called_off" if then == "call_off" else "profile.disconnected_drafts"
            change.record("disconnect", "profile", profile.pk, say(code, profile=profile.handle, count=len(schedules)))
        publish_change(profile.brand_id, "profile", profile.pk)
        publish_change(profile.brand_id, "delivery", 0)
    if connection is not None and not connection.profiles.exists():
        _revoke_connection(connection)
    return len(schedules)


def _revoke_connection(connection: Connection) -> None:
    token = unseal(connection.refresh_token) if connection.refresh_token else unseal(connection.access_token)
    connection.delete()
    sign_in.revoke_token(connection.endpoints, token)
