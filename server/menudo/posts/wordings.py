"""Wording help: the writer, link cards. Proposals, nothing is kept."""

from collections.abc import Iterable
from functools import cache
from urllib.parse import urljoin

from bs4 import BeautifulSoup
from django.conf import settings
from django.utils.module_loading import import_string

from menudo.base.fetch import CantFetch, fetch
from menudo.base.problems import Invalid
from menudo.brandsheet.reading import read_page
from menudo.brandsheet.reads import said_of
from menudo.library.actions.fetch_in import fetched
from menudo.library.models import Asset
from menudo.people.here import Here
from menudo.people.models import Brand
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.content import Card
from menudo_core.text.clean import unusable
from menudo_core.wording.writer import CantWrite, Task, Voice, Wish, Writer


@cache
def writer() -> Writer:
    """The writer that the settings name (MENUDO_WRITER)."""
    made: Writer = import_string(settings.WRITER)()
    return made


def voice_of(brand: Brand) -> Voice:
    """Who speaks, from the brand sheet; it may be empty."""
    said = said_of(brand)
    return Voice(
        brand=brand.name,
        about=said.get("about", ""),
        topics=tuple(said.get("topics", ())),
        use=tuple(said.get("use", ())),
        avoid=tuple(said.get("avoid", ())),
        salesy=said.get("salesy", 1),
        emoji=said.get("emoji", 1),
        language=said.get("language", ""),
    )


def propose(place: Here, task: Task, text: str, network: str, link: str, card: Card | None, seed: int) -> list[str]:
    """The writer's proposals, kept to the network's limit (none when it isn't named). Raises Invalid."""
    if task is Task.FROM_LINK and card is None and link:
        card = read_card(place, link, pictures=False)[0]
    wish = Wish(task, text, link=link, card=card, voice=voice_of(place.brand))
    if network:
        rule = sheet_for(place.brand.pk, network).text
        wish = Wish(task, text, rule.limit, rule.unit, rule.link_weight, link, card, wish.voice)
    try:
        return list(writer().propose(wish, seed))
    except CantWrite as error:
        raise Invalid.at("/text", str(error), "nothing") from error


def read_card(place: Here, link: str, pictures: bool = True) -> tuple[Card, str]:
    """What the page at `link` says of itself, and the site's name. Raises Invalid, at the link.

    A picture that can't be fetched or read is left out; one that can goes to the library.
    """
    try:
        page = fetch(link)
    except CantFetch as error:
        raise Invalid.at("/link", str(error), "fetch") from error
    if page.type not in ("text/html", "application/xhtml+xml"):
        raise Invalid.at("/link", f"That is not a web page but {page.type or 'something without a type'}.", "fetch")
    soup = BeautifulSoup(page.text, "html.parser")
    said = {str(t["property"]): str(t["content"]).strip() for t in soup.find_all("meta", property=True, content=True)}
    parts = {f.part: f.value for f in read_page(page.text, page.address)}
    title = (
        said.get("og:title") or (soup.title.get_text(strip=True) if soup.title else "") or str(parts.get("name", ""))
    )
    about = said.get("og:description") or str(parts.get("about", ""))
    picture = _picture(place, _addresses(soup, said, page.address)) if pictures else None
    card = Card(_clean(title)[:300], _clean(about)[:1000], picture.pk if picture else None)
    return card, _clean(str(said.get("og:site_name") or parts.get("name", "")))[:120]


def _addresses(soup: BeautifulSoup, said: dict[str, str], base: str) -> list[str]:
    found = [said[name] for name in ("og:image:secure_url", "og:image:url", "og:image") if said.get(name)]
    for rel in ("image_src", "apple-touch-icon", "icon"):
        found += [str(tag["href"]) for tag in soup.find_all("link", rel=rel, href=True)]
    return list(dict.fromkeys(urljoin(base, one) for one in found))


def _picture(place: Here, addresses: Iterable[str]) -> Asset | None:
    """The first of the likeliest few that can be had."""
    tried = (fetched(place, address, settings.UPLOAD_MOST_BYTES) for address in list(addresses)[:4])
    return next((asset for asset in tried if asset is not None), None)


def _clean(text: str) -> str:
    text = " ".join(text.split())
    return "" if unusable(text) else text
