"""Fill a rota from elsewhere: quotations of the collection, and a table of texts."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from itertools import islice

from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.brandsheet.queries import brand_sheet
from menudo.library.actions.add_asset import add_asset
from menudo.library.drawing import can_draw, draw_quotation
from menudo.library.models import Asset
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.posts.change.decision import NewPost, PostStatus
from menudo.profiles.sheets import sheet_for
from menudo.rotas.actions.change_rota import change_rota
from menudo.rotas.actions.change_turns import Filling, insert_turns, require_room
from menudo.rotas.models import Rota
from menudo_core.networks.content import Content, PostContent
from menudo_core.networks.ratios import drawing_size
from menudo_core.plans.table import InvalidTableError, parse_table
from menudo_core.quotations.collection import Quotation, quotation_text, quotations_by_id
from menudo_core.text.storable import unstorable_reason

MAX_TABLE_BYTES = 2_000_000
_TIMES = 1000
_WORDINGS = 20


def add_quotations(context: BrandContext, rota: Rota, ids: Sequence[str], pictures: bool, tags: Sequence[str]) -> int:
    """A turn for each quotation that the rota hasn't yet, as text or as a picture in the brand's colours, with the tags
    under each. A rota with quotations goes out once a day at most. How many. Raises InvalidError."""
    context.require(Capability.PUBLISH)
    known = quotations_by_id()
    faults = [
        Fault(f"/quotations/{n}", say("quotation.unknown"))
        for n, quotation_id in enumerate(ids)
        if quotation_id not in known
    ]
    if faults:
        raise InvalidError(faults=faults)
    wanted = [known[quotation_id] for quotation_id in _new_quotations(rota, ids)]
    # Drawn before anything is locked: it takes long.
    drawn = _QuotationPictures(context, rota) if pictures else None
    new = {one.id: _quotation_post(context, one, drawn, tags) for one in wanted}
    with change_rota(context, rota) as change:
        # Another may have put some in meanwhile, or taken some out.
        fresh = [quotation_id for quotation_id in _new_quotations(rota, ids) if quotation_id in new]
        if rota.gap_days < 1:
            Rota.objects.filter(pk=rota.pk).update(gap_days=1)
        posts = change.create([new[quotation_id] for quotation_id in fresh])
        return insert_turns(
            change,
            rota,
            [Filling([post], quotation=quotation_id) for post, quotation_id in zip(posts, fresh, strict=True)],
        )


def _new_quotations(rota: Rota, ids: Sequence[str]) -> list[str]:
    """Those of the quotations that the rota hasn't yet, each once. Raises InvalidError where it has all of them, or no room."""
    there = set(rota.turns.values_list("quotation", flat=True))
    fresh = [quotation_id for quotation_id in dict.fromkeys(ids) if quotation_id not in there]
    if not fresh:
        raise InvalidError.at("/quotations", say("quotation.all_there"))
    require_room(rota, len(fresh), "/quotations")
    return fresh


def _quotation_post(
    context: BrandContext, one: Quotation, drawn: "_QuotationPictures | None", tags: Sequence[str]
) -> NewPost:
    media = (drawn.picture(one).pk,) if drawn is not None else ()
    return _evergreen_post(context, Content(quotation_text(one, tags), media))


def _evergreen_post(context: BrandContext, content: Content) -> NewPost:
    return NewPost(PostContent(master=content), (), context.user, PostStatus(evergreen=True))


class _QuotationPictures:
    """Quotations as pictures of a shape that all the rota's networks take."""

    def __init__(self, context: BrandContext, rota: Rota) -> None:
        self._context = context
        self._colours = brand_sheet(context.brand).colours
        networks = {profile.network for profile in rota.profiles.all()}
        self._size = drawing_size(sheet_for(context.brand.pk, network) for network in sorted(networks))

    def picture(self, one: Quotation) -> Asset:
        words, who = f"“{one.text}”", f"{one.author}, {one.work}"
        if not can_draw(words + who):
            raise InvalidError.at("/pictures", say("quotation.letters", text=one.text[:80]))
        return add_asset(
            self._context,
            draw_quotation(words, who, self._colours, self._size),
            f"{one.author}.png",
            alt=f"{words} {who}",
        )


