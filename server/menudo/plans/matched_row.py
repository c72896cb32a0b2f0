"""One row of a plan with what its words mean in the brand, and the wording it makes."""

from dataclasses import dataclass, field, replace
from datetime import datetime
from zoneinfo import ZoneInfo

from menudo.labels.models import Label
from menudo.library.models import Asset
from menudo.posts.models import Campaign
from menudo.profiles.models import Profile
from menudo_core.media.presentation import UNCHANGED, MediaPresentation
from menudo_core.networks.content import POST, Card, Content
from menudo_core.plans.rows import CellFault, Row


@dataclass
class MatchedRow:
    """One row with what its words mean here. `media` are files of the library, and addresses that are still to be fetched, in
    their order; `showing` says how each is shown, by its place from 1."""

    row: Row
    zone: ZoneInfo
    profiles: list[Profile] = field(default_factory=list)
    media: list[Asset | str] = field(default_factory=list)
    labels: list[Label] = field(default_factory=list)
    new_labels: list[str] = field(default_factory=list)
    campaign: Campaign | None = None
    showing: dict[int, MediaPresentation] = field(default_factory=dict)
    card: Card | None = None
    link_tags: int | None = None
    at: datetime | None = None
    faults: list[CellFault] = field(default_factory=list)
    advice: list[CellFault] = field(default_factory=list)
    known: bool = False

    @property
    def assets(self) -> list[Asset]:
        return [one for one in self.media if isinstance(one, Asset)]

    @property
    def addresses(self) -> list[str]:
        return [one for one in self.media if isinstance(one, str)]

    @property
    def shown(self) -> dict[int, MediaPresentation]:
        """How each file is shown, by asset id."""
        found = {n: one for n, one in enumerate(self.media, 1) if isinstance(one, Asset)}
        return {found[n].pk: showing for n, showing in self.showing.items() if n in found and showing != UNCHANGED}


def network_content(m: MatchedRow, network: str) -> Content:
    """What the row says on a network."""
    row = m.row
    return replace(row_master(m), text=row.texts.get(network, row.text), form=row.kind or POST)


def row_master(m: MatchedRow) -> Content:
    """The row's wording as a post's master; media that are still to be fetched are left out."""
    row = m.row
    return Content(
        text=row.text,
        media=tuple(a.pk for a in m.assets),
        link=row.link,
        first_comment=row.first_comment,
        fields=dict(row.fields),
        shown=m.shown,
        card=m.card,
        link_tags=m.link_tags,
    )
