"""Articles become drafts with a remark of one's own, or are planned at the next free slots."""

from collections.abc import Sequence

from django.db import transaction

from menudo.base import clock
from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.feeds.models import Article
from menudo.history.actions.record import record
from menudo.library.actions.fetch_in import fetched
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.actions.add_deliveries import add_deliveries
from menudo.posts.actions.cards import write_cards
from menudo.posts.actions.plan import plan
from menudo.posts.actions.save import wording_of
from menudo.posts.models import Post
from menudo.posts.schemas import WhenIn
from menudo.profiles.models import Profile
from menudo_core.text.clean import unusable

_MOST_BYTES = 8_000_000


def share(
    place: Here, ids: Sequence[int], remark: str, profiles: Sequence[int], plans: bool
) -> tuple[list[Post], list[str]]:
    """A post for each article: the remark over its title, its link and card. With `plans` each goes to the next free slots of
    its profiles. The posts, and what couldn't be planned and why. Raises Invalid."""
    place.needs(May.PUBLISH if plans else May.WRITE)
    found = {a.pk: a for a in Article.objects.filter(feed__brand=place.brand, pk__in=ids).select_related("feed")}
    known = set(Profile.objects.filter(brand=place.brand, pk__in=profiles).values_list("pk", flat=True))
    faults = [
        Fault(f"/articles/{n}", "This article isn't on the shelf any more.", "foreign")
        for n, id in enumerate(ids)
        if id not in found
    ]
    faults += [
        Fault(f"/profiles/{n}", "This profile isn't one of this brand's.", "foreign")
        for n, id in enumerate(profiles)
        if id not in known
    ]
    if words := unusable(remark):
        faults.append(Fault("/remark", words))
    if plans and not profiles:
        faults.append(Fault("/profiles", "Choose at least one profile.", "none"))
    if faults:
        raise Invalid(faults=faults)
    pictures = {id: _picture(place, found[id]) for id in dict.fromkeys(ids)}
    posts = []
    with transaction.atomic():
        for id in dict.fromkeys(ids):
            posts.append(_draft(place, found[id], remark.strip(), sorted(known), pictures[id]))
        Article.objects.filter(pk__in=found).update(shared=clock.now())
        tell(place.brand.pk, "post", 0)
    left = _plan_all(place, posts) if plans else []
    return posts, left


def _picture(place: Here, article: Article) -> int | None:
    """Its picture in the library; None where it has none that can be had."""
    if not article.picture or article.picture_ok is False:
        return None
    asset = fetched(place, article.picture, _MOST_BYTES)
    return asset.pk if asset else None


def _draft(place: Here, article: Article, remark: str, profiles: list[int], picture: int | None) -> Post:
    text = "\n\n".join(part for part in (remark, article.title) if part)
    card = {"title": article.title[:300], "description": article.summary[:1000], "picture": picture}
    master = {"text": text, "link": article.link, **({"card": card} if article.link else {})}
    post = Post.objects.create(brand=place.brand, author=place.user, master=master)
    add_deliveries(place.brand.pk, [(post.pk, id) for id in profiles])
    write_cards(post)
    words = f"began a draft of {article.title[:80]}, from {article.feed.title}"
    record(place.brand.pk, place.actor, "make", "post", post.pk, words, after=wording_of(post))
    return post


def _plan_all(place: Here, posts: Sequence[Post]) -> list[str]:
    left = []
    for post in posts:
        try:
            done = plan(place, post, WhenIn(kind="next_slot"), None, post.revision)
            left += [words for _, words in done.left]
        except Invalid as invalid:
            left += [fault.words for fault in invalid.faults] or [invalid.words]
    return list(dict.fromkeys(left))
