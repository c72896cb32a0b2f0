"""Posts, as pages need them."""

from datetime import datetime

from django.conf import settings

from menudo.base import clock
from menudo.base.rows import first_or_404
from menudo.delivery.models import FirstComment
from menudo.library.models import Asset
from menudo.people.context import BrandContext
from menudo.posts import schemas
from menudo.posts.models import Delivery, Post
from menudo.posts.rendering import render_for
from menudo.posts.schemas import AssetBrief, CommentOut, DeliveryOut, DeliveryPage, PostOut
from menudo.posts.schemas_check import FieldValueOut
from menudo.posts.schemas_content import ContentIO, OverridesIO, VersionIO
from menudo.posts.serializers import asset_ids_in, load_content
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.check import applicable_fields
from menudo_core.networks.content import Content
from menudo_core.networks.proof import format_field_value
from menudo_core.sending.quota import ends_at
from menudo_core.signoff.holds import HELD_WORDS, Hold
from menudo_core.signoff.states import DeliveryState, Event, accepts


def post_of(context: BrandContext, post_id: int) -> Post:
    """One post of the brand that isn't in the bin. Raises NotFoundError, also for another brand's."""
    return first_or_404(Post.objects.filter(brand=context.brand, pk=post_id, deleted_at__isnull=True))


def binned_posts(context: BrandContext) -> list[schemas.BinnedOut]:
    """The posts in the bin, newest first, with the day each is deleted for good."""
    found = (
        Post.objects.filter(brand=context.brand, deleted_at__isnull=False)
        .select_related("author")
        .order_by("-deleted_at")
    )
    return [
        schemas.BinnedOut(
            id=p.pk,
            title=p.title,
            headline=load_content(p.master).text.strip()[:120],
            deleted_at=p.deleted_at,
            purged_at=p.deleted_at + settings.BIN,
            author=p.author.name if p.author else "",
        )
        for p in found[:500]
        if p.deleted_at
    ]


def delivery_of(context: BrandContext, delivery_id: int) -> Delivery:
    """One delivery of the brand. Raises NotFoundError, also for another brand's."""
    deliveries = Delivery.objects.select_related("post", "profile", "brand", "comment")
    return first_or_404(deliveries.filter(brand=context.brand, pk=delivery_id, post__deleted_at__isnull=True))


def delivery_out(delivery: Delivery) -> DeliveryOut:
    return DeliveryOut(
        id=delivery.pk,
        profile=delivery.profile_id,
        state=delivery.state,
        due_at=delivery.due_at,
        wall_time=delivery.wall_time.replace(tzinfo=None).isoformat(timespec="minutes") if delivery.wall_time else None,
        zone=delivery.zone,
        not_before=delivery.not_before,
        tries=delivery.tries,
        held_for=delivery.held_for,
        reason=delivery.reason,
        reason_code=delivery.reason_code,
        remote_url=delivery.remote_url,
        published_at=delivery.published_at,
        ends_at=_ends_at(delivery),
        sent_content=delivery.sent_content,
        revision=delivery.revision,
        allowed_actions=allowed_actions(delivery),
        comment=comment_out(delivery),
    )


def comment_out(delivery: Delivery) -> CommentOut | None:
    """The first comment, once the post it belongs to is published."""
    comment: FirstComment | None = getattr(delivery, "comment", None) if delivery.published_at else None
    if comment is None:
        return None
    return CommentOut(
        state=comment.state,
        text=comment.text,
        reason=comment.reason,
        reason_code=comment.reason_code,
        remote_url=comment.remote_url,
    )


def _ends_at(delivery: Delivery) -> datetime | None:
    return ends_at(sheet_for(delivery.brand_id, delivery.profile.network).life_days, delivery.published_at)


def allowed_actions(delivery: Delivery) -> list[str]:
    """What the state machine and the reason allow; the person's capabilities come on top."""
    state = DeliveryState(delivery.state)
    if delivery.reason_code == "unsure" and state is DeliveryState.TROUBLE:
        return ["settle"]
    comment = comment_out(delivery)
    alone = ["comment"] if comment and comment.state == FirstComment.State.TROUBLE else []
    events = {
        "move": Event.MOVE,
        "unplan": Event.UNPLAN,
        "call_off": Event.CALL_OFF,
        "retry": Event.RETRY,
        "done": Event.DONE,
    }
    return [name for name, event in events.items() if accepts(state, event)] + alone + _network_actions(delivery)


