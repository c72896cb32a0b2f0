"""What stands too far apart, too close together or too soon again: advice, never a wall."""

import itertools
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from enum import StrEnum
from zoneinfo import ZoneInfo

from menudo_core.text.similarity import SIMILARITY_THRESHOLD, jaccard_similarity

_DAY = timedelta(days=1)


class Kind(StrEnum):
    GAP = "gap"
    CLOSE = "close"
    MEDIA = "same_media"
    TEXT = "near_text"
    PACE = "pace"


@dataclass(frozen=True, slots=True)
class SpacingPreferences:
    """What a profile wishes: days without a post that are too many, minutes between two that are too few, posts that
    are too many in a day (its network's pace), days before the same media or text returns. None: no wish."""

    max_gap_days: int | None = None
    min_gap_minutes: int | None = None
    max_per_day: int | None = None
    repeat_days: int | None = None


@dataclass(frozen=True, slots=True)
class ScheduledItem:
    """A delivery that goes out, or went: its instant, its media's keys and its text's shingles."""

    id: int
    profile: int
    at: datetime
    media: frozenset[int] = frozenset()
    text: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class Advice:
    """One thing that could be better. `ids` are the deliveries it is about, earliest first; `first` and `last` the
    days of a gap, in the profile's zone; `other` is what is repeated."""

    kind: Kind
    profile: int
    summary: str
    ids: tuple[int, ...] = ()
    first: date | None = None
    last: date | None = None
    other: int | None = None


@dataclass
class _Lane:
    zone: ZoneInfo
    preferences: SpacingPreferences
    items: list[ScheduledItem] = field(default_factory=list)


def spacing_advice(
    items: Sequence[ScheduledItem],
    preferences: Mapping[int, SpacingPreferences],
    zones: Mapping[int, ZoneInfo],
    first: date,
    last: date,
) -> list[Advice]:
    """What there is to say of each profile's days `first` to `last`.

    `items` should reach back and ahead of those days by as much as the wishes look, so that the window's edges are
    judged as its middle is.
    """
    lanes = {profile: _Lane(zones[profile], wish) for profile, wish in preferences.items()}
    for one in sorted(items, key=lambda g: (g.at, g.id)):
        if one.profile in lanes:
            lanes[one.profile].items.append(one)
    found: list[Advice] = []
    for profile, lane in lanes.items():
        found += _gap_advice(profile, lane, first, last)
        found += _crowding_advice(profile, lane)
        found += _daily_limit_advice(profile, lane)
        found += _repetition_advice(profile, lane)
    return found


def _gap_advice(profile: int, lane: _Lane, first: date, last: date) -> list[Advice]:
    """Days in a row without a post, more than wished. Before the first post of all and after the last a gap counts too."""
    most = lane.preferences.max_gap_days
    if most is None:
        return []
    busy = sorted({g.at.astimezone(lane.zone).date() for g in lane.items})
    before = [day for day in busy if day < first]
    edges = [before[-1] if before else first - _DAY, *[day for day in busy if first <= day <= last]]
    beyond = [day for day in busy if day > last]
    edges.append(beyond[0] if beyond else last + _DAY)
    found = []
    for one, next_ in itertools.pairwise(edges):
        empty = (next_ - one).days - 1
        if empty > most:
            begins, ends = max(one + _DAY, first), min(next_ - _DAY, last)
            if begins <= ends:
                words = f"{empty} days without a post, and {most} are wished at most."
                found.append(Advice(Kind.GAP, profile, words, first=begins, last=ends))
    return found


def _crowding_advice(profile: int, lane: _Lane) -> list[Advice]:
    least = lane.preferences.min_gap_minutes
    if not least:
        return []
    groups: list[list[ScheduledItem]] = []
    for one, next_ in zip(lane.items, lane.items[1:], strict=False):
        if next_.at - one.at >= timedelta(minutes=least):
            continue
        if groups and groups[-1][-1] is one:
            groups[-1].append(next_)
        else:
            groups.append([one, next_])
    found = []
    for group in groups:
        apart = min(int((b.at - a.at).total_seconds() // 60) for a, b in itertools.pairwise(group))
        words = f"{len(group)} posts close together: {apart} minutes apart, and at least {least} are wished."
        found.append(Advice(Kind.CLOSE, profile, words, tuple(g.id for g in group)))
    return found


def _daily_limit_advice(profile: int, lane: _Lane) -> list[Advice]:
    most = lane.preferences.max_per_day
    if most is None:
        return []
    days: dict[date, list[ScheduledItem]] = defaultdict(list)
    for one in lane.items:
        days[one.at.astimezone(lane.zone).date()].append(one)
    return [
        Advice(
            Kind.PACE, profile, f"{len(day)} posts in a day, and the network takes {most}.", tuple(g.id for g in day)
        )
        for day in days.values()
        if len(day) > most
    ]


def _repetition_advice(profile: int, lane: _Lane) -> list[Advice]:
    """Media and near-same text within the days wished: looked for through what they share, not pair by pair."""
    days = lane.preferences.repeat_days
    if not days:
        return []
    within = days * _DAY
    found = []
    media: dict[int, ScheduledItem] = {}
    # Of those that say the very same, the latest is enough: an evergreen that went out a hundred times is looked at once.
    shares: dict[str, dict[frozenset[str], ScheduledItem]] = defaultdict(dict)
    for one in lane.items:
        same = next((media[m] for m in sorted(one.media) if m in media and one.at - media[m].at < within), None)
        if same is not None:
            found.append(
                Advice(
                    Kind.MEDIA, profile, _days_apart_words("The same media stands", one, same), (one.id,), other=same.id
                )
            )
        media.update(dict.fromkeys(one.media, one))
        counted: dict[int, ScheduledItem] = {}
        for shingle in one.text:
            for other in shares[shingle].values():
                if one.at - other.at < within:
                    counted[other.id] = other
            shares[shingle][one.text] = one
        near = [other for other in counted.values() if jaccard_similarity(one.text, other.text) >= SIMILARITY_THRESHOLD]
        if near:
            latest = max(near, key=lambda g: (g.at, g.id))
            words = _days_apart_words("Nearly the same text stands", one, latest)
            found.append(Advice(Kind.TEXT, profile, words, (one.id,), other=latest.id))
    return found


def _days_apart_words(what: str, one: ScheduledItem, other: ScheduledItem) -> str:
    days = (one.at - other.at).days
    when = "on the same day" if days == 0 else "a day before" if days == 1 else f"{days} days before"
    return f"{what} {when}."
