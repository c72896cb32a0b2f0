"""What goes out as CSV comes in again: out, in and out once more are the same bytes. Random plans; the seeds are printed."""

import random
import uuid
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest

from menudo.labels.models import Label
from menudo.library.models import Asset, LinkTags
from menudo.plans.models import ImportedRow
from menudo.posts.models import Campaign, Delivery, Post, Version
from menudo.profiles.models import Profile
from tests.server.conftest import picture, read_whole
from tests.server.test_plans import send

MADRID = ZoneInfo("Europe/Madrid")
SAID = [
    "Moss",
    "-5 °C",
    "'tis",
    "'=1+1",
    "=1+1",
    "\ttab",
    "a;b|c",
    'he said "moss"',
    "two\nlines",
    "win\r\nlines",
    " spaces ",
    "苔です。",
    "@fernhollow",
    "+1",
    "''-",
    "día, noche",
    "{title} {date}",
    "👩‍🌾",
    "#moss",
]
LABELS = ["Talks", "a;b", '"quoted"', "-x", "pipe|d", "día"]


def profiles(world) -> list[Profile]:
    """On three networks, two of one handle, and one whose handle holds what parts names."""
    made = [
        ("plaza", "Garden; page"),
        ("guildhall", "same"),
        ("guildhall", "same"),
        ("brisk", "-dash"),
        ("plaza", "'=x"),
    ]
    rows = [
        Profile(brand=world.garden, network=n, remote_id=f"r{i}", handle=h, name=h, kind="page", state="by_hand")
        for i, (n, h) in enumerate(made)
    ]
    return [world.profile, *Profile.objects.bulk_create(rows)]


def plan(world, rng: random.Random, every: list[Profile], assets: list[Asset]) -> None:
    labels = [Label.objects.get_or_create(brand=world.garden, name=name, ink="anil")[0] for name in LABELS]
    campaign = Campaign.objects.create(
        brand=world.garden, name=f"C;{rng.random()}", starts_on="2026-01-01", ends_on="2027-01-01"
    )
    preset = LinkTags.objects.create(brand=world.garden, name="News; letter", source="menudo")
    start = datetime.now(MADRID).replace(tzinfo=None, hour=9, minute=0, second=0, microsecond=0) + timedelta(days=1)
    for n in range(12):
        profile = rng.choice(every)
        fields = {"place": rng.choice(SAID), "audience": "everyone"} if rng.random() < 0.5 else {}
        used = [a.pk for a in rng.sample(assets, rng.randint(0, 2 if profile.network == "plaza" else 1))]
        shown = {
            str(a): {"crop": {"x": 0.1, "y": 0, "w": 0.75, "h": 1}, "focus": {"x": 0.5, "y": 0.25}} for a in used[:1]
        }
        more = {"shown": shown, "link_tags": rng.choice([None, 0, preset.pk])}
        if rng.random() < 0.3:
            card = {"title": rng.choice(SAID), "description": "", "picture": rng.choice([None, assets[0].pk])}
            more |= {"link": "https://example.org/a?b=c", "card": card}
        post = Post.objects.create(
            brand=world.garden,
            title=rng.choice(["", "Title", "-t", "'=t"]),
            campaign=rng.choice([None, campaign]),
            master={
                "text": " ".join(rng.choices(SAID, k=3)),
                "media": used,
                "fields": fields,
                "first_comment": "",
                **more,
            },
        )
        post.labels.set(rng.sample(labels, rng.randint(0, 3)))
        if rng.random() < 0.4:
            own = {"text": rng.choice(SAID) + " own", "fields": {"place": "here"}}
            Version.objects.create(post=post, network=profile.network, overrides=own)
        if profile.network == "brisk" and rng.random() < 0.3:
            Version.objects.create(post=post, network="brisk", profile=profile, overrides={"text": "split off"})
        wall = start + timedelta(hours=5 * n)
        Delivery.objects.create(
            post=post,
            profile=profile,
            brand=world.garden,
            key=uuid.uuid4(),
            state="planned",
            zone="Europe/Madrid",
            wall_time=wall.replace(tzinfo=UTC),
            due_at=wall.replace(tzinfo=MADRID),
        )


@pytest.mark.parametrize("seed", range(4))
def test_out_in_and_out_are_the_same_bytes(world, seed):
    rng, api = random.Random(seed), world.api()
    for n, name in enumerate(["moss.jpg", "moss.jpg", "a;b.jpg", "-x#7.jpg"]):
        api.upload(picture(colour=(n * 40, 90, 20)), name)
    every = profiles(world)
    plan(world, rng, every, list(Asset.objects.order_by("pk")))
    first = read_whole(api.client.get("/api/brands/garden/plan.csv?days=31"))
    assert first.count(b"planned") == 12
    read = send(world, "plans/read", first).json()["rows"]
    assert [row["faults"] for row in read] == [[]] * 12, (seed, read)
    Post.objects.all().delete()
    done = send(world, "plans", first, again="true")
    assert done.status_code == 200, (seed, done.content)
    assert read_whole(api.client.get("/api/brands/garden/plan.csv?days=31")) == first, seed
    assert ImportedRow.objects.count() == 12


@pytest.mark.parametrize(
    ("column", "cell"),
    [
        ("showing", "crop"),
        ("showing", '{"2":{"turn":1}}'),
        ("showing", '{"1":{"turn":9}}'),
        ("showing", '{"1":{"cover":"gone.jpg"}}'),
        ("showing", '{"1":{"crop":{"x":0,"y":0,"w":0,"h":1}}}'),
        ("card", '{"title":1}'),
        ("card", '{"picture":"gone.jpg"}'),
        ("card", '{"unheard":"x"}'),
        ("link tags", "unheard"),
    ],
)
def test_what_a_cell_of_these_gets_wrong_is_told_at_the_cell(world, column, cell):
    world.api().upload(picture(), "moss.jpg")
    day = f"{datetime.now(MADRID) + timedelta(days=2):%Y-%m-%d}"
    quoted = cell.replace('"', '""')
    raw = f'date,time,profiles,text,media,{column}\n{day},12:00,@fernhollow,Moss,moss.jpg,"{quoted}"\n'.encode()
    (row,) = send(world, "plans/read", raw).json()["rows"]
    assert [f["column"] for f in row["faults"]] == [column]
