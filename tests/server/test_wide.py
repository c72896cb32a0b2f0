"""What hundreds of profiles and thousands of deliveries ask of the server: pages that follow each other, files in pieces, and a number
of statements that doesn't grow with what there is."""

import csv
import io
import uuid
from datetime import timedelta

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from menudo.base.downloads import csv_response
from menudo.base.schemas import Schema
from menudo.base.sentences import say
from menudo.delivery.models import FirstComment
from menudo.history.actions.record_event import Actor, record_event
from menudo.people.capabilities import ROLES
from menudo.people.models import Brand, Membership, User
from menudo.posts.models import Campaign, Delivery, Post, Version
from menudo.profiles.models import Profile, Slot
from menudo.rotas.models import Rota, Turn, Wording
from menudo.talk.models import Task
from tests.server.conftest import read_whole


def add_profiles(world, count: int, name: str = "w") -> list[Profile]:
    return Profile.objects.bulk_create(
        Profile(
            brand=world.garden,
            network="brisk",
            remote_id=f"{name}{n}",
            handle=f"@{name}{n:03}",
            name=f"{name}{n}",
            kind="account",
        )
        for n in range(count)
    )


def add_deliveries(profiles: list[Profile], states: list[str], campaign: Campaign | None = None) -> list[Delivery]:
    """A post for each state, an hour apart, from tomorrow on, with one delivery each."""
    brand, begin = profiles[0].brand, timezone.now() + timedelta(days=1)
    posts = Post.objects.bulk_create(
        Post(brand=brand, state="signed_off", campaign=campaign, master={"text": f"Post {n}", "media": []})
        for n in range(len(states))
    )
    return Delivery.objects.bulk_create(
        Delivery(
            post=post, profile=profiles[n % len(profiles)], brand=brand, key=uuid.uuid4(), state=state, zone="Europe/Madrid",
            due_at=None if state == "unplanned" else begin + timedelta(minutes=n), headline=f"Post {n}",
            published_at=begin if state == "published" else None,
        )
        for n, (post, state) in enumerate(zip(posts, states, strict=True))
    )  # fmt: skip # columns side by side


def test_advice_comes_a_few_lanes_at_a_time_and_every_lane_once(world):
    lanes = add_profiles(world, 30)
    for one in lanes:
        add_deliveries([one], ["planned"] * 2)
    api, after, seen, pages = world.api(), 0, [], 0
    while after is not None:
        page = api("GET", f"calendar/advice?after={after}", status=200)
        seen += [a["profile"] for a in page["advice"] if a["kind"] == "close"]
        pages, after = pages + 1, page["next"]
        assert page["lanes"] == 31 and page["checked"] == (after or 31)
    assert pages > 1 and sorted(seen) == sorted(p.pk for p in lanes)
    one = api("GET", f"calendar/advice?profiles={lanes[3].pk}", status=200)
    assert {a["profile"] for a in one["advice"]} == {lanes[3].pk} and (one["lanes"], one["next"]) == (1, None)


def test_the_plan_is_read_page_by_page_in_the_order_of_its_times(world):
    rows = add_deliveries(add_profiles(world, 1), ["planned"] * 301)
    api = world.api()
    first = api("GET", "plan", status=200)
    last = api("GET", f"plan?after={first['next']}", status=200)
    assert [i["delivery"] for i in (*first["items"], *last["items"])] == [row.pk for row in rows]
    assert last["next"] is None and last["items"][-1]["text"] == "Post 300"


