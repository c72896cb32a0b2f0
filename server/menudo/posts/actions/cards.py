"""What a delivery's card says, kept with the delivery so that a calendar needs no wording; and which media a post uses."""

from collections.abc import Sequence

from menudo.base.rows import write_fields
from menudo.library.models import Use
from menudo.people.models import Brand
from menudo.posts.kept import assets_in
from menudo.posts.locking import lock_deliveries_of
from menudo.posts.models import Delivery, Post, Version
from menudo.posts.saying import Sayings, said_by
from menudo_core.text.lines import first_line

_CARD = 100
_WORDS = 20_000


def write_cards(post: Post) -> None:
    """Refresh the cards of a post's deliveries from its versions, and the record of the media it uses."""
    write_all_cards(post.brand, [post])


def write_all_cards(brand: Brand, posts: Sequence[Post]) -> None:
    """The same of many posts of a brand, which the caller has locked: seven statements, and one more where links are tagged."""
    by_id = {post.pk: post for post in posts}
    sayings = Sayings.of_all(brand, posts)
    lock_deliveries_of(by_id)
    deliveries = list(Delivery.objects.filter(post__in=by_id).prefetch_related("profile").order_by("pk"))
    for delivery in deliveries:
        content = said_by(sayings[delivery.post_id], delivery, delivery.profile, brand)
        delivery.headline = (by_id[delivery.post_id].title or first_line(content.text))[:_CARD]
        delivery.thumb_id = content.media[0] if content.media else None
        delivery.pictures = len(content.media)
    write_fields(deliveries, ["headline", "thumb_id", "pictures"])
    note_uses(posts)


def note_uses(posts: Sequence[Post]) -> None:
    """Say which assets each post uses, so that the library can tell where each is used: three statements."""
    owns: dict[int, list[dict]] = {post.pk: [] for post in posts}
    for post_id, own in Version.objects.filter(post__in=owns).order_by("pk").values_list("post_id", "own"):
        owns[post_id].append(own)
    uses = []
    for post in posts:
        mine = owns[post.pk]
        used = assets_in(post.master).union(*(assets_in(own) for own in mine))
        said = [post.master.get("text", ""), *(own["text"] for own in mine if own.get("text"))]
        words = "\n".join(said)[:_WORDS]
        uses += [Use(asset_id=asset, post_id=post.pk, title=post.title, words=words) for asset in sorted(used)]
    wanted = {(use.post_id, use.asset_id) for use in uses}
    kept = Use.objects.filter(post_id__in=owns).values_list("pk", "post_id", "asset_id")
    Use.objects.filter(pk__in=[pk for pk, post, asset in kept if (post, asset) not in wanted]).delete()
    Use.objects.bulk_create(
        uses, update_conflicts=True, unique_fields=["asset", "post_id"], update_fields=["title", "words"]
    )
