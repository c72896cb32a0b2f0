"""What was claimed and isn't to go through the wire: held after all, or a person's to publish by hand."""

from django.db import transaction
from django.db.models import F

from menudo.base import clock
from menudo.base.live import DeliveryChange, publish_deliveries
from menudo.base.sentences import say
from menudo.delivery.actions.claim import leased_rows
from menudo.delivery.quotas import quota_wait_for
from menudo.history.actions.record_event import MENUDO, record_event
from menudo.notices.actions.notify import notify
from menudo.people.capabilities import Capability
from menudo.people.queries import members_with
from menudo.posts.actions.enqueue_delivery import enqueue_delivery
from menudo.posts.change.holds import hold_for
from menudo.posts.change.kernel import System
from menudo.posts.change.locks import lock_posts
from menudo.posts.change.recheck_signoff import recheck_signoff
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo.profiles.pauses import Pauses
from menudo_core.sending.quota import Wait
from menudo_core.signoff.agreement import SignoffState
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState, Event, next_state


def hold_back(delivery: Delivery, sign: SignoffState, pauses: Pauses, files: int) -> bool:
    """Whether the claimed delivery was held, discarded or handed to a person; False: it goes through the wire.

    Looked at here for the last time, so that a pause or a changed post that came a moment before still counts. `sign`:
    where sign-off stands by the answers themselves, of the very wording that would go out; `pauses`: those in force; `files`:
    how many it brings.
    """
    if delivery.post.deleted_at is not None:
        with transaction.atomic():
            _save_held(delivery, state=next_state(DeliveryState.SENDING, Event.DISCARD), due_at=None, wall_time=None)
        return True
    delivery.signoff_state = sign
    why = hold_for(delivery, pauses, clock.now())
    if why is not None:
        # Where the lease was lost meanwhile, the one who has it sees to it.
        with transaction.atomic():
            # Its post is locked before it, as everywhere: see posts/change/locks.py.
            lock_posts(Post.objects.filter(pk=delivery.post_id))
            if (
                _save_held(delivery, state=next_state(DeliveryState.SENDING, Event.HOLD), held_for=why)
                and why is Hold.SIGNOFF
            ):
                recheck_signoff(System(delivery.brand), [delivery.post_id])
        return True
    if delivery.profile.state != Profile.State.BY_HAND:
        wait = quota_wait_for(delivery, files, clock.now())
        if wait is not None:
            _postpone(delivery, wait)
        return wait is not None
    with transaction.atomic():
        if _save_held(delivery, state=next_state(DeliveryState.SENDING, Event.HAND_OVER), step=Delivery.Step.HAND):
            profile = delivery.profile
            told = say("by_hand.due", profile=profile.display_name or profile.handle, post=delivery.headline)
            path = f"/{delivery.brand.slug}/by-hand/{delivery.pk}"
            # Held meanwhile and handed over again, it is told again.
            key = f"by_hand:{delivery.pk}:{delivery.revision}"
            notify(_responsible_people(profile), delivery.brand_id, "by_hand", key, told, path)
            record_event(
                delivery.brand_id,
                MENUDO,
                "hand_over",
                "delivery",
                delivery.pk,
                say("delivery.handed_over", profile=profile.handle),
            )
    return True


def _postpone(delivery: Delivery, wait: Wait) -> None:
    """The network takes no more of the profile just now: the next window, and why."""
    with transaction.atomic():
        state = next_state(DeliveryState.SENDING, Event.WAIT)
        if _save_held(delivery, state=state, not_before=wait.at, reason=wait.message, reason_code=wait.code):
            enqueue_delivery(delivery, wait.at)


def _save_held(delivery: Delivery, **changes: object) -> bool:
    done = leased_rows([delivery]).update(
        **changes, lease_until=None, lease_holder="", tries=F("tries") - 1, revision=F("revision") + 1
    )
    publish_deliveries(
        delivery.brand_id, [DeliveryChange(delivery.pk, delivery.post_id, delivery.profile_id, delivery.due_at)]
    )
    return bool(done)


def _responsible_people(profile: Profile) -> list[int]:
    """The profile's keeper, else everyone who may publish in the brand."""
    if profile.keeper_id is not None:
        return [profile.keeper_id]
    return members_with(profile.brand_id, Capability.PUBLISH)
