"""What each row of a plan says, and what in it can't be read."""

from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, field
from datetime import date, time
from functools import partial
from hashlib import sha256
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from menudo_core.plans.csv_writer import unescape_formula
from menudo_core.plans.dates import (
    InvalidCellError,
    conflicting_dates,
    is_day_first,
    parse_date,
    parse_time,
    split_moment,
)
from menudo_core.plans.lists import split_names
from menudo_core.plans.table import InvalidTableError, Table

# The documented header, and other words for the same column. Ours; the order doesn't matter and case is free.
# `state` and `published at` are what Menudo writes out; they are passed over.
COLUMNS: Mapping[str, tuple[str, ...]] = {
    "date": ("day",),
    "time": ("hour",),
    "zone": ("time zone", "timezone"),
    "profiles": ("profile", "sets", "set", "profiles or sets"),
    "text": ("caption", "message"),
    "media": ("picture", "pictures", "image", "images", "file", "files"),
    "link": ("address", "url"),
    "labels": ("label",),
    "kind": ("form",),
    "title": ("internal title",),
    "first comment": ("first_comment", "comment"),
    "campaign": (),
    "showing": (),
    "card": (),
    "link tags": (),
    "state": (),
    "published at": (),
}
KINDS = ("post", "story")
MAX_TEXT_LENGTH = 100_000
SLOT = "slot"


@dataclass(frozen=True, slots=True)
class CellFault:
    """What is wrong in one cell; `column` is the header's own word for it."""

    column: str
    message: str


@dataclass(frozen=True, slots=True)
class Row:
    """One post of a plan. `line` is where it began in the file; `at` None: the next free slot from that day on."""

    line: int
    day: date | None
    at: time | None
    zone: str
    profiles: tuple[str, ...]
    text: str
    texts: Mapping[str, str]
    fields: Mapping[str, str]
    media: tuple[str, ...]
    link: str
    labels: tuple[str, ...]
    kind: str
    title: str
    first_comment: str
    campaign: str
    showing: str
    card: str
    link_tags: str
    mark: str
    faults: tuple[CellFault, ...] = field(default=())


@dataclass(slots=True)
class _Header:
    """Where each column stands: those that are known by name, networks' own texts and networks' own fields. `names` are as
    written."""

    names: tuple[str, ...]
    places: dict[str, int]
    texts: dict[str, int]
    fields: dict[str, int]


def parse_rows(table: Table, networks: Collection[str], fields: Collection[str] = ()) -> list[Row]:
    """Every row, read. `fields` are the names of networks' own fields. Raises InvalidTableError when the header lacks what no row can do
    without, or has what nobody knows or what is there twice."""
    header = _parse_header(table.header, networks, fields)
    place = header.places["date"]
    dates = [unescape_formula(cells[place]) for _, cells in table.rows if place < len(cells)]
    reads = partial(parse_date, day_first=is_day_first(dates), mixed=conflicting_dates(dates))
    return [_parse_row(line, cells, header, reads) for line, cells in table.rows]


def _parse_header(names: tuple[str, ...], networks: Collection[str], fields: Collection[str]) -> _Header:
    known = {alias: name for name, others in COLUMNS.items() for alias in (name, *others)}
    networks_by_name = {n.lower(): n for n in networks}
    asked = {f.lower(): f for f in fields}
    found = _Header(names, {}, {}, {})
    for number, written in enumerate(names):
        word = " ".join(unescape_formula(written).lower().split())
        network = (
            networks_by_name.get(word.removeprefix("text ").removeprefix("text:").strip("() "))
            if word.startswith("text")
            else None
        )
        field = asked.get(word.removeprefix("field ").strip()) if word.startswith("field ") else None
        kind: dict[str, int]
        if word in known:
            kind, key = found.places, known[word]
        elif network is not None:
            kind, key = found.texts, network
        elif field is not None:
            kind, key = found.fields, field
        elif word:
            raise InvalidTableError(f"The column “{written[:40]}” is no column that Menudo knows. {_COLUMN_LABELS}")
        else:
            continue
        if key in kind:
            first = names[kind[key]]
            raise InvalidTableError(
                f"The column “{written[:40]}” is there twice: it says the same as “{first[:40]}”. Leave one out."
            )
        kind[key] = number
    for needed in ("date", "profiles"):
        if needed not in found.places:
            raise InvalidTableError(
                f"The header has no column “{needed}”. The first line names the columns: date, time, profiles, text …"
            )
    return found


