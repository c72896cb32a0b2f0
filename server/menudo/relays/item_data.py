"""What is known of an item at a source, whatever the source."""

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True)
class ItemData:
    """`pictures` and `videos` are addresses elsewhere, with `alts` by address; `assets` are ids of the library, counted by kind.

    A catalogue's event has its item's id in `catalogue_item` and its facts in `more`; its picture is a banner to be drawn.
    """

    title: str = ""
    text: str = ""
    summary: str = ""
    comment: str = ""
    link: str = ""
    author: str = ""
    tags: tuple[str, ...] = ()
    pictures: tuple[str, ...] = ()
    videos: tuple[str, ...] = ()
    alts: Mapping[str, str] = field(default_factory=dict)
    assets: tuple[int, ...] = ()
    asset_pictures: int = 0
    asset_videos: int = 0
    kind: str = "post"
    address: str = ""
    language: str = ""
    source: str = ""
    banner: bool = False
    catalogue_item: int | None = None
    more: Mapping[str, str] = field(default_factory=dict)
