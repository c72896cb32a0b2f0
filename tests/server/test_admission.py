"""How requests are taken: with every route loaded, and so many at once."""

import asyncio
import threading

import pytest
from asgiref.sync import markcoroutinefunction
from django.http import HttpResponse
from django.test import RequestFactory
from django.urls import clear_url_caches, get_resolver

from menudo.base.admission import Admission
from menudo.base.handler import Handler
from menudo.base.places import Place, PrioritySemaphore, leave_place


def test_every_route_is_loaded_before_the_first_request_is_taken():
    clear_url_caches()
    Handler()
    assert "url_patterns" in vars(get_resolver())


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


def begun(*priorities: str) -> list[str]:
    """In which order those who wait for the only place are let in: the first asker has it."""
    order: list[str] = []

    @markcoroutinefunction
    async def work(request) -> HttpResponse:
        order.append(request.headers["Priority"])
        await asyncio.sleep(0)
        return HttpResponse("done")

    async def run():
        admit = Admission(work)
        asked = [RequestFactory().get("/api/me", headers={"Priority": one}) for one in priorities]
        await asyncio.gather(*(admit(one) for one in asked))

    asyncio.run(run())
    return order


def test_who_says_that_it_is_less_urgent_lets_others_go_before(settings):
    """RFC 9218, 4.1: 0 to 7, 3 where nothing is said or what is said can't be read."""
    settings.REQUESTS_AT_ONCE = 1
    asked = ["u=0", "u=5", "u=4, i", "", "i", "u=3", "u=9", "au=7"]
    assert begun(*asked) == ["u=0", "", "i", "u=3", "u=9", "au=7", "u=5", "u=4, i"]


def test_who_waits_for_a_place_has_it_when_they_must_begin_earliest_and_who_went_away_has_none():
    async def run():
        places, order = PrioritySemaphore(1), []

        async def wait(patience: float) -> None:
            await places.acquire(patience)
            order.append(patience)
            places.release()

        await places.acquire(0)
        waiting = [asyncio.create_task(wait(patience)) for patience in (60, 5, 90, 4, 0)]
        await asyncio.sleep(0)
        waiting[1].cancel()
        places.release()
        # The place is theirs already as they go away: the next has it.
        waiting[4].cancel()
        await asyncio.gather(*waiting, return_exceptions=True)
        async with asyncio.timeout(5):
            await places.acquire(0)
        return order

    assert asyncio.run(run()) == [4, 60, 90]
