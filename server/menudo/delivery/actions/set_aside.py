"""What was claimed and isn't to go through the wire: held after all, or a person's to publish by hand."""

from django.db import transaction
from django.db.models import F

from menudo.base import clock
from menudo.base.live import tell
from menudo.delivery.actions.claim import WHO
from menudo.history.actions.record import MENUDO, record
from menudo.notices.actions.notify import notify
from menudo.people.capabilities import May
from menudo.people.models import Membership
from menudo.posts.holding import why_held
from menudo.posts.models import Delivery
from menudo.profiles.models import Profile
from menudo.profiles.standing import pauses_of
from menudo_core.signoff.states import DeliveryState, Event, after


def set_aside(delivery: Delivery) -> bool:
    """Whether the claimed delivery was held or handed to a person; False: it goes through the wire.

    Looked at here for the last time, so that a pause or a changed post that came a moment before still counts.
    """
    why = why_held(delivery, pauses_of([delivery.brand_id]), clock.now())
    if why is not None:
        # Where the lease was lost meanwhile, the one who has it sees to it.
        _put(delivery, state=after(DeliveryState.SENDING, Event.HOLD), held_for=why)
        return True
    if delivery.profile.state != Profile.State.BY_HAND:
        return False
    with transaction.atomic():
        if _put(delivery, state=after(DeliveryState.SENDING, Event.HAND_OVER)):
            profile = delivery.profile
            words = f"{profile.called or profile.handle}: it is time to publish “{delivery.headline or 'your post'}” by hand"
            path = f"/{delivery.brand.slug}/by-hand/{delivery.pk}"
            key = f"by_hand:{delivery.pk}:{delivery.due_at}"
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


def _put(delivery: Delivery, **changes: str) -> bool:
    mine = Delivery.objects.filter(pk=delivery.pk, state=DeliveryState.SENDING, lease_by=WHO, tries=delivery.tries)
    done = mine.update(**changes, lease_until=None, lease_by="", tries=F("tries") - 1, revision=F("revision") + 1)
    tell(delivery.brand_id, "delivery", delivery.pk)
    return bool(done)


def _in_charge(profile: Profile) -> list[int]:
    """The profile's keeper, else everyone who may publish in the brand."""
    if profile.keeper_id is not None:
        return [profile.keeper_id]
    may = Membership.objects.filter(brand_id=profile.brand_id, capabilities__contains=[May.PUBLISH])
    return list(may.values_list("user_id", flat=True))
