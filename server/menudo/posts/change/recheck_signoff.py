"""Look again at the sign-off of posts of which nothing was changed: the rules were, or what they go by."""

from collections.abc import Iterable

from django.db import transaction

from menudo.posts.change.kernel import Context, PostChange
from menudo.posts.change.locks import lock_posts
from menudo.posts.models import Post

_AT_ONCE = 500


def recheck_signoff(context: Context, posts: Iterable[int]) -> int:
    """Hold and release what the rules as they are now ask for, and tell those who are asked. All is locked at once and
    looked at in parts, since a brand may have tens of thousands. How many deliveries stand otherwise than before."""
    with transaction.atomic():
        ids = lock_posts(Post.objects.filter(brand=context.brand, pk__in=set(posts), deleted_at__isnull=True))
        return sum(_recheck_batch(context, ids[start : start + _AT_ONCE]) for start in range(0, len(ids), _AT_ONCE))


def _recheck_batch(context: Context, ids: list[int]) -> int:
    change = PostChange(context)
    change.take(ids)
    count = change.recheck()
    change.finish()
    return count
