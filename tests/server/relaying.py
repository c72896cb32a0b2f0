"""Relays made and fed, for tests."""

from typing import Any

from django.utils import timezone

from menudo.posts.models import Delivery, Post
from menudo.profiles.models import Profile
from menudo.relays.models import Relay


def cell(source: str, target: Profile, event: str = "", **more: Any) -> dict[str, Any]:
    return {"source": {"key": source, "event": event}, "target": target.pk, **more}


def relay(api, source: str, target: Profile, take: int = 0, on: bool = True, **more) -> Relay:
    made = api("POST", "relays", cell(source, target, **more), status=201)
    assert made["active"] is False
    if on:
        api("POST", f"relays/{made['id']}/switch", {"active": True, "earlier_items": take}, status=200)
    return Relay.objects.get(pk=made["id"])


def published(world, text: str, profile: Profile | None = None, **master) -> Delivery:
    post = Post.objects.create(brand=world.garden, master={"text": text, **master})
    now = timezone.now()
    return Delivery.objects.create(
        post=post,
        profile=profile or world.profile,
        brand=world.garden,
        key=f"{post.pk:032x}",
        state="published",
        due_at=now,
        published_at=now,
        sent_content={"text": text, **master},
        headline=text[:50],
    )


def verdicts(one: Relay) -> list[str]:
    return [leg.verdict for leg in one.firings.order_by("pk")]
