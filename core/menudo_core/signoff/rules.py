"""Who must sign what off: a brand's rules, and which of them ask for one delivery."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from enum import StrEnum


class SigningMode(StrEnum):
    """How many of those named must agree."""

    ANY = "any"
    ALL = "all"
    IN_ORDER = "in_order"


@dataclass(frozen=True, slots=True)
class Rule:
    """One rule. An empty set asks of everything; what isn't empty must all hold.

    `signers` are signers by key, in their order; nobody named is anyone who may sign off. `before`: the answer is wanted
    that long before the due time, None: up to it.
    """

    signers: tuple[str, ...] = ()
    mode: SigningMode = SigningMode.ANY
    profiles: frozenset[int] = frozenset()
    labels: frozenset[int] = frozenset()
    kinds: frozenset[str] = frozenset()
    authors: frozenset[int] = frozenset()
    before: timedelta | None = None


@dataclass(frozen=True, slots=True)
class SignoffSubject:
    """What rules are asked of: one delivery's profile, its post's labels and author, and its kind of post."""

    profile: int
    kind: str
    author: int | None = None
    labels: Collection[int] = field(default_factory=frozenset)


ANYONE = Rule()


def rules_for(rules: Sequence[Rule], needed: bool, matter: SignoffSubject) -> tuple[Rule, ...]:
    """The rules that ask for sign-off of it, all of which must be met.

    `needed`: whether the brand signs off at all. One that does and has no rules asks of everything, of anyone who may.
    """
    if not needed:
        return ()
    return tuple(rule for rule in rules or (ANYONE,) if rule_applies(rule, matter))


def rule_applies(rule: Rule, matter: SignoffSubject) -> bool:
    """Whether one rule asks for sign-off of it."""
    return (
        (not rule.profiles or matter.profile in rule.profiles)
        and (not rule.labels or not rule.labels.isdisjoint(matter.labels))
        and (not rule.kinds or matter.kind in rule.kinds)
        and (not rule.authors or matter.author in rule.authors)
    )


def answer_deadline(rules: Sequence[Rule], due: datetime | None) -> datetime | None:
    """Until when the answer is wanted: the earliest that any rule says; None while there is no due time or no rule."""
    if due is None or not rules:
        return None
    return min(due - rule.before if rule.before else due for rule in rules)
