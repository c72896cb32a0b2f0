"""When a feed is read again: politely, and less often while it fails."""

from datetime import datetime, timedelta

LEAST, USUAL, MOST = timedelta(minutes=15), timedelta(minutes=60), timedelta(days=1)
# After so many failures one after another people are told.
TELL_AFTER = 5


def next_reading(now: datetime, every: timedelta, fails: int, asked: timedelta | None = None) -> datetime:
    """The next time to read it (UTC). `fails`: how many readings failed one after another; each doubles the wait, up to a
    day. `asked`: how long the site asks to be left alone (Cache-Control, RSS's ttl, Retry-After); up to a day is heeded."""
    wait = min(max(every, LEAST) * (1 << min(fails, 10)), MOST)
    if asked is not None:
        wait = max(wait, min(asked, MOST))
    return now + wait
