"""Posts, as pages need them."""

from typing import Any

from menudo.base.problems import NotFound
from menudo.library.models import Asset
from menudo.people.here import Here
from menudo.posts.models import Delivery, Post
from menudo.posts.schemas import AssetBrief, ContentIO, DeliveryOut, OwnIO, PostOut, VersionIO


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
        wall=delivery.wall.replace(tzinfo=None).isoformat("minutes") if delivery.wall else None,
        zone=delivery.zone,
        not_before=delivery.not_before,
        tries=delivery.tries,
        reason=delivery.reason,
        reason_code=delivery.reason_code,
        remote_url=delivery.remote_url,
        published_at=delivery.published_at,
        sent=delivery.sent,
        revision=delivery.revision,
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
        master=ContentIO(text=post.master.get("text", ""), media=post.master.get("media", [])),
        versions=[VersionIO(network=v.network, own=OwnIO(text=v.own.get("text"), media=v.own.get("media"))) for v in versions],
        deliveries=[delivery_out(d) for d in post.deliveries.order_by("id")],
        assets=[AssetBrief(id=a.pk, name=a.name, kind=a.kind, width=a.width, height=a.height, alt=a.alt) for a in assets],
        author=post.author.name if post.author else "",
        changed=post.changed,
        revision=post.revision,
    )


def state_now(post: Post) -> dict[str, Any]:
    """A post as JSON, for the answer to a stale write."""
    return post_out(post).model_dump(mode="json")