def _network_actions(delivery: Delivery) -> list[str]:
    """What can be done about a post that is out, or was."""
    ends = _ends_at(delivery)
    ended = ends is not None and ends <= clock.now()
    deletes = sheet_for(delivery.brand_id, delivery.profile.network).wire.deletes
    down = accepts(DeliveryState(delivery.state), Event.TAKE_DOWN) and deletes and delivery.remote_url and not ended
    return (["take_down"] if down else []) + (["post_again"] if ended else [])


def delivery_page(delivery: Delivery) -> DeliveryPage:
    """A delivery and its wording: what was sent once it was, else what its version says now."""
    content = load_content(delivery.sent_content) if delivery.sent_content else render_for(delivery)
    sheet = sheet_for(delivery.brand_id, delivery.profile.network)
    assets = {a.pk: asset_brief(a) for a in Asset.objects.filter(brand_id=delivery.brand_id, pk__in=content.media)}
    author = delivery.post.author
    present = _current_text(delivery, content)
    shown = delivery_out(delivery)
    if present and sheet.wire.edits and delivery.state == DeliveryState.PUBLISHED:
        shown.allowed_actions.append("update_there")
    return DeliveryPage(
        delivery=shown,
        post=delivery.post_id,
        post_state=delivery.post.state,
        post_revision=delivery.post.revision,
        title=delivery.post.title,
        network=delivery.profile.network,
        handle=delivery.profile.handle,
        profile_url=delivery.profile.url,
        present=present,
        by_hand=delivery.profile.state == Profile.State.BY_HAND,
        waits=waiting_reason(delivery),
        text=content.text,
        media=[assets[asset_id] for asset_id in content.media if asset_id in assets],
        link=content.link,
        first_comment=content.first_comment,
        form=content.form,
        fields=[
            FieldValueOut(label=rule.label, value=format_field_value(content.fields[rule.name], rule.type))
            for rule in applicable_fields(sheet, content)
        ],
        author=author.name if author else "",
    )


def waiting_reason(delivery: Delivery) -> str:
    """Why it may not be published now, in a sentence; empty: nothing stands in its way."""
    held = delivery.state == DeliveryState.HELD and delivery.held_for
    return HELD_WORDS[Hold(delivery.held_for)] if held else ""


def _current_text(delivery: Delivery, sent: Content) -> str:
    """The version's text as it is now, where it isn't what was sent."""
    now = render_for(delivery).text if delivery.sent_content else sent.text
    return now if now != sent.text else ""


def asset_brief(asset: Asset) -> AssetBrief:
    return AssetBrief(
        id=asset.pk,
        name=asset.name,
        kind=asset.kind,
        width=asset.width,
        height=asset.height,
        alt=asset.alt,
        format=asset.format,
        seconds=asset.seconds,
        caption=asset.caption,
    )


def post_out(post: Post) -> PostOut:
    """The whole post with versions, deliveries, labels and the assets it uses: four statements."""
    versions = list(post.versions.order_by("network", "profile_id"))
    used = asset_ids_in(post.master).union(*(asset_ids_in(version.overrides) for version in versions))
    assets = Asset.objects.filter(brand_id=post.brand_id, pk__in=used)
    return PostOut(
        id=post.pk,
        title=post.title,
        state=post.state,
        master=ContentIO(**post.master),
        versions=[
            VersionIO(network=v.network, profile=v.profile_id, overrides=OverridesIO(**v.overrides)) for v in versions
        ],
        deliveries=[delivery_out(d) for d in post.deliveries.select_related("comment", "profile").order_by("id")],
        assets=[asset_brief(a) for a in assets],
        labels=sorted(post.labels.values_list("pk", flat=True)),
        campaign=post.campaign_id,
        author=post.author.name if post.author else "",
        updated_at=post.updated_at,
        revision=post.revision,
    )
