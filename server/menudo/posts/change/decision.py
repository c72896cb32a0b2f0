"""What an action decides about posts, as a value: the kernel carries it out."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from menudo.people.models import User
from menudo.posts.models import Post
from menudo.posts.sent_content import SentContent
from menudo.signoff.models import SignOff
from menudo_core.networks.content import PostContent
from menudo_core.signoff.schedule import Schedule


@dataclass(frozen=True, slots=True)
class PostStatus:
    """Where a post stands, beside what it says and where it goes. `requested_at`: when its sign-off was asked for, or it
    was planned; `deleted_at`: when it went to the bin; `aside`: it waits for an answer elsewhere, not in the tray."""

    requested_at: datetime | None = None
    deleted_at: datetime | None = None
    aside: bool = False
    evergreen: bool = False

    @classmethod
    def of(cls, post: Post) -> "PostStatus":
        return cls(post.requested_at, post.deleted_at, post.aside, post.evergreen)

    def write(self, post: Post) -> None:
        """Have the row in memory say so."""
        post.requested_at, post.deleted_at = self.requested_at, self.deleted_at
        post.aside, post.evergreen = self.aside, self.evergreen


@dataclass(frozen=True, slots=True)
class Publication:
    """A delivery that is at the network: where (may be empty), since when, and what was sent."""

    url: str
    at: datetime | None
    sent: SentContent | None


@dataclass(frozen=True, slots=True)
class NewPost:
    """A post to be made, and the profiles it goes to."""

    content: PostContent
    profiles: Collection[int] = ()
    author: User | None = None
    status: PostStatus = PostStatus()


@dataclass(frozen=True, slots=True)
class Decision:
    """What becomes of posts and deliveries that were taken, by their ids. What isn't named stays.

    `profiles`: those a post goes to from now on. `publications`: what is known of deliveries at their network. `answers`
    are kept beside those there are. `revised`: posts of which nothing else is named, but whose readers see something else
    from now on; `revised_deliveries` likewise. `rechecked`: posts that stand as they are, but whose sign-off and holds are
    looked at again.
    """

    contents: Mapping[int, PostContent] = field(default_factory=dict)
    profiles: Mapping[int, Collection[int]] = field(default_factory=dict)
    statuses: Mapping[int, PostStatus] = field(default_factory=dict)
    schedules: Mapping[int, Schedule] = field(default_factory=dict)
    publications: Mapping[int, Publication] = field(default_factory=dict)
    answers: Sequence[SignOff] = ()
    revised: Collection[int] = ()
    revised_deliveries: Collection[int] = ()
    rechecked: Collection[int] = ()
