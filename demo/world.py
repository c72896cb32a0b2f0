"""The demo's world, all invented: the office, its brands and people, the accounts at Brisk, and the posts.

Days count from the day the demo is loaded; times are wall times of the brand.
"""

from dataclasses import dataclass, field

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


@dataclass(frozen=True)
class Profile:
    brand: str
    uid: str
    handle: str
    name: str
    colour: str
    connected: bool = True


@dataclass(frozen=True)
class Planned:
    """A post: `day` None is a draft without a date. `to` are handles; `state` is the delivery's."""

    brand: str
    to: tuple[str, ...]
    text: str
    day: int | None = None
    time: str = "11:00"
    state: str = "planned"
    picture: tuple[str, ...] = ()
    title: str = ""
    reason: str = ""
    post_state: str = "signed_off"
    tags: dict[str, str] = field(default_factory=dict)


BRANDS = [
    BrandOf("garden", "Fernhollow Botanic Garden", "Europe/Madrid", "epazote", "fernhollow", needs_signoff=True),
    BrandOf("bakery", "Hogaza Bakery", "Europe/Madrid", "maize", "hogaza"),
    BrandOf("observatory", "Cielo Alto Observatory", "Atlantic/Canary", "anil", "cieloalto"),
]
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
PROFILES = [
    Profile("garden", "fernhollow", "@fernhollow", "Fernhollow Garden", "#2f6b4a"),
    Profile("garden", "fernhollow-nursery", "@fernhollow.nursery", "Fernhollow Nursery", "#7c9a3d"),
    Profile("garden", "fernhollow-talks", "@fernhollow.talks", "Talks at Fernhollow", "#4d6f8f", connected=False),
    Profile("bakery", "hogaza", "@hogaza", "Hogaza Bakery", "#b57a06"),
    Profile("bakery", "hogaza-mill", "@hogaza.mill", "Hogaza, Mill Lane", "#8a5a2b"),
    Profile("observatory", "cieloalto", "@cieloalto", "Cielo Alto Observatory", "#2f4a7a", connected=False),
    Profile("observatory", "cieloalto-sky", "@cieloalto.sky", "Sky notes", "#1d2c50", connected=False),
    Profile("observatory", "cieloalto-visits", "@cieloalto.visits", "Visits to Cielo Alto", "#6a7fb0", connected=False),
]

