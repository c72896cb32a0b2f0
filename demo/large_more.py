"""What else a large office gathers: history, readings, feeds, a catalogue, rotas, notices."""

import random
from datetime import time, timedelta
from decimal import Decimal

from demo.copying import copy_rows, next_id
from demo.large_words import SIGNS, write_text
from menudo.base import clock
from menudo.catalogue.models import Catalogue, CatalogueItem
from menudo.feeds.models import Article, Feed
from menudo.history.models import HistoryEvent
from menudo.insight.models import Reading
from menudo.labels.models import Label
from menudo.notices.models import Notice
from menudo.people.models import Brand, User
from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile, Slot
from menudo.rotas.models import Rota, Turn, Wording


def add_more(brand: Brand, people: list[User], dice: random.Random, posts: int) -> None:
    _add_history(brand, people, posts)
    _add_readings(brand, posts // 2, dice)
    _add_drafts(brand, people, dice)
    _add_feeds(brand, dice)
    _add_catalogue(brand, dice)
    _add_rotas(brand, people, dice)
    _add_notices(brand, people[0])


def _add_history(brand: Brand, people: list[User], count: int) -> None:
    """As many entries as there are posts: each was begun by somebody."""
    rows = Post.objects.filter(brand=brand).order_by("id").values_list("id", "master__text", "author_id", "created_at")
    names = {user.pk: user.name for user in people}
    fields = (
        "brand_id",
        "actor_id",
        "actor_name",
        "verb",
        "kind",
        "object_id",
        "code",
        "params",
        "summary",
        "occurred_at",
    )
    copy_rows(
        HistoryEvent,
        fields,
        (
            (
                brand.pk,
                author,
                names[author],
                "make",
                "post",
                post,
                "draft.begun",
                {"post": text[:60]},
                f"began {text[:60]}",
                made,
            )
            for post, text, author, made in list(rows[:count])
        ),
    )


def _add_readings(brand: Brand, count: int, dice: random.Random) -> None:
    rows = Delivery.objects.filter(brand=brand, state="published").order_by("-published_at")
    earned = rows.values_list("pk", "profile_id", "published_at")[:count]
    copy_rows(
        Reading,
        ("delivery_id", "brand_id", "profile_id", "published_at", "read_at", "reach", "reactions", "clicks"),
        (
            (
                pk,
                brand.pk,
                profile,
                at,
                at + timedelta(days=7),
                dice.randrange(90, 9000),
                dice.randrange(400),
                dice.randrange(90),
            )
            for pk, profile, at in list(earned)
            if at
        ),
    )


def _add_drafts(brand: Brand, people: list[User], dice: random.Random) -> None:
    """Drafts without a date, on one profile each."""
    profiles = list(Profile.objects.filter(brand=brand).values_list("pk", flat=True))
    made = Post.objects.bulk_create(
        Post(
            brand=brand,
            author=people[n % len(people)],
            state="draft",
            master={"text": write_text(dice, n), "media": []},
        )
        for n in range(300)
    )
    copy_rows(
        Delivery,
        ("post_id", "profile_id", "brand_id", "key", "headline"),
        [
            (p.pk, dice.choice(profiles), brand.pk, f"{dice.getrandbits(128):032x}", p.master["text"][:120])
            for p in made
        ],
    )


def _add_feeds(brand: Brand, dice: random.Random) -> None:
    """Thirty feeds that gave two hundred articles each, and are gone now: nothing is fetched."""
    now = clock.now()
    for n in range(30):
        address = f"https://news{n + 1}.example.org/feed"
        feed = Feed.objects.create(
            brand=brand, address=address, title=f"{SIGNS[n % len(SIGNS)]} news {n + 1}", next_at=now, is_gone=True
        )
        copy_rows(
            Article,
            (
                "feed_id",
                "entry_key",
                "title",
                "link",
                "summary",
                "published_at",
                "seen_at",
                "link_ok",
                "picture_ok",
                "tags",
            ),
            [
                (
                    feed.pk,
                    f"a{i}",
                    write_text(dice, i)[:90],
                    f"{address}/{i}",
                    write_text(dice, i) * 3,
                    at,
                    at,
                    True,
                    False,
                    [SIGNS[i % 22].lower()],
                )
                for i in range(200)
                for at in [now - timedelta(hours=5 * i + n)]
            ],
        )


def _add_catalogue(brand: Brand, dice: random.Random) -> None:
    now = clock.now()
    row = Catalogue.objects.create(
        brand=brand, name="All stalls' goods", address="https://goods.example.org/goods.csv", currency="EUR", interval_minutes=1440,
        read_at=now, next_at=now + timedelta(days=3650), mapping={"key": "id", "title": "title", "price": "price"},
    )  # fmt: skip # columns side by side
    first = next_id(CatalogueItem)
    copy_rows(
        CatalogueItem,
        ("id", "catalogue_id", "key", "title", "price", "currency", "availability", "last_seen_at"),
        [
            (
                first + n,
                row.pk,
                f"g{n}",
                write_text(dice, n)[:80],
                Decimal(dice.randrange(90, 9000)) / 100,
                "EUR",
                "free",
                now,
            )
            for n in range(5000)
        ],
    )


def _add_rotas(brand: Brand, people: list[User], dice: random.Random) -> None:
    """Twenty rotas of thirty turns, on twenty profiles each, with a slot a week; switched off."""
    profiles, labels = list(Profile.objects.filter(brand=brand)), list(Label.objects.filter(brand=brand))
    for n in range(20):
        rota = Rota.objects.create(brand=brand, name=f"Evergreen {n + 1}", label=labels[n], run_as=people[0])
        there = dice.sample(profiles, 20)
        rota.profiles.set(there)
        at = time(8 + n % 12, 30 + n)
        Slot.objects.bulk_create(Slot(profile=profile, weekday=n % 7, at=at, label=rota.label) for profile in there)
        posts = Post.objects.bulk_create(
            Post(
                brand=brand,
                author=people[0],
                state="signed_off",
                requested_at=clock.now(),
                evergreen=True,
                master={"text": write_text(dice, i), "media": []},
            )
            for i in range(30)
        )
        turns = Turn.objects.bulk_create(Turn(rota=rota, position=i) for i in range(30))
        Wording.objects.bulk_create(Wording(turn=turn, post=post) for turn, post in zip(turns, posts, strict=True))


def _add_notices(brand: Brand, person: User) -> None:
    now = clock.now()
    Notice.objects.bulk_create(
        Notice(user=person, brand_id=brand.pk, kind="trouble", key=f"large-{n}", summary=f"Stall {n} stands in trouble",
               path=f"/{brand.slug}/trouble", created_at=now - timedelta(hours=n), read_at=now if n > 40 else None)
        for n in range(2000)
    )  # fmt: skip # columns side by side
