"""Keep a post: its wording, its versions, and the profiles it is for."""

from typing import Any

from django.db import transaction
from django.db.models import F

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Forbidden
from menudo.base.revisions import unchanged
from menudo.base.rows import write_fields
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.add_deliveries import add_deliveries
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.resign import resign
from menudo.posts.actions.watch import called, tell_watchers
from menudo.posts.content_io import OwnIO
from menudo.posts.faults import allowed
from menudo.posts.locking import lock_deliveries, lock_post
from menudo.posts.models import Delivery, Post, Version
from menudo.posts.reads import state_now
from menudo.posts.schemas import PostIn
from menudo_core.signoff.states import DeliveryState

_LOOSE = {DeliveryState.UNPLANNED, DeliveryState.OFF}


def make(place: Here, data: PostIn) -> Post:
    """A new draft."""
    place.needs(May.WRITE)
    with transaction.atomic():
        allowed(place, data)
        post = Post.objects.create(brand=place.brand, author=place.user)
        _write(place, post, data)
        resign(place.brand, [post.pk], place.user.pk)
        words = f"began {_called(data)}"
        record(place.brand.pk, place.actor, "make", "post", post.pk, words, after=wording_of(post))
        tell(place.brand.pk, "post", post.pk)
    return post


def save(place: Here, post: Post, data: PostIn, began: int) -> Post:
    """Keep a changed post. Raises Stale when it has moved on since `began`; nothing is half kept."""
    place.needs(May.WRITE)
    if post.author_id != place.user.pk and May.EDIT_OTHERS not in place.capabilities:
        raise Forbidden("This is someone else's post, and you may only change your own. Ask its coordinator.")
    with transaction.atomic():
        post = lock_post(place, post)
        unchanged(began, post.revision, state_now(post))
        allowed(place, data)
        before = wording_of(post)
        post.revision += 1
        _write(place, post, data)
        after = wording_of(post)
        resign(place.brand, [post.pk], place.user.pk)
        post.refresh_from_db(fields=["state"])
        if after != before:
            # Who holds the page to publish it by hand sees other words than there are: what they say of it is stale.
            post.deliveries.filter(state=DeliveryState.HAND).update(revision=F("revision") + 1)
            record(
                place.brand.pk,
                place.actor,
                "write",
                "post",
                post.pk,
                f"changed {_called(data)}",
                before,
                after,
                join=True,
            )
            # However often one writes in a day, those who watch are told once.
            day = clock.now().astimezone(place.zone).date()
            key = f"changed:{post.pk}:{place.user.pk}:{day}"
            words = f"{place.user.name} changed {called(post)}"
            tell_watchers(
                place.brand, post, "changed", key, words, but=[place.user.pk], author=post.author_id != place.user.pk
            )
        tell(place.brand.pk, "post", post.pk)
    return post


def wording_of(post: Post) -> dict[str, Any]:
    """A post's title, master and versions, as its history keeps them."""
    versions = [{"network": v.network, "profile": v.profile_id, "own": v.own} for v in post.versions.order_by("pk")]
    return {"title": post.title, "master": post.master, "versions": versions}


def _write(place: Here, post: Post, data: PostIn) -> None:
    post.title = data.title.strip()
    post.master = {key: value for key, value in _slim(data.master.model_dump()).items() if value is not None}
    post.campaign_id = data.campaign
    post.changed = clock.now()
    post.save()
    post.labels.set(data.labels)
    _write_versions(post, data)
    _choose(place, post, set(data.profiles))
    write_cards(post)


def _write_versions(post: Post, data: PostIn) -> None:
    """The versions become those that were sent: three statements, however many columns there are."""
    wanted = {(v.network, v.profile): own for v in data.versions if (own := _own(v.own)) or v.profile is not None}
    present = {(version.network, version.profile_id): version for version in post.versions.all()}
    if gone := [version.pk for key, version in present.items() if key not in wanted]:
        Version.objects.filter(pk__in=gone).delete()
    changed = []
    for key, version in present.items():
        if key in wanted and version.own != wanted[key]:
            version.own = wanted[key]
            changed.append(version)
    write_fields(changed, ["own"])
    Version.objects.bulk_create(
        Version(post=post, network=network, profile_id=profile, own=own)
        for (network, profile), own in wanted.items()
        if (network, profile) not in present
    )


def _own(own: OwnIO) -> dict[str, Any]:
    """What a version really has of its own: what isn't said is inherited."""
    said = _slim(own.model_dump(exclude_none=True))
    return {key: value for key, value in said.items() if key not in ("fields", "shown") or value}


def _slim(raw: dict[str, Any]) -> dict[str, Any]:
    """Without what says nothing of an asset."""
    shown = {}
    for asset, one in raw.get("shown", {}).items():
        said = {name: value for name, value in one.items() if value is not None}
        if said:
            shown[asset] = said
    return {**raw, "shown": shown}


def _choose(place: Here, post: Post, profiles: set[int]) -> None:
    present = {delivery.profile_id: delivery for delivery in lock_deliveries(post.deliveries.all()).values()}
    gone = [delivery for profile_id, delivery in present.items() if profile_id not in profiles]
    for delivery in gone:
        if delivery.state not in _LOOSE:
            raise Conflict(
                f"{delivery.profile.handle} is {delivery.state.replace('_', ' ')} already. Take it off the calendar first."
            )
    if gone:
        Delivery.objects.filter(pk__in=[delivery.pk for delivery in gone]).delete()
    add_deliveries(place.brand.pk, [(post.pk, id) for id in sorted(profiles - set(present))])


def _called(data: PostIn) -> str:
    first = (data.title or data.master.text).strip().splitlines()
    return f"“{first[0][:80]}”" if first else "a post"
