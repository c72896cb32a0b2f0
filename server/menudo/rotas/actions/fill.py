"""Fill a rota from elsewhere: quotations of the collection, and a table of texts."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from itertools import islice

from menudo.base.problems import Fault, Invalid
from menudo.brandsheet.reads import said_of
from menudo.library.actions.add import add
from menudo.library.drawing import can_draw, quotation
from menudo.library.models import Asset
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.posts.change.decision import NewPost, PostStatus
from menudo.profiles.sheets import sheet_for
from menudo.rotas.actions.change_rota import change_rota
from menudo.rotas.actions.turns import Filling, put_in, room_for
from menudo.rotas.models import Rota
from menudo_core.networks.content import Content, PostContent
from menudo_core.networks.ratios import drawn_for
from menudo_core.plans.sheet import BadSheet, read
from menudo_core.quotations.collection import Quotation, by_id, said
from menudo_core.text.clean import unusable

_TIMES = 1000
_WORDINGS = 20


def add_quotations(place: Here, rota: Rota, ids: Sequence[str], pictures: bool, tags: Sequence[str]) -> int:
    """A turn for each quotation that the rota hasn't yet, as text or as a picture in the brand's colours, with the tags
    under each. A rota with quotations goes out once a day at most. How many. Raises Invalid."""
    place.needs(May.PUBLISH)
    known = by_id()
    faults = [
        Fault(f"/quotations/{n}", "This quotation isn't in the collection.", "foreign")
        for n, id in enumerate(ids)
        if id not in known
    ]
    if faults:
        raise Invalid(faults=faults)
    wanted = [known[id] for id in _missing(rota, ids)]
    # Drawn before anything is locked: it takes long.
    drawn = _Drawing(place, rota) if pictures else None
    new = {one.id: _post(place, one, drawn, tags) for one in wanted}
    with change_rota(place, rota) as change:
        # Another may have put some in meanwhile, or taken some out.
        fresh = [id for id in _missing(rota, ids) if id in new]
        if rota.apart < 1:
            Rota.objects.filter(pk=rota.pk).update(apart=1)
        posts = change.create([new[id] for id in fresh])
        return put_in(change, rota, [Filling([post], quotation=id) for post, id in zip(posts, fresh, strict=True)])


def _missing(rota: Rota, ids: Sequence[str]) -> list[str]:
    """Those of the quotations that the rota hasn't yet, each once. Raises Invalid where it has all of them, or no room."""
    there = set(rota.turns.values_list("quotation", flat=True))
    fresh = [id for id in dict.fromkeys(ids) if id not in there]
    if not fresh:
        raise Invalid.at("/quotations", "All of these are in the rota already.", "twice")
    room_for(rota, len(fresh), "/quotations")
    return fresh


def _post(place: Here, one: Quotation, drawn: "_Drawing | None", tags: Sequence[str]) -> NewPost:
    media = (drawn.picture(one).pk,) if drawn is not None else ()
    return _evergreen(place, Content(said(one, tags), media))


def _evergreen(place: Here, content: Content) -> NewPost:
    return NewPost(PostContent(master=content), (), place.user, PostStatus(evergreen=True))


class _Drawing:
    """Quotations as pictures of a shape that all the rota's networks take."""

    def __init__(self, place: Here, rota: Rota) -> None:
        self._place = place
        self._colours = said_of(place.brand).get("colours", [])
        networks = {profile.network for profile in rota.profiles.all()}
        self._size = drawn_for(sheet_for(place.brand.pk, network) for network in sorted(networks))

    def picture(self, one: Quotation) -> Asset:
        words, who = f"“{one.text}”", f"{one.author}, {one.work}"
        if not can_draw(words + who):
            raise Invalid.at("/pictures", f"These letters can't be drawn: {one.text[:80]}. Take it as text.", "letters")
        return add(
            self._place, quotation(words, who, self._colours, self._size), f"{one.author}.png", alt=f"{words} {who}"
        )


