from datetime import datetime
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from menudo.base.schemas import In

Text = Annotated[str, Field(max_length=100_000)]
Id = Annotated[int, Field(ge=1, le=2**63 - 1)]
Media = Annotated[list[Id], Field(max_length=100)]


Link = Annotated[str, Field(max_length=2000)]
FieldName = Annotated[str, Field(max_length=32, pattern="^[a-z][a-z0-9_]*$")]
Fields = Annotated[dict[FieldName, Annotated[str, Field(max_length=5000)]], Field(max_length=40)]


class ContentIO(In):
    """A whole wording: text, media (asset ids in order), a link, and networks' own fields by name."""

    text: Text = ""
    media: Media = Field(default_factory=list)
    link: Link = ""
    fields: Fields = Field(default_factory=dict)


class OwnIO(In):
    """What a version has of its own; null is inherited from the master."""

    text: Text | None = None
    media: Media | None = None
    link: Link | None = None
    fields: Fields = Field(default_factory=dict)


class VersionIO(In):
    network: str = Field(max_length=32)
    own: OwnIO


class PostIn(In):
    """A post as the Bench keeps it: master, versions, and the profiles it is for."""

    title: str = Field(default="", max_length=200)
    master: ContentIO
    versions: list[VersionIO] = Field(default_factory=list, max_length=50)
    profiles: list[Id] = Field(default_factory=list, max_length=500)


class AssetBrief(Schema):
    id: int
    name: str
    kind: str
    width: int
    height: int
    alt: str


class DeliveryOut(Schema):
    id: int
    profile: int
    state: str
    due_at: datetime | None
    wall: str | None = Field(description="the wall time meant, without a zone")
    zone: str
    not_before: datetime | None
    tries: int
    held_for: str = Field(description="what it waits for, or why it was missed: signoff, paused, reconnect")
    reason: str
    reason_code: str
    remote_url: str
    published_at: datetime | None
    sent: dict | None
    revision: int
    can: list[str] = Field(description="what can be done to it: move, unplan, call_off, retry, settle, done")


class SaidField(Schema):
    """One of the network's own fields, with what it says."""

    label: str
    value: str


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
    text: str
    media: list[AssetBrief]
    link: str
    fields: list[SaidField]
    author: str


class PostOut(Schema):
    id: int
    title: str
    state: str
    master: ContentIO
    versions: list[VersionIO]
    deliveries: list[DeliveryOut]
    assets: list[AssetBrief]
    author: str
    changed: datetime
    revision: int


class FindingOut(Schema):
    level: Literal["stops", "advice"]
    rule: str
    field: str
    words: str
    limit: str
    present: str


class PieceOut(Schema):
    asset: int
    width: int
    height: int
    share: float
    alt: str


class ProofOut(Schema):
    seen: str
    hidden: str
    link: str
    rows: list[list[PieceOut]]


class ColumnOut(Schema):
    """One network's column of the Bench: its findings and its proof."""

    network: str
    length: int
    limit: int
    unit: str
    fits: bool
    asks: list[str] = Field(description="the network's own fields that are asked for as things stand")
    findings: list[FindingOut]
    proof: ProofOut


class CheckIn(In):
    master: ContentIO
    versions: list[VersionIO] = Field(default_factory=list, max_length=50)
    networks: list[str] = Field(max_length=50)


class WhenIn(In):
    """When to go out. `at` needs `wall`: a wall time in the brand's zone, without an offset."""

    kind: Literal["at", "next_slot", "now"]
    wall: str = Field(default="", max_length=30)


class PlanIn(In):
    when: WhenIn
    profiles: list[Id] | None = Field(default=None, max_length=500, description="only these; null is all that can")


class LeftOut(Schema):
    """A profile that could not be planned, and why."""

    profile: int
    words: str


class PlanOut(Schema):
    post: PostOut
    planned: list[int]
    left: list[LeftOut]
    undo: int | None


class MoveIn(In):
    wall: str = Field(max_length=30, description="a wall time in the brand's zone, without an offset")


class SettleIn(In):
    """What a person found at the network when Menudo could not tell."""

    is_there: bool
    url: str = Field(default="", max_length=500)


class ChangedOut(Schema):
    delivery: DeliveryOut
    undo: int | None


class UndoneOut(Schema):
    words: str


class EntryOut(Schema):
    id: int
    at: datetime
    who: str
    words: str
