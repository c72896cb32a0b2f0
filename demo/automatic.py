"""What keeps going by itself in the demo: feeds followed, a catalogue read twice, relays on the board, starters."""

from datetime import timedelta
from typing import Any

from demo import outside
from demo.standin import URL as STANDIN_URL
from demo.standin import post_to_standin
from menudo.base import clock
from menudo.catalogue.actions.poll_catalogue import poll_catalogue
from menudo.catalogue.actions.save_catalogue import inspect_catalogue
from menudo.catalogue.actions.save_catalogue import save_catalogue as keep_catalogue
from menudo.catalogue.models import Catalogue
from menudo.catalogue.queries import inspection_out
from menudo.catalogue.schemas import CatalogueIn
from menudo.feeds.actions.check_articles import check_articles
from menudo.feeds.actions.follow_feed import follow_feed
from menudo.feeds.actions.poll_feed import poll_feed
from menudo.feeds.models import Feed
from menudo.notices.models import Notice
from menudo.people.capabilities import ROLES
from menudo.people.context import BrandContext
from menudo.people.models import Brand, User
from menudo.profiles.models import Profile
from menudo.relays.actions.run_relay import run_due_relays
from menudo.relays.actions.save_relay import save_relay
from menudo.relays.models import Relay
from menudo.relays.schemas import RelaySettings, SourceIO
from menudo.starters.actions.supply_starters import supply_all


def add_automatic(slug: str, email: str) -> None:
    """For one brand; nothing of it stands on the calendar or in the tray."""
    brand = Brand.objects.get(slug=slug)
    context = BrandContext(User.objects.get(email=email), brand, frozenset(ROLES["coordinator"]))
    pictures = _put_pictures()
    feeds = {name: _follow_feed(context, name, pictures) for name in ("sky", "journal")}
    catalogue = _add_catalogue(context, pictures)
    _add_relays(context, feeds, catalogue)
    for name, feed in feeds.items():
        _put_feed(name, pictures, 0)
        poll_feed(feed.pk)
    check_articles()
    _put_plants(pictures, later=True)
    poll_catalogue(catalogue.pk)
    run_due_relays()
    # What it told while the world was being made is told already.
    Notice.objects.filter(kind__in=["ask", "trouble"], path__contains="/relays").update(
        read_at=clock.now(), mailed_at=clock.now()
    )
    supply_all()


def _put_file(site: str, path: str, kind: str, **what: Any) -> str:
    address: str = post_to_standin("control/api/files", {"site": site, "path": path, "type": kind, **what}).json()[
        "url"
    ]
    return address


def _put_pictures() -> dict[str, str]:
    """A picture on the stand-in's site for each colour that something has, named for the first that has it."""
    named: dict[str, str] = {}
    for title, colour in [(row[1], row[4]) for row in (*outside.SKY, *outside.JOURNAL)] + [
        (plant[1], plant[5]) for plant in (*outside.PLANTS, outside.NEW)
    ]:
        if colour:
            words = "".join(ch if ch.isalnum() else " " for ch in title.lower()).split()
            named.setdefault(colour, "-".join(words[:4]))
    return {
        colour: _put_file("fernhollow", f"{name}.jpg", "image/jpeg", picture=colour) for colour, name in named.items()
    }


def _put_feed(name: str, pictures: dict[str, str], older_than: float) -> str:
    if name == "sky":
        site = f"{STANDIN_URL}/site/cieloalto/"
        items = outside.build_entries(outside.SKY, site, pictures, older_than)
        text = outside.build_atom_feed("Sky notes of the valley", site, items)
        return _put_file("cieloalto", "sky.xml", "application/atom+xml", text=text)
    site = f"{STANDIN_URL}/site/fernhollow/"
    items = outside.build_entries(outside.JOURNAL, site, pictures, older_than)
    return _put_file(
        "fernhollow",
        "journal.json",
        "application/feed+json",
        text=outside.build_json_feed("Garden journal", site, items),
    )


def _follow_feed(context: BrandContext, name: str, pictures: dict[str, str]) -> Feed:
    return follow_feed(context, _put_feed(name, pictures, 100), shelved=True, interval=60)


def _put_plants(pictures: dict[str, str], later: bool) -> str:
    return _put_file("fernhollow", "nursery.csv", "text/csv", text=outside.plants_csv(pictures, later, clock.now()))


def _add_catalogue(context: BrandContext, pictures: dict[str, str]) -> Catalogue:
    address = _put_plants(pictures, later=False)
    mapping: dict[str, Any] = {
        **inspection_out(inspect_catalogue(context, address, None), None).mapping,
        "title": "plant",
        "about": "notes",
    }
    rules = [{"name": "Bigger pot", "field": "pot", "change": "changes"}]
    settings = {
        "name": "Nursery",
        "address": address,
        "mapping": {**mapping, "open_day": "opens"},
        "currency": "EUR",
        "rules": rules,
    }
    return keep_catalogue(context, None, CatalogueIn.model_validate(settings))


def _add_relays(context: BrandContext, feeds: dict[str, Feed], catalogue: Catalogue) -> None:
    def first(network: str) -> Profile:
        found = Profile.objects.filter(brand=context.brand, network=network).order_by("pk").first()
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
    with_picture = {"conditions": {"has": ["picture"], "but": ["onlyhere"]}, "timing": "slot"}
    board = {
        "adaptation": {
            "take": "first",
            "fields": {"title": "{title 90}", "board": "Winter borders"},
            "link_to": "{address}",
        }
    }
    asks, tells = {"confirmation": "asks", "timing": "slot"}, {"confirmation": "tells"}
    cells: list[tuple[str, str, Profile, bool, dict[str, Any]]] = [
        (photos, "", brisk, True, with_picture),
        (photos, "", plaza, True, with_picture),
        (photos, "", tackboard, True, {**with_picture, **board, "confirmation": "asks"}),
        (f"p{plaza.pk}", "", vitrine, False, with_picture),
        (sky, "", brisk, True, {**asks, "daily_limit": 2, "messages": [{"text": "{title}. {summary 150}"}]}),
        (journal, "", brisk, True, {**asks, "conditions": {"tags": ["moss", "pond"]}}),
        (journal, "", plaza, True, tells),
        (journal, "", guildhall, False, asks),
        (nursery, "new", plaza, True, asks),
        (nursery, "new", waypost, False, asks),
        (nursery, "lowered", brisk, True, {"confirmation": "asks", "adaptation": {"take": "first"}}),
        (nursery, "lowered", plaza, True, {"confirmation": "asks", "adaptation": {"take": "first"}}),
        (nursery, "sold", plaza, True, tells),
        (nursery, "open_day", plaza, True, tells),
    ]
    started_at = clock.now() - timedelta(hours=4)
    for key, event, target, on, settings in cells:
        source = SourceIO(key=key, event=event)
        relay = save_relay(context, None, RelaySettings.model_validate(settings), source=source, target=target.pk)
        if on:
            since = started_at if key[0] in "fc" else clock.now()
            Relay.objects.filter(pk=relay.pk).update(active=True, carries_since=since, activated_at=since)