@dataclass
class _Row:
    line: int
    texts: list[str] = field(default_factory=list)
    picture: str = ""
    link: str = ""
    times: int | None = None
    until: date | None = None


def add_table(place: Here, rota: Rota, raw: bytes) -> int:
    """A turn for each row of a CSV file; all of them or none. Its columns: text (more of them are further wordings),
    picture (a name in the library), link, times, until. How many. Raises Invalid with every bad row."""
    place.needs(May.PUBLISH)
    if len(raw) > 2_000_000:
        raise Invalid.at("/file", "A table is 2 MB at most. Split it.", "large")
    try:
        table = read(raw)
    except BadSheet as bad:
        raise Invalid.at("/file", str(bad), "unreadable") from bad
    names = [name.casefold().split(" ")[0] for name in table.header]
    if "text" not in names and "picture" not in names:
        raise Invalid.at("/file", "The first row must name its columns: text, picture, link, times, until.", "header")
    assets: dict[str, Asset] = {}
    for asset in Asset.objects.filter(brand=place.brand, binned__isnull=True).order_by("-pk"):
        assets.setdefault(asset.name.casefold(), asset)
    faults: list[Fault] = []
    rows = [_row(line, names, cells, assets, faults) for line, cells in table.rows]
    if faults:
        raise Invalid(faults=faults[:200])
    with change_rota(place, rota) as change:
        room_for(rota, len(rows), "/file")
        made = iter(change.create([post for row in rows for post in _posts(place, row, assets)]))
        fillings = [Filling(list(islice(made, len(row.texts) or 1)), row.times, row.until) for row in rows]
        return put_in(change, rota, fillings)


def _row(line: int, names: list[str], cells: Sequence[str], assets: dict[str, Asset], faults: list[Fault]) -> _Row:
    row, pointer = _Row(line), f"/file/{line}"
    for name, cell in zip(names, (c.strip() for c in cells), strict=False):
        if not cell:
            continue
        if words := unusable(cell):
            faults.append(Fault(pointer, f"Line {line}: {words}", "text"))
        elif name == "text":
            row.texts.append(cell[:20_000])
        elif name == "picture":
            row.picture = cell.casefold()
            if row.picture not in assets:
                faults.append(Fault(pointer, f"Line {line}: there is no “{cell[:60]}” in the library.", "picture"))
        elif name == "link":
            row.link = cell[:2000]
            if not cell.startswith(("http://", "https://")):
                faults.append(Fault(pointer, f"Line {line}: “{cell[:60]}” is no web address.", "link"))
        elif name == "times":
            row.times = int(cell) if cell.isascii() and cell.isdigit() and 0 < int(cell) <= _TIMES else None
            if row.times is None:
                faults.append(Fault(pointer, f"Line {line}: “{cell[:20]}” is no number from 1 to {_TIMES}.", "times"))
        elif name == "until":
            row.until = _day(cell)
            if row.until is None:
                faults.append(
                    Fault(pointer, f"Line {line}: “{cell[:20]}” is no day. Write it like 2027-03-31.", "until")
                )
    if not row.texts and not row.picture:
        faults.append(Fault(pointer, f"Line {line}: it has neither a text nor a picture.", "empty"))
    if len(row.texts) > _WORDINGS:
        faults.append(Fault(pointer, f"Line {line}: a turn has {_WORDINGS} wordings at most.", "many"))
    return row


def _day(cell: str) -> date | None:
    try:
        return date.fromisoformat(cell)
    except ValueError:
        return None


def _posts(place: Here, row: _Row, assets: dict[str, Asset]) -> list[NewPost]:
    """A post for each wording of a row; of a picture alone, one with its caption."""
    media = (assets[row.picture].pk,) if row.picture else ()
    texts = row.texts or [assets[row.picture].caption]
    return [_evergreen(place, Content(text, media, row.link)) for text in texts]
