"""Posts, as pages need them."""

from datetime import datetime
from typing import Any

from django.conf import settings

from menudo.base import clock
from menudo.base.rows import the_one
from menudo.library.models import Asset
from menudo.people.here import Here
from menudo.posts.check_io import SaidField
from menudo.posts.content_io import ContentIO, OwnIO, VersionIO
from menudo.posts.models import Delivery, FirstComment, Post
from menudo.posts.rendering import content_for
from menudo.posts.schemas import AssetBrief, CommentOut, DeliveryOut, DeliveryPage, PostOut
from menudo.posts.serializers import assets_in, load_content
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.check import asked
from menudo_core.networks.content import Content
from menudo_core.networks.proof import readable
from menudo_core.sending.quota import ends_at
from menudo_core.signoff.holds import HELD_WORDS, Hold
from menudo_core.signoff.states import DeliveryState, Event, takes


def post(place: Here, id: int) -> Post:
    """One post of the brand that isn't in the bin. Raises NotFound, also for another brand's."""
    return the_one(Post.objects.filter(brand=place.brand, pk=id, binned__isnull=True))


def binned(place: Here) -> list[dict[str, Any]]:
    """The posts in the bin, newest first, with the day each is deleted for good."""
    found = Post.objects.filter(brand=place.brand, binned__isnull=False).select_related("author").order_by("-binned")
    return [
        {
            "id": p.pk, "title": p.title, "headline": p.master.get("text", "").strip()[:120], "binned": p.binned,
            "gone": p.binned + settings.BIN, "author": p.author.name if p.author else "",
        }
        for p in found[:500]
        if p.binned
    ]  # fmt: skip


def delivery(place: Here, id: int) -> Delivery:
    """One delivery of the brand. Raises NotFound, also for another brand's."""
    deliveries = Delivery.objects.select_related("post", "profile", "brand", "comment")
    return the_one(deliveries.filter(brand=place.brand, pk=id, post__binned__isnull=True))


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
        ends_at=_ends(delivery),
        sent=delivery.sent,
        revision=delivery.revision,
        can=can_of(delivery),
        comment=comment_out(delivery),
    )


def comment_out(delivery: Delivery) -> CommentOut | None:
    """The first comment, once the post it belongs to is published."""
    comment: FirstComment | None = getattr(delivery, "comment", None) if delivery.published_at else None
    if comment is None:
        return None
    return CommentOut(
        state=comment.state, text=comment.text, reason=comment.reason, reason_code=comment.reason_code,
        remote_url=comment.remote_url,
    )  # fmt: skip


def _ends(delivery: Delivery) -> datetime | None:
    return ends_at(sheet_for(delivery.brand_id, delivery.profile.network).life_days, delivery.published_at)


def can_of(delivery: Delivery) -> list[str]:
    """What the state machine and the reason allow; the person's capabilities come on top."""
    state = DeliveryState(delivery.state)
    if delivery.reason_code == "unsure" and state is DeliveryState.TROUBLE:
        return ["settle"]
    comment = comment_out(delivery)
    alone = ["comment"] if comment and comment.state == FirstComment.State.TROUBLE else []
    events = {
        "move": Event.MOVE, "unplan": Event.UNPLAN, "call_off": Event.CALL_OFF, "retry": Event.RETRY, "done": Event.DONE,
    }  # fmt: skip
    return [name for name, event in events.items() if takes(state, event)] + alone + _there(delivery)


def _there(delivery: Delivery) -> list[str]:
    """What can be done about a post that is out, or was."""
    ends = _ends(delivery)
    ended = ends is not None and ends <= clock.now()
    deletes = sheet_for(delivery.brand_id, delivery.profile.network).wire.deletes
    down = takes(DeliveryState(delivery.state), Event.TAKE_DOWN) and deletes and delivery.remote_url and not ended
    return (["take_down"] if down else []) + (["post_again"] if ended else [])


def delivery_page(delivery: Delivery) -> DeliveryPage:
    """A delivery and its wording: what was sent once it was, else what its version says now."""
    content = load_content(delivery.sent) if delivery.sent else content_for(delivery)
    sheet = sheet_for(delivery.brand_id, delivery.profile.network)
    assets = {a.pk: brief(a) for a in Asset.objects.filter(brand_id=delivery.brand_id, pk__in=content.media)}
    author = delivery.post.author
    present = _present(delivery, content)
    told = delivery_out(delivery)
    if present and sheet.wire.edits and delivery.state == DeliveryState.PUBLISHED:
        told.can.append("update_there")
    return DeliveryPage(
        delivery=told,
        post=delivery.post_id,
        post_state=delivery.post.state,
        post_revision=delivery.post.revision,
        title=delivery.post.title,
        network=delivery.profile.network,
        handle=delivery.profile.handle,
        profile_url=delivery.profile.url,
        present=present,
        by_hand=delivery.profile.state == Profile.State.BY_HAND,
        waits=waits_for(delivery),
        text=content.text,
        media=[assets[id] for id in content.media if id in assets],
        link=content.link,
        first_comment=content.first_comment,
        form=content.form,
        fields=[
            SaidField(label=rule.label, value=readable(content.fields[rule.name], rule.type))
            for rule in asked(sheet, content)
        ],
        author=author.name if author else "",
    )


def waits_for(delivery: Delivery) -> str:
    """Why it may not be published now, in a sentence; empty: nothing stands in its way."""
    held = delivery.state == DeliveryState.HELD and delivery.held_for
    return HELD_WORDS[Hold(delivery.held_for)] if held else ""


def _present(delivery: Delivery, sent: Content) -> str:
    """The version's text as it is now, where it isn't what was sent."""
    now = content_for(delivery).text if delivery.sent else sent.text
    return now if now != sent.text else ""


def brief(asset: Asset) -> AssetBrief:
    return AssetBrief(
        id=asset.pk, name=asset.name, kind=asset.kind, width=asset.width, height=asset.height, alt=asset.alt,
        format=asset.format, seconds=asset.seconds, caption=asset.caption,
    )  # fmt: skip


def post_out(post: Post) -> PostOut:
    """The whole post with versions, deliveries, labels and the assets it uses: four statements."""
    versions = list(post.versions.order_by("network", "profile_id"))
    used = assets_in(post.master).union(*(assets_in(version.own) for version in versions))
    assets = Asset.objects.filter(brand_id=post.brand_id, pk__in=used)
    return PostOut(
        id=post.pk,
        title=post.title,
        state=post.state,
        master=ContentIO(**post.master),
        versions=[VersionIO(network=v.network, profile=v.profile_id, own=OwnIO(**v.own)) for v in versions],
        deliveries=[delivery_out(d) for d in post.deliveries.select_related("comment", "profile").order_by("id")],
        assets=[brief(a) for a in assets],
        labels=sorted(post.labels.values_list("pk", flat=True)),
        campaign=post.campaign_id,
        author=post.author.name if post.author else "",
        changed=post.changed,
        revision=post.revision,
    )


def state_now(post: Post) -> dict[str, Any]:
    """A post as JSON, for the answer to a stale write."""
    return post_out(post).model_dump(mode="json")
