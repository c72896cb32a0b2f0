"""Profile sets: named subsets of a brand's profiles."""

from collections.abc import Collection, Iterable, Mapping, Sequence


def members(sets: Iterable[Collection[int]], profiles: Sequence[int]) -> list[int]:
    """The profiles that any of `sets` names, each once, in the order of `profiles`.

    What a set names that is no longer among `profiles` (disconnected, deleted) is left out;
    no set at all names nobody.
    """
    named = {id for one in sets for id in one}
    return [id for id in profiles if id in named]


def switch(
    chosen: Collection[int], which: int, sets: Mapping[int, Collection[int]], profiles: Sequence[int]
) -> list[int]:
    """`chosen` with one set switched: on unless all its members are chosen already, else off.

    Switching one off keeps the members that another wholly chosen set also names.
    """
    now = set(chosen)
    whole = {id: frozenset(members([one], profiles)) for id, one in sets.items()}
    wanted = whole[which]
    if not wanted <= now:
        now |= wanted
    else:
        others = (m for id, m in whole.items() if id != which and m and m <= now and not m <= wanted)
        now -= wanted - frozenset().union(*others)
    return [id for id in profiles if id in now]
