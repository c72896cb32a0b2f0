"""A large office beside the demo's world, for `./menudo demo --large` and `./menudo bench wide`: a league of market stalls with 400
profiles and two years of posts, 40 small brands and 50 people. All invented; the same at every run, but for the day it is."""

import random
import uuid
from collections.abc import Iterator
from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.contrib.auth.hashers import make_password

from demo.connecting import accounts_of, connect_profiles
from demo.copying import copy_rows, next_id
from demo.large_more import add_more
from demo.large_words import SIGNS, write_text
from demo.networks import Profile as Wanted
from demo.pictures import all_pictures
from demo.standin import post_to_standin
from demo.world import LEAGUE, PASSWORD, PEOPLE
from menudo.base import clock
from menudo.labels.models import Ink, Label
from menudo.library.actions.add_asset import add_asset
from menudo.library.models import Asset, Folder
from menudo.people.capabilities import ROLES
from menudo.people.context import BrandContext
from menudo.people.models import Brand, Membership, User
from menudo.posts.actions.enqueue_delivery import enqueue_deliveries
from menudo.posts.models import Campaign, Delivery, Post
from menudo.profiles.models import Profile, ProfileSet
from menudo_core.timing.walltimes import resolve_wall_time

POSTS, ASSETS, PEOPLE_COUNT, SMALL_BRANDS = 200_000, 20_000, 50, 40
DAYS_BEFORE, DAYS_AFTER = 600, 130
TROUBLES = 500
# How many profiles at each network, with the kind that each has.
_STALLS = {
    "brisk": (130, "account"),
    "plaza": (90, "page"),
    "waypost": (90, "location"),
    "vitrine": (40, "business"),
    "guildhall": (30, "company"),
    "tackboard": (20, "account"),
}
_INKS = [ink.value for ink in Ink]


def add_large_office(posts: int = POSTS, assets: int = ASSETS) -> None:
    dice = random.Random(400)
    brand = Brand.objects.create(slug=LEAGUE.slug, name=LEAGUE.name, zone=LEAGUE.zone, ink=LEAGUE.ink)
    people = _add_people(brand)
    stalls = list(_name_stalls(dice))
    post_to_standin(
        "control/api/seed", {"accounts": accounts_of(stalls, {LEAGUE.slug: LEAGUE.login}, {LEAGUE.slug: LEAGUE.name})}
    )
    connect_profiles(brand, LEAGUE.login, stalls)
    _add_sets_and_marks(brand, dice)
    media = _add_media(brand, people[0], assets)
    _add_posts(brand, people, media, posts, dice)
    _add_small_brands(people, dice)
    add_more(brand, people, dice, posts)


def _add_people(league: Brand) -> list[User]:
    """The coordinator of the demo, and as many more as make fifty."""
    coordinator = User.objects.get(email=PEOPLE[0].email)
    password = make_password(PASSWORD)
    made = User.objects.bulk_create(
        User(
            email=f"desk{n:02}@example.org",
            name=f"{SIGNS[n % len(SIGNS)]} {SIGNS[(n * 7 + 3) % len(SIGNS)]}",
            password=password,
        )
        for n in range(PEOPLE_COUNT - len(PEOPLE))
    )
    roles = ("coordinator", "author", "author", "approver", "viewer")
    people = [coordinator, *made]
    Membership.objects.bulk_create(
        Membership(brand=league, user=user, role=role, capabilities=sorted(ROLES[role]))
        for n, user in enumerate(people)
        for role in ["coordinator" if n == 0 else roles[n % len(roles)]]
    )
    return people


def _name_stalls(dice: random.Random) -> Iterator[Wanted]:
    for network, (count, kind) in _STALLS.items():
        for n in range(count):
            name = f"{SIGNS[n % len(SIGNS)]} stall {n + 1}"
            handle = f"@stall{n + 1:03}.{SIGNS[n % len(SIGNS)].lower()}" if network == "brisk" else name
            facts = {"waypost": {"verified": "yes"}, "vitrine": {"tied_page": "administered"}}.get(network, {})
            yield Wanted(
                LEAGUE.slug,
                network,
                f"stall-{n + 1}",
                handle,
                name,
                kind,
                "#2f4a7a",
                True,
                dice.randrange(80, 20_000),
                facts,
            )


