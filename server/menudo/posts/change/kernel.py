"""The one way to change posts and deliveries: take them, decide, apply.

    with change_posts(context, deliveries=[id]) as change:
        delivery = change.delivery(id, revision)
        after = schedule_at(change.schedule(delivery), at, zone, Event.MOVE)
        change.apply(Decision(schedules={delivery.pk: after}))
        change.record("move", "delivery", delivery.pk, "moved it", undoes=[delivery.pk])

Everything that is taken is locked in one order (see locks.py) with all deliveries of its posts. What was decided is
written in set-based statements, and what follows from it with it: cards, uses of media, sign-off, holds, jobs, revisions,
and word to every browser. Only sending has a way of its own, by leases: see delivery/actions/claim.py.
"""

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Protocol

from django.db import transaction
from django.db.models import Q

from menudo.base import clock
from menudo.base.problems import NotFoundError
from menudo.base.revisions import require_unchanged
from menudo.base.sentences import Sentence
from menudo.history.actions.record_event import MENUDO, Actor, record_event
from menudo.history.models import HistoryEvent
from menudo.people.models import Brand
from menudo.posts.change.apply import Applied, apply_decision
from menudo.posts.change.content import insert_deliveries, insert_posts
from menudo.posts.change.decision import Decision, NewPost, PostStatus
from menudo.posts.change.locked_posts import LockedPosts
from menudo.posts.change.locks import lock_posts, lock_slots, pass_gate
from menudo.posts.models import Delivery, Post
from menudo.posts.queries import delivery_out, post_out
from menudo.posts.rendering import PostRenderer, render_delivery
from menudo.posts.serializers_schedule import load_schedule, store_schedule
from menudo.profiles.pauses import Pauses
from menudo_core.networks.content import Content, PostContent
from menudo_core.signoff.schedule import Schedule


class Context(Protocol):
    """In which brand something is changed, and by whom: a person in it, a signer, or Menudo itself."""

    @property
    def brand(self) -> Brand: ...

    @property
    def actor(self) -> Actor: ...


@dataclass(frozen=True, slots=True)
class System:
    """Menudo itself, in a brand."""

    brand: Brand
    actor: Actor = MENUDO


@contextmanager
def change_posts(
    context: Context,
    *,
    posts: Collection[int] = (),
    deliveries: Collection[int] = (),
    slots_of: Iterable[int] = (),
    binned: bool = False,
    by: int | None = None,
) -> Iterator["PostChange"]:
    """Take the brand's posts of these ids, and those of these deliveries, in a transaction. What isn't there, is another
    brand's or (but for `binned`) in the bin isn't taken. `slots_of`: profiles among whose free slots is chosen. `by`: the
    person whose doing it is, where that isn't the actor."""
    with transaction.atomic():
        pass_gate(context.brand.pk)
        lock_slots(slots_of)
        change = PostChange(context, by)
        if posts or deliveries:
            change.take(posts, deliveries, binned)
        yield change
        change.finish()


