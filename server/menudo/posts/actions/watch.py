"""Watch a post, and tell those who do."""

from collections.abc import Iterable

from menudo.base import clock
from menudo.base.sentences import Sentence, say
from menudo.notices.actions.notify import notify
from menudo.people.context import BrandContext
from menudo.people.models import Brand, Membership
from menudo.posts.models import Post, Watch
from menudo.posts.serializers import load_content
from menudo_core.text.lines import first_line


def set_watch(context: BrandContext, post: Post, on: bool) -> None:
    """Be told of what happens to the post from now on, or no more."""
    if on:
        Watch.objects.get_or_create(post=post, user=context.user)
    else:
        Watch.objects.filter(post=post, user=context.user).delete()


def title_of(post: Post) -> str:
    """A post's title, or how it begins; empty where it has neither."""
    return (post.title or first_line(load_content(post.master).text))[:80]


def title_for(post: Post) -> str:
    """A post as a notice names it."""
    title = title_of(post)
    return f"“{title}”" if title else "a post without words"


def bench_path(brand: Brand, post: int, part: str = "") -> str:
    """The address of a post on the Bench; `part` opens what is meant there."""
    return f"/{brand.slug}/bench/{post}{f'?part={part}' if part else ''}"


def notify_watchers(
    brand: Brand,
    post: Post,
    kind: str,
    key: str,
    sentence: Sentence,
    but: Iterable[int | None] = (),
    author: bool = True,
) -> int:
    """Tell who watches the post, and its author, except those in `but`. How many; part of the caller's transaction."""
    who = set(Watch.objects.filter(post=post).values_list("user_id", flat=True))
    if author and post.author_id is not None:
        who.add(post.author_id)
    who -= set(but)
    if not who:
        return 0
    # Who has left the brand is told nothing of it any more.
    there = Membership.objects.filter(brand=brand, user__in=who).values_list("user_id", flat=True)
    return notify(there, brand.pk, kind, f"{key}"[:120], sentence, bench_path(brand, post.pk))


def notify_moved(context: BrandContext, posts: Iterable[int], moved: Sentence) -> None:
    """Tell who watches any of the posts that it has another time; once a minute at most for each post."""
    watched = Post.objects.filter(pk__in=posts, watches__isnull=False).distinct()
    for post in watched:
        key = f"moved:{post.pk}:{clock.now():%Y%m%d%H%M}"
        message = say("post.moved_by", name=context.user.name, what=moved, post=title_of(post))
        notify_watchers(context.brand, post, "changed", key, message, but=[context.user.pk], author=False)
