"""What keeps going by itself in the demo: feeds followed, a catalogue read twice, relays on the board, starters."""

from datetime import timedelta
from typing import Any

from demo import outside
from demo.standin import URL as STANDIN_URL
from demo.standin import standin
from menudo.base import clock
from menudo.catalogue.actions.keep import keep as keep_catalogue
from menudo.catalogue.actions.keep import look
from menudo.catalogue.actions.read_catalogue import read_catalogue
from menudo.catalogue.models import Catalogue
from menudo.catalogue.reads import looked
from menudo.catalogue.schemas import CatalogueIn
from menudo.feeds.actions.check_articles import check_articles
from menudo.feeds.actions.follow import follow
from menudo.feeds.actions.read_feed import read_feed
from menudo.feeds.models import Feed
from menudo.notices.models import Notice
from menudo.people.capabilities import ROLES
from menudo.people.here import Here
from menudo.people.models import Brand, User
from menudo.profiles.models import Profile
from menudo.relays.actions.carry import round_of_relays
from menudo.relays.actions.keep import keep
from menudo.relays.models import Relay
from menudo.relays.schemas import RelaySettings, SourceIO
from menudo.starters.actions.supply import supply_all


def add_automatic(slug: str, email: str) -> None:
    """For one brand; nothing of it stands on the calendar or in the tray."""
    brand = Brand.objects.get(slug=slug)
    place = Here(User.objects.get(email=email), brand, frozenset(ROLES["coordinator"]))
    pictures = _pictures()
    feeds = {name: _feed(place, name, pictures) for name in ("sky", "journal")}
    catalogue = _catalogue(place, pictures)
    _relays(place, feeds, catalogue)
    for name, feed in feeds.items():
        _put_feed(name, pictures, 0)
        read_feed(feed.pk)
    check_articles()
    _put_plants(pictures, later=True)
    read_catalogue(catalogue.pk)
    round_of_relays()
    # What it told while the world was being made is told already.
    Notice.objects.filter(kind__in=["ask", "trouble"], path__contains="/relays").update(
        read_at=clock.now(), mailed_at=clock.now()
    )
    supply_all()


def _put(site: str, path: str, kind: str, **what: Any) -> str:
    address: str = standin("control/api/files", {"site": site, "path": path, "type": kind, **what}).json()["url"]
    return address


def _pictures() -> dict[str, str]:
    """A picture on the stand-in's site for each colour that something has, named for the first that has it."""
    named: dict[str, str] = {}
    for title, colour in [(row[1], row[4]) for row in (*outside.SKY, *outside.JOURNAL)] + [
        (plant[1], plant[5]) for plant in (*outside.PLANTS, outside.NEW)
    ]:
        if colour:
            words = "".join(ch if ch.isalnum() else " " for ch in title.lower()).split()
            named.setdefault(colour, "-".join(words[:4]))
    return {colour: _put("fernhollow", f"{name}.jpg", "image/jpeg", picture=colour) for colour, name in named.items()}


def _put_feed(name: str, pictures: dict[str, str], older_than: float) -> str:
    if name == "sky":
        site = f"{STANDIN_URL}/site/cieloalto/"
        items = outside.entries(outside.SKY, site, pictures, older_than)
        text = outside.atom("Sky notes of the valley", site, items)
        return _put("cieloalto", "sky.xml", "application/atom+xml", text=text)
    site = f"{STANDIN_URL}/site/fernhollow/"
    items = outside.entries(outside.JOURNAL, site, pictures, older_than)
    return _put(
        "fernhollow", "journal.json", "application/feed+json", text=outside.json_feed("Garden journal", site, items)
    )


def _feed(place: Here, name: str, pictures: dict[str, str]) -> Feed:
    return follow(place, _put_feed(name, pictures, 100), shelved=True, every=60)


def _put_plants(pictures: dict[str, str], later: bool) -> str:
    return _put("fernhollow", "nursery.csv", "text/csv", text=outside.plants(pictures, later, clock.now()))


def _catalogue(place: Here, pictures: dict[str, str]) -> Catalogue:
    address = _put_plants(pictures, later=False)
    mapping: dict[str, Any] = {
        **looked(look(place, address, None), None)["mapping"],
        "title": "plant",
        "about": "notes",
    }
    rules = [{"name": "Bigger pot", "field": "pot", "change": "changes"}]
    said = {
        "name": "Nursery",
        "address": address,
        "mapping": {**mapping, "open_day": "opens"},
        "currency": "EUR",
        "rules": rules,
    }
    return keep_catalogue(place, None, CatalogueIn.model_validate(said))


def _relays(place: Here, feeds: dict[str, Feed], catalogue: Catalogue) -> None:
    def first(network: str) -> Profile:
        found = Profile.objects.filter(brand=place.brand, network=network).order_by("pk").first()
        assert found is not None
        return found

    brisk, plaza, vitrine = first("brisk"), first("plaza"), first("vitrine")
    guildhall, tackboard, waypost = first("guildhall"), first("tackboard"), first("waypost")
    photos, nursery, sky, journal = (
        f"p{vitrine.pk}",
        f"c{catalogue.pk}",
        f"f{feeds['sky'].pk}",
        f"f{feeds['journal'].pk}",
    )
    with_picture = {"conditions": {"has": ["picture"], "but": ["onlyhere"]}, "how": "slot"}
    board = {
        "shape": {"take": "first", "fields": {"title": "{title 90}", "board": "Winter borders"}, "link_to": "{address}"}
    }
    asks, tells = {"asks": "asks", "how": "slot"}, {"asks": "tells"}
    cells: list[tuple[str, str, Profile, bool, dict[str, Any]]] = [
        (photos, "", brisk, True, with_picture),
        (photos, "", plaza, True, with_picture),
        (photos, "", tackboard, True, {**with_picture, **board, "asks": "asks"}),
        (f"p{plaza.pk}", "", vitrine, False, with_picture),
        (sky, "", brisk, True, {**asks, "per_day": 2, "messages": [{"text": "{title}. {summary 150}"}]}),
        (journal, "", brisk, True, {**asks, "conditions": {"tags": ["moss", "pond"]}}),
        (journal, "", plaza, True, tells),
        (journal, "", guildhall, False, asks),
        (nursery, "new", plaza, True, asks),
        (nursery, "new", waypost, False, asks),
        (nursery, "lowered", brisk, True, {"asks": "asks", "shape": {"take": "first"}}),
        (nursery, "lowered", plaza, True, {"asks": "asks", "shape": {"take": "first"}}),
        (nursery, "sold", plaza, True, tells),
        (nursery, "open_day", plaza, True, tells),
    ]  # fmt: skip
    began = clock.now() - timedelta(hours=4)
    for key, event, target, on, said in cells:
        source = SourceIO(key=key, event=event)
        relay = keep(place, None, RelaySettings.model_validate(said), source=source, target=target.pk)
        if on:
            since = began if key[0] in "fc" else clock.now()
            Relay.objects.filter(pk=relay.pk).update(on=True, since=since, on_at=since)