class PostChange:
    """Posts of one brand that were taken to be changed: a snapshot to decide by, and the way to have it applied.

    `posts` and `deliveries` are the rows by id, as they stand: read them, and say what becomes of them in a Decision.
    """

    def __init__(self, context: Context, by: int | None = None) -> None:
        self.brand: Brand = context.brand
        self.actor, self.now = context.actor, clock.now()
        self._taken = LockedPosts(self.brand, self.actor.id if by is None else by)
        self._applied = Applied()
        self._uncarded: set[int] = set()

    def take(self, posts: Collection[int], deliveries: Collection[int] = (), binned: bool = False) -> None:
        """Take posts, and those of deliveries; once, before anything is decided."""
        wanted = Q(pk__in=set(posts))
        if deliveries:
            wanted |= Q(pk__in=Delivery.objects.filter(pk__in=set(deliveries)).values("post_id"))
        found = Post.objects.filter(wanted, brand=self.brand)
        self._taken.load(lock_posts(found if binned else found.filter(deleted_at__isnull=True)))

    @property
    def posts(self) -> Mapping[int, Post]:
        return self._taken.posts

    @property
    def deliveries(self) -> Mapping[int, Delivery]:
        return self._taken.deliveries

    @cached_property
    def pauses(self) -> Pauses:
        """The pauses in force in the brand."""
        return self._taken.pauses

    def post(self, post_id: int, revision: int | None = None, shows: bool = True) -> Post:
        """A post that was taken. Raises NotFoundError, and StaleRevisionError where it has moved on since `revision`; with `shows` that says
        how it stands now."""
        post = self.posts.get(post_id)
        if post is None:
            raise NotFoundError()
        if revision is not None and revision != post.revision:
            require_unchanged(revision, post.revision, post_out(post) if shows else None)
        return post

    def delivery(self, delivery_id: int, revision: int | None = None) -> Delivery:
        """A delivery that was taken. Raises NotFoundError, and StaleRevisionError where it has moved on since `revision`."""
        delivery = self.deliveries.get(delivery_id)
        if delivery is None:
            raise NotFoundError()
        if revision is not None and revision != delivery.revision:
            require_unchanged(revision, delivery.revision, delivery_out(delivery))
        return delivery

    def deliveries_of(self, post: Post) -> list[Delivery]:
        """A post's deliveries, in the order in which they were made."""
        return self._taken.deliveries_of(post.pk)

    def schedule(self, delivery: Delivery) -> Schedule:
        """Where a delivery stands."""
        return load_schedule(delivery)

    def status(self, post: Post) -> PostStatus:
        """Where a post stands."""
        return PostStatus.of(post)

    def content(self, post: Post) -> PostContent:
        """All that a post says."""
        return self._taken.contents[post.pk]

    def renderer(self, post: Post) -> PostRenderer:
        """What a post says as it goes out."""
        return self._taken.renderers[post.pk]

    def rendered(self, deliveries: Iterable[Delivery]) -> dict[int, Content]:
        """What deliveries say as they go out, by id."""
        renderers = self._taken.renderers
        return {d.pk: render_delivery(renderers[d.post_id], d, d.profile, self.brand) for d in deliveries}

    def create(self, new: Sequence[NewPost]) -> list[Post]:
        """Make posts, with their deliveries, and take them too; in their order."""
        rows = insert_posts(self.brand, new)
        self._taken.add(rows)
        pairs = [
            (row.pk, profile) for row, one in zip(rows, new, strict=True) for profile in dict.fromkeys(one.profiles)
        ]
        insert_deliveries(self.brand.pk, pairs)
        self._taken.load_deliveries([row.pk for row in rows])
        self._taken.write_new_contents({row.pk: one.content for row, one in zip(rows, new, strict=True)})
        self._uncarded |= {row.pk for row in rows}
        return rows

    def apply(self, decision: Decision = Decision()) -> None:  # noqa: B008 - a frozen value
        """Write what was decided, and what follows from it. May be called again: what was written is the snapshot then."""
        apply_decision(self._taken, decision, self._applied, self.now, self._uncarded)
        self._uncarded = set()

    def recheck(self) -> int:
        """Look again at the sign-off and holds of all that was taken. How many deliveries' sign-off stands otherwise."""
        return apply_decision(self._taken, Decision(rechecked=self.posts.keys()), self._applied, self.now, ())

    def record(
        self,
        verb: str,
        kind: str,
        object_id: int,
        sentence: Sentence,
        *,
        undoes: Iterable[int] = (),
        before: dict[str, Any] | None = None,
        after: dict[str, Any] | None = None,
        join: bool = False,
    ) -> HistoryEvent:
        """Keep what was done in the history. `undoes`: deliveries that an undo puts back as they were when they were taken,
        if nobody changes them meanwhile."""
        kept = {str(pk): self._undo_state(pk) for pk in undoes}
        return record_event(self.brand.pk, self.actor, verb, kind, object_id, sentence, kept or before, after, join)

    def _undo_state(self, delivery_id: int) -> dict[str, Any]:
        before, row = self._taken.schedules_before[delivery_id], self.deliveries[delivery_id]
        moved = {"profile": before.profile_id} if before.profile_id != row.profile_id else {}
        return {**store_schedule(before), "revision": row.revision, **moved}

    def finish(self) -> None:
        """Write what was made and not applied yet, and tell every browser."""
        if self._uncarded:
            self.apply()
        self._applied.publish(self.brand.pk)
