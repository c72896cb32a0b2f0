"""What can be seen on the board before anything is switched on: rings, and profiles reached by more than one path."""

from collections.abc import Iterable, Mapping


def find_cycles(cells: Iterable[tuple[str, int]]) -> list[list[int]]:
    """The profiles that relays lead round in a ring, ring by ring, each in ascending order; a cell is a source's key and a
    target. By Tarjan's strongly connected components (SIAM J. Comput. 1, 1972), without recursion."""
    after: dict[int, list[int]] = {}
    for source, target in cells:
        if source.startswith("p"):
            after.setdefault(int(source[1:]), []).append(target)
    index: dict[int, int] = {}
    low: dict[int, int] = {}
    stack: list[int] = []
    on: set[int] = set()
    found: list[list[int]] = []
    for start in sorted(after):
        if start in index:
            continue
        work = [(start, iter(after.get(start, ())))]
        index[start] = low[start] = len(index)
        stack.append(start)
        on.add(start)
        while work:
            at, others = work[-1]
            for other in others:
                if other not in index:
                    index[other] = low[other] = len(index)
                    stack.append(other)
                    on.add(other)
                    work.append((other, iter(after.get(other, ()))))
                    break
                if other in on:
                    low[at] = min(low[at], index[other])
            else:
                work.pop()
                if work:
                    low[work[-1][0]] = min(low[work[-1][0]], low[at])
                if low[at] == index[at]:
                    ring = _close_cycle(stack, on, at)
                    if len(ring) > 1 or at in after.get(at, ()):
                        found.append(sorted(ring))
    return sorted(found)


def _close_cycle(stack: list[int], on: set[int], first: int) -> list[int]:
    ring = stack[stack.index(first) :]
    del stack[stack.index(first) :]
    on.difference_update(ring)
    return ring


def find_duplicates(cells: Iterable[tuple[str, int]]) -> dict[tuple[str, int], list[str]]:
    """Where what appears at a source would come to a profile by more than one path: for (source, profile), the keys of the
    last stations of the paths, in order. Only the first to come is carried; the others are what the guard turns away.
    A path that has been at the profile before is a ring, which is told as such."""
    after: dict[str, list[int]] = {}
    before: dict[int, list[str]] = {}
    for source, target in sorted(set(cells)):
        after.setdefault(source, []).append(target)
        before.setdefault(target, []).append(source)
    found: dict[tuple[str, int], list[str]] = {}
    for target, sources in sorted(before.items()):
        if len(sources) < 2:
            continue
        for source in sorted(after):
            if source == f"p{target}":
                continue
            reached = _reachable_from(source, after, without=target)
            last = [s for s in sources if s == source or (s.startswith("p") and int(s[1:]) in reached)]
            if len(last) > 1:
                found[source, target] = last
    return dict(sorted(found.items()))


def _reachable_from(source: str, after: Mapping[str, list[int]], without: int) -> set[int]:
    """The profiles that lead on from a source without going through one of them."""
    reached: set[int] = set()
    todo = [source]
    while todo:
        for target in after.get(todo.pop(), ()):
            if target not in reached and target != without:
                reached.add(target)
                todo.append(f"p{target}")
    return reached
