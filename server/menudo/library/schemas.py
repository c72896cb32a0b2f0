from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from menudo.base.schemas import InputSchema, Schema

Id = Annotated[int, Field(ge=1, le=2**63 - 1)]
Ids = Annotated[list[Id], Field(min_length=1, max_length=500)]
LabelName = Annotated[str, Field(min_length=1, max_length=40)]
Name = Annotated[str, Field(max_length=80)]
Value = Annotated[str, Field(max_length=200)]


class AssetOut(Schema):
    id: int
    name: str
    kind: str
    format: str
    codec: str
    width: int
    height: int
    size: int = Field(description="bytes")
    seconds: float | None
    alt: str
    caption: str
    credit: str
    labels: list[str] = Field(description="names of the brand's labels")
    folder: int | None
    created_at: datetime
    deleted_at: datetime | None
    used_in: int = Field(default=0, description="how many posts use it; told in lists only")


class AssetsOut(Schema):
    """A page of media, newest first; ask for those before its last one for the next."""

    assets: list[AssetOut]
    total: int


class DescribeIn(InputSchema):
    """Only what is said changes."""

    name: str | None = Field(default=None, max_length=200)
    alt: str | None = Field(default=None, max_length=4000)
    caption: str | None = Field(default=None, max_length=20_000)
    credit: str | None = Field(default=None, max_length=200)
    labels: list[LabelName] | None = Field(default=None, max_length=20)


class IdsIn(InputSchema):
    ids: Ids


class IntoIn(InputSchema):
    """Media, and the folder they go to; null is no folder."""

    ids: Ids
    folder: Id | None = None


class LabelIn(InputSchema):
    ids: Ids
    add: list[LabelName] = Field(default_factory=list, max_length=20)
    remove: list[LabelName] = Field(default_factory=list, max_length=20)


class DoneOut(Schema):
    count: int


class FolderIn(InputSchema):
    name: str = Field(max_length=120)
    bundle: bool = False


class FolderCopyIn(InputSchema):
    name: str = Field(default="", max_length=120)


class FolderOut(Schema):
    id: int
    name: str
    bundle: bool
    count: int = 0


class LabelOut(Schema):
    label: str
    count: int


class ShelvesOut(Schema):
    """What the library holds; `bytes` is the storage used, the same file counted once."""

    folders: list[FolderOut]
    labels: list[LabelOut]
    all: int
    loose: int
    binned: int
    bytes: int


class UseOut(Schema):
    post: int = Field(alias="post_id")
    title: str
    excerpt: str


class SkippedFile(Schema):
    name: str
    reason: str


class ImportedMediaOut(Schema):
    """What was added, and what was left with its reason."""

    added: list[AssetOut]
    left: list[SkippedFile]


class StoreIn(InputSchema):
    name: Name
    address: str = Field(max_length=500)
    user: str = Field(default="", max_length=120)
    password: str = Field(default="", max_length=200)


class StoreOut(Schema):
    id: int
    name: str
    address: str
    user: str


class StoreEntry(Schema):
    path: str
    name: str
    folder: bool
    size: int | None


class ImportFilesIn(InputSchema):
    paths: list[Annotated[str, Field(min_length=1, max_length=1000)]] = Field(min_length=1, max_length=200)
    folder: Id | None = None


class SnippetIn(InputSchema):
    name: Name
    text: str = Field(max_length=20_000)


class SnippetOut(Schema):
    id: int
    name: str
    text: str


class TagSetIn(InputSchema):
    name: Name
    tags: list[Annotated[str, Field(max_length=120)]] = Field(max_length=60)


class TagSetOut(Schema):
    id: int
    name: str
    tags: list[str]


class LinkTagsIn(InputSchema):
    """UTM values; each may hold {network}, {campaign}, {profile}, {date} and {title}."""

    name: Name
    source: Value = ""
    medium: Value = ""
    campaign: Value = ""
    content: Value = ""
    term: Value = ""
    keeps: bool = True
    in_text: bool = True


class LinkTagsOut(Schema):
    id: int
    name: str
    source: str
    medium: str
    campaign: str
    content: str
    term: str
    keeps: bool
    in_text: bool


class SayingsOut(Schema):
    """Everything that is kept to be said again."""

    snippets: list[SnippetOut]
    tag_sets: list[TagSetOut]
    link_tags: list[LinkTagsOut]


Kind = Literal["", "picture", "animation", "video"]
