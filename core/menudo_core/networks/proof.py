"""What a profile's followers will see of a version."""

from collections.abc import Sequence
from dataclasses import dataclass

from menudo_core.media.facts import MediaFacts
from menudo_core.networks.content import Content
from menudo_core.networks.sheet import RuleSheet
from menudo_core.text.folding import fold

_WHOLE_ROW = 1.0


@dataclass(frozen=True, slots=True)
class Piece:
    """One picture of a proof: its true shape, and the share of the row's width that it takes."""

    asset: int
    width: int
    height: int
    share: float
    alt: str


@dataclass(frozen=True, slots=True)
class Proof:
    """A version as it will be seen: text before and behind the fold, rows of pictures, and its link."""

    seen: str
    hidden: str
    rows: tuple[tuple[Piece, ...], ...]
    link: str = ""


def proof(content: Content, media: Sequence[MediaFacts], sheet: RuleSheet) -> Proof:
    """The proof of one version. `media` are the facts of `content.media`, in the same order.

    Nothing is squeezed or cropped: pictures of one row share its width so that all have
    the same height, each keeping its true ratio.
    """
    folded = fold(content.text, sheet.text.fold_clusters, sheet.text.fold_lines)
    rows = [media[start : start + 2] for start in range(0, len(media), 2)]
    return Proof(folded.seen, folded.hidden, tuple(_row(row) for row in rows), content.link.strip())


def _row(row: Sequence[MediaFacts]) -> tuple[Piece, ...]:
    total = sum(facts.ratio for facts in row)
    return tuple(
        Piece(facts.asset, facts.width, facts.height, _WHOLE_ROW * facts.ratio / total, facts.alt) for facts in row
    )
