"""Laying out, and plans from spreadsheets, through the API."""

import csv
import io
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest

from menudo.insight.actions.read_results import read_results
from menudo.insight.models import Reading
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from tests.server.conftest import picture, post_in, read_whole
from tests.server.test_posts import made, planned, tomorrow

MADRID = ZoneInfo("Europe/Madrid")


def lay(posts, how="slots", first=None, **more):
    return {"posts": posts, "timing": how, "first": str(first or date.today() + timedelta(days=1)), **more}


def fixed(rows, seed=0):
    return {
        "seed": seed,
        "rows": [{k: r[k] for k in ("post", "asset", "profile", "wall_time", "zone", "jitter")} for r in rows],
    }


def test_ten_drafts_go_to_the_next_ten_free_slots_and_come_back_in_one_step(world):
    posts = [made(world, f"Draft {n}")["id"] for n in range(10)]
    planned(world, text="Stands there already")
    api = world.api()
    looked = api("POST", "batches/preview", lay(posts), status=200)
    walls = [r["wall_time"] for r in looked["rows"]]
    assert walls == sorted(set(walls)) and len(walls) == 10
    assert Delivery.objects.filter(state="planned").count() == 1
    done = api("POST", "batches", fixed(looked["rows"]), status=200)
    assert len(done["planned"]) == 10
    shown = {r["post"]: r["wall_time"] for r in looked["rows"]}
    kept = {d.post_id: d.wall_time.strftime("%Y-%m-%dT%H:%M") for d in Delivery.objects.filter(pk__in=done["planned"])}
    assert kept == shown
    api("POST", f"undo/{done['undo']}", status=200)
    assert Delivery.objects.filter(state="planned").count() == 1
    assert {p.state for p in Post.objects.filter(pk__in=posts)} == {"draft"}


def test_pictures_become_posts_as_they_are_fixed_and_go_to_the_bin_when_undone(world):
    api = world.api()
    assets = [api.upload(picture(colour=c), f"{c}.jpg").json()["id"] for c in ("#112233", "#445566")]
    for asset in assets:
        api("PATCH", f"assets/{asset}", {"alt": "Moss", "caption": f"Moss {asset}"}, status=200)
    body = lay([], assets=assets, profiles=[world.profile.pk])
    looked = api("POST", "batches/preview", body, status=200)
    assert Post.objects.count() == 0
    done = api("POST", "batches", fixed(looked["rows"]), status=200)
    assert len(done["made"]) == 2 and Post.objects.filter(deleted_at=None).count() == 2
    api("POST", f"undo/{done['undo']}", status=200)
    assert Post.objects.filter(deleted_at=None).count() == 0


def test_a_run_is_one_a_day_with_clashes_days_and_findings_said_beforehand(world):
    api = world.api()
    api("PUT", "almanac", {"countries": ["ES"], "observances": False, "excluded": []}, status=200)
    posts = [made(world, "x" * (400 if n == 2 else 10))["id"] for n in range(6)]
    planned(world, f"{date.today() + timedelta(days=3)}T15:00", text="In the way")
    first = date.today() + timedelta(days=2)
    body = lay(posts, "run", first, at="15:00", interval={"unit": "days", "step": 1})
    rows = api("POST", "batches/preview", body, status=200)["rows"]
    assert [r["wall_time"] for r in rows] == [f"{first + timedelta(days=n)}T15:00" for n in range(6)]
    notes = [{note["kind"] for note in r["notes"]} for r in rows]
    assert "clash" in notes[1] and "stops" in notes[2]
    left_out = api("POST", "batches/preview", {**body, "skip": [str(first)]}, status=200)["rows"]
    assert left_out[0]["wall_time"] == f"{first + timedelta(days=1)}T15:00"
    done = api("POST", "batches", fixed(rows), status=200)
    assert len(done["planned"]) == 5 and done["left"][0]["row"] == 2


def test_one_put_elsewhere_by_hand_is_judged_there_and_those_chosen_get_it_all(world):
    api = world.api()
    posts = [made(world, f"Draft {n}")["id"] for n in range(2)]
    bare = api("POST", "posts", post_in("For nobody yet"), status=201)["id"]
    planned(world, f"{date.today() + timedelta(days=9)}T15:00", text="In the way")
    body = lay([*posts, bare], profiles=[world.profile.pk])
    rows = api("POST", "batches/preview", body, status=200)["rows"]
    assert [r["post"] for r in rows] == [*posts, bare]
    put = {"post": posts[0], "profile": world.profile.pk, "wall_time": f"{date.today() + timedelta(days=9)}T15:00"}
    rows = api("POST", "batches/preview", {**body, "moved": [put]}, status=200)["rows"]
    assert rows[0]["wall_time"] == put["wall_time"] and [n["kind"] for n in rows[0]["notes"]] == ["clash"]
    api("POST", "batches", fixed(rows[2:]), status=200)
    again = api("POST", "batches/preview", lay([bare], profiles=[world.profile.pk]), status=200)["rows"]
    assert again[0]["notes"][0]["message"] == "It is planned for @fernhollow already."


