"""The calendar through the API: moving many, narrowing, spreading, zones, views, addresses, almanac, grid proof."""

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import icalendar
import pytest
import recurring_ical_events
from django.db import OperationalError
from django.test import Client
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from menudo.history.models import HistoryEvent
from menudo.people.models import Brand
from menudo.posts.actions import follow_zone
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from tests.server.conftest import picture, post_in
from tests.server.test_posts import made, planned, tomorrow

MADRID = ZoneInfo("Europe/Madrid")


@pytest.fixture
def two(world, standin):
    """A second profile on the same network."""
    tokens = world.connection
    return Profile.objects.create(
        brand=world.garden,
        network="brisk",
        connection=tokens,
        remote_id="talks",
        handle="@talks",
        name="Talks",
        kind="account",
    )


def on_both(world, two, hour=12, text="Forty kinds of moss"):
    post = world.api()("POST", "posts", post_in(text, profiles=[world.profile.pk, two.pk]), status=201)
    when = {"kind": "at", "wall_time": tomorrow(hour)}
    return world.api()("POST", f"posts/{post['id']}/plan", {"when": when}, post["revision"], 200)["post"]


def move(delivery, **more):
    return {"id": delivery["id"], "revision": delivery["revision"], **more}


def walls():
    return {d.profile.handle: d.wall_time.strftime("%d %H:%M") if d.wall_time else None for d in Delivery.objects.all()}


def test_many_are_moved_in_one_step_and_undone_exactly(world, two):
    api = world.api()
    rows = [d for hour in (9, 12, 18) for d in on_both(world, two, hour, f"At {hour}")["deliveries"]]
    before = list(Delivery.objects.order_by("pk").values("pk", "due_at", "wall_time", "zone", "state", "profile"))
    later = [move(d, wall_time=(datetime.fromisoformat(d["wall_time"]) + timedelta(days=3)).isoformat()) for d in rows]
    done = api("POST", "moves", {"moves": later}, status=200)
    assert sorted(done["moved"]) == sorted(d["id"] for d in rows) and done["left"] == []
    assert {d.due_at - b["due_at"] for d, b in zip(Delivery.objects.order_by("pk"), before, strict=True)} == {
        timedelta(days=3)
    }
    api("POST", f"undo/{done['undo']}", status=200)
    assert (
        list(Delivery.objects.order_by("pk").values("pk", "due_at", "wall_time", "zone", "state", "profile")) == before
    )


@settings(max_examples=12, suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow])
@given(
    st.lists(
        st.tuples(st.integers(0, 5), st.one_of(st.none(), st.integers(2, 200)), st.booleans()),
        min_size=1,
        max_size=6,
        unique_by=lambda one: one[0],
    ),
    st.booleans(),
)
def test_whatever_is_moved_undo_restores_exactly(world, two, moves, whole):
    """Any mix of moves by hours, to the tray, snapped or not, alone or with sisters; one undo is as if it never was."""
    api = world.api()
    if not Delivery.objects.exists():
        for hour in (9, 12, 18):
            on_both(world, two, hour, f"At {hour}")
    rows = list(Delivery.objects.order_by("pk"))
    kept = ("pk", "due_at", "wall_time", "zone", "state", "profile", "held_for", "delay", "jitter", "was_due")
    before = list(Delivery.objects.order_by("pk").values(*kept))
    body = [
        {
            "id": rows[n].pk,
            "revision": rows[n].revision,
            "snap": snap and hours is not None,
            "wall_time": hours and (rows[n].wall_time + timedelta(hours=hours)).strftime("%Y-%m-%dT%H:%M"),
        }
        for n, hours, snap in moves
    ]
    done = api("POST", "moves", {"moves": body, "whole": whole}, status=200)
    assert len(done["moved"]) >= len(moves) - len(done["left"])
    api("POST", f"undo/{done['undo']}", status=200)
    assert list(Delivery.objects.order_by("pk").values(*kept)) == before


def test_weeks_are_those_of_iso_8601():
    """ISO 8601: 2026 has 53 weeks (it begins on a Thursday); the examples are those of the standard's own rule."""
    from menudo.calendar.window import window_days

    weeks = {d.date: (d.week, d.weekday) for d in window_days(date(2026, 12, 26), 12, date(2026, 12, 26))}
    assert weeks[date(2026, 12, 27)] == (52, 6) and weeks[date(2026, 12, 28)] == (53, 0)
    assert weeks[date(2027, 1, 3)] == (53, 6) and weeks[date(2027, 1, 4)] == (1, 0)


