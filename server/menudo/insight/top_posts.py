"""Posts that did well, from what their deliveries earned."""

from datetime import datetime, timedelta

from django.db.models import Q

from menudo.insight.models import Reading
from menudo.people.models import Brand
from menudo.posts.models import Post
from menudo_core.insight.tags import PublishedPost
from menudo_core.insight.top_posts import TopPost, top_posts

_DAYS, _MOST_READ = 365, 5000


def brand_top_posts(brand: Brand, now: datetime, limit: int, without: Q | None = None) -> list[tuple[Post, TopPost]]:
    """The posts of the last year that earned more than their profiles usually do, the best first; what lies in the bin left
    out, and what `without` says of readings."""
    rows = Reading.objects.filter(brand=brand, published_at__gte=now - timedelta(days=_DAYS)).order_by("-published_at")
    rows = rows.filter(delivery__post__deleted_at=None)
    if without is not None:
        rows = rows.exclude(without)
    out = [
        PublishedPost(post, profile, frozenset(), float(reactions))
        for post, profile, reactions in rows.values_list("delivery__post_id", "profile_id", "reactions")[:_MOST_READ]
    ]
    found = top_posts(out, limit)
    posts = Post.objects.in_bulk([one.post_id for one in found])
    return [(posts[one.post_id], one) for one in found if one.post_id in posts]
