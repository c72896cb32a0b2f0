"""Posts, as pages need them."""

from typing import Any

from menudo.base.problems import NotFound
from menudo.library.models import Asset
from menudo.people.here import Here
from menudo.posts.models import Delivery, Post, content_of, own_of
from menudo.posts.schemas import AssetBrief, ContentIO, DeliveryOut, DeliveryPage, OwnIO, PostOut, SaidField, VersionIO
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.check import asked
from menudo_core.networks.content import inherit
from menudo_core.signoff.states import DeliveryState, Event, takes


def post(place: Here, id: int, lock: bool = False) -> Post:
    """One post of the brand that isn't in the bin. Raises NotFound, also for another brand's."""
    posts = Post.objects.select_for_update() if lock else Post.objects
    found = posts.filter(brand=place.brand, pk=id, binned__isnull=True).first()
    if found is None:
        raise NotFound()
    return found


def delivery(place: Here, id: int, lock: bool = False) -> Delivery:
    """One delivery of the brand. Raises NotFound, also for another brand's."""
    deliveries = Delivery.objects.select_related("post", "profile")
    if lock:
        deliveries = deliveries.select_for_update(of=("self",))
    found = deliveries.filter(brand=place.brand, pk=id, post__binned__isnull=True).first()
    if found is None:
        raise NotFound()
    return found


def delivery_out(delivery: Delivery) -> DeliveryOut:
    return DeliveryOut(
        id=delivery.pk,
        profile=delivery.profile_id,
        state=delivery.state,
        due_at=delivery.due_at,
        wall=delivery.wall.replace(tzinfo=None).isoformat(timespec="minutes") if delivery.wall else None,
        zone=delivery.zone,
        not_before=delivery.not_before,
        tries=delivery.tries,
        held_for=delivery.held_for,
        reason=delivery.reason,
        reason_code=delivery.reason_code,
        remote_url=delivery.remote_url,
        published_at=delivery.published_at,
        sent=delivery.sent,
        revision=delivery.revision,
        can=_can(delivery),
    )


def _can(delivery: Delivery) -> list[str]:
    """What the state machine and the reason allow; the person's capabilities come on top."""
    state = DeliveryState(delivery.state)
    if delivery.reason_code == "unsure" and state is DeliveryState.TROUBLE:
        return ["settle"]
    events = {
        "move": Event.MOVE, "unplan": Event.UNPLAN, "call_off": Event.CALL_OFF, "retry": Event.RETRY, "done": Event.DONE,
    }  # fmt: skip
    return [name for name, event in events.items() if takes(state, event)]


def delivery_page(delivery: Delivery) -> DeliveryPage:
    """A delivery and its wording: what was sent once it was, else what its version says now."""
    version = delivery.post.versions.filter(network=delivery.profile.network).first()
    content = inherit(delivery.post.content, own_of(version.own if version else {}))
    if delivery.sent:
        content = content_of(delivery.sent)
    sheet = sheet_for(delivery.brand_id, delivery.profile.network)
    assets = {a.pk: _brief(a) for a in Asset.objects.filter(brand_id=delivery.brand_id, pk__in=content.media)}
    author = delivery.post.author
    return DeliveryPage(
        delivery=delivery_out(delivery),
        post=delivery.post_id,
        post_state=delivery.post.state,
        post_revision=delivery.post.revision,
        title=delivery.post.title,
        network=delivery.profile.network,
        handle=delivery.profile.handle,
        profile_url=delivery.profile.url,
        by_hand=delivery.profile.state == Profile.State.BY_HAND,
        text=content.text,
        media=[assets[id] for id in content.media if id in assets],
        link=content.link,
        fields=[SaidField(label=rule.label, value=content.fields[rule.name]) for rule in asked(sheet, content)],
        author=author.name if author else "",
    )


def _brief(asset: Asset) -> AssetBrief:
    return AssetBrief(
        id=asset.pk, name=asset.name, kind=asset.kind, width=asset.width, height=asset.height, alt=asset.alt
    )


def post_out(post: Post) -> PostOut:
    """The whole post with versions, deliveries and the assets it uses: three statements."""
    versions = list(post.versions.order_by("network"))
    used = set(post.master.get("media", ()))
    for version in versions:
        used.update(version.own.get("media") or ())
    assets = Asset.objects.filter(brand_id=post.brand_id, pk__in=used)
    return PostOut(
        id=post.pk,
        title=post.title,
        state=post.state,
        master=ContentIO(**post.master),
        versions=[VersionIO(network=v.network, own=OwnIO(**v.own)) for v in versions],
        deliveries=[delivery_out(d) for d in post.deliveries.order_by("id")],
        assets=[_brief(a) for a in assets],
        author=post.author.name if post.author else "",
        changed=post.changed,
        revision=post.revision,
    )


def state_now(post: Post) -> dict[str, Any]:
    """A post as JSON, for the answer to a stale write."""
    return post_out(post).model_dump(mode="json")
