"""Campaigns, marks and moves as they are asked for and answered."""

from datetime import date
from typing import Literal

from pydantic import Field

from menudo.base.schemas import Day, InputSchema, Schema
from menudo.posts.schemas import WhenIn
from menudo.posts.schemas_content import Id


class CampaignIn(InputSchema):
    name: str = Field(max_length=80)
    starts_on: Day
    ends_on: Day
    ink: str = Field(max_length=12)
    tags: list[str] = Field(default_factory=list, max_length=30, description="hashtags that belong to it")
    link_tags: Id | None = None


class CampaignOut(Schema):
    """A campaign and how far it is: posts by what became of their deliveries."""

    id: int
    name: str
    starts_on: date
    ends_on: date
    ink: str
    tags: list[str]
    link_tags: int | None
    posts: int
    drafts: int
    planned: int
    published: int
    trouble: int


class MarkIn(InputSchema):
    posts: list[Id] = Field(min_length=1, max_length=500)
    add: list[Id] = Field(default_factory=list, max_length=20, description="labels to put on")
    remove: list[Id] = Field(default_factory=list, max_length=200, description="labels to take off")
    campaign: Id | None = None
    sets_campaign: bool = Field(default=False, description="whether the campaign is changed (null: to none)")


class MarkedOut(Schema):
    posts: int


class PreviewTimesIn(InputSchema):
    """When the profiles of a post would go out."""

    when: WhenIn
    profiles: list[Id] | None = Field(default=None, max_length=500)


class FollowIn(InputSchema):
    """A zone was changed from `was`: `wall` keeps the time on the wall, `instant` the moment. `profile` null: the brand's."""

    profile: Id | None = None
    was: str = Field(max_length=64)
    hold: Literal["wall", "instant"]


class FollowedOut(Schema):
    followed: int
    stay: int = Field(description="their new moment would have passed")


class CallOffIn(InputSchema):
    deliveries: list[Id] = Field(min_length=1, max_length=500)
