"""Load the demo's world: python demo/load.py [--fresh], with Menudo's environment set."""

import re
import sys
import uuid
from datetime import UTC, datetime, time, timedelta
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit
from zoneinfo import ZoneInfo

sys.path[:0] = [str(Path(__file__).resolve().parents[1])]

import django

django.setup()

from django.db import transaction

from demo import library
from demo.automatic import add_automatic
from demo.connecting import accounts_of, connect_profiles
from demo.library_load import Pictures, add_library, add_pictures
from demo.networks import BY_HAND, PROFILES, SETS, SITES
from demo.planned import Planned
from demo.planning import add_calendar
from demo.posts import POSTS
from demo.rotas import add_rota
from demo.signing import add_signing
from demo.standin import URL as STANDIN_URL
from demo.standin import post_to_standin, publish_in_the_past
from demo.world import BRANDS, PASSWORD, PEOPLE, BrandOf
from menudo.base import clock
from menudo.base.rows import write_fields
from menudo.base.sentences import say
from menudo.history.actions.record_event import Actor, record_event
from menudo.library.models import Asset
from menudo.people.capabilities import ROLES
from menudo.people.models import Brand, Membership, User
from menudo.posts.actions.enqueue_delivery import enqueue_delivery
from menudo.posts.actions.watch import title_of
from menudo.posts.change.cards import CARD_FIELDS, refresh_cards, write_uses
from menudo.posts.models import Delivery, Post, Version
from menudo.posts.rendering import PostRenderer
from menudo.profiles.actions.set_timetable import create_default_timetable
from menudo.profiles.models import Profile, ProfileSet
from menudo_core.signoff.states import DeliveryState
from menudo_core.timing.walltimes import resolve_wall_time


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
            if person is PEOPLE[0]:
                User.objects.filter(pk=user.pk).update(manages_installation=True)
            for slug, role in person.roles.items():
                Membership.objects.create(
                    brand=Brand.objects.get(slug=slug), user=user, role=role, capabilities=sorted(ROLES[role])
                )
        tokens = {key: token for brand in BRANDS for key, token in _connect_brand(brand).items()}
        _add_manual_profiles_and_sets()
        pictures = add_pictures()
        for slug in library.FOLDERS:
            add_library(Brand.objects.get(slug=slug), pictures)
        for post in POSTS:
            _add_post(post, pictures, tokens)
        for brand_row in Brand.objects.all():
            add_calendar(brand_row)
        add_signing()
        add_rota("garden", "ines@example.org")
        add_automatic("garden", "ines@example.org")
        if "--large" in sys.argv:
            from demo.large import add_large_office

            add_large_office()


def _seed_standin() -> None:
    logins, names = {b.slug: b.login for b in BRANDS}, {b.slug: b.name for b in BRANDS}
    post_to_standin(
        "control/api/seed",
        {
            "empty": True,
            "accounts": accounts_of(PROFILES, logins, names),
            "rising": library.RISING,
            "shared": library.shared_files(),
            "sites": [{**site, "pages": library.PAGES[site["name"]]} for site in SITES],
        },
    )


def _connect_brand(brand: BrandOf) -> dict[tuple[str, str], str]:
    """The brand's connected profiles; access tokens by brand and network."""
    wanted = [p for p in PROFILES if p.brand == brand.slug and p.connected]
    tokens = connect_profiles(Brand.objects.get(slug=brand.slug), brand.login, wanted)
    return {(brand.slug, network): token for network, token in tokens.items()}


def _add_manual_profiles_and_sets() -> None:
    for one in BY_HAND:
        profile = Profile.objects.create(
            brand=Brand.objects.get(slug=one.brand),
            network=one.network,
            remote_id=f"by-hand-{one.name}",
            handle=one.name,
            name=one.name,
            kind=one.kind,
            url=one.url,
            state=Profile.State.BY_HAND,
            keeper=User.objects.get(email=one.keeper),
        )
        create_default_timetable(profile)
    for slug, sets in SETS.items():
        for name, handles in sets.items():
            row = ProfileSet.objects.create(brand=Brand.objects.get(slug=slug), name=name)
            row.profiles.set(Profile.objects.filter(brand__slug=slug, handle__in=handles))


