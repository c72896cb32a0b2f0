"""What a delivery's card says, kept with the delivery so that a calendar needs no wording; and which media a post uses."""

from menudo.library.models import Use
from menudo.posts.kept import assets_in
from menudo.posts.models import Delivery, Post
from menudo.posts.saying import contents
from menudo_core.text.lines import first_line

_CARD = 100


def write_cards(post: Post) -> None:
    """Refresh the cards of a post's deliveries from its versions, and the record of the media it uses."""
    deliveries = list(post.deliveries.select_related("profile"))
    for id, content in contents(post, post.brand, deliveries).items():
        line = first_line(content.text)
        Delivery.objects.filter(pk=id).update(
            headline=(post.title or line)[:_CARD],
            thumb_id=content.media[0] if content.media else None,
            pictures=len(content.media),
        )
    note_uses(post)


def note_uses(post: Post) -> None:
    """Say which assets the post uses, so that the library can tell where each is used."""
    owns = list(post.versions.values_list("own", flat=True))
    used = assets_in(post.master).union(*(assets_in(own) for own in owns))
    said = [post.master.get("text", ""), *(own["text"] for own in owns if own.get("text"))]
    words = "\n".join(said)[:20_000]
    Use.objects.filter(post_id=post.pk).exclude(asset_id__in=used).delete()
    Use.objects.bulk_create(
        [Use(asset_id=asset, post_id=post.pk, title=post.title, words=words) for asset in sorted(used)],
        update_conflicts=True,
        unique_fields=["asset", "post_id"],
        update_fields=["title", "words"],
    )
