"""What each row of a plan says, and what in it can't be read."""

import re
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, field
from datetime import date, time
from hashlib import sha256
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from menudo_core.plans.dates import BadCell, day_first, read_date, read_time
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
    "state": (),
    "published at": (),
}
KINDS = ("post", "story")
_LIST = re.compile(r"[;\n|]")
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
    media: tuple[str, ...]
    link: str
    labels: tuple[str, ...]
    kind: str
    title: str
    first_comment: str
    campaign: str
    mark: str
    faults: tuple[CellFault, ...] = field(default=())


def rows(table: Table, networks: Collection[str]) -> list[Row]:
    """Every row, read. Raises BadSheet when the header lacks what no row can do without, or has what nobody knows."""
    places, own = _header(table.header, networks)
    date_cells = [cells[places["date"]] for _, cells in table.rows if places["date"] < len(cells)]
    leads = day_first(date_cells)
    return [_row(line, cells, places, own, leads, table.header) for line, cells in table.rows]


def _header(header: tuple[str, ...], networks: Collection[str]) -> tuple[dict[str, int], dict[str, int]]:
    known = {alias: name for name, others in COLUMNS.items() for alias in (name, *others)}
    places: dict[str, int] = {}
    own: dict[str, int] = {}
    for number, written in enumerate(header):
        word = " ".join(written.lower().split())
        network = word.removeprefix("text ").removeprefix("text:").strip("() ")
        if word in known and known[word] not in places:
            places[known[word]] = number
        elif word != network and network in networks:
            own[network] = number
        elif word:
            columns = ", ".join(COLUMNS)
            why = "is there twice" if word in known else "is no column that Menudo knows"
            raise BadSheet(
                f"The column “{written[:40]}” {why}. The columns are: {columns}, and “text NETWORK” for one network's own text."
            )
    for needed in ("date", "profiles"):
        if needed not in places:
            raise BadSheet(
                f"The header has no column “{needed}”. The first line names the columns: date, time, profiles, text …"
            )
    return places, own


def _row(
    line: int, cells: tuple[str, ...], places: dict[str, int], own: dict[str, int], leads: bool | None, header: tuple[str, ...]
) -> Row:  # fmt: skip
    faults: list[CellFault] = []

    def cell(name: str) -> str:
        place = places.get(name)
        return unsafe(cells[place].strip()) if place is not None and place < len(cells) else ""

    def tried(name: str, read: Callable[[str], object]) -> object | None:
        try:
            return read(cell(name))
        except BadCell as bad:
            faults.append(CellFault(header[places[name]] if name in places else name, str(bad)))
            return None

    def several(name: str) -> tuple[str, ...]:
        return tuple(dict.fromkeys(part.strip() for part in _LIST.split(cell(name)) if part.strip()))

    if len(cells) > len(header) and any(c.strip() for c in cells[len(header) :]):
        faults.append(
            CellFault(
                "",
                "The row has more cells than the header has columns. Put texts that hold the separator in quotation marks.",
            )
        )
    day = tried("date", lambda c: read_date(c, leads))
    slot = "time" not in places or cell("time").lower() == SLOT
    at = None if slot else tried("time", read_time)
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
    texts = {network: unsafe(cells[n].strip()) for network, n in own.items() if n < len(cells) and cells[n].strip()}
    mark = sha256("\x1f".join([c.strip() for c in cells]).encode("utf-8", "surrogatepass")).hexdigest()
    return Row(
        line=line, day=day if isinstance(day, date) else None, at=at if isinstance(at, time) else None, zone=cell("zone"),
        profiles=several("profiles"), text=cell("text"), texts=texts, media=several("media"), link=cell("link"),
        labels=several("labels"), kind=kind, title=cell("title"), first_comment=cell("first comment"),
        campaign=cell("campaign"), mark=mark, faults=tuple(faults),
    )  # fmt: skip


def _zone(cell: str) -> str:
    if cell:
        try:
            ZoneInfo(cell)
        except (ZoneInfoNotFoundError, ValueError, OSError):
            raise BadCell(
                f"There is no time zone “{cell[:40]}”. Write one like Europe/Madrid, or leave it empty for the brand's."
            ) from None
    return cell
