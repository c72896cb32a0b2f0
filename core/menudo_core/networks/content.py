"""What a post says: the master, and what a version has of its own."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace


@dataclass(frozen=True, slots=True)
class Content:
    """A whole wording: text, media (asset ids in order), link, first comment, own fields by name."""

    text: str = ""
    media: tuple[int, ...] = ()
    link: str = ""
    first_comment: str = ""
    fields: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Own:
    """What one version has of its own. None: inherited from the master."""

    text: str | None = None
    media: tuple[int, ...] | None = None
    link: str | None = None
    first_comment: str | None = None
    fields: Mapping[str, str] = field(default_factory=dict)


def inherit(master: Content, own: Own) -> Content:
    """The version's content: the master's, except where it has its own."""
    return replace(
        master,
        text=master.text if own.text is None else own.text,
        media=master.media if own.media is None else own.media,
        link=master.link if own.link is None else own.link,
        first_comment=master.first_comment if own.first_comment is None else own.first_comment,
        fields={**master.fields, **own.fields},
    )
