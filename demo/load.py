"""Load the demo's world: python demo/load.py [--fresh], with Menudo's environment set."""

import sys
import uuid
from datetime import UTC, datetime, time, timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

sys.path[:0] = [str(Path(__file__).resolve().parents[1])]

import django

django.setup()

import httpx
from django.conf import settings
from django.db import transaction

from demo.pictures import all_pictures
from demo.world import BRANDS, PASSWORD, PEOPLE, POSTS, PROFILES, STANDIN_PASSWORD, Planned
from menudo.base import clock
from menudo.base.sealed import seal
from menudo.history.actions.record import Actor, record
from menudo.library import files
from menudo.library.actions.add import add
from menudo.library.models import Asset
from menudo.people.capabilities import ROLES
from menudo.people.here import Here
from menudo.people.models import Brand, Membership, User
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.due import put_job
from menudo.posts.models import Delivery, Post
from menudo.profiles.actions.set_timetable import first_timetable
from menudo.profiles.models import Connection, Profile
from menudo.profiles.wire.sign_in import discover, issuer_of
from menudo_core.signoff.states import DeliveryState
from menudo_core.timing.walltimes import resolve


def main() -> None:
    if Brand.objects.exists() and "--fresh" not in sys.argv:
        return
    print("menudo: loading the demo's world", flush=True)
    _seed_standin()
    with transaction.atomic():
        for brand in BRANDS:
            Brand.objects.create(
                slug=brand.slug, name=brand.name, zone=brand.zone, ink=brand.ink, needs_signoff=brand.needs_signoff
            )
        for person in PEOPLE:
            user = User.objects.create_user(person.email, PASSWORD, person.name)
            for slug, role in person.roles.items():
                Membership.objects.create(
                    brand=Brand.objects.get(slug=slug), user=user, role=role, capabilities=sorted(ROLES[role])
                )
        tokens = {brand.slug: _connect(brand.slug, brand.login) for brand in BRANDS}
        pictures = _pictures()
        for post in POSTS:
            _post(post, pictures, tokens)


def _seed_standin() -> None:
    accounts = [
        {
            "network": "brisk",
            "login": brand.login,
            "password": STANDIN_PASSWORD,
            "name": brand.name,
            "profiles": [
                {"uid": p.uid, "handle": p.handle, "name": p.name, "kind": "account", "colour": p.colour}
                for p in PROFILES
                if p.brand == brand.slug
            ],
        }
        for brand in BRANDS
    ]
    _standin("control/api/seed", {"empty": True, "accounts": accounts})


def _standin(path: str, data: dict) -> httpx.Response:
    response = httpx.post(f"{settings.STANDIN_URL}/{path}", json=data, timeout=30, trust_env=False)
    response.raise_for_status()
    return response


def _connect(slug: str, login: str) -> str:
    """The brand's connected profiles, with tokens as if somebody had agreed at the network."""
    wanted = [p for p in PROFILES if p.brand == slug and p.connected]
    if not wanted:
        return ""
    tokens = _standin(
        "control/api/grant", {"network": "brisk", "login": login, "profiles": [p.uid for p in wanted], "days": 61}
    ).json()
    now = clock.now()
    brand = Brand.objects.get(slug=slug)
    connection = Connection.objects.create(
        brand=brand, network="brisk", account=login, access_token=seal(tokens["access_token"]), refresh_token=seal(tokens["refresh_token"]),
        access_ends=now + timedelta(seconds=tokens["expires_in"]), ends=now + timedelta(seconds=tokens["connection_expires_in"]),
        endpoints=discover(issuer_of("brisk")),
    )  # fmt: skip
    for p in wanted:
        profile = Profile.objects.create(
            brand=brand,
            network="brisk",
            connection=connection,
            remote_id=p.uid,
            handle=p.handle,
            name=p.name,
            kind="account",
        )
        first_timetable(profile)
    return str(tokens["access_token"])