def test_a_plan_of_many_pieces_is_one_table_whose_rarer_columns_say_something(world):
    rows = add_deliveries(add_profiles(world, 1), ["planned"] * 501)
    raw = read_whole(world.api().client.get("/api/brands/garden/plan.csv"))
    table = list(csv.DictReader(io.StringIO(raw.decode("utf-8-sig"))))
    assert [row["text"] for row in table] == [f"Post {n}" for n in range(501)] and "card" not in table[0]
    # One that is in the last piece alone, and in a version at that.
    Version.objects.create(
        post=rows[500].post, network="brisk", overrides={"card": {"title": "Moss", "description": ""}}
    )
    raw = read_whole(world.api().client.get("/api/brands/garden/plan.csv"))
    table = list(csv.DictReader(io.StringIO(raw.decode("utf-8-sig"))))
    assert (table[0]["card"], "Moss" in table[500]["card"], "showing" in table[0]) == ("", True, False)


@pytest.mark.django_db(transaction=True)
def test_whoever_reads_a_file_slowly_holds_no_connection_between_its_pieces(world):
    held = []

    def pieces():
        for piece in (b"one", b"two"):
            held.append(connection.connection)
            assert Brand.objects.exists() and connection.connection
            yield piece

    connection.close()
    assert read_whole(csv_response(pieces(), "a.csv")) == b"onetwo" and held == [None, None]


def test_a_long_history_goes_out_whole_and_names_whoever_is_there(world):
    ines = User.objects.get(email="ines@example.org")
    kept = record_event(world.garden.pk, Actor(ines.pk, "Ines"), "make", "post", 1, say("draft.begun", post="Moss"))
    for n in range(1001):
        kept.pk, kept.summary = None, f"began Moss {n}"
        kept.save(force_insert=True)
    raw = read_whole(world.api().client.get("/api/brands/garden/history.csv"))
    words = [row["words"] for row in csv.DictReader(io.StringIO(raw.decode("utf-8-sig")))]
    assert words[:1001] == [f"began Moss {n}" for n in reversed(range(1001))] and len(words) == 1002
    told = world.api()("GET", "history?words=moss 77", status=200)
    assert [e["summary"] for e in told["events"]][-1] == "began Moss 77" and len(told["events"]) == 11
    assert {"Ines", "Teo", "Maud", "Lucia"} <= {p["name"] for p in told["people"]}


def test_a_post_of_a_campaign_counts_once_as_the_worst_that_it_is(world):
    today = timezone.now().date()
    campaign = Campaign.objects.create(brand=world.garden, name="Moss", starts_on=today, ends_on=today)
    lanes = add_profiles(world, 2)
    states = ["in_trouble", "missed", "planned", "held", "published", "called_off", "unplanned"]
    rows = add_deliveries(lanes[:1], states, campaign)
    beside = {0: "planned", 2: "published", 4: "called_off", 6: "called_off"}
    for n, state in beside.items():
        Delivery.objects.create(
            post=rows[n].post,
            profile=lanes[1],
            brand=world.garden,
            key=uuid.uuid4(),
            state=state,
            due_at=timezone.now(),
        )
    Post.objects.create(brand=world.garden, campaign=campaign, master={"text": "On no profile"})
    Post.objects.create(brand=world.garden, campaign=campaign, master={"text": "Binned"}, deleted_at=timezone.now())
    Campaign.objects.create(brand=world.garden, name="Bare", starts_on=today, ends_on=today)
    moss, bare = world.api()("GET", "campaigns", status=200)
    # Two in trouble, two planned, one published, one draft; two that were only called off are none of these.
    counts = ("posts", "trouble", "planned", "published", "drafts")
    assert [moss[k] for k in counts] == [8, 2, 2, 1, 1] and [bare[k] for k in counts] == [0] * 5


def test_trouble_is_what_failed_and_whose_comment_failed_alone_but_not_what_is_in_the_bin(world):
    states = ["in_trouble", "missed", "published", "published", "planned", "in_trouble"]
    rows = add_deliveries(add_profiles(world, 1), states)
    FirstComment.objects.create(delivery=rows[2], text="More", state="in_trouble", key=uuid.uuid4(), reason="No.")
    FirstComment.objects.create(delivery=rows[3], text="More", state="published", key=uuid.uuid4())
    Post.objects.filter(pk=rows[5].post_id).update(deleted_at=timezone.now())
    page = world.api()("GET", "troubles?days=30", status=200)
    assert {i["delivery"] for g in page["groups"] for i in g["items"]} == {row.pk for row in rows[:3]}
    morning = world.api()("GET", "today", status=200)
    assert {i["delivery"] for i in morning["trouble"]} == {row.pk for row in rows[:3]}


