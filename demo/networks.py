"""The demo's accounts and profiles at the stand-in networks, and the brands' web sites. All invented.

Every brand has an account at every network, named as its login. The garden and the bakery have connected theirs;
the observatory has connected nothing yet, so that one can.
"""

from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True)
class Profile:
    """A profile at a network. `facts` are what the network knows of it; `days` until its connection ends."""

    brand: str
    network: str
    uid: str
    handle: str
    name: str
    kind: str
    colour: str
    connected: bool = True
    followers: int = 0
    facts: dict[str, str] = field(default_factory=dict)
    days: float = 61


@dataclass(frozen=True)
class ByHand:
    """A profile that a person publishes to. `keeper` is whose it is to do."""

    brand: str
    network: str
    kind: str
    name: str
    keeper: str
    url: str = ""


_G, _B, _O = "garden", "bakery", "observatory"
PROFILES = [
    Profile(_G, "brisk", "fernhollow", "@fernhollow", "Fernhollow Garden", "account", "#2f6b4a", True, 4120),
    Profile(_G, "brisk", "fernhollow-nursery", "@fernhollow.nursery", "Fernhollow Nursery", "account", "#7c9a3d", True, 1310),
    Profile(_G, "brisk", "fernhollow-talks", "@fernhollow.talks", "Talks at Fernhollow", "account", "#4d6f8f", False, 240),
    Profile(_G, "plaza", "fernhollow-page", "Fernhollow Garden", "Fernhollow Botanic Garden", "page", "#2f6b4a", True, 8800),
    Profile(_G, "plaza", "nursery-friends", "Nursery friends", "Friends of the nursery", "group", "#7c9a3d", True, 612, {"app": "on"}),
    Profile(_G, "plaza", "maud-ellery", "Maud Ellery", "Maud Ellery", "personal", "#8f6f4d", False, 310),
    Profile(_G, "vitrine", "fernhollow-photos", "fernhollow.garden", "Fernhollow in pictures", "business", "#3f5b46", True, 12400, {"tied_page": "administered"}),
    Profile(_G, "guildhall", "fernhollow-trust", "Fernhollow Trust", "Fernhollow Garden Trust", "company", "#5a5230", True, 930),
    Profile(_G, "tackboard", "winter-borders", "Winter borders", "Fernhollow at Tackboard", "account", "#7b4b2a", True, 2050),
    Profile(_G, "cinta", "fernhollow-films", "Fernhollow films", "Fernhollow films", "channel", "#3a3f52", True, 5400),
    Profile(_G, "vuelta", "fernhollow-short", "fernhollow", "Fernhollow, once round", "account", "#5b1f45", True, 1720),
    Profile(_G, "waypost", "garden-valdemora", "Garden, Valdemora", "Fernhollow Botanic Garden", "location", "#3e5230", True, 0, {"verified": "yes"}),
    Profile(_G, "open-site", "fernhollow", "fernhollow.example", "Fernhollow Botanic Garden", "site", "#2f6b4a", True, 0),
    Profile(_G, "foolscap", "fernhollow-notebook", "Fernhollow notebook", "Notes from the glasshouses", "blog", "#7a3b2e", False, 0),
    Profile(_B, "brisk", "hogaza", "@hogaza", "Hogaza Bakery", "account", "#b57a06", True, 2230),
    Profile(_B, "brisk", "hogaza-mill", "@hogaza.mill", "Hogaza, Mill Lane", "account", "#8a5a2b", True, 410),
    Profile(_B, "plaza", "hogaza-page", "Hogaza Bakery", "Hogaza Bakery", "page", "#b57a06", True, 3120, {}, 2.5),
    Profile(_B, "waypost", "hogaza-mill-lane", "Hogaza, Mill Lane", "Hogaza Bakery, Mill Lane", "location", "#8a5a2b", True, 0, {"verified": "yes"}),
    Profile(_B, "waypost", "hogaza-station", "Hogaza, Station", "Hogaza Bakery, Station", "location", "#8a5a2b", True, 0, {"verified": "yes", "role": "manager"}),
    Profile(_B, "waypost", "hogaza-riverside", "Hogaza, Riverside", "Hogaza Bakery, Riverside", "location", "#8a5a2b", True, 0, {"verified": "yes"}),
    Profile(_B, "waypost", "hogaza-upper-square", "Hogaza, Upper Square", "Hogaza Bakery, Upper Square", "location", "#8a5a2b", True, 0, {"verified": "no"}),
    Profile(_B, "open-site", "hogaza", "hogaza.example", "Hogaza Bakery", "site", "#b57a06", False, 0),
    Profile(_O, "brisk", "cieloalto", "@cieloalto", "Cielo Alto Observatory", "account", "#2f4a7a", False, 3350),
    Profile(_O, "brisk", "cieloalto-sky", "@cieloalto.sky", "Sky notes", "account", "#1d2c50", False, 1890),
    Profile(_O, "brisk", "cieloalto-visits", "@cieloalto.visits", "Visits to Cielo Alto", "account", "#6a7fb0", False, 270),
    Profile(_O, "plaza", "cieloalto-page", "Cielo Alto", "Cielo Alto Observatory", "page", "#2f4a7a", False, 4410),
    Profile(_O, "plaza", "sky-watchers", "Sky watchers", "Sky watchers of the valley", "group", "#1d2c50", False, 890, {"app": "off"}),
    Profile(_O, "plaza", "director-plaza", "Amaro Quintela", "Amaro Quintela", "personal", "#6a7fb0", False, 205),
    Profile(_O, "vitrine", "cieloalto-photos", "cieloalto.sky", "The sky over Cielo Alto", "business", "#1d2c50", False, 15200, {"tied_page": "none"}),
    Profile(_O, "guildhall", "cieloalto-company", "Cielo Alto", "Cielo Alto Observatory", "company", "#2f4a7a", False, 640, {"role": "editor"}),
    Profile(_O, "guildhall", "director-guildhall", "Amaro Quintela", "Amaro Quintela", "personal", "#6a7fb0", False, 480),
    Profile(_O, "tackboard", "cieloalto-charts", "Sky charts", "Cielo Alto's charts", "account", "#2f4a7a", False, 760),
    Profile(_O, "cinta", "cieloalto-films", "Cielo Alto films", "Long nights at Cielo Alto", "channel", "#14161c", False, 9900),
    Profile(_O, "vuelta", "cieloalto-short", "cieloalto", "Cielo Alto, once round", "account", "#5b1f45", False, 2100),
    Profile(_O, "waypost", "cieloalto-dome", "Cielo Alto, the dome", "Cielo Alto Observatory", "location", "#2f4a7a", False, 0, {"verified": "yes"}),
    Profile(_O, "foolscap", "cieloalto-log", "The night log", "The night log of Cielo Alto", "blog", "#2f4a7a", False, 0),
    Profile(_O, "open-site", "cieloalto", "cieloalto.example", "Cielo Alto Observatory", "site", "#2f4a7a", False, 0),
]  # fmt: skip # a table: a row to a line
BY_HAND = [
    ByHand(_G, "plaza", "personal", "Maud at Plaza", "maud@example.org", "https://plaza.example.org/maud.ellery")
]
SETS: dict[str, dict[str, tuple[str, ...]]] = {_G: {"Winter season": ("@fernhollow", "Fernhollow Garden", "fernhollow.garden"), "The nursery": ("@fernhollow.nursery", "Nursery friends")},
        _B: {"Four counters": ("Hogaza, Mill Lane", "Hogaza, Station", "Hogaza, Riverside", "Hogaza, Upper Square")}}  # fmt: skip # a table: a row to a line
