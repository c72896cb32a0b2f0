"""A wording as it is sent in and read out."""

from typing import Annotated, Literal

from pydantic import Field

from menudo.base.schemas import InputSchema

Text = Annotated[str, Field(max_length=100_000)]
Id = Annotated[int, Field(ge=1, le=2**63 - 1)]
Media = Annotated[list[Id], Field(max_length=100)]


Link = Annotated[str, Field(max_length=2000)]
FieldName = Annotated[str, Field(max_length=32, pattern="^[a-z][a-z0-9_]*$")]
Fields = Annotated[dict[FieldName, Annotated[str, Field(max_length=5000)]], Field(max_length=40)]


Part = Annotated[float, Field(ge=0, le=1)]
Positive = Annotated[float, Field(gt=0, le=1)]


class BoxIO(InputSchema):
    """A part of a picture, as fractions of its width and height after turning."""

    x: Part
    y: Part
    w: Positive
    h: Positive


class PointIO(InputSchema):
    x: Part
    y: Part


class PersonIO(InputSchema):
    """Someone tagged at a place in a picture."""

    who: str = Field(min_length=1, max_length=120)
    x: Part
    y: Part


class ShowingIO(InputSchema):
    """How an asset is shown; null in any part is inherited, and in the end as the asset is."""

    turn: int | None = Field(default=None, ge=0, le=3, description="quarter turns clockwise")
    crop: BoxIO | None = None
    focus: PointIO | None = None
    fit: bool | None = Field(default=None, description="drawn anew so that format, pixels and bytes suit the network")
    words: str | None = Field(default=None, max_length=300, description="over a story's frame")
    words_at: Literal["top", "middle", "foot"] | None = None
    people: list[PersonIO] | None = Field(default=None, max_length=100)
    cover: int | None = Field(default=None, ge=0, le=2**63 - 1, description="a video's thumbnail: an asset; 0: none")
    cover_at: float | None = Field(default=None, ge=0, le=100_000, description="the thumbnail's frame, in seconds")


class CardIO(InputSchema):
    """What stands for the link."""

    title: str = Field(default="", max_length=300)
    description: str = Field(default="", max_length=1000)
    picture: Id | None = None


AssetKey = Annotated[str, Field(pattern="^[1-9][0-9]{0,17}$")]
Shown = Annotated[dict[AssetKey, ShowingIO], Field(max_length=100)]
Preset = Annotated[int, Field(ge=0, le=2**63 - 1)]


class ContentIO(InputSchema):
    """A whole wording. `shown` goes by asset id; `link_tags` is a preset's id."""

    text: Text = ""
    media: Media = Field(default_factory=list)
    link: Link = ""
    first_comment: Text = ""
    fields: Fields = Field(default_factory=dict)
    shown: Shown = Field(default_factory=dict)
    card: CardIO | None = None
    link_tags: Preset | None = None


class OverridesIO(InputSchema):
    """What a version has of its own; null is inherited from the master. `link_tags` 0: none here."""

    text: Text | None = None
    media: Media | None = None
    link: Link | None = None
    first_comment: Text | None = None
    fields: Fields = Field(default_factory=dict)
    form: Literal["post", "story"] | None = None
    shown: Shown = Field(default_factory=dict)
    card: CardIO | None = None
    link_tags: Preset | None = None


class VersionIO(InputSchema):
    """A network's version; with `profile`, that of one profile that was split off."""

    network: str = Field(max_length=32)
    profile: Id | None = None
    overrides: OverridesIO
