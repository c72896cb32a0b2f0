"""Articles become drafts with a remark of one's own, or are planned at the next free slots."""

from collections.abc import Sequence

from menudo.base import clock
from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.feeds.models import Article
from menudo.library.actions.fetch_asset import try_fetch_asset
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.actions.plan_post import plan_post
from menudo.posts.change.decision import NewPost
from menudo.posts.change.kernel import change_posts
from menudo.posts.models import Post
from menudo.posts.schemas import WhenIn
from menudo.posts.serializers import store_post_content
from menudo.profiles.models import Profile
from menudo_core.networks.content import Card, Content, PostContent

_MAX_PICTURE_BYTES = 8_000_000


def share_articles(
    context: BrandContext, ids: Sequence[int], remark: str, profiles: Sequence[int], plans: bool
) -> tuple[list[Post], list[str]]:
    """A post for each article: the remark over its title, its link and card. With `plans` each goes to the next free slots of
    its profiles. The posts, and what couldn't be planned and why. Raises InvalidError."""
    context.require(Capability.PUBLISH if plans else Capability.WRITE)
    found = {a.pk: a for a in Article.objects.filter(feed__brand=context.brand, pk__in=ids).select_related("feed")}
    known = set(Profile.objects.filter(brand=context.brand, pk__in=profiles).values_list("pk", flat=True))
    faults = [
        Fault(f"/articles/{n}", say("article.gone")) for n, article_id in enumerate(ids) if article_id not in found
    ]
    faults += [
        Fault(f"/profiles/{n}", say("profile.foreign"))
        for n, profile_id in enumerate(profiles)
        if profile_id not in known
    ]
    if words := storage_refusal(remark):
        faults.append(Fault("/remark", words))
    if plans and not profiles:
        faults.append(Fault("/profiles", say("profile.none")))
    if faults:
        raise InvalidError(faults=faults)
    pictures = {article_id: _fetch_picture(context, found[article_id]) for article_id in dict.fromkeys(ids)}
    with change_posts(context) as change:
        articles = [found[article_id] for article_id in dict.fromkeys(ids)]
        contents = [_share_content(article, remark.strip(), pictures[article.pk]) for article in articles]
        posts = change.create([NewPost(content, sorted(known), context.user) for content in contents])
        change.apply()
        for post, article, content in zip(posts, articles, contents, strict=True):
            change.record(
                "make",
                "post",
                post.pk,
                say("draft.from_article", article=article.title[:80], feed=article.feed.title),
                after=store_post_content(content),
            )
        Article.objects.filter(pk__in=found).update(shared_at=clock.now())
    left = _plan_all(context, posts) if plans else []
    return posts, left


def _fetch_picture(context: BrandContext, article: Article) -> int | None:
    """Its picture in the library; None where it has none that can be had."""
    if not article.picture or article.picture_ok is False:
        return None
    asset = try_fetch_asset(context, article.picture, _MAX_PICTURE_BYTES)
    return asset.pk if asset else None


def _share_content(article: Article, remark: str, picture: int | None) -> PostContent:
    """The remark over the article's title, with its link and card."""
    text = "\n\n".join(part for part in (remark, article.title) if part)
    card = Card(article.title[:300], article.summary[:1000], picture) if article.link else None
    return PostContent(master=Content(text, link=article.link, card=card))


def _plan_all(context: BrandContext, posts: Sequence[Post]) -> list[str]:
    left = []
    for post in posts:
        try:
            done = plan_post(context, post, WhenIn(kind="next_slot"), None, post.revision)
            left += [words for _, words in done.left]
        except InvalidError as invalid:
            left += [fault.message for fault in invalid.faults] or [invalid.words]
    return list(dict.fromkeys(left))
