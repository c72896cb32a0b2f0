"""What a delivery's card says, kept with the delivery so that a calendar needs no wording."""

from menudo.posts.models import Delivery, Post, own_of
from menudo_core.networks.content import inherit

_CARD = 100


def write_cards(post: Post) -> None:
    """Refresh the cards of a post's deliveries from its versions."""
    versions = {v.network: v.own for v in post.versions.all()}
    for delivery in post.deliveries.select_related("profile"):
        content = inherit(post.content, own_of(versions.get(delivery.profile.network, {})))
        line = next((line.strip() for line in content.text.splitlines() if line.strip()), "")
        Delivery.objects.filter(pk=delivery.pk).update(
            headline=(post.title or line)[:_CARD],
            thumb_id=content.media[0] if content.media else None,
            pictures=len(content.media),
        )
