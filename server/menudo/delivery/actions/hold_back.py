"""What was claimed and isn't to go through the wire: held after all, or a person's to publish by hand."""

from django.db import transaction
from django.db.models import F

from menudo.base import clock
from menudo.base.live import tell
from menudo.delivery.actions.claim import held_by
from menudo.delivery.quotas import must_wait
from menudo.history.actions.record import MENUDO, record
from menudo.notices.actions.notify import notify
from menudo.people.capabilities import May
from menudo.people.who_may import who_may
from menudo.posts.actions.due import put_job
from menudo.posts.change.holds import hold_for
from menudo.posts.change.kernel import System
from menudo.posts.change.locks import lock_posts
from menudo.posts.change.recheck import recheck_signoff
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo.profiles.standing import Pauses
from menudo_core.sending.quota import Wait
from menudo_core.signoff.agreement import Sign
from menudo_core.signoff.holds import Hold
from menudo_core.signoff.states import DeliveryState, Event, after


def hold_back(delivery: Delivery, sign: Sign, pauses: Pauses, files: int) -> bool:
    """Whether the claimed delivery was held, discarded or handed to a person; False: it goes through the wire.

    Looked at here for the last time, so that a pause or a changed post that came a moment before still counts. `sign`:
    where sign-off stands by the answers themselves, of the very wording that would go out; `pauses`: those in force; `files`:
    how many it brings.
    """
    if delivery.post.binned is not None:
        with transaction.atomic():
            _put(delivery, state=after(DeliveryState.SENDING, Event.DISCARD), due_at=None, wall=None)
        return True
    delivery.signing = sign
    why = hold_for(delivery, pauses, clock.now())
    if why is not None:
        # Where the lease was lost meanwhile, the one who has it sees to it.
        with transaction.atomic():
            # Its post is locked before it, as everywhere: see posts/change/locks.py.
            lock_posts(Post.objects.filter(pk=delivery.post_id))
            if _put(delivery, state=after(DeliveryState.SENDING, Event.HOLD), held_for=why) and why is Hold.SIGNOFF:
                recheck_signoff(System(delivery.brand), [delivery.post_id])
        return True
    if delivery.profile.state != Profile.State.BY_HAND:
        wait = must_wait(delivery, files, clock.now())
        if wait is not None:
            _put_off(delivery, wait)
        return wait is not None
    with transaction.atomic():
        if _put(delivery, state=after(DeliveryState.SENDING, Event.HAND_OVER), step=Delivery.Step.HAND):
            profile = delivery.profile
            words = f"{profile.called or profile.handle}: it is time to publish “{delivery.headline or 'your post'}” by hand"
            path = f"/{delivery.brand.slug}/by-hand/{delivery.pk}"
            # Held meanwhile and handed over again, it is told again.
            key = f"by_hand:{delivery.pk}:{delivery.revision}"
            notify(_in_charge(profile), delivery.brand_id, "by_hand", key, words, path)
            record(
                delivery.brand_id,
                MENUDO,
                "hand_over",
                "delivery",
                delivery.pk,
                f"handed {profile.handle}'s post over, to publish by hand",
            )
    return True


def _put_off(delivery: Delivery, wait: Wait) -> None:
    """The network takes no more of the profile just now: the next window, and why."""
    with transaction.atomic():
        state = after(DeliveryState.SENDING, Event.WAIT)
        if _put(delivery, state=state, not_before=wait.at, reason=wait.words, reason_code=wait.code):
            put_job(delivery, wait.at)


def _put(delivery: Delivery, **changes: object) -> bool:
    done = held_by([delivery]).update(
        **changes, lease_until=None, lease_by="", tries=F("tries") - 1, revision=F("revision") + 1
    )
    tell(delivery.brand_id, "delivery", delivery.pk)
    return bool(done)


def _in_charge(profile: Profile) -> list[int]:
    """The profile's keeper, else everyone who may publish in the brand."""
    if profile.keeper_id is not None:
        return [profile.keeper_id]
    return who_may(profile.brand_id, May.PUBLISH)
