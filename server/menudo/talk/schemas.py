from datetime import datetime

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema
from menudo.posts.schemas_content import Id


class RemarkOut(Schema):
    """One remark. `mine`: one may change it."""

    id: int
    name: str
    text: str
    network: str
    profile: int | None
    field: str
    created_at: datetime
    edited_at: bool
    resolved_at: datetime | None
    resolved_by: str
    shared: bool = Field(description="clients by link see it")
    mine: bool


class RemarkIn(InputSchema):
    text: str = Field(max_length=8000)
    network: str = Field(default="", max_length=32)
    profile: Id | None = None
    field: str = Field(default="", max_length=32)
    shared: bool = Field(default=False, description="clients by link see it too")


class RemarkTextIn(InputSchema):
    text: str = Field(max_length=8000)


class ResolvedIn(InputSchema):
    resolved: bool


class TaskOut(Schema):
    """What somebody was asked to do with a post. `late`: its time has passed."""

    id: int
    user: int
    name: str
    assigned_by: str
    summary: str
    due_at: datetime | None
    late: bool
    mine: bool


class TaskIn(InputSchema):
    user: Id
    summary: str = Field(default="", max_length=200)
    due_wall_time: str = Field(
        default="", max_length=30, description="a wall time in the brand's zone; empty: no hurry"
    )


class WatchIn(InputSchema):
    on: bool


class PersonOut(Schema):
    id: int
    name: str


class TalkOut(Schema):
    """What is said at a post, who was asked what, who watches, and whom one may name."""

    remarks: list[RemarkOut]
    tasks: list[TaskOut]
    watching: bool
    watchers: list[str]
    people: list[PersonOut]


class AssignedItem(Schema):
    """One thing that waits on a person. `kind`: sign, back, mention, task, hand."""

    kind: str
    brand: str
    summary: str
    headline: str
    due_at: datetime | None
    late: bool
    path: str


class AssignedOut(Schema):
    """What waits on the person in every brand of theirs, the most urgent first; `count` is of all of it."""

    count: int
    items: list[AssignedItem]
