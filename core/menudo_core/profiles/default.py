"""Where a new post goes until somebody chooses."""

from collections.abc import Iterable


def default_profile(profiles: Iterable[tuple[int, bool]]) -> int | None:
    """The first in the list's order for which something can be planned; None when there is none. `profiles`: ids, each with
    whether it is usable."""
    return next((profile_id for profile_id, usable in profiles if usable), None)
