"""Keep a post: its wording, its versions, and the profiles it is for."""

import uuid
from collections.abc import Iterable
from typing import Any

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Conflict, Fault, Forbidden, Invalid
from menudo.base.revisions import unchanged
from menudo.history.actions.record import record
from menudo.library.models import Asset
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.rehold import rehold
from menudo.posts.models import Delivery, Post, Version
from menudo.posts.reads import state_now
from menudo.posts.schemas import ContentIO, OwnIO, PostIn
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo_core.signoff.states import DeliveryState, PostState
from menudo_core.text.clean import unusable

_LOOSE = {DeliveryState.UNPLANNED, DeliveryState.OFF}


def make(place: Here, data: PostIn) -> Post:
    """A new draft."""
    place.needs(May.WRITE)
    with transaction.atomic():
        _allowed(place, data)
        post = Post.objects.create(brand=place.brand, author=place.user)
        _write(place, post, data)
        record(place.brand.pk, place.actor, "make", "post", post.pk, f"began {_called(data)}")
        tell(place.brand.pk, "post", post.pk)
    return post


def save(place: Here, post: Post, data: PostIn, began: int) -> Post:
    """Keep a changed post. Raises Stale when it has moved on since `began`; nothing is half kept."""
    place.needs(May.WRITE)
    if post.author_id != place.user.pk and May.EDIT_OTHERS not in place.capabilities:
        raise Forbidden("This is someone else's post, and you may only change your own. Ask its coordinator.")
    with transaction.atomic():
        post = Post.objects.select_for_update().get(pk=post.pk)
        unchanged(began, post.revision, state_now(post))
        _allowed(place, data)
        before = {
            "title": post.title,
            "master": post.master,
            "versions": {v.network: v.own for v in post.versions.all()},
        }
        post.revision += 1
        _write(place, post, data)
        after = {
            "title": post.title,
            "master": post.master,
            "versions": {v.network: v.own for v in post.versions.all()},
        }
        if place.brand.needs_signoff and (after["master"], after["versions"]) != (before["master"], before["versions"]):
            _asks_again(post)
        if after != before:
            record(place.brand.pk, place.actor, "write", "post", post.pk, f"changed {_called(data)}", before, after)
        tell(place.brand.pk, "post", post.pk)
    return post


def _asks_again(post: Post) -> None:
    """What was signed off is not what would go out now: planned deliveries are held until it is signed off again."""
    if post.state != PostState.SIGNED:
        return
    post.state = PostState.UP
    post.save(update_fields=["state"])
    rehold(Delivery.objects.filter(post=post))


def _allowed(place: Here, data: PostIn) -> None:
    faults = [*_text_faults(data), *_media_faults(place, data)]
    sheets = sheets_of(place.brand.pk)
    for place_in, version in enumerate(data.versions):
        if version.network not in sheets:
            faults.append(Fault(f"/versions/{place_in}/network", f"There is no rule sheet for “{version.network}”."))
    if len({v.network for v in data.versions}) != len(data.versions):
        faults.append(Fault("/versions", "A network can have one version only."))
    known = set(Profile.objects.filter(brand=place.brand, pk__in=data.profiles).values_list("pk", flat=True))
    faults += [
        Fault(f"/profiles/{i}", "This profile isn't one of this brand's.", "foreign")
        for i, id in enumerate(data.profiles)
        if id not in known
    ]
    if faults:
        raise Invalid(faults=faults)


def _text_faults(data: PostIn) -> Iterable[Fault]:
    texts = [("/title", data.title)]
    wordings: list[tuple[str, ContentIO | OwnIO]] = [
        ("/master", data.master),
        *((f"/versions/{i}/own", v.own) for i, v in enumerate(data.versions)),
    ]
    for pointer, said in wordings:
        texts += [(f"{pointer}/text", said.text or ""), (f"{pointer}/link", said.link or "")]
        texts += [(f"{pointer}/fields/{name}", value) for name, value in said.fields.items()]
    for pointer, text in texts:
        if words := unusable(text):
            yield Fault(pointer, words, "unusable")


def _media_faults(place: Here, data: PostIn) -> Iterable[Fault]:
    lists = [("/master/media", data.master.media)]
    lists += [(f"/versions/{i}/own/media", v.own.media or []) for i, v in enumerate(data.versions)]
    wanted = {asset for _, media in lists for asset in media}
    known = set(Asset.objects.filter(brand=place.brand, pk__in=wanted).values_list("pk", flat=True))
    for pointer, media in lists:
        for i, asset in enumerate(media):
            if asset not in known:
                yield Fault(f"{pointer}/{i}", "This picture isn't one of this brand's.", "foreign")


def _write(place: Here, post: Post, data: PostIn) -> None:
    post.title = data.title.strip()
    post.master = data.master.model_dump()
    post.changed = clock.now()
    post.save()
    wanted = {v.network: _own(v.own) for v in data.versions}
    wanted = {network: own for network, own in wanted.items() if own}
    post.versions.exclude(network__in=wanted).delete()
    for network, own in wanted.items():
        Version.objects.update_or_create(post=post, network=network, defaults={"own": own})
    _choose(place, post, set(data.profiles))
    write_cards(post)


def _own(own: OwnIO) -> dict[str, Any]:
    """What a version really has of its own: what isn't said is inherited."""
    return {key: value for key, value in own.model_dump(exclude_none=True).items() if key != "fields" or value}


def _choose(place: Here, post: Post, profiles: set[int]) -> None:
    present = {d.profile_id: d for d in post.deliveries.select_related("profile")}
    for profile_id, delivery in present.items():
        if profile_id in profiles:
            continue
        if delivery.state not in _LOOSE:
            raise Conflict(
                f"{delivery.profile.handle} is {delivery.state.replace('_', ' ')} already. Take it off the calendar first."
            )
        delivery.delete()
    Delivery.objects.bulk_create(
        [
            Delivery(post=post, profile_id=id, brand=place.brand, key=uuid.uuid4())
            for id in sorted(profiles - set(present))
        ]
    )


def _called(data: PostIn) -> str:
    first = (data.title or data.master.text).strip().splitlines()
    return f"“{first[0][:80]}”" if first else "a post"
