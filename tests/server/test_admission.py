"""How many requests are worked on at once."""

import asyncio
import threading

import pytest
from asgiref.sync import markcoroutinefunction
from django.http import HttpResponse
from django.test import RequestFactory

from menudo.base.admission import Admission
from menudo.base.places import Place, leave_place


class Work:
    """A view that works until it is let go; `most` is how many were at it at once."""

    def __init__(self, leaves: bool = False) -> None:
        self.leaves, self.at_it, self.most = leaves, 0, 0
        self.go = asyncio.Event()
        markcoroutinefunction(self)

    async def __call__(self, request) -> HttpResponse:
        self.at_it += 1
        self.most = max(self.most, self.at_it)
        if self.leaves:
            await asyncio.to_thread(leave_place)
        await self.go.wait()
        self.at_it -= 1
        return HttpResponse("done")


async def ask(admit, work: Work, paths: list[str], wanted: int) -> list[HttpResponse]:
    """Asks them all; when `wanted` are at it, they are let go."""
    asked = [asyncio.create_task(admit(RequestFactory().get(path))) for path in paths]
    async with asyncio.timeout(10):
        while work.at_it < wanted:
            await asyncio.sleep(0)
        work.go.set()
        return await asyncio.gather(*asked)


@pytest.fixture(autouse=True)
def two_at_once(settings):
    settings.REQUESTS_AT_ONCE = 2


def test_no_more_are_worked_on_than_there_are_places_and_all_have_their_turn():
    async def run():
        work = Work()
        answers = await ask(Admission(work), work, ["/api/me"] * 9, 2)
        return work.most, [answer.status_code for answer in answers]

    assert asyncio.run(run()) == (2, [200] * 9)


def test_one_that_waits_for_another_machine_lets_another_begin_and_a_watcher_waits_for_nobody():
    async def run(leaves, paths):
        work = Work(leaves)
        await ask(Admission(work), work, paths, len(paths))
        return work.most

    assert asyncio.run(run(True, ["/api/me"] * 5)) == 5
    assert asyncio.run(run(False, ["/api/me"] * 2 + ["/health"] * 3)) == 5


def test_one_that_takes_long_keeps_nobody_waiting(settings):
    settings.REQUEST_PLACE_SECONDS = 0.05

    async def run():
        work = Work()
        await ask(Admission(work), work, ["/api/me"] * 6, 6)
        return work.most

    assert asyncio.run(run()) == 6


def test_a_place_is_free_once_whoever_leaves_it_at_the_same_moment():
    def leave_together() -> list[int]:
        freed: list[int] = []
        place, together = Place(lambda: freed.append(1)), threading.Barrier(4)
        threads = [threading.Thread(target=lambda: (together.wait(5), place.leave())) for _ in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        return freed

    assert [leave_together() for _ in range(100)] == [[1]] * 100


def test_one_that_found_no_place_in_time_is_told_to_come_again_and_takes_none(settings):
    settings.REQUEST_WAIT_SECONDS = 0.05

    async def run():
        work = Work()
        admit = Admission(work)
        busy = [asyncio.create_task(admit(RequestFactory().get("/api/me"))) for _ in range(2)]
        async with asyncio.timeout(10):
            while work.at_it < 2:
                await asyncio.sleep(0)
            late = await admit(RequestFactory().get("/api/me"))
            work.go.set()
            await asyncio.gather(*busy)
        return late, await admit(RequestFactory().get("/api/me"))

    late, again = asyncio.run(run())
    assert (late.status_code, late["Retry-After"], again.status_code) == (503, "2", 200)
    assert "urn:menudo:problem:busy" in late.content.decode()


def test_one_that_breaks_or_goes_away_gives_its_place_back():
    async def breaks(request):
        raise ValueError

    async def run():
        admit = Admission(breaks)
        for _ in range(5):
            with pytest.raises(ValueError):
                await admit(RequestFactory().get("/api/me"))
        work = Work()
        admit = Admission(work)
        gone = [asyncio.create_task(admit(RequestFactory().get("/api/me"))) for _ in range(4)]
        await asyncio.sleep(0)
        for one in gone:
            one.cancel()
        await asyncio.gather(*gone, return_exceptions=True)
        work.at_it = 0
        return [answer.status_code for answer in await ask(admit, work, ["/api/me"] * 3, 2)]

    assert asyncio.run(run()) == [200] * 3
