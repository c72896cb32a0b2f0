"""Profile sets: named subsets of a brand's profiles."""

from collections.abc import Collection, Iterable, Sequence


def set_members(sets: Iterable[Collection[int]], profiles: Sequence[int]) -> list[int]:
    """The profiles that any of `sets` names, each once, in the order of `profiles`.

    What a set names that is no longer among `profiles` (disconnected, deleted) is left out;
    no set at all names nobody.
    """
    named = {profile_id for one in sets for profile_id in one}
    return [profile_id for profile_id in profiles if profile_id in named]
