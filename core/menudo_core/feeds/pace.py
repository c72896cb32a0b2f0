"""When a feed is read again: politely, and less often while it fails."""

from datetime import datetime, timedelta

LEAST, USUAL, MOST = timedelta(minutes=15), timedelta(minutes=60), timedelta(days=1)
# After so many failures one after another people are told.
NOTIFY_AFTER_FAILURES = 5


def next_poll_at(
    now: datetime, interval: timedelta, failures: int, requested_wait: timedelta | None = None
) -> datetime:
    """The next time to read it (UTC). `failures`: how many readings failed one after another; each doubles the wait, up to a
    day. `requested_wait`: how long the site asks to be left alone (Cache-Control, RSS's ttl, Retry-After); up to a day is heeded."""
    wait = min(max(interval, LEAST) * (1 << min(failures, 10)), MOST)
    if requested_wait is not None:
        wait = max(wait, min(requested_wait, MOST))
    return now + wait