def _add_sets_and_marks(brand: Brand, dice: random.Random) -> None:
    profiles = list(Profile.objects.filter(brand=brand))
    for n in range(30):
        ProfileSet.objects.create(brand=brand, name=f"Market hall {n + 1}").profiles.set(dice.sample(profiles, 20))
    Label.objects.bulk_create(
        Label(brand=brand, name=f"{SIGNS[n % len(SIGNS)].lower()} {n + 1}", ink=_INKS[n % len(_INKS)])
        for n in range(60)
    )
    first = clock.now().date() - timedelta(days=DAYS_BEFORE)
    starts = [first + timedelta(days=12 * n) for n in range(60)]
    Campaign.objects.bulk_create(
        Campaign(brand=brand, name=f"{SIGNS[n % len(SIGNS)]} weeks {n + 1}", starts_on=s, ends_on=s + timedelta(days=20),
                 ink=_INKS[n % len(_INKS)], tags=[f"#{SIGNS[n % len(SIGNS)].lower()}weeks"])
        for n, s in enumerate(starts)
    )  # fmt: skip # a row to a line


def _add_media(brand: Brand, coordinator: User, count: int) -> list[int]:
    """The demo's pictures, and each of them again under many a name."""
    context = BrandContext(coordinator, brand, frozenset(ROLES["coordinator"]))
    kept = [add_asset(context, data, name, alt) for name, data, alt in all_pictures().values()]
    folders = [Folder.objects.create(brand=brand, name=f"Market day {n + 1}").pk for n in range(40)]
    first = next_id(Asset)
    fields = ("id", "brand_id", "folder_id", "name", "kind", "format", "width", "height", "size", "sha256", "alt")
    copy_rows(
        Asset,
        fields,
        (
            (first + n, brand.pk, folders[n % 40], f"{SIGNS[n % len(SIGNS)].lower()}-{n:05}.{a.format}", a.kind, a.format,
             a.width, a.height, a.size, a.sha256, a.alt)
            for n in range(count - len(kept))
            for a in [kept[n % len(kept)]]
        ),
    )  # fmt: skip # a row to a line
    return list(range(first, first + count - len(kept)))


