"""When a person is told outside the product: at once, after their quiet hours, or in a digest once a day."""

from datetime import datetime, time, timedelta
from enum import StrEnum
from zoneinfo import ZoneInfo

from menudo_core.timing.hours import Hours
from menudo_core.timing.walltimes import resolve_wall_time, wall_time_in


class Channel(StrEnum):
    """How a notice leaves the product. `NONE`: it is told in the product only."""

    NOW = "now"
    DIGEST = "digest"
    TEXT = "text"
    NONE = "none"


# What each kind of notice is about, and how it is told unless the person says otherwise.
KINDS: dict[str, tuple[str, Channel]] = {
    "sign": ("A post waits for me to sign off", Channel.NOW),
    "back": ("My post, or one I watch, is sent back", Channel.NOW),
    "agreed": ("My post, or one I watch, is agreed to", Channel.DIGEST),
    "mention": ("Somebody mentions me", Channel.NOW),
    "remark": ("A remark at my post, or at one I watch", Channel.DIGEST),
    "changed": ("A post I watch is changed or moved", Channel.DIGEST),
    "task": ("Somebody asks me to see to a post", Channel.NOW),
    "by_hand": ("It is time to publish by hand", Channel.NOW),
    "missed": ("A post missed its time", Channel.NOW),
    "trouble": ("A post is in trouble", Channel.NOW),
    "connection": ("A connection ends", Channel.NOW),
    "pause": ("A pause is over", Channel.NOW),
    "dry": ("A rota runs dry", Channel.DIGEST),
    "shelf": ("Fresh articles on the shelf, on the days I chose", Channel.DIGEST),
    "ask": ("A relay asks whether something shall go out", Channel.NOW),
    "starter": ("New starters wait", Channel.NONE),
}


class QuietHours(Hours):
    """Hours in the person's zone in which nothing is sent."""


def send_at(now: datetime, zone: ZoneInfo, quiet: QuietHours | None) -> datetime:
    """The instant at which what happens `now` may be sent: now, or when the quiet hours end on the person's wall."""
    wall_time = wall_time_in(now, zone)
    if quiet is None or not quiet.contains(wall_time.time()):
        return now
    day = wall_time.date() if wall_time.time() < quiet.end else wall_time.date() + timedelta(days=1)
    return max(resolve_wall_time(datetime.combine(day, quiet.end), zone).instant, now)


def digest_due(now: datetime, zone: ZoneInfo, at: time, last: datetime | None) -> bool:
    """Whether the day's digest, due at `at` on the person's wall, is still to be sent; `last`: when one was sent."""
    wall_time = wall_time_in(now, zone)
    today = resolve_wall_time(datetime.combine(wall_time.date(), at), zone).instant
    due = (
        today
        if today <= now
        else resolve_wall_time(datetime.combine(wall_time.date() - timedelta(days=1), at), zone).instant
    )
    return last is None or last < due
