"""Wording help: the writer, link cards. Proposals, nothing is kept."""

from collections.abc import Iterable
from functools import cache

from django.conf import settings
from django.utils.module_loading import import_string
from lxml.html import HtmlElement

from menudo.base.fetch import FetchError, fetch
from menudo.base.html import elements, named_metadata, parse_html, words_of
from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.base.web_addresses import absolute_address
from menudo.brandsheet.page_parser import parse_page
from menudo.brandsheet.queries import brand_sheet
from menudo.library.actions.fetch_asset import try_fetch_asset
from menudo.library.models import Asset
from menudo.people.context import BrandContext
from menudo.people.models import Brand
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.content import Card
from menudo_core.text.storable import unstorable_reason
from menudo_core.wording.writer import CannotWriteError, TaskKind, Voice, Writer, WritingTask


@cache
def configured_writer() -> Writer:
    """The writer that the settings name (MENUDO_WRITER)."""
    made: Writer = import_string(settings.WRITER)()
    return made


def brand_voice(brand: Brand) -> Voice:
    """Who speaks, from the brand sheet; it may be empty."""
    sheet = brand_sheet(brand)
    return Voice(
        brand=brand.name,
        about=sheet.about,
        topics=tuple(sheet.topics),
        use=tuple(sheet.use),
        avoid=tuple(sheet.avoid),
        salesy=sheet.salesy,
        emoji=sheet.emoji,
        language=sheet.language,
    )


def propose_texts(
    context: BrandContext, task: TaskKind, text: str, network: str, link: str, card: Card | None, seed: int
) -> list[str]:
    """The writer's proposals, kept to the network's limit (none when it isn't named). Raises InvalidError."""
    if task is TaskKind.FROM_LINK and card is None and link:
        card = read_link_card(context, link, pictures=False)[0]
    wish = WritingTask(task, text, link=link, card=card, voice=brand_voice(context.brand))
    if network:
        rule = sheet_for(context.brand.pk, network).text
        wish = WritingTask(task, text, rule.limit, rule.unit, rule.link_weight, link, card, wish.voice)
    try:
        return list(configured_writer().propose(wish, seed))
    except CannotWriteError as error:
        raise InvalidError.at("/text", str(error), "nothing") from error


def read_link_card(context: BrandContext, link: str, pictures: bool = True) -> tuple[Card, str]:
    """What the page at `link` says of itself, and the site's name. Raises InvalidError, at the link.

    A picture that can't be fetched or read is left out; one that can goes to the library.
    """
    try:
        page = fetch(link)
    except FetchError as error:
        raise InvalidError.at("/link", str(error), "fetch") from error
    if page.type not in ("text/html", "application/xhtml+xml"):
        raise InvalidError.at("/link", say("page.not_web", type=page.type) if page.type else say("page.typeless"))
    document = parse_html(page.text)
    properties = named_metadata(document, "property")
    parts = {f.part: f.value for f in parse_page(document, page.address)}
    title = (
        properties.get("og:title")
        or " ".join((document.findtext(".//title") or "").split())
        or str(parts.get("name", ""))
    )
    about = properties.get("og:description") or str(parts.get("about", ""))
    picture = _fetch_picture(context, picture_addresses(document, properties, page.address)) if pictures else None
    card = Card(_clean_text(title)[:300], _clean_text(about)[:1000], picture.pk if picture else None)
    return card, _clean_text(str(properties.get("og:site_name") or parts.get("name", "")))[:120]


def picture_addresses(document: HtmlElement, properties: dict[str, str], base: str) -> list[str]:
    found = [properties[name] for name in ("og:image:secure_url", "og:image:url", "og:image") if properties.get(name)]
    for rel in ("image_src", "apple-touch-icon", "icon"):
        found += [e.get("href", "") for e in elements(document, "link", having=("href",)) if rel in words_of(e, "rel")]
    addresses = (absolute_address(base, one) for one in found)
    return list(dict.fromkeys(one for one in addresses if one))


def _fetch_picture(context: BrandContext, addresses: Iterable[str]) -> Asset | None:
    """The first of the likeliest few that can be had."""
    tried = (try_fetch_asset(context, address, settings.UPLOAD_MOST_BYTES) for address in list(addresses)[:4])
    return next((asset for asset in tried if asset is not None), None)


def _clean_text(text: str) -> str:
    text = " ".join(text.split())
    return "" if unstorable_reason(text) else text
