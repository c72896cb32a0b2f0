"""What waits on a person, in every brand of theirs: one list, the most urgent first."""

from collections.abc import Iterable
from datetime import datetime

from django.db.models import Min

from menudo.base import clock
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Membership, User
from menudo.posts.actions.watch import called, spot
from menudo.posts.models import Delivery, Post
from menudo.signoff.reading import to_sign_briefly
from menudo.signoff.signers import of_person
from menudo.talk.models import Remark, Task
from menudo.talk.schemas import WaitingItem, WaitingOut
from menudo_core.signoff.states import DeliveryState, PostState

_MOST = 300


def waiting(user: User) -> WaitingOut:
    """Everything, brand by brand: what to sign, what came back, what one was asked, mentions that are open, and what is to
    be published by hand."""
    now = clock.now()
    members = Membership.objects.filter(user=user).select_related("brand").order_by("brand__name")
    items = [item for m in members for item in _of(Here(user, m.brand, frozenset(m.capabilities)), now)]
    items.sort(key=lambda i: (i.due_at is None, i.due_at or now))
    return WaitingOut(count=len(items), items=items[:_MOST])


def _of(place: Here, now: datetime) -> Iterable[WaitingItem]:
    brand, me = place.brand, place.user.pk

    def item(
        kind: str, words: str, headline: str, due: datetime | None, path: str, late: bool | None = None
    ) -> WaitingItem:
        over = (due is not None and due < now) if late is None else late
        return WaitingItem(
            kind=kind, brand=brand.slug, words=words, headline=headline, due_at=due, late=over, path=path
        )

    if May.SIGN_OFF in place.capabilities and brand.needs_signoff:
        for post, until in to_sign_briefly(of_person(place)):
            yield item("sign", "Sign it off", called(post), until, f"/{brand.slug}/sign?post={post.pk}")
    mine = Post.objects.filter(brand=brand, binned__isnull=True)
    for post in (
        mine.filter(author=me, state=PostState.BACK).annotate(first_due=Min("deliveries__due_at")).order_by("pk")
    ):
        yield item("back", "It was sent back to you", called(post), post.first_due, spot(brand, post.pk, "talk"))
    for task in Task.objects.filter(user=me, done_at=None, post__brand=brand, post__binned__isnull=True).select_related(
        "post", "by"
    ):
        asked = f"{task.by.name if task.by else 'Somebody'} asks: {task.words or 'see to it'}"
        yield item("task", asked, called(task.post), task.due_at, spot(brand, task.post_id, "talk"))
    open_remarks = Remark.objects.filter(
        post__brand=brand, post__binned__isnull=True, resolved=None, mentions__contains=[me]
    )
    for remark in open_remarks.select_related("post"):
        short = remark.text if len(remark.text) <= 120 else f"{remark.text[:119]}…"
        yield item(
            "mention",
            f"{remark.name}: {short}",
            called(remark.post),
            None,
            spot(brand, remark.post_id, f"remark-{remark.pk}"),
        )
    by_hand = Delivery.objects.filter(
        brand=brand, state=DeliveryState.HAND, post__binned__isnull=True, profile__keeper=me
    )
    for delivery in by_hand.select_related("post", "profile"):
        words = f"Publish it by hand on {delivery.profile.called or delivery.profile.handle}"
        yield item("hand", words, called(delivery.post), delivery.due_at, f"/{brand.slug}/by-hand/{delivery.pk}")
