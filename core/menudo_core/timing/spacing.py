"""Times one after another, so that what waited doesn't go out in one burst."""

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta


def space_out(profiles: Sequence[int], apart: Mapping[int, timedelta], first: datetime) -> list[datetime]:
    """A time for each entry of `profiles` (a profile each, in order): the first of each at `first`, the next of the same
    profile `apart[profile]` later. Different profiles don't wait for each other.
    """
    seen: dict[int, int] = {}
    times = []
    for profile in profiles:
        times.append(first + apart[profile] * seen.get(profile, 0))
        seen[profile] = seen.get(profile, 0) + 1
    return times