def _add_post(planned: Planned, pictures: Pictures, tokens: dict[tuple[str, str], str]) -> None:
    brand = Brand.objects.get(slug=planned.brand)
    author = User.objects.get(email=PEOPLE[1].email if len(planned.text) % 2 else PEOPLE[0].email)
    media = [pictures[planned.brand, key] for key in planned.picture]
    post = Post.objects.create(
        brand=brand,
        author=author,
        title=planned.title,
        state=planned.post_state,
        master={
            "text": planned.text,
            "media": [a.pk for a in media],
            "link": planned.link.format(standin=urlsplit(STANDIN_URL).netloc),
        },
        updated_at=clock.now() - timedelta(hours=len(planned.text)),
    )
    record_event(
        brand.pk, Actor(author.pk, author.name), "make", "post", post.pk, say("draft.begun", post=title_of(post))
    )
    for network, overrides in planned.overrides.items():
        Version.objects.create(post=post, network=network, overrides=_overrides_of(overrides, planned.brand, pictures))
    for handle in planned.to:
        named = Profile.objects.filter(brand=brand, handle=handle)
        _add_delivery(
            planned, post, named.get(network__in=planned.overrides) if named.count() > 1 else named.get(), media, tokens
        )
    # As they stand: their sign-off comes later, in signing.py.
    renderers = PostRenderer.for_posts(brand, [post])
    rows = list(Delivery.objects.filter(post=post).select_related("profile"))
    write_fields(refresh_cards(brand, rows, renderers), CARD_FIELDS)
    write_uses({post.pk: renderers[post.pk].content})


def _overrides_of(overrides: dict[str, Any], brand: str, pictures: Pictures) -> dict[str, Any]:
    """A version as it is kept: days counted from today, pictures by their ids."""
    today = clock.now().date()

    def dated(value: str) -> str:
        day = re.match(r"\{day\+(\d+)\}", value)
        return f"{today + timedelta(days=int(day[1]))}{value[day.end() :]}" if day else value

    out = dict(overrides)
    if "fields" in overrides:
        out["fields"] = {name: dated(value) for name, value in overrides["fields"].items()}
    if "shown" in overrides:
        out["shown"] = {str(pictures[brand, key].pk): shown for key, shown in overrides["shown"].items()}
    return out


def _add_delivery(
    planned: Planned, post: Post, profile: Profile, media: list[Asset], tokens: dict[tuple[str, str], str]
) -> None:
    zone = ZoneInfo(post.brand.zone)
    delivery = Delivery(
        post=post, profile=profile, brand=post.brand, key=uuid.uuid4(), state=planned.state, reason=planned.reason
    )
    if planned.day is not None:
        day = clock.now().astimezone(zone).date() + timedelta(days=planned.day)
        wall_time = datetime.combine(day, time.fromisoformat(planned.time))
        delivery.due_at, delivery.wall_time, delivery.zone = (
            resolve_wall_time(wall_time, zone).instant,
            wall_time.replace(tzinfo=UTC),
            zone.key,
        )
        passed = delivery.due_at <= clock.now()
        # Early in the day what was to be out already isn't yet; late in it, what was to come is.
        if planned.state == "published" and not passed:
            delivery.state = DeliveryState.PLANNED
        elif planned.state == "planned" and passed:
            delivery.state = DeliveryState.PUBLISHED
        elif planned.state in ("in_trouble", "missed", "waiting_for_hand") and not passed:
            delivery.state, delivery.reason = DeliveryState.PLANNED, ""
    delivery.step = Delivery.Step.HAND if delivery.state == DeliveryState.HAND else Delivery.Step.NONE
    if delivery.state == DeliveryState.HELD:
        delivery.held_for = "signoff"
    if delivery.state == DeliveryState.TROUBLE:
        delivery.reason_code, delivery.tries = "refused", 1
    delivery.save()
    if delivery.state == DeliveryState.PUBLISHED and delivery.due_at:
        delivery.remote_url = publish_in_the_past(delivery, media, tokens[post.brand.slug, profile.network])
        delivery.published_at = delivery.due_at + timedelta(seconds=2)
        delivery.sent_content = {"text": planned.text, "media": [a.pk for a in media]}
        delivery.save()
    elif delivery.state == DeliveryState.PLANNED:
        enqueue_delivery(delivery)


if __name__ == "__main__":
    main()
