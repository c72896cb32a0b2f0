"""The demo's world, all invented: the office, its brands and people. Profiles are in networks.py, posts in posts.py."""

from dataclasses import dataclass

PASSWORD = "valley-desk-demo"
STANDIN_LOGIN = "cieloalto"
STANDIN_PASSWORD = "starlight"


@dataclass(frozen=True)
class Person:
    email: str
    name: str
    what: str
    roles: dict[str, str]


@dataclass(frozen=True)
class BrandOf:
    slug: str
    name: str
    zone: str
    ink: str
    login: str
    needs_signoff: bool = False


BRANDS = [
    BrandOf("garden", "Fernhollow Botanic Garden", "Europe/Madrid", "epazote", "fernhollow", needs_signoff=True),
    BrandOf("bakery", "Hogaza Bakery", "Europe/Madrid", "maize", "hogaza"),
    BrandOf("observatory", "Cielo Alto Observatory", "Atlantic/Canary", "anil", "cieloalto"),
]
# The large office beside them: see large.py.
LEAGUE = BrandOf("league", "Ribera Market League", "Europe/Madrid", "anil", "league")
PEOPLE = [
    Person(
        "ines@example.org",
        "Inés Varela",
        "coordinator of all three brands",
        dict.fromkeys(("garden", "bakery", "observatory"), "coordinator"),
    ),
    Person(
        "teo@example.org", "Teo Brandt", "author at the garden and the bakery", {"garden": "author", "bakery": "author"}
    ),
    Person("maud@example.org", "Maud Ellery", "the garden's director, who signs off", {"garden": "approver"}),
    Person("bruno@example.org", "Bruno Sarto", "the bakery's client: may edit, not delete", {"bakery": "client"}),
    Person("lucia@example.org", "Lucía Arrieta", "viewer at the observatory", {"observatory": "viewer"}),
]