_F, _N, _H, _M = "@fernhollow", "@fernhollow.nursery", "@hogaza", "@hogaza.mill"
POSTS = [
    # The garden: what went out.
    Planned(
        "garden",
        (_F,),
        "The first frost drew ferns on the old glasshouse before anyone planted any.",
        -5,
        "08:30",
        "published",
        ("frost",),
    ),
    Planned(
        "garden", (_F, _N), "Seed swap on Saturday: bring one envelope, leave with three.", -4, "09:15", "published"
    ),
    Planned(
        "garden",
        (_N,),
        "New in: twelve winter-flowering hellebores, raised here from seed.",
        -3,
        "10:00",
        "published",
        ("hellebore",),
    ),
    Planned(
        "garden",
        (_F,),
        "How old is the ginkgo by the gate? Older than the gate, and the gate is from 1871.",
        -2,
        "17:30",
        "published",
    ),
    Planned(
        "garden",
        (_F,),
        "A robin has taken the left boot of our head gardener. Negotiations continue.",
        -1,
        "11:00",
        "published",
        ("boots",),
    ),
    Planned("garden", (_N,), "Price lowered: the last tray of violas, while they last.", -1, "12:00", "called_off"),
    Planned(
        "garden",
        (_F,),
        "Frost on the glass, 6 below at seven this morning. The cacti didn't notice. 🌵",
        0,
        "08:30",
        "published",
        ("frost2",),
    ),
    # Trouble and what waits.
    Planned(
        "garden",
        (_N,),
        "Fern fronds, close up: the whole plant in one leaf, and the leaf in one lobe.",
        0,
        "08:45",
        "in_trouble",
        ("wide",),
        reason="Brisk refused it: This post breaks the house rules.",
    ),
    Planned(
        "garden",
        (_N,),
        "Apprentices wanted for spring. Boots provided, robins included.",
        -1,
        "09:00",
        "missed",
        post_state="up_for_signoff",
        reason="It was not signed off in time.",
    ),
    Planned(
        "garden",
        (_F,),
        "Winter hours begin: the gate opens at ten and closes with the light.",
        3,
        "10:00",
        "held",
        ("gate",),
        post_state="up_for_signoff",
    ),
    Planned(
        "garden",
        (_F, _N),
        "Annual note from the director: what grew, what didn't, and what we learned.",
        6,
        "08:00",
        "held",
        post_state="sent_back",
    ),
    # What is planned.
    Planned("garden", (_F,), "Ask a gardener: why do rhododendrons hang their leaves when it's cold?", 0, "13:00"),
    Planned(
        "garden",
        (_F, _N),
        "Talk tonight at seven in the palm house: seven plants that changed dinner. https://fernhollow.example.org/talks",
        1,
        "09:15",
        "planned",
        ("palm",),
    ),
    Planned(
        "garden",
        (_N,),
        "Glasshouse plants that forgive. A short list for long winters.",
        1,
        "12:00",
        "planned",
        ("pots", "pots2", "gate"),
    ),
    Planned("garden", (_N,), "Glasshouse plants that forgive, part two: the ones that even like neglect.", 1, "12:40"),
    Planned(
        "garden",
        (_F,),
        "Moss week begins. Forty kinds live on the north wall of the old glasshouse; this week we count them. #moss",
        2,
        "13:00",
        "planned",
        ("moss",),
    ),
    Planned(
        "garden",
        (_F,),
        "Sunday walk: the garden at first light. Meet at the gate, 8:15.",
        5,
        "11:00",
        "planned",
        ("gate",),
    ),
    Planned("garden", (_N,), "Wreath workshop: three places left.", 4, "10:30", "planned", ("wreath",)),
    Planned(
        "garden",
        (_F,),
        "Counted so far: thirty-one mosses, two liverworts, one very patient volunteer.",
        6,
        "13:00",
        "planned",
        ("moss2",),
    ),
    Planned(
        "garden",
        (_F,),
        "Winter open day on Saturday week. Soup, seeds, and the big glasshouse at its best.",
        8,
        "09:15",
        "planned",
        ("palm",),
    ),
    Planned("garden", (_N,), "Sold out: hellebores. There will be more in February.", 9, "11:00"),
    Planned(
        "garden",
        (_F,),
        "Bark worth a second look: birch, cherry, and the strawberry tree.",
        10,
        "17:30",
        "planned",
        ("bark",),
    ),
    Planned("garden", (_F, _N), "Winter open day: today, ten to four.", 11, "08:30", "planned", ("palm",)),
    # The tray.
    Planned(
        "garden",
        (_F,),
        "Bark and lichen: a love story in grey.",
        picture=("bark", "moss", "wreath"),
        title="Bark and lichen",
        state="unplanned",
        post_state="draft",
    ),
    Planned(
        "garden",
        (_F, _N),
        "Who sleeps in the pond?",
        title="Who sleeps in the pond?",
        state="unplanned",
        post_state="draft",
    ),
    Planned(
        "garden",
        (_N,),
        "Seed heads worth keeping until spring, and the birds that agree.",
        picture=("hellebore", "pots"),
        title="Seed heads worth keeping",
        state="unplanned",
        post_state="draft",
    ),
    Planned("garden", (), "From the director", title="From the director", state="unplanned", post_state="draft"),
    # The bakery.
    Planned(
        "bakery",
        (_H,),
        "Rye day. The starter is nineteen this week and in excellent spirits.",
        -3,
        "07:30",
        "published",
        ("loaf",),
    ),
    Planned(
        "bakery",
        (_H, _M),
        "Yesterday's bread makes tomorrow's soup: three ways with a dry crust.",
        -2,
        "16:00",
        "published",
        ("loaf2",),
    ),
    Planned("bakery", (_M,), "Mill Lane opens at six again from Monday.", -1, "17:30", "published"),
    Planned(
        "bakery",
        (_H,),
        "Good morning. The ovens have been up since two; the walnut loaves since five.",
        0,
        "07:30",
        "published",
        ("loaf3",),
    ),
    Planned(
        "bakery", (_H, _M), "How we fold: four turns, half an hour apart, no hurry.", 0, "16:00", "planned", ("loaf",)
    ),
    Planned(
        "bakery",
        (_H,),
        "Pan de aceitunas, viernes y sábado. Olives from the next valley.",
        1,
        "07:30",
        "planned",
        ("loaf2",),
    ),
    Planned("bakery", (_M,), "A loaf a week, paid by the month: ask at the counter.", 2, "11:00"),
    Planned(
        "bakery", (_H, _M), "Saturday is seed day: sunflower, pumpkin, flax, poppy.", 4, "07:30", "planned", ("loaf3",)
    ),
    Planned("bakery", (_H,), "What a crumb tells you.", 6, "11:00", "planned", ("loaf2",)),
    Planned(
        "bakery", (_H, _M), "Stollen season. The first hundred come out on Thursday.", 9, "07:30", "planned", ("loaf",)
    ),
    Planned(
        "bakery",
        (_H,),
        "Why our flour has a name on the sack.",
        title="The miller",
        state="unplanned",
        post_state="draft",
    ),
]