def test_one_delivery_goes_alone_or_the_whole_post_along_by_as_much(world, two):
    one, other = on_both(world, two)["deliveries"]
    day = tomorrow()[8:10]
    done = world.api()("POST", "moves", {"moves": [move(one, wall_time=tomorrow(15))]}, status=200)
    assert walls() == {"@fernhollow": f"{day} 15:00", "@talks": f"{day} 12:00"}
    revision = Delivery.objects.get(pk=one["id"]).revision
    world.api()(
        "POST",
        "moves",
        {"moves": [{"id": one["id"], "revision": revision, "wall_time": tomorrow(17)}], "whole": True},
        status=200,
    )
    assert walls() == {"@fernhollow": f"{day} 17:00", "@talks": f"{day} 14:00"}
    assert done["moved"] == [one["id"]] and other["id"] != one["id"]


def test_sisters_keep_their_time_on_the_wall_over_a_clock_change(world, two):
    """IANA: in Madrid the clocks go back at 01:00 UTC on the last Sunday of October."""
    year = datetime.now(MADRID).year + 1
    sunday = max(d for n in range(25, 32) if (d := date(year, 10, n)).weekday() == 6)
    saturday, monday = sunday - timedelta(days=1), sunday + timedelta(days=1)
    post = world.api()("POST", "posts", post_in("Moss", profiles=[world.profile.pk, two.pk]), status=201)
    when = {"kind": "at", "wall_time": f"{saturday}T12:00"}
    rows = world.api()("POST", f"posts/{post['id']}/plan", {"when": when}, post["revision"], 200)["post"]["deliveries"]
    # The sister goes out after the change already; the one that leads it is moved over it.
    first = {"moves": [move(rows[1], wall_time=f"{sunday}T18:00")]}
    world.api()("POST", "moves", first, status=200)
    world.api()("POST", "moves", {"moves": [move(rows[0], wall_time=f"{monday}T12:00")], "whole": True}, status=200)
    assert {d.wall_time.strftime("%H:%M") for d in Delivery.objects.all()} == {"12:00", "18:00"}


def test_what_cant_be_moved_is_left_with_its_reason_and_the_others_go(world, two):
    one, other = on_both(world, two)["deliveries"]
    Delivery.objects.filter(pk=other["id"]).update(state="published", published_at=datetime.now(UTC))
    done = world.api()(
        "POST", "moves", {"moves": [move(one, wall_time=tomorrow(15)), move(other, wall_time=tomorrow(15))]}, status=200
    )
    assert done["moved"] == [one["id"]]
    assert done["left"] == [{"delivery": other["id"], "reason": "@talks: It has been published already."}]


def test_into_the_past_nothing_goes_and_a_stale_card_is_told_what_stands(world):
    (one,) = planned(world)["post"]["deliveries"]
    api = world.api()
    problem = api("POST", "moves", {"moves": [move(one, wall_time="2020-01-01T12:00")]}, status=422)
    assert problem["errors"][0]["pointer"] == "/moves/0" and "has passed" in problem["detail"]
    api("POST", "moves", {"moves": [move(one, wall_time=tomorrow(15))]}, status=200)
    stale = api("POST", "moves", {"moves": [move(one, wall_time=tomorrow(16))]}, status=412)
    assert stale["present"]["wall_time"] == tomorrow(15)


def test_to_the_tray_and_back_undone(world, two):
    rows = on_both(world, two)["deliveries"]
    done = world.api()("POST", "moves", {"moves": [move(rows[0], wall_time=None)], "whole": True}, status=200)
    assert {d.state for d in Delivery.objects.all()} == {"unplanned"}
    assert all(d.was_due for d in Delivery.objects.all())
    world.api()("POST", f"undo/{done['undo']}", status=200)
    assert {d.state for d in Delivery.objects.all()} == {"planned"}


