"""Make a copy of a post: wording, versions and profiles; its times too when wished."""

import uuid

from django.db import transaction

from menudo.base.live import tell
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
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
        copy = Post.objects.create(
            brand=place.brand,
            author=place.user,
            title=post.title and f"{post.title} (copy)"[:200],
            master=post.master,
            campaign_id=post.campaign_id,
        )
        copy.labels.set(post.labels.all())
        gone = Profile.State.DISCONNECTED
        Version.objects.bulk_create(
            [
                Version(post=copy, network=v.network, profile_id=v.profile_id, own=v.own)
                for v in post.versions.exclude(profile__state=gone)
            ]
        )
        for old in post.deliveries.exclude(profile__state=gone).order_by("pk"):
            timed = {"due_at": old.due_at, "wall": old.wall, "zone": old.zone} if times else {}
            Delivery.objects.create(post=copy, profile_id=old.profile_id, brand=place.brand, key=uuid.uuid4(), **timed)
        write_cards(copy)
        record(
            place.brand.pk,
            place.actor,
            "make",
            "post",
            copy.pk,
            f"copied {_called(post)}",
            {"of": post.pk},
            wording_of(copy),
        )
        tell(place.brand.pk, "post", copy.pk)
    return copy


def _called(post: Post) -> str:
    first = (post.title or post.master.get("text", "")).strip().splitlines()
    return f"“{first[0][:80]}”" if first else "a post"
