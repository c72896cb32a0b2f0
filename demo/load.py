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
from allauth.account.models import EmailAddress
from django.conf import settings
from django.db import transaction

from demo.networks import BY_HAND, PROFILES, SETS, SITES
from demo.pictures import all_pictures
from demo.planned import Planned
from demo.posts import POSTS
from demo.world import BRANDS, PASSWORD, PEOPLE, STANDIN_PASSWORD
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
from menudo.profiles.actions.keep_profiles import state_by
from menudo.profiles.actions.set_timetable import first_timetable
from menudo.profiles.models import Connection, Profile, ProfileSet
from menudo.profiles.wire.micropub import Micropub
from menudo.profiles.wire.sign_in import client_for, discover, issuer_of
from menudo.profiles.wire.sites import discover_site
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
            EmailAddress.objects.create(user=user, email=user.email, primary=True, verified=True)
            for slug, role in person.roles.items():
                Membership.objects.create(
                    brand=Brand.objects.get(slug=slug), user=user, role=role, capabilities=sorted(ROLES[role])
                )
        tokens = {key: token for brand in BRANDS for key, token in _connect(brand.slug, brand.login).items()}
        _by_hand_and_sets()
        pictures = _pictures()
        for post in POSTS:
            _post(post, pictures, tokens)


def _seed_standin() -> None:
    login = {brand.slug: brand.login for brand in BRANDS}
    name = {brand.slug: brand.name for brand in BRANDS}
    accounts: dict[tuple[str, str], dict] = {}
    for p in PROFILES:
        account = accounts.setdefault(
            (p.network, p.brand),
            {
                "network": p.network,
                "login": login[p.brand],
                "password": STANDIN_PASSWORD,
                "name": name[p.brand],
                "profiles": [],
            },
        )
        told = {key: getattr(p, key) for key in ("uid", "handle", "name", "kind", "colour", "followers", "facts")}
        account["profiles"].append(told)
    _standin("control/api/seed", {"empty": True, "accounts": list(accounts.values()), "sites": SITES})


def _standin(path: str, data: dict) -> httpx.Response:
    response = httpx.post(f"{settings.STANDIN_URL}/{path}", json=data, timeout=30, trust_env=False)
    response.raise_for_status()
    return response


def _connect(slug: str, login: str) -> dict[tuple[str, str], str]:
    """The brand's connected profiles, with tokens as if somebody had agreed at each network. Access tokens by brand and network."""
    brand, now, tokens = Brand.objects.get(slug=slug), clock.now(), {}
    wanted = [p for p in PROFILES if p.brand == slug and p.connected]
    for network in dict.fromkeys(p.network for p in wanted):
        mine = [p for p in wanted if p.network == network]
        given = _standin(
            "control/api/grant",
            {"network": network, "login": login, "profiles": [p.uid for p in mine], "days": mine[0].days},
        ).json()
        site = f"{settings.STANDIN_URL}/site/{login}/"
        connection = Connection.objects.create(
            brand=brand, network=network, account=login, access_token=seal(given["access_token"]), refresh_token=seal(given["refresh_token"]),
            access_ends=now + timedelta(seconds=given["expires_in"]), ends=now + timedelta(seconds=given["connection_expires_in"]),
            endpoints=discover_site(site) if network == "open-site" else discover(issuer_of(network)), address=site if network == "open-site" else "",
        )  # fmt: skip
        told = Micropub(client_for(connection.endpoints), connection.endpoints, given["access_token"]).profiles()
        connection.save(update_fields=["endpoints"])
        for one in told:
            profile = Profile.objects.create(
                brand=brand, network=network, connection=connection, site=connection.address, remote_id=one.remote_id, handle=one.handle, name=one.name,
                kind=one.kind, url=one.url, followers=one.followers, facts=dict(one.facts), state=state_by(network, one),
            )  # fmt: skip
            first_timetable(profile)
        tokens[slug, network] = str(given["access_token"])
    return tokens


def _by_hand_and_sets() -> None:
    for one in BY_HAND:
        profile = Profile.objects.create(
            brand=Brand.objects.get(slug=one.brand), network=one.network, remote_id=f"by-hand-{one.name}", handle=one.name, name=one.name,
            kind=one.kind, url=one.url, state=Profile.State.BY_HAND, keeper=User.objects.get(email=one.keeper),
        )  # fmt: skip
        first_timetable(profile)
    for slug, sets in SETS.items():
        for name, handles in sets.items():
            row = ProfileSet.objects.create(brand=Brand.objects.get(slug=slug), name=name)
            row.profiles.set(Profile.objects.filter(brand__slug=slug, handle__in=handles))


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


def _post(planned: Planned, pictures: dict, tokens: dict[tuple[str, str], str]) -> None:
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


def _delivery(
    planned: Planned, post: Post, profile: Profile, media: list[Asset], tokens: dict[tuple[str, str], str]
) -> None:
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
        elif planned.state in ("in_trouble", "missed", "waiting_for_hand") and not passed:
            delivery.state, delivery.reason = DeliveryState.PLANNED, ""
    if delivery.state == DeliveryState.HELD:
        delivery.held_for = "signoff"
    if delivery.state == DeliveryState.TROUBLE:
        delivery.reason_code, delivery.tries = "refused", 1
    delivery.save()
    if delivery.state == DeliveryState.PUBLISHED and delivery.due_at:
        delivery.remote_url = _at_the_network(delivery, media, tokens[post.brand.slug, profile.network])
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