_COLUMN_LABELS = f"The columns are: {', '.join(COLUMNS)}; “text NETWORK” for one network's own text, and “field NAME” for a network's own field."


def _parse_row(line: int, cells: tuple[str, ...], header: _Header, reads: Callable[[str], date]) -> Row:
    faults: list[CellFault] = []
    places, names = header.places, header.names

    def raw_cell(place: int | None) -> str:
        """A cell as it was written; only blanks are none."""
        text = unescape_formula(cells[place]) if place is not None and place < len(cells) else ""
        return text if text.strip() else ""

    def cell_text(name: str) -> str:
        return raw_cell(places.get(name)).strip()

    def parse_or_fault(name: str, read: Callable[[str], object]) -> object | None:
        try:
            return read(cell_text(name))
        except InvalidCellError as bad:
            faults.append(CellFault(names[places[name]] if name in places else name, str(bad)))
            return None

    def split_cell(name: str) -> tuple[str, ...]:
        return split_names(cell_text(name))

    for number, text in enumerate(cells):
        if number < len(names) and text.strip() and not names[number].strip():
            faults.append(
                CellFault(
                    "", f"Column {number + 1} has no name in the first line, and words here. Name it, or empty it."
                )
            )
        elif len(text) > MAX_TEXT_LENGTH:
            name = names[number] if number < len(names) else ""
            faults.append(
                CellFault(name, f"A cell holds {MAX_TEXT_LENGTH:,} characters at most; this one has {len(text):,}.")
            )
    if len(cells) > len(names) and any(c.strip() for c in cells[len(names) :]):
        faults.append(
            CellFault(
                "",
                "The row has more cells than the header has columns. Put texts that hold the separator in quotation marks.",
            )
        )
    day = parse_or_fault("date", lambda c: reads(split_moment(c)[0]))
    at = _parse_wall_time(cell_text("date"), cell_text("time") if "time" in places else None, parse_or_fault)
    parse_or_fault("zone", _parse_zone)
    if not split_cell("profiles"):
        faults.append(
            CellFault(
                names[places["profiles"]],
                "No profile is named. Write handles or names of sets, with a semicolon between them.",
            )
        )
    kind = cell_text("kind").lower() or "post"
    if kind not in KINDS:
        faults.append(CellFault(names[places["kind"]], f"“{cell_text('kind')[:40]}” is no kind. Write post or story."))
    texts = {network: text for network, n in header.texts.items() if (text := raw_cell(n))}
    fields = {name: text for name, n in header.fields.items() if (text := raw_cell(n))}
    mark = sha256("\x1f".join([c.strip() for c in cells]).encode("utf-8", "surrogatepass")).hexdigest()
    return Row(
        line=line,
        day=day if isinstance(day, date) else None,
        at=at if isinstance(at, time) else None,
        zone=cell_text("zone"),
        profiles=split_cell("profiles"),
        text=raw_cell(places.get("text")),
        texts=texts,
        fields=fields,
        media=split_cell("media"),
        link=cell_text("link"),
        labels=split_cell("labels"),
        kind=kind,
        title=cell_text("title"),
        first_comment=raw_cell(places.get("first comment")),
        campaign=cell_text("campaign"),
        showing=cell_text("showing"),
        card=cell_text("card"),
        link_tags=cell_text("link tags"),
        mark=mark,
        faults=tuple(faults),
    )


def _parse_wall_time(
    moment: str, cell: str | None, tried: Callable[[str, Callable[[str], object]], object | None]
) -> object | None:
    """The wall time, from the column for it (None: there is none) or from behind the date; None: a free slot, or it is a fault."""
    behind = split_moment(moment)[1]
    if not behind:
        return None if cell is None or cell.lower() == SLOT else tried("time", parse_time)
    at = tried("date", lambda _: parse_time(behind))
    if not cell or at is None:
        return at
    other = None if cell.lower() == SLOT else tried("time", parse_time)
    if other == at:
        return at

    def contradicts(_: str) -> None:
        raise InvalidCellError(f"The date says {behind[:20]} and the time says {cell[:20]}. Leave one of them out.")

    return tried("date", contradicts) if other is not None or cell.lower() == SLOT else None


def _parse_zone(cell: str) -> str:
    if cell:
        try:
            ZoneInfo(cell)
        except (ZoneInfoNotFoundError, ValueError, OSError):
            raise InvalidCellError(
                f"There is no time zone “{cell[:40]}”. Write one like Europe/Madrid, or leave it empty for the brand's."
            ) from None
    return cell
