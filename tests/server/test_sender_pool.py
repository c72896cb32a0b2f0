"""Lines: what goes out side by side."""

import threading
import time

from menudo.delivery.sender_pool import SenderPool


def one_lane(item: object) -> str:
    return "all"


def all_of(lines: SenderPool[str, str, str]) -> list[list[str]]:
    found, until = [], time.monotonic() + 30
    while lines and time.monotonic() < until:
        if came := lines.results(0.3):
            found.append(sorted(result for _, result in came))
    return found


def test_a_slow_one_holds_up_none_of_the_others(settings):
    settings.LINES = 4
    free, out = threading.Event(), []

    def act(item: str) -> str:
        if item == "hangs":
            free.wait(20)
        return item.upper()

    lines: SenderPool[str, str, str] = SenderPool(act, one_lane)
    lines.put(["hangs", *"abcdef"])
    until = time.monotonic() + 10
    while len(out) < 6 and time.monotonic() < until:
        out += [result for _, result in lines.results(0.2)]
    assert sorted(out) == list("ABCDEF") and len(lines) == 1
    free.set()
    assert all_of(lines) == [["HANGS"]]


def test_networks_that_answer_at_once_need_one_line_and_slow_ones_get_more(settings):
    settings.LINES = 4
    threads: set[int] = set()
    together = threading.Barrier(4)

    def quick(item: str) -> str:
        threads.add(threading.get_ident())
        return item

    lines: SenderPool[str, str, str] = SenderPool(quick, one_lane)
    lines.put(str(n) for n in range(30))
    assert sum(len(some) for some in all_of(lines)) == 30 and len(threads) == 1

    # Four that wait for one another come back only when there are four lines.
    slow: SenderPool[str, str, str] = SenderPool(lambda item: str(together.wait(20)) and item, one_lane)
    slow.put("abcd")
    assert sorted(result for some in all_of(slow) for result in some) == list("abcd")


def test_without_lines_the_caller_acts_itself(settings):
    settings.LINES = 0
    lines: SenderPool[str, int, int] = SenderPool(lambda item: threading.get_ident(), one_lane)
    lines.put([1, 2])
    assert {result for _, result in lines.results(0)} == {threading.get_ident()} and not lines


def test_a_network_that_hangs_takes_no_line_and_no_room_from_the_others(settings):
    settings.LINES = 2
    free, out = threading.Event(), []

    def act(item: str) -> str:
        if item.startswith("hangs"):
            free.wait(20)
        return item

    pool: SenderPool[str, str, str] = SenderPool(act, lambda item: item[:5])
    pool.put([f"hangs {n}" for n in range(6)])
    until = time.monotonic() + 15
    while not pool.stuck_lanes() and time.monotonic() < until:
        assert pool.results(0.1) == []
    assert pool.stuck_lanes() == {"hangs"} and pool.count_in_flight(without=pool.stuck_lanes()) == 0
    pool.put(["quick 1", "other 1", "quick 2"])
    while len(out) < 3 and time.monotonic() < until:
        out += [result for _, result in pool.results(0.1)]
    assert sorted(out) == ["other 1", "quick 1", "quick 2"] and len(pool) == 6
    free.set()
    while pool and time.monotonic() < until:
        pool.results(0.1)
    assert not pool and not pool.stuck_lanes()
