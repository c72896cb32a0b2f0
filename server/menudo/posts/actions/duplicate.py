"""Make a copy of a post: wording, versions and profiles; its times too when wished."""

import uuid

from django.db import transaction

from menudo.base.live import tell
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import User
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.save import wording_of
from menudo.posts.models import Delivery, Post, Version
from menudo.profiles.models import Profile


def duplicate(place: Here, post: Post, times: bool) -> Post:
    """A new draft of the person's own, for the same profiles as far as they are connected still.

    With `times` each delivery keeps the wall time of the one it was copied from, unplanned, so that planning it there
    is one step and never happens by itself.
    """
    place.needs(May.WRITE)
    with transaction.atomic():
        copy = copy_of(post, place.user, post.title and f"{post.title} (copy)"[:200])
        for old in post.deliveries.exclude(profile__state=Profile.State.DISCONNECTED).order_by("pk"):
            timed = {"due_at": old.due_at, "wall": old.wall, "zone": old.zone} if times else {}
            Delivery.objects.create(post=copy, profile_id=old.profile_id, brand=place.brand, key=uuid.uuid4(), **timed)
        write_cards(copy)
        words, after = f"copied {_called(post)}", wording_of(copy)
        record(place.brand.pk, place.actor, "make", "post", copy.pk, words, {"of": post.pk}, after)
        tell(place.brand.pk, "post", copy.pk)
    return copy


def copy_of(post: Post, author: User | None, title: str) -> Post:
    """The wording, labels, campaign and versions of a post as another; no deliveries yet."""
    copy = Post.objects.create(
        brand_id=post.brand_id, author=author, title=title, master=post.master, campaign_id=post.campaign_id
    )
    copy.labels.set(post.labels.all())
    Version.objects.bulk_create(
        [
            Version(post=copy, network=v.network, profile_id=v.profile_id, own=v.own)
            for v in post.versions.exclude(profile__state=Profile.State.DISCONNECTED)
        ]
    )
    return copy


def _called(post: Post) -> str:
    first = (post.title or post.master.get("text", "")).strip().splitlines()
    return f"“{first[0][:80]}”" if first else "a post"