def test_to_another_profile_where_its_rules_let_it_and_back(world, two):
    (one,) = planned(world)["post"]["deliveries"]
    done = world.api()("POST", "moves", {"moves": [move(one, wall_time=tomorrow(), profile=two.pk)]}, status=200)
    assert Delivery.objects.get().profile == two
    world.api()("POST", f"undo/{done['undo']}", status=200)
    assert Delivery.objects.get().profile == world.profile
    two.state = Profile.State.RECONNECT
    two.save()
    revision = Delivery.objects.get().revision
    body = {"moves": [{"id": one["id"], "revision": revision, "wall_time": tomorrow(), "profile": two.pk}]}
    assert "must be connected" in world.api()("POST", "moves", body, status=422)["detail"]


def test_it_snaps_to_the_nearest_free_slot(world):
    (one,) = planned(world)["post"]["deliveries"]
    monday = date.today() + timedelta(days=7 - date.today().weekday() + 7)
    world.api()("POST", "moves", {"moves": [move(one, wall_time=f"{monday}T14:10", snap=True)]}, status=200)
    assert Delivery.objects.get().wall_time.strftime("%H:%M") == "13:00"  # Brisk's first timetable has 9, 13 and 18


def test_stagger_and_sway_are_planned_as_they_were_shown(world, two):
    post = world.api()("POST", "posts", post_in("Moss", profiles=[world.profile.pk, two.pk]), status=201)
    when = {
        "kind": "at",
        "wall_time": tomorrow(12),
        "stagger": {"least": 20, "most": 40},
        "jitter": 9,
        "seed": 77,
        "order": [two.pk, world.profile.pk],
    }
    shown = {t["profile"]: t for t in world.api()("POST", f"posts/{post['id']}/times", {"when": when}, status=200)}
    assert shown[two.pk]["delay"] == 0 and 20 <= shown[world.profile.pk]["delay"] <= 40
    assert all(abs(t["jitter"]) <= 9 for t in shown.values())
    assert Delivery.objects.filter(state="planned").count() == 0
    done = world.api()("POST", f"posts/{post['id']}/plan", {"when": when}, post["revision"], 200)
    assert {d["profile"]: d["wall_time"] for d in done["post"]["deliveries"]} == {
        delivery_id: t["wall_time"] for delivery_id, t in shown.items()
    }
    moved = Delivery.objects.get(profile=world.profile)
    assert moved.seed == 77 and moved.delay == shown[world.profile.pk]["delay"]
    world.api()(
        "POST",
        "moves",
        {"moves": [{"id": moved.pk, "revision": moved.revision, "wall_time": tomorrow(18)}]},
        status=200,
    )
    moved.refresh_from_db()
    assert (moved.delay, moved.jitter, moved.seed) == (0, 0, None)


def test_a_draft_lifted_onto_a_day_takes_that_days_free_slot_and_the_profile_it_was_put_to(world, two):
    post = world.api()("POST", "posts", post_in("Moss"), status=201)
    monday = date.today() + timedelta(days=14 - date.today().weekday())
    body = {"when": {"kind": "day", "wall_time": f"{monday}T12:00"}, "profiles": [world.profile.pk]}
    world.api()("POST", f"posts/{post['id']}/plan", body, post["revision"], 200)
    assert Delivery.objects.get().wall_time.strftime("%Y-%m-%d %H:%M") == f"{monday} 09:00"
    other = world.api()("POST", "posts", post_in("Bark"), status=201)
    world.api()("POST", f"posts/{other['id']}/plan", {**body, "profiles": [two.pk]}, other["revision"], 200)
    assert Delivery.objects.get(profile=two).wall_time.strftime("%H:%M") == "12:00"  # no slots: noon


def test_a_slot_kept_for_a_label_is_taken_by_its_posts_alone(world):
    api = world.api()
    label = api("POST", "labels", {"name": "Talks", "ink": "plum"}, status=201)["id"]
    slots = [{"weekday": n, "at": "10:00", "label": None} for n in range(7)] + [
        {"weekday": 2, "at": "20:00", "label": label}
    ]
    api("PUT", f"profiles/{world.profile.pk}/timetable", {"slots": slots}, status=200)
    plain, talk = made(world, "Plain"), made(world, "A talk", labels=[label])
    for post in (plain, talk):
        api("POST", f"posts/{post['id']}/plan", {"when": {"kind": "next_slot"}}, post["revision"], 200)
    assert Delivery.objects.get(post=plain["id"]).wall_time.strftime("%H:%M") == "10:00"
    kept = Delivery.objects.get(post=talk["id"]).wall_time
    assert (kept.weekday(), kept.strftime("%H:%M")) == (2, "20:00")


