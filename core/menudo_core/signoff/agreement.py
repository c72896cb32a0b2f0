"""Where one delivery's sign-off stands: who has agreed to what it says now, and who is asked next."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from menudo_core.signoff.rules import Rule, SigningMode


class Verdict(StrEnum):
    AGREED = "agreed"
    CHANGE = "change"


class SignoffState(StrEnum):
    """What sign-off says of a delivery. `NONE`: nobody is asked."""

    NONE = ""
    WAITS = "waits"
    BACK = "back"
    AGREED = "agreed"


@dataclass(frozen=True, slots=True)
class Answer:
    """What a signer said of a delivery's wording (its fingerprint) and time, and when. `change`: asked for a change."""

    signer: str
    verdict: Verdict
    fingerprint: str
    due: datetime | None
    at: datetime
    profile: int


@dataclass(frozen=True, slots=True)
class Revision:
    """What a delivery says now. `up`: when its post was put up for sign-off the last time, None: it isn't."""

    fingerprint: str
    due: datetime | None
    profile: int
    up: datetime | None


@dataclass(frozen=True, slots=True)
class SignoffStatus:
    """`asked` are the signers whose answer is awaited now; None in it: anyone who may. `changed`: somebody agreed to
    another wording or time than there is now."""

    state: SignoffState
    asked: frozenset[str | None] = frozenset()
    agreed: frozenset[str] = frozenset()
    changed: bool = False


def signoff_status(
    rules: Sequence[Rule], answers: Iterable[Answer], now: Revision, moving_asks: bool, earlier_stands: bool = False
) -> SignoffStatus:
    """Where sign-off stands under the rules that ask for it.

    Only an answer to the present wording counts (and, with `moving_asks`, to the present time): a change of either asks
    again. A signer's last answer holds; with `earlier_stands` one before it too, where the wording is back to what it was
    given to and they asked for no change since. A change asked for holds until the post is put up again. While it isn't up, nobody
    is asked, and nothing of it may go, whatever was agreed to before.
    """
    if not rules:
        return SignoffStatus(SignoffState.NONE)
    if now.up is None:
        return SignoffStatus(SignoffState.WAITS)
    agreed: set[str] = set()
    elsewhere: set[str] = set()
    back = False
    for signer, given in _by_signer(answers).items():
        if given[-1].verdict is Verdict.CHANGE:
            back = back or given[-1].at >= now.up
        elif _counting_answers(given, now, moving_asks, earlier_stands):
            agreed.add(signer)
        else:
            elsewhere.add(signer)
    asked = frozenset[str | None]().union(*(_outstanding_signers(rule, agreed) for rule in rules))
    changed = bool(elsewhere) and bool(asked)
    if back:
        return SignoffStatus(SignoffState.BACK, frozenset(), frozenset(agreed), changed)
    return SignoffStatus(SignoffState.WAITS if asked else SignoffState.AGREED, asked, frozenset(agreed), changed)


def _covers_revision(answer: Answer, now: Revision, moving_asks: bool) -> bool:
    return (
        answer.fingerprint == now.fingerprint
        and answer.profile == now.profile
        and (not moving_asks or answer.due == now.due)
    )


def agreements(answers: Iterable[Answer], now: Revision, moving_asks: bool, earlier_stands: bool) -> list[Answer]:
    """The answers that count as agreement to what the delivery says now. See `signoff_status`."""
    by_signer = _by_signer(answers).values()
    return [answer for given in by_signer for answer in _counting_answers(given, now, moving_asks, earlier_stands)]


def _counting_answers(given: list[Answer], now: Revision, moving_asks: bool, earlier_stands: bool) -> list[Answer]:
    """Those of one signer's answers, in their order, that are agreements to what there is now."""
    since_change: list[Answer] = []
    for answer in given:
        since_change = [] if answer.verdict is Verdict.CHANGE else [*since_change, answer]
    return [a for a in (since_change if earlier_stands else since_change[-1:]) if _covers_revision(a, now, moving_asks)]


def _by_signer(answers: Iterable[Answer]) -> dict[str, list[Answer]]:
    found: dict[str, list[Answer]] = {}
    for answer in sorted(answers, key=lambda a: a.at):
        found.setdefault(answer.signer, []).append(answer)
    return found


def _outstanding_signers(rule: Rule, agreed: set[str]) -> frozenset[str | None]:
    """Whom a rule still asks."""
    if not rule.signers:
        return frozenset() if agreed else frozenset({None})
    left = [signer for signer in rule.signers if signer not in agreed]
    match rule.mode:
        case SigningMode.ANY:
            return frozenset() if len(left) < len(rule.signers) else frozenset(left)
        case SigningMode.ALL:
            return frozenset(left)
        case SigningMode.IN_ORDER:
            return frozenset(left[:1])