def test_what_varies_keeps_the_seed_it_was_drawn_from(world):
    posts = [made(world, f"Draft {n}")["id"] for n in range(4)]
    body = lay(posts, "run", first=date.today() + timedelta(days=2), interval={"unit": "days"}, jitter=30, seed=99)
    rows = world.api()("POST", "batches/preview", body, status=200)["rows"]
    assert any(r["jitter"] for r in rows) and rows == world.api()("POST", "batches/preview", body, status=200)["rows"]
    world.api()("POST", "batches", fixed(rows, 99), status=200)
    assert {(d.jitter, d.seed) for d in Delivery.objects.all()} == {
        (r["jitter"], 99 if r["jitter"] else None) for r in rows
    }


def test_a_month_of_thirty_one_at_three(world):
    """A month's run: 31 posts, one a day at 15:00; common practice, no published source."""
    posts = [made(world, f"Day {n}")["id"] for n in range(31)]
    first = date(date.today().year + 1, 3, 1)
    body = lay(posts, "run", first, at="15:00", interval={"unit": "days", "step": 1})
    rows = world.api()("POST", "batches/preview", body, status=200)["rows"]
    assert rows[-1]["wall_time"] == f"{first.year}-03-31T15:00"
    assert len(world.api()("POST", "batches", fixed(rows), status=200)["planned"]) == 31


@pytest.mark.parametrize(
    ("more", "pointer"),
    [
        ({"timing": "run"}, "/interval"),
        ({"timing": "run", "at": "25:00", "interval": {"unit": "days"}}, "/at"),
        ({"profiles": [999_999]}, "/profiles/0"),
        ({"posts": []}, "/posts"),
    ],
)
def test_what_is_missing_for_laying_out_is_told_at_its_field(world, more, pointer):
    post = made(world)["id"]
    problem = world.api()("POST", "batches/preview", {**lay([post]), **more}, status=422)
    assert problem["errors"][0]["pointer"] == pointer


def sheet(*lines: str, header="date,time,profiles,text,media,labels,title") -> bytes:
    return "\r\n".join([header, *lines]).encode()


def send(world, path, raw, name="plan.csv", who="ines", **more):
    file = io.BytesIO(raw)
    file.name = name
    return world.api(who).client.post(f"/api/brands/garden/{path}", {"file": file, **more})


def test_a_plan_is_read_brought_in_planned_known_again_and_undone(world):
    api = world.api()
    api.upload(picture(), "moss.jpg")
    day = tomorrow()[:10]
    raw = sheet(f"{day},15:00,@fernhollow,Moss,moss.jpg,Talks;New,Wall", f"{day},slot,@fernhollow,Bark,,,")
    read = send(world, "plans/read", raw).json()
    assert [r["faults"] for r in read["rows"]] == [[], []] and read["known"] is None
    assert Post.objects.count() == 0
    done = send(world, "plans", raw).json()
    assert (len(done["posts"]), done["planned"]) == (2, 2)
    post = Post.objects.get(pk=done["posts"][0])
    assert (post.title, sorted(post.labels.values_list("name", flat=True))) == ("Wall", ["New", "Talks"])
    assert Delivery.objects.get(post=post).wall_time.strftime("%Y-%m-%dT%H:%M") == f"{day}T15:00"
    again = send(world, "plans/read", raw).json()
    assert again["known"] and all(r["known"] for r in again["rows"])
    assert send(world, "plans", raw).status_code == 422
    api("POST", f"undo/{done['undo']}", status=200)
    assert Post.objects.filter(deleted_at=None).count() == 0
    assert not any(r["known"] for r in send(world, "plans/read", raw).json()["rows"])


def test_a_story_of_a_plan_opens_on_the_bench_and_stays_one_when_it_is_saved(world):
    Profile.objects.create(brand=world.garden, network="plaza", remote_id="p", handle="Page", name="Page", kind="page")
    world.api().upload(picture((1080, 1920)), "moss.jpg")
    raw = sheet(f"{tomorrow()[:10]},15:00,Page,,moss.jpg,story", header="date,time,profiles,text,media,form")
    path = f"posts/{send(world, 'plans', raw, plan='false').json()['posts'][0]}"
    post = world.api()("GET", path, status=200)
    assert [(v["network"], v["overrides"]["form"]) for v in post["versions"]] == [("plaza", "story")]
    body = {key: post[key] for key in ("title", "master", "versions", "labels", "campaign")}
    profiles = [delivery["profile"] for delivery in post["deliveries"]]
    kept = world.api()("PUT", path, {**body, "profiles": profiles}, post["revision"], 200)
    assert kept["versions"] == post["versions"]