SITES: list[dict[str, Any]] = [
    {
        "name": "fernhollow", "title": "Fernhollow Botanic Garden", "type": "LocalBusiness", "language": "en", "country": "ES",
        "description": "Glasshouses, a plant nursery and talks in the valley of Valdemora.",
        "about": "A botanic garden since 1871: four glasshouses, a nursery that raises what it sells, and talks on Thursdays.",
        "colours": ["#2f6b4a", "#c7d8b4", "#8a5a2b"], "email": "garden@example.org", "phone": "+34 900 000 111",
        "address": "Glasshouse Road 4, Valdemora", "notes": ["Moss week", "Winter opening hours", "The ginkgo has turned"],
    },
    {
        "name": "hogaza", "title": "Hogaza Bakery", "type": "Bakery", "language": "es", "country": "ES",
        "description": "Bread with a name on the sack: four counters in Valdemora.",
        "about": "A family bakery with four counters, a nineteen-year-old starter, and flour from the next valley.",
        "colours": ["#b57a06", "#f3e3c0", "#6b3f1d"], "email": "pan@example.org", "phone": "+34 900 000 222",
        "address": "Mill Lane 1, Valdemora", "notes": ["Stollen season", "Rye day"],
    },
    {
        "name": "cieloalto", "title": "Cielo Alto Observatory", "type": "Organization", "language": "es", "country": "ES",
        "description": "A public observatory above the clouds.",
        "about": "Nights at the telescope for everyone, a calendar of the sky, and films of what takes all night to see.",
        "colours": ["#2f4a7a", "#0f1a33", "#e7b23f"], "email": "sky@example.org", "phone": "+34 900 000 333",
        "address": "Ridge Track, km 9, Cielo Alto", "notes": ["Tonight: the Geminids", "First light of the new camera"],
    },
]  # fmt: skip # a table: a row to a line
