"""What each row of a plan says, and what in it can't be read."""

from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, field
from datetime import date, time
from functools import partial
from hashlib import sha256
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from menudo_core.plans.dates import BadCell, day_first, mixed_dates, read_date, read_time, split_moment
from menudo_core.plans.lists import split_names
from menudo_core.plans.out import unsafe
from menudo_core.plans.sheet import BadSheet, Table

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
MOST_LETTERS = 100_000
SLOT = "slot"


@dataclass(frozen=True, slots=True)
class CellFault:
    """What is wrong in one cell; `column` is the header's own word for it."""

    column: str
    words: str


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


def rows(table: Table, networks: Collection[str], fields: Collection[str] = ()) -> list[Row]:
    """Every row, read. `fields` are the names of networks' own fields. Raises BadSheet when the header lacks what no row can do
    without, or has what nobody knows or what is there twice."""
    header = _header(table.header, networks, fields)
    place = header.places["date"]
    dates = [unsafe(cells[place]) for _, cells in table.rows if place < len(cells)]
    reads = partial(read_date, day_leads=day_first(dates), mixed=mixed_dates(dates))
    return [_row(line, cells, header, reads) for line, cells in table.rows]


def _header(names: tuple[str, ...], networks: Collection[str], fields: Collection[str]) -> _Header:
    known = {alias: name for name, others in COLUMNS.items() for alias in (name, *others)}
    own = {n.lower(): n for n in networks}
    asked = {f.lower(): f for f in fields}
    found = _Header(names, {}, {}, {})
    for number, written in enumerate(names):
        word = " ".join(unsafe(written).lower().split())
        network = (
            own.get(word.removeprefix("text ").removeprefix("text:").strip("() ")) if word.startswith("text") else None
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
            raise BadSheet(f"The column “{written[:40]}” is no column that Menudo knows. {_COLUMNS_WORDS}")
        else:
            continue
        if key in kind:
            first = names[kind[key]]
            raise BadSheet(
                f"The column “{written[:40]}” is there twice: it says the same as “{first[:40]}”. Leave one out."
            )
        kind[key] = number
    for needed in ("date", "profiles"):
        if needed not in found.places:
            raise BadSheet(
                f"The header has no column “{needed}”. The first line names the columns: date, time, profiles, text …"
            )
    return found


_COLUMNS_WORDS = f"The columns are: {', '.join(COLUMNS)}; “text NETWORK” for one network's own text, and “field NAME” for a network's own field."


def _row(line: int, cells: tuple[str, ...], head: _Header, reads: Callable[[str], date]) -> Row:
    faults: list[CellFault] = []
    places, header = head.places, head.names

    def whole(place: int | None) -> str:
        """A cell as it was written; only blanks are none."""
        said = unsafe(cells[place]) if place is not None and place < len(cells) else ""
        return said if said.strip() else ""

    def cell(name: str) -> str:
        return whole(places.get(name)).strip()

    def tried(name: str, read: Callable[[str], object]) -> object | None:
        try:
            return read(cell(name))
        except BadCell as bad:
            faults.append(CellFault(header[places[name]] if name in places else name, str(bad)))
            return None

    def several(name: str) -> tuple[str, ...]:
        return split_names(cell(name))

    for number, said in enumerate(cells):
        if number < len(header) and said.strip() and not header[number].strip():
            faults.append(
                CellFault(
                    "", f"Column {number + 1} has no name in the first line, and words here. Name it, or empty it."
                )
            )
        elif len(said) > MOST_LETTERS:
            name = header[number] if number < len(header) else ""
            faults.append(
                CellFault(name, f"A cell holds {MOST_LETTERS:,} characters at most; this one has {len(said):,}.")
            )
    if len(cells) > len(header) and any(c.strip() for c in cells[len(header) :]):
        faults.append(
            CellFault(
                "",
                "The row has more cells than the header has columns. Put texts that hold the separator in quotation marks.",
            )
        )
    day = tried("date", lambda c: reads(split_moment(c)[0]))
    at = _wall_time(cell("date"), cell("time") if "time" in places else None, tried)
    tried("zone", _zone)
    if not several("profiles"):
        faults.append(
            CellFault(
                header[places["profiles"]],
                "No profile is named. Write handles or names of sets, with a semicolon between them.",
            )
        )
    kind = cell("kind").lower() or "post"
    if kind not in KINDS:
        faults.append(CellFault(header[places["kind"]], f"“{cell('kind')[:40]}” is no kind. Write post or story."))
    texts = {network: said for network, n in head.texts.items() if (said := whole(n))}
    fields = {name: said for name, n in head.fields.items() if (said := whole(n))}
    mark = sha256("\x1f".join([c.strip() for c in cells]).encode("utf-8", "surrogatepass")).hexdigest()
    return Row(
        line=line, day=day if isinstance(day, date) else None, at=at if isinstance(at, time) else None, zone=cell("zone"),
        profiles=several("profiles"), text=whole(places.get("text")), texts=texts, fields=fields, media=several("media"), link=cell("link"),
        labels=several("labels"), kind=kind, title=cell("title"), first_comment=whole(places.get("first comment")),
        campaign=cell("campaign"), showing=cell("showing"), card=cell("card"), link_tags=cell("link tags"), mark=mark, faults=tuple(faults),
    )  # fmt: skip


def _wall_time(
    moment: str, said: str | None, tried: Callable[[str, Callable[[str], object]], object | None]
) -> object | None:
    """The wall time, from the column for it (None: there is none) or from behind the date; None: a free slot, or it is a fault."""
    behind = split_moment(moment)[1]
    if not behind:
        return None if said is None or said.lower() == SLOT else tried("time", read_time)
    at = tried("date", lambda _: read_time(behind))
    if not said or at is None:
        return at
    other = None if said.lower() == SLOT else tried("time", read_time)
    if other == at:
        return at

    def contradicts(_: str) -> None:
        raise BadCell(f"The date says {behind[:20]} and the time says {said[:20]}. Leave one of them out.")

    return tried("date", contradicts) if other is not None or said.lower() == SLOT else None


def _zone(cell: str) -> str:
    if cell:
        try:
            ZoneInfo(cell)
        except (ZoneInfoNotFoundError, ValueError, OSError):
            raise BadCell(
                f"There is no time zone “{cell[:40]}”. Write one like Europe/Madrid, or leave it empty for the brand's."
            ) from None
    return cell
