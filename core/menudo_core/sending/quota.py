"""What a network takes of one profile: how many a day, how far apart, how many kept. When the next may go."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from menudo_core.networks.sheet import Pace

_DAY = timedelta(hours=24)


@dataclass(frozen=True, slots=True)
class Wait:
    """Until when a post must wait, and why."""

    at: datetime
    code: str
    message: str


@dataclass(frozen=True, slots=True, order=True)
class PublishedItem:
    """A post that went out: when, and with how many files."""

    at: datetime
    files: int = 0


def quota_wait(
    pace: Pace, life_days: int | None, network: str, sent: Sequence[PublishedItem], now: datetime, files: int = 0
) -> Wait | None:
    """Until when the profile's next post, with so many files, must wait; None: it may go now.

    `sent` are its posts at the network that may still count, in any order. A day is any 24 hours: the network's own day
    isn't known. A post counts as kept until `life_days` after it went out (None: for good).
    """
    gone = sorted(one for one in sent if one.at <= now)
    past = [one.at for one in gone]
    waits = [
        w
        for w in (
            _interval_wait(pace, network, past, now),
            _daily_posts_wait(pace, network, past, now),
            _daily_files_wait(pace, network, gone, now, files),
            _kept_posts_wait(pace, life_days, network, past, now),
        )
        if w
    ]
    return max(waits, key=lambda w: w.at, default=None)


def posts_kept(pace: Pace, life_days: int | None, sent: Sequence[datetime], now: datetime) -> tuple[int, int | None]:
    """How many of a profile's posts the network keeps just now, and how many it would."""
    return len(_published_still_up(life_days, sorted(sent), now)), pace.posts_kept


def ends_at(life_days: int | None, published: datetime | None) -> datetime | None:
    """When a post ends by itself at the network; None: it stays, or isn't out."""
    return published + timedelta(days=life_days) if life_days and published else None


def _interval_wait(pace: Pace, network: str, past: list[datetime], now: datetime) -> Wait | None:
    if not pace.seconds_between or not past:
        return None
    at = past[-1] + timedelta(seconds=pace.seconds_between)
    words = f"{network} wants {pace.seconds_between} seconds between two posts of a profile."
    return Wait(at, "pace", words) if at > now else None


def _daily_posts_wait(pace: Pace, network: str, past: list[datetime], now: datetime) -> Wait | None:
    most = pace.posts_a_day
    recent = [at for at in past if at > now - _DAY]
    if not most or len(recent) < most:
        return None
    words = f"{network} takes {most} posts a day from a profile, and {len(recent)} went out in the last 24 hours."
    return Wait(recent[-most] + _DAY, "quota", words)


def _daily_files_wait(pace: Pace, network: str, gone: list[PublishedItem], now: datetime, files: int) -> Wait | None:
    most = pace.media_a_day
    recent = [one for one in gone if one.at > now - _DAY and one.files]
    there = sum(one.files for one in recent)
    if not most or not files or there + files <= most or not recent:
        return None
    words = (
        f"{network} takes {most} pictures and films a day from a profile, and {there} went out in the last 24 hours."
    )
    for one in recent:
        there -= one.files
        if there + files <= most:
            return Wait(one.at + _DAY, "quota", words)
    # More than a whole day's: it goes by itself, and the network says what it makes of that.
    return Wait(recent[-1].at + _DAY, "quota", words)


def _kept_posts_wait(
    pace: Pace, life_days: int | None, network: str, past: list[datetime], now: datetime
) -> Wait | None:
    most = pace.posts_kept
    if not most or not life_days:
        return None
    there = _published_still_up(life_days, past, now)
    if len(there) < most:
        return None
    words = f"{network} keeps {most} posts of a profile, and {len(there)} are there. The oldest ends by itself."
    return Wait(there[-most] + timedelta(days=life_days), "cap", words)


def _published_still_up(life_days: int | None, past: list[datetime], now: datetime) -> list[datetime]:
    return [at for at in past if life_days is None or at + timedelta(days=life_days) > now]
