"""What waits on a person, in every brand of theirs: one list, the most urgent first."""

from collections.abc import Iterable
from datetime import datetime

from django.db.models import Min

from menudo.base import clock
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Membership, User
from menudo.posts.actions.watch import bench_path, title_for
from menudo.posts.models import Delivery, Post
from menudo.signoff.queries import pending_signoffs_brief
from menudo.signoff.signers import signer_of_person
from menudo.talk.models import Remark, Task
from menudo.talk.schemas import AssignedItem, AssignedOut
from menudo_core.signoff.states import DeliveryState, PostState

_MAX_ITEMS = 300


def pending_items(user: User) -> AssignedOut:
    """Everything, brand by brand: what to sign, what came back, what one was asked, mentions that are open, and what is to
    be published by hand."""
    now = clock.now()
    members = Membership.objects.filter(user=user).select_related("brand").order_by("brand__name")
    items = [item for m in members for item in _pending_in(BrandContext(user, m.brand, frozenset(m.capabilities)), now)]
    items.sort(key=lambda i: (i.due_at is None, i.due_at or now))
    return AssignedOut(count=len(items), items=items[:_MAX_ITEMS])


def _pending_in(context: BrandContext, now: datetime) -> Iterable[AssignedItem]:
    brand, me = context.brand, context.user.pk

    def item(
        kind: str, words: str, headline: str, due: datetime | None, path: str, late: bool | None = None
    ) -> AssignedItem:
        over = (due is not None and due < now) if late is None else late
        return AssignedItem(
            kind=kind, brand=brand.slug, summary=words, headline=headline, due_at=due, late=over, path=path
        )

    if Capability.SIGN_OFF in context.capabilities and brand.needs_signoff:
        for post, until in pending_signoffs_brief(signer_of_person(context)):
            yield item("sign", "Sign it off", title_for(post), until, f"/{brand.slug}/sign?post={post.pk}")
    mine = Post.objects.filter(brand=brand, deleted_at__isnull=True)
    for post in (
        mine.filter(author=me, state=PostState.BACK).annotate(first_due=Min("deliveries__due_at")).order_by("pk")
    ):
        yield item(
            "back", "It was sent back to you", title_for(post), post.first_due, bench_path(brand, post.pk, "talk")
        )
    for task in Task.objects.filter(
        user=me, done_at=None, post__brand=brand, post__deleted_at__isnull=True
    ).select_related("post", "assigned_by"):
        asked = f"{task.assigned_by.name if task.assigned_by else 'Somebody'} asks: {task.summary or 'see to it'}"
        yield item("task", asked, title_for(task.post), task.due_at, bench_path(brand, task.post_id, "talk"))
    open_remarks = Remark.objects.filter(
        post__brand=brand, post__deleted_at__isnull=True, resolved_at=None, mentions__contains=[me]
    )
    for remark in open_remarks.select_related("post"):
        short = remark.text if len(remark.text) <= 120 else f"{remark.text[:119]}…"
        yield item(
            "mention",
            f"{remark.name}: {short}",
            title_for(remark.post),
            None,
            bench_path(brand, remark.post_id, f"remark-{remark.pk}"),
        )
    by_hand = Delivery.objects.filter(
        brand=brand, state=DeliveryState.HAND, post__deleted_at__isnull=True, profile__keeper=me
    )
    for delivery in by_hand.select_related("post", "profile"):
        words = f"Publish it by hand on {delivery.profile.display_name or delivery.profile.handle}"
        yield item("hand", words, title_for(delivery.post), delivery.due_at, f"/{brand.slug}/by-hand/{delivery.pk}")