def test_a_zone_changed_later_asks_whether_the_wall_or_the_moment_holds(world):
    (one,) = planned(world)["post"]["deliveries"]
    api, before = world.api(), Delivery.objects.get()
    for hold in ("wall", "instant"):
        api("PATCH", f"profiles/{world.profile.pk}", {"zone": "Atlantic/Canary"}, status=204)
        body = {"profile": world.profile.pk, "was": "Europe/Madrid", "hold": hold}
        assert api("POST", "zone-changes", body, status=200) == {"followed": 1, "stay": 0}
        now = Delivery.objects.get()
        assert now.zone == "Atlantic/Canary"
        if hold == "wall":
            assert (now.wall_time, now.due_at) == (before.wall_time, before.due_at + timedelta(hours=1))
        else:
            assert (now.wall_time, now.due_at) == (before.wall_time - timedelta(hours=1), before.due_at)
        Delivery.objects.update(zone="Europe/Madrid", wall_time=before.wall_time, due_at=before.due_at)
        api("PATCH", f"profiles/{world.profile.pk}", {"zone": ""}, status=204)
    assert one["zone"] == "Europe/Madrid"


def test_a_zone_is_followed_in_pieces_and_the_history_says_how_many_also_where_one_breaks(world, two, monkeypatch):
    api = world.api()
    for day in (10, 11, 12):
        on_both(world, two, day, f"Moss {day}")
    Brand.objects.filter(pk=world.garden.pk).update(zone="Atlantic/Canary")
    monkeypatch.setattr(follow_zone, "_AT_ONCE", 3)
    real, pieces = follow_zone._follow, []

    def break_at_the_second(*given) -> tuple[int, int]:
        pieces.append(given[1])
        if len(pieces) == 2:
            raise OperationalError("gone")
        return real(*given)

    monkeypatch.setattr(follow_zone, "_follow", break_at_the_second)
    body = {"profile": None, "was": "Europe/Madrid", "hold": "wall"}
    with pytest.raises(OperationalError):
        api("POST", "zone-changes", body)
    # A post's deliveries stay together.
    assert len(pieces[0]) == 4 and Delivery.objects.filter(zone="Atlantic/Canary").count() == 4
    assert api("POST", "zone-changes", body, status=200) == {"followed": 2, "stay": 0}
    assert api("POST", "zone-changes", body, status=200) == {"followed": 0, "stay": 0}
    told = HistoryEvent.objects.filter(verb="zone").order_by("pk")
    assert [e.params["count"] for e in told] == [4, 2]


def test_every_view_is_narrowed_alike(world, two):
    api = world.api()
    label = api("POST", "labels", {"name": "Talks", "ink": "plum"}, status=201)["id"]
    campaign = api(
        "POST",
        "campaigns",
        {"name": "Week", "starts_on": "2026-01-01", "ends_on": "2026-12-31", "ink": "moss"},
        status=201,
    )["id"]
    talk = on_both(world, two, 10, "A talk on moss")
    on_both(world, two, 11, "Bark")
    api(
        "POST",
        "marks",
        {"posts": [talk["id"]], "add": [label], "campaign": campaign, "sets_campaign": True},
        status=200,
    )
    me = next(m["user"] for m in api("GET", "people", status=200)["members"] if m["email"] == "ines@example.org")

    def seen(**query):
        from urllib.parse import urlencode

        return len(api("GET", f"calendar?{urlencode(query)}", status=200)["tickets"])

    assert seen() == 4
    assert seen(labels=label) == seen(campaigns=campaign) == seen(words="talk ON") == 2
    assert seen(profiles=two.pk) == 2 and seen(profiles=two.pk, labels=label) == 1
    assert seen(networks="plaza") == 0 and seen(networks="brisk") == 4
    assert seen(states="planned") == 4 and seen(states="published") == 0
    assert seen(people=me) == 4 and seen(people=me + 1000) == 0 and seen(labels="999") == 0
    (found,) = api("GET", "campaigns", status=200)
    assert (found["posts"], found["planned"], found["drafts"]) == (1, 1, 0)


