"""What a profile's followers will see of a version."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.presentation import UNCHANGED, Box, MediaPresentation, Person
from menudo_core.networks.check import outgoing_media
from menudo_core.networks.check_fields import applicable_fields
from menudo_core.networks.content import STORY, Card, Content
from menudo_core.networks.places import place_names, split_codes
from menudo_core.networks.sheet import RuleSheet, StoryRule
from menudo_core.text.folding import fold_text

_WHOLE_ROW = 1.0


@dataclass(frozen=True, slots=True)
class Piece:
    """One picture or video of a proof: the shape it is seen in, its share of the row's width, and what lies over it.

    `turn`, `crop` and `focus` draw it from the original; `focus` is also what stays in sight where the network cuts.
    """

    asset: int
    width: int
    height: int
    share: float
    alt: str
    kind: str = MediaKind.PICTURE
    seconds: float | None = None
    turn: int = 0
    crop: Box = field(default_factory=Box)
    focus: tuple[float, float] = (0.5, 0.5)
    words: str = ""
    words_at: str = "foot"
    people: tuple[Person, ...] = ()
    cover: int | None = None
    cover_at: float | None = None


@dataclass(frozen=True, slots=True)
class Proof:
    """A version as it will be seen, laid out as its network does it.

    `layout` is feed, grid, board, reel, listing or story; `one_by_one` when the pieces of the (single) row are seen one
    after another. `card` stands for the link where no media do. `facts` are the other fields that followers see.
    """

    visible_text: str
    folded_text: str
    rows: tuple[tuple[Piece, ...], ...]
    link: str = ""
    layout: str = "feed"
    one_by_one: bool = False
    title: str = ""
    button: str = ""
    facts: tuple[tuple[str, str], ...] = ()
    card: Card | None = None
    comment: str = ""


def build_proof(content: Content, media: Sequence[MediaFacts], sheet: RuleSheet) -> Proof:
    """The proof of one version. `media` are the facts of `content.media`, in the same order.

    Nothing is squeezed: pictures of one row share its width so that all have the same height, each in its true ratio,
    unless the network itself cuts them to one shape. A carousel takes the shape of its first picture.
    """
    sent = outgoing_media(content, media, sheet)
    if content.form == STORY:
        shape = sheet.story.shape if sheet.story else StoryRule(1).shape
        frames = tuple(_piece_of(m, content.shown.get(m.asset, UNCHANGED), shape, True) for m in sent)
        return Proof("", "", (frames,) if frames else (), content.link.strip(), "story", True)
    folded = fold_text(content.text, sheet.text.fold_clusters, sheet.text.fold_lines)
    rule = sheet.proof
    values = {r.name: content.fields[r.name].strip() for r in applicable_fields(sheet, content)}
    special = {rule.title, rule.button}
    return Proof(
        folded.visible,
        folded.hidden,
        _media_rows(content, sent, sheet),
        content.link.strip(),
        rule.layout,
        rule.pictures == "carousel" and len(sent) > 1,
        values.get(rule.title, ""),
        values.get(rule.button, ""),
        tuple(
            (r.label, format_field_value(values[r.name], r.type))
            for r in applicable_fields(sheet, content)
            if r.name not in special
        ),
        content.card if content.link.strip() and not sent else None,
        "" if "first_comment" in sheet.forbidden else content.first_comment.strip(),
    )


def format_field_value(value: str, kind: str) -> str:
    """A field's value as people read it."""
    if kind == "countries":
        return "; ".join(place_names().get(code, code) for code in split_codes(value))
    return value.replace("T", " ") if kind == "date" else value


def _media_rows(content: Content, sent: list[MediaFacts], sheet: RuleSheet) -> tuple[tuple[Piece, ...], ...]:
    rule = sheet.proof
    crop = (round(rule.crop * 10_000), 10_000) if rule.crop else None
    tags = sheet.media.people is not None
    if rule.pictures == "carousel" and sent:
        first = crop or (sent[0].width, sent[0].height)
        return (tuple(_piece_of(m, content.shown.get(m.asset, UNCHANGED), first, tags) for m in sent),)
    if rule.pictures == "one":
        sent = sent[:1]
    rows = [sent[start : start + 2] for start in range(0, len(sent), 2)]
    return tuple(
        _media_row([_piece_of(m, content.shown.get(m.asset, UNCHANGED), crop, tags) for m in row]) for row in rows
    )


def _media_row(row: list[Piece]) -> tuple[Piece, ...]:
    total = sum(piece.width / piece.height for piece in row)
    return tuple(_with_share(piece, _WHOLE_ROW * piece.width / piece.height / total) for piece in row)


def _with_share(piece: Piece, share: float) -> Piece:
    return replace(piece, share=share)


def _piece_of(facts: MediaFacts, showing: MediaPresentation, shape: tuple[int, int] | None, tags: bool) -> Piece:
    width, height = shape or (facts.width, facts.height)
    still = facts.kind is MediaKind.PICTURE
    return Piece(
        facts.asset,
        width,
        height,
        _WHOLE_ROW,
        facts.alt,
        facts.kind,
        facts.seconds,
        (showing.turn or 0) % 4 if still else 0,
        (showing.crop or Box()) if still else Box(),
        _focus_in_crop(showing.focus or (0.5, 0.5), showing.crop or Box()),
        showing.words or "",
        showing.words_at or "foot",
        (showing.people or ()) if tags else (),
        showing.cover or None,
        showing.cover_at,
    )


def _focus_in_crop(focus: tuple[float, float], crop: Box) -> tuple[float, float]:
    """The focus as fractions of the cropped part, held inside it."""
    x, y = (focus[0] - crop.x) / crop.w, (focus[1] - crop.y) / crop.h
    return min(max(x, 0.0), 1.0), min(max(y, 0.0), 1.0)


_PAGES_OF_PICTURES = frozenset({"grid", "board", "reel"})


def has_grid(sheet: RuleSheet) -> bool:
    """Whether a profile there is a page of pictures, whose order as a whole is looked at."""
    return sheet.use == "photo" or sheet.proof.layout in _PAGES_OF_PICTURES
