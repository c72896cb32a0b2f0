"""Look again at the sign-off of posts of which nothing was changed: the rules were, or what they go by."""

from collections.abc import Iterable

from django.db import transaction

from menudo.posts.change.kernel import Context, PostChange
from menudo.posts.change.locks import lock_posts
from menudo.posts.models import Post

# About a quarter of a second's work: whoever has more to look at takes it in pieces, so that who plans doesn't wait for all of it.
POSTS_AT_ONCE = 200


def recheck_signoff(context: Context, posts: Iterable[int]) -> int:
    """Hold and release what the rules as they are now ask for, and tell those who are asked. How many deliveries
    stand otherwise than before."""
    with transaction.atomic():
        ids = lock_posts(Post.objects.filter(brand=context.brand, pk__in=set(posts), deleted_at__isnull=True))
        change = PostChange(context)
        change.take(ids)
        count = change.recheck()
        change.finish()
    return count