def test_gaps_and_crowds_stand_in_the_lane_and_advice_proposes_a_time(world):
    api = world.api()
    for minute in (0, 20):
        planned(world, f"{tomorrow()[:11]}12:{minute:02d}", text=f"At {minute}")
    (lane,) = api("GET", "calendar", status=200)["marks"]
    assert [len(c["ids"]) for c in lane["crowds"]] == [2] and lane["gaps"][0]["last"] == 13
    found = {a["kind"]: a for a in api("GET", "calendar/advice", status=200)["advice"]}
    assert found["close"]["proposed"] > tomorrow() and found["close"]["subject"]
    assert "near_text" not in found
    wishes = {
        "max_gap_days": None,
        "min_gap_minutes": None,
        "min_repeat_days": None,
        "waking_from": "08:00",
        "waking_until": "22:00",
    }
    far = {**wishes, "waking_from": "08:00+02:00"}
    refused = api("PUT", f"profiles/{world.profile.pk}/spacing", far, status=422)
    assert [(e["pointer"], "without an offset" in e["detail"]) for e in refused["errors"]] == [("/waking_from", True)]
    api("PUT", f"profiles/{world.profile.pk}/spacing", wishes, status=200)
    assert api("GET", "calendar", status=200)["marks"] == []


def test_two_tiles_of_a_page_of_pictures_swap_their_times_not_their_posts(world):
    Profile.objects.filter(pk=world.profile.pk).update(network="vitrine", kind="business")
    asset = world.api().upload(picture()).json()["id"]
    for hour in (10, 12):
        planned(world, tomorrow(hour), text=f"At {hour}", master={"text": f"At {hour}", "media": [asset]})
    api = world.api()
    grid = api("GET", f"profiles/{world.profile.pk}/grid", status=200)
    assert [t["headline"] for t in grid["tiles"]] == ["At 12", "At 10"]
    one, other = ({"id": t["delivery"], "revision": t["revision"]} for t in grid["tiles"])
    undo = api("POST", "swaps", {"one": one, "other": other}, status=200)["undo"]
    assert [t["headline"] for t in api("GET", f"profiles/{world.profile.pk}/grid")["tiles"]] == ["At 10", "At 12"]
    api("POST", "swaps", {"one": one, "other": other}, status=412)
    api("POST", f"undo/{undo}", status=200)
    assert [t["headline"] for t in api("GET", f"profiles/{world.profile.pk}/grid")["tiles"]] == ["At 12", "At 10"]


def test_a_calendar_address_tells_the_same_times_and_what_was_called_off(world, two):
    """Read by the icalendar and recurring-ical-events packages (RFC 5545)."""
    api = world.api()
    on_both(world, two, 12, "Fern, moss; and a very long first line that folds at seventy-five octets: ñandú ünïcode")
    address = api("POST", "subscriptions", {}, status=201)
    path = address["address"].removeprefix("http://127.0.0.1:8600")
    raw = Client().get(path)
    assert raw["Content-Type"].startswith("text/calendar")
    assert all(len(line) <= 75 for line in raw.content.split(b"\r\n"))  # RFC 5545, 3.1
    calendar = icalendar.Calendar.from_ical(raw.content)
    deliveries = {f"{d.key}@menudo": d for d in Delivery.objects.all()}
    events = recurring_ical_events.of(calendar).between(datetime.now(UTC), datetime.now(UTC) + timedelta(days=9))
    assert {str(e["UID"]): e["DTSTART"].dt for e in events} == {uid: d.due_at for uid, d in deliveries.items()}
    assert any("Fern, moss; and" in str(e["SUMMARY"]) for e in events)
    one = Delivery.objects.first()

    def told() -> tuple[str, int, datetime]:
        again = icalendar.Calendar.from_ical(Client().get(path).content)
        (event,) = (e for e in again.walk("VEVENT") if str(e["UID"]) == f"{one.key}@menudo")
        return str(event["STATUS"]), int(event["SEQUENCE"]), event["LAST-MODIFIED"].dt

    # As if all were long ago: moving and calling off are changes to an event (RFC 5545, 3.8.7.3 and 3.8.7.4).
    Post.objects.update(updated_at=datetime(2026, 1, 1, tzinfo=UTC))
    Delivery.objects.update(updated_at=datetime(2026, 1, 1, tzinfo=UTC))
    before = told()
    wall = f"{one.wall_time + timedelta(days=1):%Y-%m-%dT15:00}"
    api("POST", f"deliveries/{one.pk}/move", {"wall_time": wall}, one.revision, 200)
    moved = told()
    assert moved[1] > before[1] and moved[2] > before[2] == datetime(2026, 1, 1, tzinfo=UTC)
    Delivery.objects.update(updated_at=datetime(2026, 1, 1, tzinfo=UTC))
    api("POST", "call-offs", {"deliveries": [one.pk]}, status=200)
    one.refresh_from_db()
    assert told()[:2] == ("CANCELLED", one.revision) and told()[2] > before[2]
    assert api("GET", "subscriptions", status=200)[0]["last_read_at"]
    api("DELETE", f"subscriptions/{address['subscription']['id']}", status=204)
    assert Client().get(path).status_code == 404


