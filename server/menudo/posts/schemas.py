from datetime import datetime
from typing import Any, Literal

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema
from menudo.posts.schemas_check import FieldValueOut
from menudo.posts.schemas_content import ContentIO, Id, VersionIO


class PostIn(InputSchema):
    """A post as the Bench keeps it: master, versions, and the profiles it is for."""

    title: str = Field(default="", max_length=200)
    master: ContentIO
    versions: list[VersionIO] = Field(default_factory=list, max_length=200)
    profiles: list[Id] = Field(default_factory=list, max_length=500)
    labels: list[Id] = Field(default_factory=list, max_length=12)
    campaign: Id | None = None


class AssetBrief(Schema):
    id: int
    name: str
    kind: str
    width: int
    height: int
    alt: str
    format: str
    seconds: float | None
    caption: str = ""


class CommentOut(Schema):
    """The first comment of a published post."""

    state: str = Field(description="waiting, sending, published or in_trouble")
    text: str
    reason: str
    reason_code: str
    remote_url: str


class DeliveryOut(Schema):
    id: int
    profile: int
    state: str
    due_at: datetime | None
    wall_time: str | None = Field(description="the wall time meant, without a zone")
    zone: str
    not_before: datetime | None
    tries: int
    held_for: str = Field(description="what it waits for, or why it was missed: signoff, paused, reconnect")
    reason: str
    reason_code: str
    remote_url: str
    published_at: datetime | None
    ends_at: datetime | None = Field(description="when it ends by itself at the network; null: it stays")
    sent_content: dict[str, Any] | None = Field(description="a wording as it is kept, as it was sent")
    revision: int
    allowed_actions: list[str] = Field(
        description="what can be done to it: move, unplan, call_off, retry, settle, done, comment, take_down, update_there, post_again"
    )
    comment: CommentOut | None


class DeliveryPage(Schema):
    """One delivery with what it says, as its network's version has it (or as it was sent)."""

    delivery: DeliveryOut
    post: int
    post_state: str
    post_revision: int
    title: str
    network: str
    handle: str
    profile_url: str
    by_hand: bool
    waits: str = Field(description="why it may not be published now; empty: nothing stands in its way")
    present: str = Field(description="what its version says now, where that differs from what was sent")
    text: str
    media: list[AssetBrief]
    link: str
    first_comment: str
    form: str
    fields: list[FieldValueOut]
    author: str


class PostOut(Schema):
    id: int
    title: str
    state: str
    master: ContentIO
    versions: list[VersionIO]
    deliveries: list[DeliveryOut]
    assets: list[AssetBrief]
    labels: list[int]
    campaign: int | None
    author: str
    updated_at: datetime
    revision: int


class StaggerIn(InputSchema):
    """Minutes between one profile and the next: drawn between the two, or fixed when they are the same."""

    least: int = Field(ge=0, le=1440)
    most: int = Field(ge=0, le=1440)


class WhenIn(InputSchema):
    """When to go out. `at` needs `wall_time`: a wall time in the brand's zone, without an offset; `day` a day of it, on which
    each goes to its first free slot. `kept`: each at the time it was copied with.

    `seed` is what a look was drawn from: planned with the same, the times are those that were shown.
    """

    kind: Literal["at", "next_slot", "day", "now", "kept"]
    wall_time: str = Field(default="", max_length=30)
    stagger: StaggerIn | None = None
    order: list[Id] = Field(default_factory=list, max_length=500, description="profiles, the first to go out first")
    jitter: int = Field(default=0, ge=0, le=180, description="minutes that each time may vary by")
    seed: int = Field(default=0, ge=0, le=2**31)


class PlanIn(InputSchema):
    when: WhenIn
    profiles: list[Id] | None = Field(
        default=None,
        max_length=500,
        description="only these, added where the post doesn't go to them yet; null is all that can",
    )


class SkippedOut(Schema):
    """A profile that could not be planned, and why."""

    profile: int
    reason: str


class PlanOut(Schema):
    post: PostOut
    planned: list[int]
    left: list[SkippedOut]
    undo: int | None


class TimeOut(Schema):
    """When a delivery would go out, in the zone it is meant in; `reason` says why it would not."""

    profile: int
    wall_time: str | None
    zone: str
    delay: int
    jitter: int
    reason: str


class OneMoveIn(InputSchema):
    """Where a delivery goes: a wall time in the brand's zone, null for the tray; another profile, null for its own."""

    id: Id
    revision: int
    wall_time: str | None = Field(default=None, max_length=30)
    profile: Id | None = None
    snap: bool = Field(default=False, description="to the profile's free slot of that day that is nearest")


class MovesIn(InputSchema):
    moves: list[OneMoveIn] = Field(min_length=1, max_length=500)
    whole: bool = Field(default=False, description="the other deliveries of each post go along, by as much")


class SkippedDelivery(Schema):
    delivery: int
    reason: str


class MovedOut(Schema):
    """What was moved, what was left and why, and the entry that undoes it."""

    moved: list[int]
    left: list[SkippedDelivery]
    undo: int | None


class MoveIn(InputSchema):
    wall_time: str = Field(max_length=30, description="a wall time in the brand's zone, without an offset")


class SettleIn(InputSchema):
    """What a person found at the network when Menudo could not tell."""

    is_there: bool
    url: str = Field(default="", max_length=500)


class ChangedOut(Schema):
    delivery: DeliveryOut
    undo: int | None


class UndoneOut(Schema):
    summary: str


class PostEventOut(Schema):
    """One thing that happened. `state`: one can go back to how the post was after it."""

    id: int
    occurred_at: datetime
    actor: str
    summary: str
    state: bool


class DuplicateIn(InputSchema):
    times: bool = Field(default=False, description="the copy keeps the times, for planning")


class BinnedOut(Schema):
    """A post in the bin; `purged_at` is when it is deleted for good."""

    id: int
    title: str
    headline: str
    deleted_at: datetime
    purged_at: datetime
    author: str


class AttendantOut(Schema):
    """Someone else who has the post open."""

    id: int
    name: str