def test_every_bad_row_is_named_by_row_and_column_and_nothing_is_half_done(world):
    raw = sheet(
        f"{tomorrow()[:10]},15:00,@fernhollow,Moss,,,",
        f"{tomorrow()[:10]},25:00,@nobody,Moss,gone.jpg,,",
        f"2020-01-01,15:00,@fernhollow,{'x' * 400},,,",
    )
    rows = send(world, "plans/read", raw).json()["rows"]
    assert [sorted({f["column"] for f in r["faults"]}) for r in rows] == [
        [],
        ["media", "profiles", "time"],
        ["date", "text"],
    ]
    problem = send(world, "plans", raw, lines="2,3,4").json()
    assert {e["pointer"].rsplit("/", 1)[0] for e in problem["errors"]} == {"/rows/3", "/rows/4"}
    assert Post.objects.count() == 0
    assert len(send(world, "plans", raw).json()["posts"]) == 1


def test_media_at_an_address_come_by_the_guarded_way(world, standin):
    raw = sheet(f"{tomorrow()[:10]},15:00,@fernhollow,Moss,http://10.0.0.1/moss.jpg,,")
    problem = send(world, "plans", raw).json()
    assert problem["errors"][0]["pointer"] == "/rows/2/media" and Post.objects.count() == 0


def test_only_who_may_publish_brings_a_plan_in_planned(world):
    raw = sheet(f"{tomorrow()[:10]},15:00,@fernhollow,Moss,,,")
    assert send(world, "plans", raw, who="teo").status_code == 403
    done = send(world, "plans", raw, who="teo", plans="false")
    assert done.status_code == 200
    assert Delivery.objects.filter(state="planned").count() == 0


def test_what_goes_out_as_csv_can_be_brought_in_again_and_holds_no_formula(world):
    planned(world, text="=HYPERLINK(1)")
    answer = world.api().client.get("/api/brands/garden/plan.csv")
    raw = read_whole(answer)
    (row,) = csv.DictReader(io.StringIO(raw.decode("utf-8-sig")))
    assert row["text"] == "'=HYPERLINK(1)" and row["profiles"] == "brisk:@fernhollow"
    rows = send(world, "plans/read", raw).json()["rows"]
    assert rows[0]["text"] == "=HYPERLINK(1)" and rows[0]["handles"] == ["@fernhollow"]
    assert rows[0]["wall_time"] == tomorrow()


def test_results_are_read_and_better_times_say_when_there_is_too_little(world, standin):
    api = world.api()
    post = made(world)
    api("POST", f"posts/{post['id']}/plan", {"when": {"kind": "now"}}, post["revision"], 200)
    from menudo.delivery.actions.send import send_due as send_now

    send_now()
    assert Delivery.objects.get().state == "published"
    assert read_results() == 1 and Reading.objects.get().delivery_id == post["deliveries"][0]["id"]
    assert read_results() == 1 and Reading.objects.count() == 1
    found = api("GET", f"profiles/{world.profile.pk}/posting-times", status=200)
    assert found["hours"] == [] and found["why_not"].startswith("Not enough to say")


def test_better_times_are_told_with_how_sure_and_offered_apart(world):
    now = datetime.now(MADRID)
    for n in range(40):
        at = (now - timedelta(days=n + 1)).replace(hour=19 if n % 2 else 9, minute=0)
        post = Post.objects.create(brand=world.garden, master=post_in()["master"])
        delivery = Delivery.objects.create(
            post=post,
            profile=world.profile,
            brand=world.garden,
            key=__import__("uuid").uuid4(),
            state="published",
            due_at=at,
            published_at=at,
        )
        earned = (60 if n % 2 else 20) + n % 3
        Reading.objects.create(
            delivery=delivery, brand=world.garden, profile=world.profile, published_at=at, read_at=now, reactions=earned
        )
    found = world.api()("GET", f"profiles/{world.profile.pk}/posting-times", status=200)
    assert found["hours"][0]["hour"] == 19 and found["hours"][0]["sure"]
    assert found["hours"][0]["low"] < found["hours"][0]["estimate"] < found["hours"][0]["high"]
    assert {slot["at"] for slot in found["suggested_slots"]} == {"19:00:00"}
