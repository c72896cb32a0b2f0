from typing import Annotated

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema

Short = Annotated[str, Field(max_length=80)]
Words = Annotated[list[Short], Field(max_length=60)]
Level = Annotated[int, Field(ge=0, le=4)]


class Voice(InputSchema):
    """How the brand speaks, each from 0 to 4: plain to formal, serious to playful, brief to full."""

    formal: Level = 2
    playful: Level = 2
    full: Level = 2
    words: Words = Field(default_factory=list, description="in a few words: warm, dry, precise …")


class Contact(InputSchema):
    email: str = Field(default="", max_length=254)
    phone: str = Field(default="", max_length=60)
    address: str = Field(default="", max_length=300)


class SheetIO(InputSchema):
    """The brand sheet. Everything may be left empty."""

    site: str = Field(default="", max_length=500)
    about: str = Field(default="", max_length=4000)
    audience: str = Field(default="", max_length=2000)
    voice: Voice = Field(default_factory=Voice)
    colours: list[Annotated[str, Field(pattern="^#[0-9a-f]{6}$")]] = Field(default_factory=list, max_length=12)
    logo: int | None = Field(default=None, description="an asset of the brand's")
    contact: Contact = Field(default_factory=Contact)
    topics: Words = Field(default_factory=list)
    hashtags: Words = Field(default_factory=list, description="standing hashtags, without their sign")
    use: Words = Field(default_factory=list, description="words to use")
    avoid: Words = Field(default_factory=list, description="words to avoid")
    salesy: Level = 1
    emoji: Level = 1
    language: str = Field(default="", max_length=35, description="a BCP 47 tag: es, en-GB")
    country: str = Field(default="", max_length=2, description="an ISO 3166 code, for holidays")
    feeds: list[Annotated[str, Field(max_length=500)]] = Field(default_factory=list, max_length=20)


class SheetOut(Schema):
    sheet: SheetIO
    revision: int
    filled: int = Field(description="how many of its parts say something")
    parts: int


class PageIn(InputSchema):
    address: str = Field(max_length=500)


class Proposal(Schema):
    """One part as the page has it, to take or leave. `part` is a path into the sheet: `about`, `contact/email`."""

    part: str
    label: str
    value: str | list[str] | int
    shown: str = Field(description="as a person reads it")
    source: str = Field(description="where on the page it stands")


class ReadOut(Schema):
    address: str
    proposals: list[Proposal]
