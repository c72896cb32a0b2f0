from datetime import datetime

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema


class BrandOut(Schema):
    slug: str
    name: str
    zone: str
    ink: str
    role: str
    capabilities: list[str]
    needs_signoff: bool


class MeOut(Schema):
    id: int
    name: str
    email: str
    clock24: bool
    demo: bool = Field(description="whether this is the demo, with its mail tray")
    may_make_brands: bool
    manages_installation: bool
    brands: list[BrandOut]


class MeIn(InputSchema):
    """What is left out stays as it is."""

    clock24: bool | None = None
    name: str | None = Field(default=None, max_length=120)


class BrandIn(InputSchema):
    name: str = Field(max_length=120)
    zone: str = Field(max_length=64, description="an IANA name")
    ink: str = Field(default="epazote", max_length=20)


class CreatedBrandOut(Schema):
    slug: str


class RoleOut(Schema):
    role: str
    capabilities: list[str]


class MemberOut(Schema):
    """`changes`: whether the one who asks may change what this person may do, or take them out."""

    user: int
    name: str
    email: str
    role: str
    capabilities: list[str]
    changes: bool


class InvitationOut(Schema):
    id: int
    email: str
    role: str
    expires_at: datetime
    invited_by: str
    address: str = Field(default="", description="its link, shown this once, where this installation sends no mail")


class PeopleOut(Schema):
    """`roles`: what each begins with, as far as the one who asks may give it; `gives`: all that they may."""

    members: list[MemberOut]
    invitations: list[InvitationOut]
    roles: list[RoleOut]
    capabilities: list[str]
    gives: list[str]


class MemberIn(InputSchema):
    role: str = Field(max_length=20)
    capabilities: list[str] = Field(max_length=30)


class InviteIn(InputSchema):
    email: str = Field(max_length=254)
    role: str = Field(max_length=20)
    capabilities: list[str] = Field(max_length=30)


class InvitationPage(Schema):
    """What an invitation shows before one is signed in."""

    brand: str
    ink: str
    role: str
    email: str
    invited_by: str
    has_account: bool
    other_account: str = Field(description="the address of who is signed in, where another one was invited; else empty")


class AcceptIn(InputSchema):
    """For a new person: a name and a password. For who is signed in, `email`: the address of their account, which they were shown."""

    name: str = Field(default="", max_length=120)
    password: str = Field(default="", max_length=200)
    email: str = Field(default="", max_length=254)


class TotpIn(InputSchema):
    address: str = Field(max_length=500)
