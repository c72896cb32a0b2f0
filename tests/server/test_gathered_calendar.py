"""A calendar with more cards than can be read: it says how many stand where, and its cards come a page at a time."""

from collections import Counter
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from menudo.calendar.schemas import AllOut, CardsOut, WindowOut
from menudo.people.models import Brand, Membership, User
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from tests.server.test_wide import add_deliveries, add_profiles

MADRID = ZoneInfo("Europe/Madrid")


def cards(api, query: str) -> list[dict]:
    """Every card, page after page."""
    found, after = [], ""
    while after is not None:
        page = CardsOut.model_validate(api("GET", f"calendar/cards?{query}&after={after}", status=200)).model_dump()
        found += page["tickets"]
        after = page["next"]
    return found


def add_many(world) -> list[Delivery]:
    """601 deliveries a minute apart, on three profiles of two networks, some of them in trouble; and one in the bin."""
    lanes = add_profiles(world, 3)
    Profile.objects.filter(pk=lanes[2].pk).update(network="vitrine")
    rows = add_deliveries(lanes, ["planned", "held", "in_trouble", "published"] * 150 + ["missed", "called_off"])
    Post.objects.filter(pk=rows[-1].post_id).update(deleted_at=timezone.now())
    return rows[:-1]


def test_more_cards_than_can_be_read_are_counted_and_come_a_page_at_a_time(world):
    rows = add_many(world)
    api = world.api()
    window = WindowOut.model_validate(api("GET", "calendar", status=200))
    assert window.gathered is not None
    assert (len(window.lanes), window.tickets, window.marks) == (4, [], [])
    counted = Counter({one.profile: sum(one.days) for one in window.gathered.lanes})
    assert counted == Counter(row.profile_id for row in rows) and counted.total() == 601
    found = cards(api, "days=14")
    assert [card["id"] for card in found] == [row.pk for row in rows]
    first = window.days[0].date
    for row, card in zip(rows, found, strict=True):
        here = row.due_at.astimezone(MADRID)
        assert (card["day"], card["time"]) == ((here.date() - first).days, f"{here:%H:%M}")
    # Those of one network, or of one profile on one day, are what their heap says.
    assert {card["profile"] for card in cards(api, "networks=vitrine")} == {rows[2].profile_id}
    lane = window.gathered.lanes[0]
    day = next(n for n, count in enumerate(lane.days) if count)
    asked = f"first={first + timedelta(days=day)}&days=1&profiles={lane.profile}"
    assert {card["day"] for card in cards(api, f"{asked}&origin={first}")} == {day}
    assert len(cards(api, asked)) == lane.days[day]
    # One fewer, and they can be read.
    rows[0].delete()
    window = WindowOut.model_validate(api("GET", "calendar", status=200))
    assert len(window.tickets) == 600 and window.gathered is None
    assert len(WindowOut.model_validate(api("GET", "calendar?networks=vitrine", status=200)).tickets) == 200


def test_heaps_are_of_a_network_on_a_day_or_in_an_hour_and_say_what_is_in_trouble(world):
    rows = add_many(world)
    first, zone = datetime.now(MADRID).date(), MADRID
    networks = dict(Profile.objects.values_list("pk", "network"))
    for gather in ("network", "hour"):
        heaps = world.api()("GET", f"calendar?gather={gather}&days=7", status=200)["gathered"]["heaps"]
        expected, trouble = Counter(), Counter()
        for row in rows:
            here = row.due_at.astimezone(zone)
            key = ((here.date() - first).days, here.hour if gather == "hour" else None, networks[row.profile_id])
            expected[key] += 1
            trouble[key] += row.state in ("in_trouble", "missed")
        assert {(h["day"], h["hour"], h["network"]): h["count"] for h in heaps} == expected
        assert {(h["day"], h["hour"], h["network"]): h["trouble"] for h in heaps} == trouble
    world.api()("GET", "calendar?gather=colour", status=422)


