"""What waits on a person, in every brand of theirs: one list, the most urgent first."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
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
    """Everything: what to sign, what came back, what one was asked, mentions that are open, and what is to be published by
    hand. A fixed number of statements, and a few more for each brand where something waits for a sign-off."""
    now = clock.now()
    members = {m.brand_id: m for m in Membership.objects.filter(user=user).select_related("brand")}
    kinds = (_to_sign, _sent_back, _tasks, _mentions, _by_hand)
    rows = [row for kind in kinds for row in kind(user, members)]
    # Within a brand as the kinds come; what is due first, first.
    rows.sort(key=lambda row: members[row.brand].brand.name)
    items = [
        AssignedItem(
            kind=row.kind,
            brand=members[row.brand].brand.slug,
            summary=row.summary,
            headline=row.headline,
            due_at=row.due_at,
            late=row.due_at is not None and row.due_at < now,
            path=row.path,
        )
        for row in rows
    ]
    items.sort(key=lambda i: (i.due_at is None, i.due_at or now))
    return AssignedOut(count=len(items), items=items[:_MAX_ITEMS])


@dataclass(frozen=True, slots=True)
class _Row:
    """One thing that waits, in the brand of that id."""

    brand: int
    kind: str
    summary: str
    headline: str
    due_at: datetime | None
    path: str


Members = Mapping[int, Membership]


def _to_sign(user: User, members: Members) -> Iterable[_Row]:
    may = [pk for pk, m in members.items() if Capability.SIGN_OFF in m.capabilities and m.brand.needs_signoff]
    up = Post.objects.filter(brand__in=may, state__in=[PostState.UP, PostState.BACK], deleted_at__isnull=True)
    for pk in up.values_list("brand", flat=True).order_by("brand").distinct():
        member = members[pk]
        context = BrandContext(user, member.brand, frozenset(member.capabilities))
        for post, until in pending_signoffs_brief(signer_of_person(context)):
            path = f"/{member.brand.slug}/sign?post={post.pk}"
            yield _Row(pk, "sign", "Sign it off", title_for(post), until, path)


def _sent_back(user: User, members: Members) -> Iterable[_Row]:
    mine = Post.objects.filter(brand__in=members, author=user, state=PostState.BACK, deleted_at__isnull=True)
    for post in mine.annotate(first_due=Min("deliveries__due_at")).order_by("pk"):
        path = bench_path(members[post.brand_id].brand, post.pk, "talk")
        yield _Row(post.brand_id, "back", "It was sent back to you", title_for(post), post.first_due, path)


def _tasks(user: User, members: Members) -> Iterable[_Row]:
    mine = Task.objects.filter(user=user, done_at=None, post__brand__in=members, post__deleted_at__isnull=True)
    for task in mine.select_related("post", "assigned_by"):
        asked = f"{task.assigned_by.name if task.assigned_by else 'Somebody'} asks: {task.summary or 'see to it'}"
        path = bench_path(members[task.post.brand_id].brand, task.post_id, "talk")
        yield _Row(task.post.brand_id, "task", asked, title_for(task.post), task.due_at, path)


def _mentions(user: User, members: Members) -> Iterable[_Row]:
    found = Remark.objects.filter(
        post__brand__in=members, post__deleted_at__isnull=True, resolved_at=None, mentions__contains=[user.pk]
    )
    for remark in found.select_related("post"):
        short = remark.text if len(remark.text) <= 120 else f"{remark.text[:119]}…"
        path = bench_path(members[remark.post.brand_id].brand, remark.post_id, f"remark-{remark.pk}")
        yield _Row(remark.post.brand_id, "mention", f"{remark.name}: {short}", title_for(remark.post), None, path)


def _by_hand(user: User, members: Members) -> Iterable[_Row]:
    found = Delivery.objects.filter(
        brand__in=members, state=DeliveryState.HAND, post__deleted_at__isnull=True, profile__keeper=user
    )
    for delivery in found.select_related("post", "profile"):
        words = f"Publish it by hand on {delivery.profile.display_name or delivery.profile.handle}"
        path = f"/{members[delivery.brand_id].brand.slug}/by-hand/{delivery.pk}"
        yield _Row(delivery.brand_id, "hand", words, title_for(delivery.post), delivery.due_at, path)