def _add_posts(brand: Brand, people: list[User], media: list[int], count: int, dice: random.Random) -> None:
    """Each post with one delivery: what is past is published, but for some that stand in trouble; what is to come is planned."""
    zone, now = ZoneInfo(brand.zone), clock.now()
    today = now.astimezone(zone).date()
    profiles = list(Profile.objects.filter(brand=brand).values_list("pk", "network", "remote_id"))
    campaigns = list(Campaign.objects.filter(brand=brand).values_list("pk", "starts_on", "ends_on"))
    labels = list(Label.objects.filter(brand=brand).values_list("pk", flat=True))
    first_post, first_delivery = next_id(Post), next_id(Delivery)
    posts: list[tuple[Any, ...]] = []
    deliveries: list[tuple[Any, ...]] = []
    marks: list[tuple[int, int]] = []
    trouble_every = max(count // TROUBLES, 1)
    for n in range(count):
        day = today + timedelta(days=n * (DAYS_BEFORE + DAYS_AFTER) // count - DAYS_BEFORE)
        wall, due = _pick_time(day, zone, dice)
        profile, network, remote_id = profiles[dice.randrange(len(profiles))]
        text = write_text(dice, n)
        pictures = (
            [media[dice.randrange(len(media))]] if media and (network in ("vitrine", "tackboard") or n % 2) else []
        )
        author = people[dice.randrange(len(people))].pk
        campaign = next((pk for pk, start, end in campaigns if start <= day <= end), None) if n % 5 == 0 else None
        master = {"text": text, "media": pictures}
        post = first_post + n
        past = due <= now
        in_trouble = past and n % trouble_every == 1
        state = "planned" if not past else "in_trouble" if in_trouble else "published"
        sent = state == "published"
        when = min(due, now)
        posts.append((post, brand.pk, author, master, "signed_off", campaign, when, when, when))
        deliveries.append((
            first_delivery + n, post, profile, brand.pk, state, due, wall.replace(tzinfo=UTC), zone.key,
            uuid.UUID(int=dice.getrandbits(128)), text[:120], pictures[0] if pictures else None, len(pictures),
            due + timedelta(seconds=2) if sent else None, master if sent else None,
            f"https://{network}.example.org/{remote_id}/{n}" if sent else "",
            "The network refused it: the account may post no more today." if in_trouble else "",
            "refused" if in_trouble else "", int(in_trouble),
        ))  # fmt: skip # columns side by side
        if n % 3 == 0:
            marks.append((post, labels[n % len(labels)]))
    copy_rows(
        Post,
        ("id", "brand_id", "author_id", "master", "state", "campaign_id", "requested_at", "created_at", "updated_at"),
        posts,
    )
    copy_rows(
        Delivery,
        ("id", "post_id", "profile_id", "brand_id", "state", "due_at", "wall_time", "zone", "key", "headline", "thumb_id",
         "picture_count", "published_at", "sent_content", "remote_url", "reason", "reason_code", "tries"),
        deliveries,
    )  # fmt: skip # columns side by side
    copy_rows(Post.labels.through, ("post_id", "label_id"), marks)
    enqueue_deliveries((row[0], row[5]) for row in deliveries if row[4] == "planned")


def _pick_time(day: date, zone: ZoneInfo, dice: random.Random) -> tuple[datetime, datetime]:
    """A wall time of a working day, to five minutes, and its instant."""
    hour = dice.choice((8, 9, 9, 9, 10, 11, 12, 12, 13, 15, 16, 17, 17, 18, 19, 20, 21))
    wall = datetime.combine(day, time(hour, 5 * dice.randrange(12)))
    return wall, resolve_wall_time(wall, zone).instant


def _add_small_brands(people: list[User], dice: random.Random) -> None:
    """Forty brands with a few profiles that somebody publishes to by hand, and a month of posts each. The coordinator is in all."""
    now = clock.now()
    for n in range(SMALL_BRANDS):
        zone = ("Europe/Madrid", "Atlantic/Canary", "America/Mexico_City", "Asia/Tokyo")[n % 4]
        brand = Brand.objects.create(
            slug=f"stall-{n + 1:02}", name=f"{SIGNS[n % len(SIGNS)]} & daughters", zone=zone, ink="maize"
        )
        for person in (people[0], people[1 + n]):
            Membership.objects.create(
                brand=brand, user=person, role="coordinator", capabilities=sorted(ROLES["coordinator"])
            )
        profiles = Profile.objects.bulk_create(
            Profile(brand=brand, network=network, remote_id=f"by-hand-{n}-{network}", handle=f"{SIGNS[n % len(SIGNS)]} at {network}",
                    name=brand.name, kind="account", state=Profile.State.BY_HAND, keeper=people[0])
            for network in ("brisk", "plaza", "guildhall")
        )  # fmt: skip # columns side by side
        posts = Post.objects.bulk_create(
            Post(
                brand=brand,
                author=people[0],
                state="signed_off",
                requested_at=now,
                master={"text": write_text(dice, i), "media": []},
            )
            for i in range(60)
        )
        made = []
        for i, post in enumerate(posts):
            wall, due = _pick_time(now.date() + timedelta(days=1 + i // 2), ZoneInfo(zone), dice)
            made.append(
                Delivery(post=post, profile=profiles[i % 3], brand=brand, state="planned", due_at=due, wall_time=wall.replace(tzinfo=UTC),
                         zone=zone, key=uuid.UUID(int=dice.getrandbits(128)), headline=post.master["text"][:120])
            )  # fmt: skip # columns side by side
        Delivery.objects.bulk_create(made)
        enqueue_deliveries((d.pk, d.due_at) for d in made)
