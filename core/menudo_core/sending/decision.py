"""What to do with a network's answer. The decision is a value; the server carries it out."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum


class Outcome(StrEnum):
    """How one try at the network ended. `BROKEN`: by a mistake of Menudo's own, whatever the network would have said."""

    DONE = "done"
    REFUSED = "refused"
    NOT_AUTHORISED = "not_authorised"
    TOO_MANY = "too_many"
    DOWN = "down"
    UNSURE = "unsure"
    BROKEN = "broken"


@dataclass(frozen=True, slots=True)
class NetworkResponse:
    """One try's end. `message` is the network's own reason; `retry_at` what it asked for, if it did."""

    outcome: Outcome
    message: str = ""
    url: str = ""
    retry_at: datetime | None = None


class Step(StrEnum):
    """What the server does next."""

    PUBLISHED = "published"
    WAIT = "wait"
    TROUBLE = "trouble"
    RECONNECT = "reconnect"


@dataclass(frozen=True, slots=True)
class Decision:
    """`at` is set for WAIT; `message` says why, for the person who looks."""

    step: Step
    code: str = ""
    message: str = ""
    at: datetime | None = None


@dataclass(frozen=True, slots=True)
class Backoff:
    """Exponential back-off: `base` doubling up to `maximum`, at most `tries` tries in all."""

    base: timedelta = timedelta(seconds=20)
    maximum: timedelta = timedelta(minutes=30)
    tries: int = 12

    def delay(self, tried: int, dice: float) -> timedelta:
        """How long to wait after `tried` tries; `dice` in [0, 1) spreads it over half to all ("equal jitter")."""
        full = min(self.base * int(2 ** min(tried - 1, 30)), self.maximum)
        return full * (0.5 + dice / 2)


def decide_next_step(
    response: NetworkResponse, network: str, tried: int, now: datetime, dice: float, backoff: Backoff
) -> Decision:
    """What follows from `response` to try number `tried` (from 1) at the network named `network`.

    A refusal is final; a network that is down is tried again; one that asks for patience
    gets it, and that costs no try (RFC 9110, 10.2.3 Retry-After; RFC 6585, 4).
    """
    match response.outcome:
        case Outcome.DONE:
            return Decision(Step.PUBLISHED)
        case Outcome.REFUSED:
            return Decision(Step.TROUBLE, "refused", f"{network} refused it: {response.message}")
        case Outcome.NOT_AUTHORISED:
            words = f"{network} no longer lets Menudo post to this profile. Reconnect it, then send again."
            return Decision(Step.RECONNECT, "reconnect", words)
        case Outcome.UNSURE:
            words = f"It may have gone out: {network} can't tell. Look at the profile, then say whether it is there."
            return Decision(Step.TROUBLE, "unsure", words)
        case Outcome.BROKEN:
            if tried >= backoff.tries:
                words = (
                    f"Menudo itself broke over it in {tried} tries. See whether it is at {network}, then send it again."
                )
                return Decision(Step.TROUBLE, "broken", words)
            words = "Menudo itself broke over it. It is tried again."
            return Decision(Step.WAIT, "broken", words, now + backoff.delay(tried, dice))
        case Outcome.TOO_MANY:
            at = response.retry_at or now + backoff.delay(1, dice)
            return Decision(Step.WAIT, "too_many", f"{network} asked to wait.", max(at, now))
        case Outcome.DOWN:
            if tried >= backoff.tries:
                words = f"{network} could not be reached in {tried} tries ({response.message}). Send it again when {network} is back."
                return Decision(Step.TROUBLE, "down", words)
            return Decision(
                Step.WAIT, "down", f"{network} is not answering: {response.message}", now + backoff.delay(tried, dice)
            )