def test_an_hour_that_comes_twice_is_one_heap_and_one_that_is_left_out_has_none(world):
    """Madrid's clocks went back on 25 October 2026 at 03:00 and go forward on 28 March 2027 at 02:00 (IANA tzdata, Europe/Madrid)."""
    rows = add_deliveries(add_profiles(world, 1), ["planned"] * 602)
    back, on = datetime(2026, 10, 25, tzinfo=UTC), datetime(2027, 3, 28, tzinfo=UTC)
    for start, day in ((back, "2026-10-25"), (on, "2027-03-28")):
        for n, row in enumerate(rows):
            row.due_at = start + timedelta(minutes=n % 120)
        Delivery.objects.bulk_update(rows, ["due_at"])
        heaps = world.api()("GET", f"calendar?first={day}&days=1&gather=hour", status=200)["gathered"]["heaps"]
        expected = Counter(row.due_at.astimezone(MADRID).hour for row in rows)
        assert {h["hour"]: h["count"] for h in heaps} == expected
        assert set(expected) == ({2} if start is back else {1, 3})


def test_the_marks_of_lanes_in_sight_are_those_of_the_whole_calendar(world):
    add_many(world)
    Profile.objects.update(min_gap_minutes=30, max_gap_days=2)
    api = world.api()
    profiles = Profile.objects.filter(brand=world.garden)
    asked = f"profiles={','.join(str(p.pk) for p in profiles)}&marks=true"
    told = api("GET", f"calendar/cards?{asked}", status=200)["marks"]
    # Where they can all be read the window says the same: here because the state leaves few, which marks don't go by.
    whole = api("GET", "calendar?states=missed", status=200)["marks"]
    assert whole and [one for one in told if one["profile"] == whole[0]["profile"]] == whole
    assert api("GET", "calendar/cards?marks=true", status=200)["marks"] == []


def test_a_page_that_isnt_there_is_refused_at_its_field(world):
    for after in ("x", "1.y", "9" * 30 + ".1", "1", ".", "-" + "9" * 20 + ".1"):
        refused = world.api()("GET", f"calendar/cards?after={after}", status=422)
        assert refused["errors"][0]["pointer"] == "query:after"


def test_across_brands_the_busiest_is_told_by_its_counts_and_the_others_by_their_cards(world):

    rows = add_many(world)
    rows += add_deliveries([rows[0].profile], ["planned"] * 300)
    Brand.objects.filter(pk=world.bakery.pk).update(zone="Pacific/Auckland")
    ines = User.objects.get(email="ines@example.org")
    Membership.objects.create(brand=world.bakery, user=ines, role="viewer", capabilities=["see"])
    (bread,) = add_deliveries([world.foreign], ["planned"])
    brands = {b["slug"]: b for b in AllOut(**world.api().client.get("/api/calendar").json()).model_dump()["brands"]}
    garden, bakery = brands["garden"], brands["bakery"]
    assert garden["tickets"] == garden["lanes"] == [] and sum(h["count"] for h in garden["heaps"]) == len(rows)
    assert ([t["id"] for t in bakery["tickets"]], bakery["heaps"], len(bakery["lanes"])) == ([bread.pk], [], 1)


def test_the_statements_of_a_gathered_calendar_are_as_many_however_much_there_is(world):
    api = world.api()

    def statements(path: str) -> int:
        with CaptureQueriesContext(connection) as asked:
            assert api.client.get(f"/api/brands/garden/{path}").status_code == 200
        return len(asked)

    add_many(world)
    paths = ("calendar", "calendar?gather=hour", "calendar/cards?days=7")
    statements(paths[0])
    few = [statements(path) for path in paths]
    add_deliveries(add_profiles(world, 20, "more"), ["planned"] * 300)
    assert [statements(path) for path in paths] == few


def test_a_filter_of_more_than_a_hundred_profiles_leaves_none_of_them_out(world):
    lanes = add_profiles(world, 130)
    asked = ",".join(str(p.pk) for p in lanes)
    assert len(world.api()("GET", f"calendar?profiles={asked}", status=200)["lanes"]) == 130
    refused = world.api()("GET", f"calendar?profiles={asked * 20}", status=422)
    assert refused["errors"][0]["pointer"] == "query:profiles"


def test_a_day_out_of_range_is_refused_at_its_own_field(world):
    for field in ("first", "origin"):
        refused = world.api()("GET", f"calendar/cards?{field}=1969-01-01", status=422)
        assert refused["errors"][0]["pointer"] == f"query:{field}"
