"""Lines: what goes out side by side."""

import threading
import time

from menudo.delivery.lines import Lines


def all_of(lines: Lines[str, str]) -> list[list[str]]:
    found, until = [], time.monotonic() + 30
    while lines and time.monotonic() < until:
        if came := lines.came(0.3):
            found.append(sorted(result for _, result in came))
    return found


def test_a_slow_one_holds_up_none_of_the_others(settings):
    settings.LINES = 4
    free, out = threading.Event(), []

    def act(item: str) -> str:
        if item == "hangs":
            free.wait(20)
        return item.upper()

    lines: Lines[str, str] = Lines(act)
    lines.put(["hangs", *"abcdef"])
    until = time.monotonic() + 10
    while len(out) < 6 and time.monotonic() < until:
        out += [result for _, result in lines.came(0.2)]
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

    lines: Lines[str, str] = Lines(quick)
    lines.put(str(n) for n in range(30))
    assert sum(len(some) for some in all_of(lines)) == 30 and len(threads) == 1

    # Four that wait for one another come back only when there are four lines.
    slow: Lines[str, str] = Lines(lambda item: str(together.wait(20)) and item)
    slow.put("abcd")
    assert sorted(result for some in all_of(slow) for result in some) == list("abcd")


def test_without_lines_the_caller_acts_itself(settings):
    settings.LINES = 0
    lines: Lines[int, int] = Lines(lambda item: threading.get_ident())
    lines.put([1, 2])
    assert {result for _, result in lines.came(0)} == {threading.get_ident()} and not lines
