"""Notices and preferences as they are sent and shown."""

from datetime import datetime
from typing import Any

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema


class NoticeOut(Schema):
    id: int
    kind: str
    summary: str
    code: str = Field(description="what is told, without its words; empty for what was told before there were codes")
    params: dict[str, Any]
    path: str
    created_at: datetime
    is_read: bool


class NoticesOut(Schema):
    unread: int
    notices: list[NoticeOut]


class ReadUpToIn(InputSchema):
    up_to: int = Field(ge=1, le=2**63 - 1)


class ChannelOut(Schema):
    kind: str
    about: str
    channel: str
    standard: str


class PreferencesOut(Schema):
    """How one is told outside the product. Times are of the wall in `zone`."""

    kinds: list[ChannelOut]
    zone: str
    quiet_from: str
    quiet_to: str
    digest_at: str
    phone: str
    texts: bool = Field(description="whether text messages can be sent from here")


class PreferencesIn(InputSchema):
    channels: dict[str, str]
    zone: str = Field(max_length=64)
    quiet_from: str = Field(default="", max_length=10)
    quiet_to: str = Field(default="", max_length=10)
    digest_at: str = Field(default="08:00", max_length=10)
    phone: str = Field(default="", max_length=40)


class MailOut(Schema):
    id: int
    channel: str
    to: str
    subject: str
    body: str
    sent_at: datetime
