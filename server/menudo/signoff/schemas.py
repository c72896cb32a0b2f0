"""Sign-off as it is asked for and answered."""

from datetime import datetime
from typing import Literal

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema
from menudo.posts.schemas_check import ColumnOut
from menudo.posts.schemas_content import Id
from menudo.posts.schemas_wording import SegmentOut
from menudo.profiles.schemas import NetworkOut
from menudo.talk.schemas import RemarkOut


class RuleIn(InputSchema):
    """One rule. An empty list asks of everything; `signers` are signers' keys, in their order (none: anyone who may)."""

    name: str = Field(max_length=80)
    signers: list[str] = Field(default_factory=list, max_length=50)
    mode: Literal["any", "all", "in_order"] = "any"
    profiles: list[Id] = Field(default_factory=list, max_length=500)
    labels: list[Id] = Field(default_factory=list, max_length=100)
    kinds: list[str] = Field(default_factory=list, max_length=20)
    authors: list[Id] = Field(default_factory=list, max_length=200)
    before_hours: int | None = Field(
        default=None, ge=0, le=720, description="how long before the due time; null: up to it"
    )


class RuleOut(Schema):
    name: str
    signers: list[str]
    mode: Literal["any", "all", "in_order"]
    profiles: list[int]
    labels: list[int]
    kinds: list[str]
    authors: list[int]
    before_hours: int | None


class RulesIn(InputSchema):
    needed: bool
    signoff_on_move: bool = False
    earlier_signoff_counts: bool = False
    rules: list[RuleIn] = Field(default_factory=list, max_length=50)


class SignerOut(Schema):
    key: str
    name: str


class RulesEffect(Schema):
    """How many planned deliveries rules would hold that aren't held now, and how many they would let go. `posts`: looked at were only so
    many posts, those due first; null: all."""

    held: int
    free: int
    posts: int | None = None


class RulesOut(Schema):
    needed: bool
    signoff_on_move: bool
    earlier_signoff_counts: bool
    rules: list[RuleOut]
    signers: list[SignerOut]
    kinds: list[str]


class PostAt(InputSchema):
    """A post in the revision one has seen."""

    id: Id
    revision: int


class PostsIn(InputSchema):
    posts: list[PostAt] = Field(min_length=1, max_length=500)


class SkippedPost(Schema):
    post: int
    reason: str


class AnsweredOut(Schema):
    done: int
    left: list[SkippedPost]


class ChangeIn(InputSchema):
    """Another text for a network's version, or for that of a profile split off."""

    network: str = Field(max_length=32)
    profile: Id | None = None
    text: str = Field(max_length=20_000)


class ApproveIn(InputSchema):
    """`deliveries` null: all that one is asked of."""

    deliveries: list[Id] | None = Field(default=None, max_length=500)
    changes: list[ChangeIn] = Field(default_factory=list, max_length=100)


class SendBackIn(InputSchema):
    """`network` (and `profile`) and `field` say what the remark is on; nothing said: the whole post."""

    words: str = Field(max_length=4000)
    network: str = Field(default="", max_length=32)
    profile: Id | None = None
    field: str = Field(default="", max_length=32)
    deliveries: list[Id] | None = Field(default=None, max_length=500)


class LinkApproveIn(ApproveIn):
    """`name`: what the client calls themselves."""

    revision: int
    name: str = Field(default="", max_length=120)


class LinkSendBackIn(SendBackIn):
    revision: int
    name: str = Field(default="", max_length=120)


class LinkRemarkIn(InputSchema):
    text: str = Field(max_length=4000)
    network: str = Field(default="", max_length=32)
    profile: Id | None = None
    field: str = Field(default="", max_length=32)
    name: str = Field(default="", max_length=120)


class LinkApproveAllIn(PostsIn):
    name: str = Field(default="", max_length=120)


class AnswerOut(Schema):
    """An answer that was given; `counts`: it is to what would go out now."""

    name: str
    verdict: str
    answered_at: datetime
    counts: bool


class DeliverySignoffOut(Schema):
    """Where one delivery's sign-off stands. `differs`: what has changed since somebody agreed; null: nothing has."""

    delivery: int
    profile: int
    handle: str
    network: str
    state: str = Field(description="waits, back, agreed; empty: nobody is asked")
    asked: list[str]
    until: datetime | None
    late: bool
    answers: list[AnswerOut]
    differs: list[SegmentOut] | None
    parts: list[str] = Field(description="what else than the text differs")


class PostSignoffOut(Schema):
    """Where a post's sign-off stands, and what the person may do about it."""

    post: int
    revision: int
    state: str
    needed: bool
    allowed_actions: list[str]
    deliveries: list[DeliverySignoffOut]


class PendingTime(Schema):
    """One profile that a version goes to, and when: a wall time of `zone`, null while it has none."""

    delivery: int
    profile: int
    handle: str
    name: str
    wall_time: str | None
    zone: str


class PendingColumn(Schema):
    """One version that waits, with every profile it goes to, as followers will see it."""

    network: str
    profile: int | None
    name: str
    text: str
    when: list[PendingTime]
    mine: bool = Field(description="whether it waits on the person who looks")
    differs: list[SegmentOut] | None
    parts: list[str]
    column: ColumnOut


class PendingPost(Schema):
    post: int
    revision: int
    title: str
    headline: str
    state: str
    author: str
    first_due: str | None
    until: datetime | None
    late: bool
    missed: bool = Field(description="its time has passed: signed off, it must be planned again")
    mine: bool
    asked: list[str]
    columns: list[PendingColumn]
    remarks: list[RemarkOut]


class PendingOut(Schema):
    """Everything that waits for sign-off, first to go out first; `more` were left out."""

    brand: str
    ink: str
    zone: str
    display_name: str
    may_edit: bool
    by_link: bool
    expires_at: datetime | None
    posts: list[PendingPost]
    more: int
    networks: list[NetworkOut]


class SignLinkIn(InputSchema):
    display_name: str = Field(max_length=120)
    user: Id | None = Field(default=None, description="a person of the brand for whom it answers; null: for itself")
    profiles: list[Id] = Field(default_factory=list, max_length=500)
    may_edit: bool = False
    days: int = Field(default=30, ge=1, le=365)


class SignLinkOut(Schema):
    id: int
    display_name: str
    answers_for: str
    profiles: list[int]
    may_edit: bool
    expires_at: datetime
    last_opened_at: datetime | None


class SignLinkMade(Schema):
    link: SignLinkOut
    address: str
