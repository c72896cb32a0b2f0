"""Posts that did well, from what their deliveries earned."""

from datetime import datetime, timedelta

from django.db.models import Q

from menudo.insight.models import Reading
from menudo.people.models import Brand
from menudo.posts.models import Post
from menudo_core.insight.best import Well, did_well
from menudo_core.insight.tags import WentOut

_DAYS, _MOST_READ = 365, 5000


def best_of(brand: Brand, now: datetime, most: int, without: Q | None = None) -> list[tuple[Post, Well]]:
    """The posts of the last year that earned more than their profiles usually do, the best first; what lies in the bin left
    out, and what `without` says of readings."""
    rows = Reading.objects.filter(brand=brand, at__gte=now - timedelta(days=_DAYS)).order_by("-at")
    rows = rows.filter(delivery__post__binned=None)
    if without is not None:
        rows = rows.exclude(without)
    out = [
        WentOut(post, profile, frozenset(), float(reactions))
        for post, profile, reactions in rows.values_list("delivery__post_id", "profile_id", "reactions")[:_MOST_READ]
    ]
    found = did_well(out, most)
    posts = Post.objects.in_bulk([one.post for one in found])
    return [(posts[one.post], one) for one in found if one.post in posts]
