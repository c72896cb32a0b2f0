"""The installation as it is set and shown."""

from datetime import datetime

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema


class PublicStatusOut(Schema):
    """What one may know before one is in."""

    mail: bool = Field(description="whether this installation sends mail")
    begun: bool = Field(description="whether anybody has an account")


class AccessLinkOut(Schema):
    """`kind`: the first person, a new person, or one who lost access (`again`)."""

    kind: str
    email: str
    name: str


class RedeemIn(InputSchema):
    name: str = Field(default="", max_length=120)
    email: str = Field(default="", max_length=254)
    password: str = Field(max_length=200)


class RedeemedOut(Schema):
    slug: str = Field(description="a brand of theirs; empty when they have none yet")


class MailServerIn(InputSchema):
    host: str = Field(max_length=253)
    port: int
    security: str = Field(max_length=8, description="starttls, tls or none")
    user: str = Field(default="", max_length=254)
    password: str = Field(default="", max_length=500, description="empty: the one that is kept")
    sender: str = Field(max_length=254)


class MailServerOut(Schema):
    host: str
    port: int
    security: str
    user: str
    has_password: bool
    sender: str


class ConfiguredNetworkOut(Schema):
    network: str
    name: str
    address: str


class JobFailureOut(Schema):
    step: str
    subject: str
    error: str
    times: int
    last: datetime


class InstallationOut(Schema):
    """`update_mail_server`: as set here; `mail_by`: what counts, "page", "environment", "tray" (the demo's) or "nothing"."""

    address: str
    mail: MailServerOut | None
    mail_by: str
    networks: list[ConfiguredNetworkOut]
    failures: list[JobFailureOut]


class AccessLinkIn(InputSchema):
    email: str = Field(max_length=254)


class IssuedLinkOut(Schema):
    address: str