def _pictures() -> dict[tuple[str, str], Asset]:
    found = {}
    coordinator = User.objects.get(email=PEOPLE[0].email)
    for brand in Brand.objects.all():
        place = Here(coordinator, brand, frozenset(ROLES["coordinator"]))
        wanted = {key for p in POSTS if p.brand == brand.slug for key in p.picture} | {"sky", "small"}
        for key, (name, data, alt) in all_pictures().items():
            if key in wanted:
                found[brand.slug, key] = add(place, data, name, alt)
    return found


def _post(planned: Planned, pictures: dict, tokens: dict[str, str]) -> None:
    brand = Brand.objects.get(slug=planned.brand)
    author = User.objects.get(email=PEOPLE[1].email if len(planned.text) % 2 else PEOPLE[0].email)
    media = [pictures[planned.brand, key] for key in planned.picture]
    post = Post.objects.create(
        brand=brand, author=author, title=planned.title, state=planned.post_state,
        master={"text": planned.text, "media": [a.pk for a in media]}, changed=clock.now() - timedelta(hours=len(planned.text)),
    )  # fmt: skip
    record(brand.pk, Actor(author.pk, author.name), "make", "post", post.pk, "began the post")
    for handle in planned.to:
        _delivery(planned, post, Profile.objects.get(brand=brand, handle=handle), media, tokens)
    write_cards(post)


def _delivery(planned: Planned, post: Post, profile: Profile, media: list[Asset], tokens: dict[str, str]) -> None:
    zone = ZoneInfo(post.brand.zone)
    delivery = Delivery(
        post=post, profile=profile, brand=post.brand, key=uuid.uuid4(), state=planned.state, reason=planned.reason
    )
    if planned.day is not None:
        day = clock.now().astimezone(zone).date() + timedelta(days=planned.day)
        wall = datetime.combine(day, time.fromisoformat(planned.time))
        delivery.due_at, delivery.wall, delivery.zone = resolve(wall, zone).instant, wall.replace(tzinfo=UTC), zone.key
        passed = delivery.due_at <= clock.now()
        # Early in the day what was to be out already isn't yet; late in it, what was to come is.
        if planned.state == "published" and not passed:
            delivery.state = DeliveryState.PLANNED
        elif planned.state == "planned" and passed:
            delivery.state = DeliveryState.PUBLISHED
        elif planned.state in ("in_trouble", "missed") and not passed:
            delivery.state, delivery.reason = DeliveryState.PLANNED, ""
    if delivery.state == DeliveryState.TROUBLE:
        delivery.reason_code, delivery.tries = "refused", 1
    delivery.save()
    if delivery.state == DeliveryState.PUBLISHED and delivery.due_at:
        delivery.remote_url = _at_the_network(delivery, media, tokens[post.brand.slug])
        delivery.published_at = delivery.due_at + timedelta(seconds=2)
        delivery.sent = {"text": planned.text, "media": [a.pk for a in media]}
        delivery.save()
    elif delivery.state == DeliveryState.PLANNED:
        put_job(delivery)


def _at_the_network(delivery: Delivery, media: list[Asset], token: str) -> str:
    """Post it at the stand-in with the date it had, so that its public page is there."""
    endpoints = delivery.profile.connection.endpoints  # type: ignore[union-attr]
    auth = {"Authorization": f"Bearer {token}"}
    photos = []
    for asset in media:
        file = (f"{asset.sha256}.{asset.format}", files.path(asset.sha256).read_bytes(), f"image/{asset.format}")
        sent = httpx.post(endpoints["media"], files={"file": file}, headers=auth, timeout=30, trust_env=False)
        photos.append({"value": sent.headers["Location"], "alt": asset.alt})
    properties = {
        "content": [delivery.post.master["text"]],
        "mp-destination": [delivery.profile.remote_id],
        "published": [delivery.due_at.isoformat()],  # type: ignore[union-attr]
        "photo": photos,
    }
    body = {"type": ["h-entry"], "properties": properties}
    made = httpx.post(
        endpoints["micropub"],
        json=body,
        headers={**auth, "Idempotency-Key": f'"{delivery.key}"'},
        timeout=30,
        trust_env=False,
    )
    made.raise_for_status()
    return made.headers["Location"]


if __name__ == "__main__":
    main()
