"""Wording help: the writer, tag suggestions, link cards. Proposals, nothing is kept."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import replace
from datetime import timedelta
from functools import cache
from urllib.parse import urljoin

from bs4 import BeautifulSoup
from django.conf import settings
from django.core.cache import cache as kept
from django.utils.module_loading import import_string

from menudo.base import clock
from menudo.base.fetch import CantFetch, fetch
from menudo.base.problems import Invalid
from menudo.brandsheet.models import BrandSheet
from menudo.brandsheet.reading import read_page
from menudo.library.actions.add import add
from menudo.library.models import Asset
from menudo.people.here import Here
from menudo.people.models import Brand
from menudo.posts.models import Campaign, Delivery
from menudo.profiles.actions.token import working_token
from menudo.profiles.models import Connection, Profile
from menudo.profiles.sheets import sheet_for
from menudo.profiles.wire import sign_in
from menudo.profiles.wire.micropub import Micropub
from menudo_core.networks.content import Card
from menudo_core.signoff.states import DeliveryState
from menudo_core.text.clean import unusable
from menudo_core.text.hashtags import hashtags
from menudo_core.wording.suggest import Known, Past, Suggestion, suggest
from menudo_core.wording.writer import CantWrite, Task, Voice, Wish, Writer

_RISING_SECONDS = 900
_MOST_ASKED = 4
_PAST_DAYS = 365


@cache
def writer() -> Writer:
    """The writer that the settings name (MENUDO_WRITER)."""
    made: Writer = import_string(settings.WRITER)()
    return made


def voice_of(brand: Brand) -> Voice:
    """Who speaks, from the brand sheet; it may be empty."""
    said = BrandSheet.objects.filter(brand=brand).values_list("said", flat=True).first() or {}
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


def suggestions(place: Here, text: str, campaign: int | None = None) -> list[Suggestion]:
    """Hashtags that suit the text, from the brand sheet, the campaign, what went out before, and what rises at the networks."""
    said = BrandSheet.objects.filter(brand=place.brand).values_list("said", flat=True).first() or {}
    known = Known(said.get("topics", ()), said.get("hashtags", ()), _past(place.brand), _rising(place.brand))
    gathered = Campaign.objects.filter(brand=place.brand, pk=campaign).first() if campaign else None
    if gathered:
        known = replace(known, campaign=(gathered.name, tuple(gathered.tags)))
    return suggest(text, known)


def _past(brand: Brand) -> dict[str, Past]:
    """How often each tag went out in the last year; what it earned is not measured yet."""
    since = clock.now() - timedelta(days=_PAST_DAYS)
    out = Delivery.objects.filter(brand=brand, state=DeliveryState.PUBLISHED, published_at__gte=since)
    counts: Counter[str] = Counter()
    by_post: dict[int, set[str]] = {}
    for post, sent in out.values_list("post_id", "sent").order_by("-published_at")[:2000]:
        tags = hashtags(f"{(sent or {}).get('text', '')} {(sent or {}).get('first_comment', '')}")
        by_post.setdefault(post, set()).update(tags)
    for said in by_post.values():
        counts.update(said)
    return {tag: Past(count) for tag, count in counts.most_common(200)}


def _rising(brand: Brand) -> dict[str, int]:
    """What rises at the brand's networks, asked at most every quarter of an hour; a network that doesn't answer is left out."""
    connections = Connection.objects.filter(
        brand=brand, state=Connection.State.CONNECTED, profiles__state=Profile.State.CONNECTED
    )
    found: Counter[str] = Counter()
    asked: set[str] = set()
    for connection in connections.distinct().order_by("pk"):
        if connection.network in asked or len(asked) == _MOST_ASKED:
            continue
        asked.add(connection.network)
        key = f"rising:{brand.pk}:{connection.network}"
        tags = kept.get(key)
        if tags is None:
            tags = _asked(connection)
            kept.set(key, tags, _RISING_SECONDS)
        for tag, count in tags.items():
            found[tag] = max(found[tag], count)
    return dict(found)


def _asked(connection: Connection) -> dict[str, int]:
    try:
        adapter = Micropub(sign_in.client_for(connection.endpoints), connection.endpoints, working_token(connection))
        return adapter.rising()
    except (sign_in.Ended, sign_in.NetworkError):
        return {}


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
    for address in list(addresses)[:4]:
        try:
            found = fetch(address, "image/*", settings.UPLOAD_MOST_BYTES)
            if found.type.startswith("image/"):
                return add(place, found.body, address.rsplit("/", 1)[-1].split("?")[0] or "picture of a link")
        except (CantFetch, Invalid):
            continue
    return None


def _clean(text: str) -> str:
    text = " ".join(text.split())
    return "" if unusable(text) else text
