"""Why a delivery may not go out just now: the facts, and the core's word."""

from datetime import datetime

from menudo.posts.models import Delivery
from menudo.profiles.standing import Pauses, usable
from menudo_core.signoff.agreement import Sign
from menudo_core.signoff.holds import Hold, hold


def why_held(delivery: Delivery, pauses: Pauses, at: datetime | None = None) -> Hold | None:
    """What stands in the way of the delivery at `at` (None: when it is due). Its post, profile and brand are read with it."""
    instant = at or delivery.due_at
    signed = delivery.signing in (Sign.NONE, Sign.AGREED)
    paused = instant is not None and pauses.at(delivery.profile, instant) is not None
    return hold(signed, usable(delivery.profile), paused)
