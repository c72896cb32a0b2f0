"""What a card says without opening it."""

from menudo.calendar import schemas_views
from menudo.labels.models import Label
from menudo.labels.schemas import PostLabelOut
from menudo.library.models import Asset
from menudo.people.context import BrandContext
from menudo.posts.checking import findings_for, media_facts
from menudo.posts.queries import asset_brief, post_of
from menudo.posts.rendering import render_deliveries
from menudo.posts.serializers import load_content
from menudo_core.networks.content import Content
from menudo_core.signoff.states import DeliveryState

_SENT = {DeliveryState.PUBLISHED, DeliveryState.DOWN}


def post_peek(context: BrandContext, post_id: int) -> schemas_views.PeekOut:
    """A post with each network's wording, media, states, findings, and who: seven statements. Raises NotFoundError.

    Networks whose wording is the same are told together; what was sent is told as it was sent.
    """
    post = post_of(context, post_id)
    deliveries = list(post.deliveries.select_related("post", "profile", "brand").order_by("due_at", "pk"))
    contents = render_deliveries(post, context.brand, deliveries)
    known = media_facts(context.brand, contents.values())
    wordings: dict[tuple[object, ...], schemas_views.PeekWording] = {}
    for delivery in deliveries:
        sent = delivery.sent_content if delivery.state in _SENT else None
        content = load_content(sent) if sent else contents[delivery.pk]
        network = delivery.profile.network
        found = [] if sent else findings_for(context.brand.pk, network, content, known, delivery.profile.followers)
        entry = wordings.setdefault(_wording_key(content), _wording_out(content))
        entry.deliveries.append(
            schemas_views.PeekDelivery(
                id=delivery.pk,
                profile=delivery.profile_id,
                handle=delivery.profile.display_name or delivery.profile.handle,
                network=network,
                state=delivery.state,
                zone=delivery.zone,
                reason=delivery.reason,
                wall_time=delivery.wall_time.replace(tzinfo=None).isoformat(timespec="minutes")
                if delivery.wall_time
                else None,
                delay=delivery.delay,
                jitter=delivery.jitter,
                stops=sum(f.level == "stops" for f in found),
                advice=sum(f.level == "advice" for f in found),
                first=found[0].message if found else "",
            )
        )
    if not wordings:
        content = load_content(post.master)
        wordings[_wording_key(content)] = _wording_out(content)
    used = {asset for wording in wordings.values() for asset in wording.media}
    return schemas_views.PeekOut(
        post=post.pk,
        title=post.title,
        state=post.state,
        author=post.author.name if post.author else "",
        updated_at=post.updated_at,
        campaign=post.campaign.name if post.campaign else "",
        labels=[PostLabelOut.from_orm(label) for label in Label.objects.filter(posts=post)],
        wordings=list(wordings.values()),
        assets=[asset_brief(a) for a in Asset.objects.filter(brand=context.brand, pk__in=used)],
    )


def _wording_out(content: Content) -> schemas_views.PeekWording:
    return schemas_views.PeekWording(text=content.text, media=list(content.media), link=content.link, deliveries=[])


def _wording_key(content: Content) -> tuple[object, ...]:
    return content.text, content.media, content.link, content.form