def test_the_almanac_is_the_brands_own_choice(world):
    api = world.api()
    api("PUT", "almanac", {"countries": ["ES"], "observances": False, "excluded": []}, status=200)
    api("POST", "almanac/dates", {"name": "Founded", "rule": "12-03"}, status=201)
    days = api("GET", "calendar?first=2026-12-01&days=30", status=200)["bands"]["almanac"]
    assert [d["name"] for d in days if d["kind"] == "own"] == ["Founded"]
    assert {d["date"] for d in days if d["kind"] == "holiday"} >= {"2026-12-08", "2026-12-25"}
    assert not [d for d in days if d["kind"] == "observance"]
    problem = api("POST", "almanac/dates", {"name": "Never", "rule": "31-12"}, status=422)
    assert problem["errors"][0]["pointer"] == "/rule"
    api("PUT", "almanac", {"countries": ["XX"], "observances": True, "excluded": []}, status=422)


def test_a_view_is_kept_for_oneself_or_shared(world):
    view = world.api()("POST", "views", {"name": "Mine", "query": {"view": "month", "states": "planned"}}, status=201)
    world.api()("POST", "views", {"name": "Ours", "query": {"labels": "1"}, "shared": True}, status=201)
    assert [v["name"] for v in world.api("teo")("GET", "views", status=200)] == ["Ours"]
    world.api("teo")("DELETE", f"views/{view['id']}", status=404)
    world.api()("POST", "views", {"name": "Bad", "query": {"password": "x"}}, status=422)


def test_a_campaigns_name_fills_its_placeholder_and_its_link_tags_tag(world):
    api = world.api()
    tags = api("POST", "link-tags", {"name": "Usual", "source": "{network}", "campaign": "{campaign}"}, status=201)[
        "id"
    ]
    body = {
        "name": "Moss week",
        "starts_on": "2026-12-01",
        "ends_on": "2026-12-08",
        "ink": "moss",
        "tags": ["#mossweek"],
        "link_tags": tags,
    }
    campaign = api("POST", "campaigns", body, status=201)["id"]
    post = made(world, campaign=campaign, master={"text": "Come to {campaign}", "link": "https://moss.example/"})
    page = api("GET", f"deliveries/{post['deliveries'][0]['id']}", status=200)
    assert page["text"] == "Come to Moss week"
    assert page["link"] == "https://moss.example/?utm_source=Brisk&utm_campaign=Moss%20week"
    tags_for = api("POST", "hashtags", {"text": "Green", "campaign": campaign}, status=200)
    assert "mossweek" in [t["tag"] for t in tags_for]
    api("DELETE", f"campaigns/{campaign}", status=204)
    assert Post.objects.get().campaign is None


@pytest.mark.parametrize("query", ["first=8999-12-20&days=62", "labels=x,,9&people=-1", "states=nonsense"])
def test_an_odd_address_is_answered_calmly(world, query):
    planned(world)
    assert world.api()("GET", f"calendar?{query}", status=200)["days"]


def test_what_is_far_away_is_told_and_not_planned(world):
    (one,) = planned(world)["post"]["deliveries"]
    api = world.api()
    for wall in ("9999-12-31T23:59", "2090-01-01T12:00", "0001-01-01T00:00"):
        assert api("POST", "moves", {"moves": [move(one, wall_time=wall)]}, status=422)
    draft = made(world, "Far")
    body = {"when": {"kind": "day", "wall_time": "2090-01-01T12:00"}}
    assert (
        api("POST", f"posts/{draft['id']}/plan", body, draft["revision"], 422)["errors"][0]["pointer"]
        == "/when/wall_time"
    )