@dataclass
class _Row:
    line: int
    texts: list[str] = field(default_factory=list)
    picture: str = ""
    link: str = ""
    times: int | None = None
    until: date | None = None


def add_table(context: BrandContext, rota: Rota, raw: bytes) -> int:
    """A turn for each row of a CSV file; all of them or none. Its columns: text (more of them are further wordings),
    picture (a name in the library), link, times, until. How many. Raises InvalidError with every bad row."""
    context.require(Capability.PUBLISH)
    if len(raw) > MAX_TABLE_BYTES:
        raise InvalidError.at("/file", say("rota.table_large"))
    try:
        table = parse_table(raw)
    except InvalidTableError as bad:
        raise InvalidError.at("/file", str(bad), "unreadable") from bad
    names = [name.casefold().split(" ")[0] for name in table.header]
    if "text" not in names and "picture" not in names:
        raise InvalidError.at("/file", say("rota.table_header"))
    assets: dict[str, Asset] = {}
    for asset in Asset.objects.filter(brand=context.brand, deleted_at__isnull=True).order_by("-pk"):
        assets.setdefault(asset.name.casefold(), asset)
    faults: list[Fault] = []
    rows = [_parse_row(line, names, cells, assets, faults) for line, cells in table.rows]
    if faults:
        raise InvalidError(faults=faults[:200])
    with change_rota(context, rota) as change:
        require_room(rota, len(rows), "/file")
        made = iter(change.create([post for row in rows for post in _row_posts(context, row, assets)]))
        fillings = [Filling(list(islice(made, len(row.texts) or 1)), row.times, row.until) for row in rows]
        return insert_turns(change, rota, fillings)


def _parse_row(
    line: int, names: list[str], cells: Sequence[str], assets: dict[str, Asset], faults: list[Fault]
) -> _Row:
    row, pointer = _Row(line), f"/file/{line}"
    for name, cell in zip(names, (c.strip() for c in cells), strict=False):
        if not cell:
            continue
        if words := unstorable_reason(cell):
            faults.append(Fault(pointer, say("rota.line", line=line, reason=words)))
        elif name == "text":
            row.texts.append(cell[:20_000])
        elif name == "picture":
            row.picture = cell.casefold()
            if row.picture not in assets:
                faults.append(Fault(pointer, say("rota.line_picture", line=line, picture=cell[:60])))
        elif name == "link":
            row.link = cell[:2000]
            if not cell.startswith(("http://", "https://")):
                faults.append(Fault(pointer, say("rota.line_link", line=line, link=cell[:60])))
        elif name == "times":
            row.times = int(cell) if cell.isascii() and cell.isdigit() and 0 < int(cell) <= _TIMES else None
            if row.times is None:
                faults.append(Fault(pointer, say("rota.line_times", line=line, times=cell[:20], most=_TIMES)))
        elif name == "until":
            row.until = _parse_day(cell)
            if row.until is None:
                faults.append(Fault(pointer, say("rota.line_until", line=line, until=cell[:20])))
    if not row.texts and not row.picture:
        faults.append(Fault(pointer, say("rota.line_empty", line=line)))
    if len(row.texts) > _WORDINGS:
        faults.append(Fault(pointer, say("rota.line_wordings", line=line, most=_WORDINGS)))
    return row


def _parse_day(cell: str) -> date | None:
    try:
        return date.fromisoformat(cell)
    except ValueError:
        return None


def _row_posts(context: BrandContext, row: _Row, assets: dict[str, Asset]) -> list[NewPost]:
    """A post for each wording of a row; of a picture alone, one with its caption."""
    media = (assets[row.picture].pk,) if row.picture else ()
    texts = row.texts or [assets[row.picture].caption]
    return [_evergreen_post(context, Content(text, media, row.link)) for text in texts]
