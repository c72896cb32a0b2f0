from datetime import datetime
from typing import Literal

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema, WallTime


class ConditionOut(Schema):
    """What must hold before Menudo may post, and what to do when it doesn't."""

    id: str
    message: str
    remedy: str


class KindOut(Schema):
    kind: str
    name: str
    direct: bool
    conditions: list[ConditionOut]


class FieldOut(Schema):
    """A field of the network's own. Whether it is asked for just now, the check of a column says."""

    name: str
    label: str
    type: str
    required: bool
    limit: int | None
    choices: list[str]


class RatioOut(Schema):
    """A shape that fits, width over height; `form` is post or story."""

    label: str
    ratio: float
    form: str


class PaintOut(Schema):
    ground: str
    card: str
    ink: str
    line: str
    accent: str


class LookOut(Schema):
    """The network's own look, for proofs."""

    light: PaintOut
    dark: PaintOut
    letters: str


class NetworkOut(Schema):
    """What the interface needs of a rule sheet."""

    network: str
    name: str
    letters: str
    shape: str
    about: str
    kinds: list[KindOut]
    fields: list[FieldOut]
    takes_link: bool
    takes_comment: bool
    takes_stories: bool
    takes_people: bool = Field(description="people can be tagged in its pictures")
    takes_cover: bool = Field(description="a video may have a thumbnail of its own")
    has_grid: bool = Field(description="a profile there is a page of pictures")
    ratios: list[RatioOut] = Field(description="shapes to crop to")
    look: LookOut
    connects: bool = Field(description="whether one can go there to connect; else it is planned for by hand")
    plain: bool = Field(description="whether it is the sheet for places without one")
    is_custom: bool = Field(description="a rule sheet that this brand loaded")


class SlotOut(Schema):
    weekday: int = Field(ge=0, le=6, description="0 is Monday")
    at: WallTime = Field(description="wall time in the profile's zone")
    label: int | None = Field(default=None, description="the label it is kept for; null: anything")


class PauseOut(Schema):
    """A pause in force. `profile` null: the whole brand."""

    id: int
    profile: int | None
    handle: str
    starts_at: datetime
    ends_at: datetime | None
    created_by: str
    reason: str


class SpacingIO(InputSchema):
    """What a profile wishes of its spacing, null for no wish, and its waking hours, in which a varied time stays."""

    max_gap_days: int | None = Field(ge=0, le=365, description="days without a post that are not too many")
    min_gap_minutes: int | None = Field(ge=1, le=20160, description="between two posts")
    min_repeat_days: int | None = Field(ge=1, le=365, description="before the same media or text returns")
    waking_from: WallTime
    waking_until: WallTime


class ProfileOut(Schema):
    id: int
    network: str
    handle: str
    name: str
    display_name: str = Field(description="what the team calls it; may be empty")
    kind: str
    url: str
    site: str = Field(description="the address of an open site")
    followers: int | None
    zone: str
    zone_own: bool = Field(description="whether the zone is its own, not the brand's")
    state: str
    usable: bool = Field(description="whether something can be planned for it")
    is_default: bool = Field(description="whether a new post goes there until somebody chooses")
    paused: PauseOut | None
    connection_expires_at: datetime | None
    expires_in_days: int | None = Field(description="whole days until the connection ends")
    warning: bool = Field(description="whether that is soon: 14 days or fewer")
    account: str
    connection: int | None
    by_link: str = Field(description="whose link it was connected by")
    unmet: list[ConditionOut]
    keeper: int | None
    keeper_name: str
    planned: int
    trouble: int
    last_published: datetime | None
    slot_count: int = Field(description="how many slots its week has")


class TimetableOut(Schema):
    """When a profile posts: its weekly slots, with the label each is kept for, and what it wishes of its spacing."""

    slots: list[SlotOut]
    spacing: SpacingIO


class ProfileIn(InputSchema):
    display_name: str = Field(default="", max_length=120)
    zone: str = Field(default="", max_length=64, description="an IANA name; empty is the brand's")
    keeper: int | None = None


class ByHandIn(InputSchema):
    name: str = Field(max_length=200)
    handle: str = Field(default="", max_length=120)
    network: str = Field(default="", max_length=32, description="empty: a place without a rule sheet")
    kind: str = Field(default="free", max_length=32)
    url: str = Field(default="", max_length=500)


class RuleSheetIn(InputSchema):
    toml: str = Field(max_length=30_000)


class SetOut(Schema):
    id: int
    name: str
    profiles: list[int]


class SetIn(InputSchema):
    name: str = Field(max_length=60)
    profiles: list[int] = Field(max_length=1000)


class ConnectIn(InputSchema):
    network: str = Field(max_length=32)
    address: str = Field(default="", max_length=500, description="of an open site")


class StartConnectionIn(ConnectIn):
    return_to: Literal["profiles", "first-steps"] = Field(
        default="profiles", description="the brand's page to come back to"
    )


class GoTo(Schema):
    go_to: str


class ConnectOutcome(Schema):
    """Why nothing was connected, or what was chosen at the network and isn't taken, since a link didn't ask for it."""

    refused: str = ""
    left: list[str] = Field(default_factory=list)


class RequestedNetwork(InputSchema):
    network: str = Field(max_length=32)
    kinds: list[str] = Field(max_length=20)


class LinkIn(InputSchema):
    display_name: str = Field(max_length=120)
    requested: list[RequestedNetwork] = Field(max_length=30)
    days: int = Field(default=14, ge=1, le=90)


class LinkedOut(Schema):
    """A profile as the client who connected it sees it."""

    id: int
    network: str
    handle: str
    name: str
    state: str
    unmet: list[ConditionOut]


class LinkOut(Schema):
    id: int
    display_name: str
    requested: list[RequestedNetwork]
    expires_at: datetime
    created_by: str
    profiles: list[LinkedOut]


class OfferedOut(Schema):
    """A new link: its address is shown this once."""

    link: LinkOut
    address: str


class LinkPage(Schema):
    """What a client's link shows, without an account."""

    brand: str
    ink: str
    created_by: str
    display_name: str
    expires_at: datetime
    requested: list[RequestedNetwork]
    networks: list[NetworkOut]
    profiles: list[LinkedOut]


class SlotIn(InputSchema):
    weekday: int = Field(ge=0, le=6, description="0 is Monday")
    at: WallTime = Field(description="wall time in the profile's zone")
    label: int | None = Field(default=None, ge=1, le=2**63 - 1, description="the label it is kept for; null: anything")


class TimetableIn(InputSchema):
    slots: list[SlotIn] = Field(max_length=200)


class CopyIn(InputSchema):
    profiles: list[int] = Field(min_length=1, max_length=500, description="those that get the same slots")