def test_a_staggered_post_takes_the_slot_it_was_set_to_from_a_rota(world):
    label = world.api()("POST", "labels", {"name": "Evergreen", "ink": "moss"}, status=201)["id"]
    rota = Rota.objects.create(brand=world.garden, name="Moss", label_id=label)
    rota.profiles.set([world.profile])
    post = Post.objects.create(brand=world.garden, state="signed_off", evergreen=True, master={"text": "Ever"})
    Wording.objects.create(turn=Turn.objects.create(rota=rota, position=0), post=post)
    Slot.objects.create(profile=world.profile, weekday=2, at="12:34", label_id=label)
    before = world.api()("GET", f"rotas/{rota.pk}", status=200)["upcoming"]
    taken, off, free = (row["at"] for row in before[:3])
    rows = add_deliveries([world.profile], ["planned"] * 3)
    Delivery.objects.filter(pk=rows[0].pk).update(due_at=taken)
    Delivery.objects.filter(pk=rows[1].pk).update(
        due_at=timezone.datetime.fromisoformat(off) + timedelta(minutes=90), delay=90
    )
    # Beside the slot, and where it was set: it takes none.
    Delivery.objects.filter(pk=rows[2].pk).update(due_at=timezone.datetime.fromisoformat(free) + timedelta(minutes=90))
    after = world.api()("GET", f"rotas/{rota.pk}", status=200)["upcoming"]
    assert [row["at"] for row in after] == [row["at"] for row in before[2:]]


@pytest.mark.parametrize(
    "path", ["profiles", "campaigns", "relays", "troubles?days=30", "listings", "today", "strip", "/api/assigned"]
)
def test_however_much_there_is_the_statements_are_as_many(world, path):
    api = world.api()
    address = path if path.startswith("/") else f"/api/brands/garden/{path}"
    ines, today = User.objects.get(email="ines@example.org"), timezone.now().date()

    def add_more() -> None:
        brand = Brand.objects.create(slug=f"b{Brand.objects.count()}", name="More", zone="UTC")
        Membership.objects.create(brand=brand, user=ines, role="coordinator", capabilities=sorted(ROLES["coordinator"]))
        post = Post.objects.create(brand=brand, author=ines, state="sent_back", master={"text": "Back"})
        Task.objects.create(post=post, user=ines, created_at=timezone.now())
        number = Campaign.objects.count()
        campaign = Campaign.objects.create(brand=world.garden, name=f"C{number}", starts_on=today, ends_on=today)
        waypost = Profile.objects.create(
            brand=world.garden,
            network="waypost",
            remote_id=f"l{number}",
            handle=f"L{number}",
            name="L",
            kind="location",
        )
        states = ["planned", "in_trouble", "published", "waiting_for_hand"]
        add_deliveries([waypost, world.profile], states, campaign)

    def statements() -> int:
        with CaptureQueriesContext(connection) as asked:
            assert api.client.get(address).status_code == 200
        return len(asked)

    add_more()
    statements()
    few = statements()
    for _ in range(5):
        add_more()
    assert statements() == few


def test_an_answer_that_stands_is_taken_as_it_is_and_others_are_read():
    class Leaf(Schema):
        name: str

    class Tree(Schema):
        leaves: list[Leaf]

    class Row:
        name = "moss"

    leaf = Leaf(name="fern")
    tree = Tree.model_validate({"leaves": [leaf, Row(), {"name": "rye"}]})
    assert tree.leaves[0] is leaf and [one.name for one in tree.leaves] == ["fern", "moss", "rye"]
