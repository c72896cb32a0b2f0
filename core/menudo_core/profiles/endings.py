"""When a connection's end is warned of."""

from datetime import datetime, timedelta

WARN_DAYS = (14, 3, 1)
_DAY = timedelta(days=1)


def days_left(ends: datetime, now: datetime) -> int:
    """Whole days until `ends`, rounded up: 1 in the last 24 hours; 0 when it is over."""
    return max(-((now - ends) // _DAY), 0)


def to_warn(ends: datetime, now: datetime, warned: int | None) -> int | None:
    """The warning that is due: of 14, 3 and 1 days, the smallest that is reached and was not given yet; None: none.

    `warned` is the last one given. A connection found late is warned of once, by its nearest one.
    """
    left = days_left(ends, now)
    reached = [days for days in WARN_DAYS if left <= days]
    if not reached or left == 0:
        return None
    due = min(reached)
    return due if warned is None or due < warned else None
