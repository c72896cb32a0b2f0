"""Trouble by its cause: what it is, in plain words, and what mends it."""

from dataclasses import dataclass
from enum import StrEnum


class Remedy(StrEnum):
    """What a person does about it first."""

    RETRY = "retry"
    WRITE = "write"
    LOOK = "look"
    RECONNECT = "reconnect"
    PLAN = "plan"
    SIGN = "sign"
    COMMENT = "comment"


@dataclass(frozen=True, slots=True)
class Cause:
    """`title` and `advice` name the network where they say {network}."""

    title: str
    advice: str
    remedy: Remedy


_CAUSES = {
    "refused": Cause(
        "{network} refused it", "Read its reason, change the version on the Bench, then send it again.", Remedy.WRITE
    ),
    "unsure": Cause(
        "It may have gone out",
        "Look at the profile, then say whether it is there. Menudo never sends it blindly.",
        Remedy.LOOK,
    ),
    "down": Cause(
        "{network} could not be reached",
        "Nothing is wrong with the post. Send it again when {network} is back.",
        Remedy.RETRY,
    ),
    "broken": Cause(
        "Menudo itself broke over it",
        "See whether it is at the profile, then send it again. The server's log says why.",
        Remedy.RETRY,
    ),
    "reconnect": Cause(
        "{network} no longer lets Menudo in",
        "Reconnect the profile; then choose what happens to what was missed.",
        Remedy.RECONNECT,
    ),
    "comment": Cause(
        "The post is out, but its first comment isn't", "The comment alone can be tried again.", Remedy.COMMENT
    ),
    "missed:signoff": Cause(
        "It missed its time: nobody signed it off", "Have it signed off, and plan it again.", Remedy.SIGN
    ),
    "missed:paused": Cause(
        "It missed its time while it was paused", "Give it a new time, or choose for all on Profiles.", Remedy.PLAN
    ),
    "missed:reconnect": Cause(
        "It missed its time while the profile had to be reconnected",
        "Reconnect it, then give it a new time.",
        Remedy.RECONNECT,
    ),
}
_OTHER = Cause("It needs a person", "Open it and see what it says.", Remedy.PLAN)


def cause_of(code: str, held_for: str = "") -> tuple[str, Cause]:
    """The cause of a reason's code (with what it was held for, when it was missed), and the key it is grouped by."""
    key = f"missed:{held_for or 'signoff'}" if code == "missed" else code
    return (key, _CAUSES[key]) if key in _CAUSES else ("other", _OTHER)
