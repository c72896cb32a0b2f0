"""What a delivery's card says, kept with the delivery so that a calendar needs no wording; and which media a post uses."""

from collections.abc import Iterable, Mapping

from menudo.library.models import Use
from menudo.people.models import Brand
from menudo.posts.models import Delivery
from menudo.posts.rendering import PostRenderer, render_delivery
from menudo_core.networks.content import PostContent
from menudo_core.text.lines import first_line

CARD_FIELDS = ("headline", "thumb_id", "picture_count")
_CARD = 100
_WORDS = 20_000


def refresh_cards(
    brand: Brand, deliveries: Iterable[Delivery], renderers: Mapping[int, PostRenderer]
) -> list[Delivery]:
    """Have the rows in memory say what their cards say now; those of which anything is new. Their profiles are read with
    them."""
    changed = []
    for delivery in deliveries:
        renderer = renderers[delivery.post_id]
        content = render_delivery(renderer, delivery, delivery.profile, brand)
        headline = (renderer.content.title or first_line(content.text))[:_CARD]
        card = (headline, content.media[0] if content.media else None, len(content.media))
        if card != tuple(getattr(delivery, name) for name in CARD_FIELDS):
            delivery.headline, delivery.thumb_id, delivery.picture_count = card
            changed.append(delivery)
    return changed


def depends_on_day(content: PostContent) -> bool:
    """Whether what it says may be different on another day."""
    texts = [content.master.text, *(overrides.text or "" for overrides in content.versions.values())]
    return not content.title and any("{" in text for text in texts)


def write_uses(contents: Mapping[int, PostContent]) -> None:
    """Say which assets each post uses, so that the library can tell where each is used: three statements."""
    uses = []
    for post_id, content in contents.items():
        texts = [content.master.text, *(overrides.text for overrides in content.versions.values() if overrides.text)]
        words = "\n".join(texts)[:_WORDS]
        uses += [
            Use(asset_id=asset, post_id=post_id, title=content.title, excerpt=words)
            for asset in sorted(content.asset_ids())
        ]
    wanted = {(use.post_id, use.asset_id) for use in uses}
    kept = Use.objects.filter(post_id__in=contents).values_list("pk", "post_id", "asset_id")
    if gone := [pk for pk, post, asset in kept if (post, asset) not in wanted]:
        Use.objects.filter(pk__in=gone).delete()
    Use.objects.bulk_create(
        uses, update_conflicts=True, unique_fields=["asset", "post_id"], update_fields=["title", "excerpt"]
    )
