"""When a connection's end is warned of."""

from datetime import datetime, timedelta

WARNING_DAYS = (14, 3, 1)
_DAY = timedelta(days=1)


def days_left(expires_at: datetime, now: datetime) -> int:
    """Whole days until `expires_at`, rounded up: 1 in the last 24 hours; 0 when it is over."""
    return max(-((now - expires_at) // _DAY), 0)


def due_warning(expires_at: datetime, now: datetime, warned: int | None) -> int | None:
    """The warning that is due: of 14, 3 and 1 days, the smallest that is reached and was not given yet; None: none.

    `warned` is the last one given. A connection found late is warned of once, by its nearest one.
    """
    left = days_left(expires_at, now)
    reached = [days for days in WARNING_DAYS if left <= days]
    if not reached or left == 0:
        return None
    due = min(reached)
    return due if warned is None or due < warned else None
