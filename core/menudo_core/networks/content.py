"""What a post says: the master, what a version has of its own, and all of it together."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from menudo_core.media.presentation import MediaPresentation, merge_presentations

POST, STORY = "post", "story"


@dataclass(frozen=True, slots=True)
class Card:
    """What stands for a link: title, description and a picture (an asset), each as read from the page or replaced."""

    title: str = ""
    description: str = ""
    picture: int | None = None


@dataclass(frozen=True, slots=True)
class Content:
    """A whole wording: text, media (asset ids in order), link, first comment, own fields by name.

    `form` is post or story. `shown` says how each asset is shown; `card` stands for the link;
    `link_tags` is the id of a preset (None or 0: none).
    """

    text: str = ""
    media: tuple[int, ...] = ()
    link: str = ""
    first_comment: str = ""
    fields: Mapping[str, str] = field(default_factory=dict)
    form: str = POST
    shown: Mapping[int, MediaPresentation] = field(default_factory=dict)
    card: Card | None = None
    link_tags: int | None = None


@dataclass(frozen=True, slots=True)
class Overrides:
    """What one version has of its own. None: inherited from the master."""

    text: str | None = None
    media: tuple[int, ...] | None = None
    link: str | None = None
    first_comment: str | None = None
    fields: Mapping[str, str] = field(default_factory=dict)
    form: str | None = None
    shown: Mapping[int, MediaPresentation] = field(default_factory=dict)
    card: Card | None = None
    link_tags: int | None = None


_WHOLE = ("text", "media", "link", "first_comment", "form", "card", "link_tags")


def apply_overrides(master: Content, overrides: Overrides) -> Content:
    """The version's content: the master's, except where it has its own. A link of its own leaves the master's card."""
    changes = {part: value for part in _WHOLE if (value := getattr(overrides, part)) is not None}
    if overrides.link is not None and overrides.card is None and overrides.link != master.link:
        changes["card"] = None
    return replace(
        master,
        **changes,
        fields={**master.fields, **overrides.fields},
        shown=merge_presentations(master.shown, overrides.shown) if overrides.shown else master.shown,
    )


@dataclass(frozen=True, slots=True)
class PostContent:
    """All that a post says, whoever wrote it: the Bench, a rota, a relay, a table or an earlier state.

    `versions` go by network and profile (None: all of the network's that weren't split off). `labels` and `campaign_id`
    are ids.
    """

    title: str = ""
    master: Content = field(default_factory=Content)
    versions: Mapping[tuple[str, int | None], Overrides] = field(default_factory=dict)
    labels: frozenset[int] = frozenset()
    campaign_id: int | None = None

    def version(self, network: str, profile: int | None) -> Content:
        """What the post says at a network, for a profile of it; placeholders as they are written."""
        overrides = self.versions.get((network, profile)) if profile is not None else None
        return apply_overrides(self.master, overrides or self.versions.get((network, None)) or Overrides())

    def asset_ids(self) -> set[int]:
        """Every asset that the master or a version uses: media, covers, a card's picture."""
        return set[int]().union(*(_asset_ids(part) for part in self.parts()))

    def parts(self) -> "list[Content | Overrides]":
        """The master and what each version has of its own."""
        return [self.master, *self.versions.values()]


def _asset_ids(part: Content | Overrides) -> set[int]:
    used = {*(part.media or ()), *(showing.cover for showing in part.shown.values() if showing.cover)}
    return used | ({part.card.picture} if part.card and part.card.picture else set())
