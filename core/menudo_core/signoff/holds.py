"""Why a planned delivery may not go out just now."""

from enum import StrEnum


class Hold(StrEnum):
    """What a delivery waits for."""

    SIGNOFF = "signoff"
    RECONNECT = "reconnect"
    PAUSED = "paused"


MISSED_WORDS = {
    Hold.SIGNOFF: "Its time came while it was held: it was not signed off. Give it a new time.",
    Hold.RECONNECT: "Its time came while the profile had to be reconnected. Reconnect it, then choose what happens.",
    Hold.PAUSED: "Its time came while it was paused. Choose what happens to it.",
}
HELD_WORDS = {
    Hold.SIGNOFF: "It waits for sign-off: it may be published once what it says now is agreed to.",
    Hold.RECONNECT: "It waits until its profile is reconnected.",
    Hold.PAUSED: "It is paused. It may be published once the pause is over.",
}
# What a person chooses for on reconnecting or resuming; what nobody signed is not among it.
RECOVERABLE_HOLDS = frozenset({Hold.RECONNECT, Hold.PAUSED})


def hold_reason(signed: bool, usable: bool, paused: bool) -> Hold | None:
    """Why something may not go out, or None. Sign-off comes first: what nobody signed is never caught up with.

    `usable`: the profile's connection stands (or it is by hand); `paused`: a pause covers the time it is due.
    """
    if not signed:
        return Hold.SIGNOFF
    if not usable:
        return Hold.RECONNECT
    return Hold.PAUSED if paused else None
