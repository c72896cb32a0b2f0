"""The demo's posts. Days count from the day the demo is loaded; times are wall times of the brand."""

from dataclasses import dataclass, field


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

_P, _G, _V, _C, _S, _D = (
    "Fernhollow Garden",
    "Nursery friends",
    "fernhollow.garden",
    "Fernhollow Trust",
    "fernhollow.example",
    "Maud at Plaza",
)
POSTS += [
    # The garden's other networks.
    Planned(
        "garden",
        (_P,),
        "The glasshouse is open late on Fridays until Christmas. Bring a scarf for the cactus room; it is the warm one that isn't.",
        -3,
        "10:10",
        "published",
    ),
    Planned(
        "garden",
        (_C,),
        "Two apprenticeships in propagation begin in March. No experience asked for; patience is.",
        -2,
        "08:00",
        "published",
    ),
    Planned(
        "garden",
        (_P, _C),
        "Our annual report is out: 412 kinds of moss, one boiler, and what became of both.",
        1,
        "10:10",
        "planned",
    ),
    Planned(
        "garden",
        (_V,),
        "Moss, close up. Look for the capsules: each holds more spores than the garden has visitors.",
        2,
        "12:00",
        "planned",
        ("moss",),
    ),
    Planned("garden", (_V,), "Pots in waiting.", 3, "12:00", "planned", ("pots",)),
    Planned(
        "garden",
        (_P,),
        "Sunday walk with the head gardener, at eleven, from the gate.",
        5,
        "11:05",
        "planned",
        ("moss",),
    ),
    Planned("garden", (_G,), "Swap list for December: who has dahlia tubers, who has room?", 4, "09:00", "planned"),
    Planned("garden", (_S,), "Winter opening hours, and which paths are closed after frost.", 3, "09:00", "planned"),
    Planned(
        "garden",
        (_D,),
        "A year of mornings at the garden, in twelve pictures nobody sees at noon.",
        0,
        "08:00",
        "waiting_for_hand",
        ("frost",),
    ),
    Planned("garden", (_D,), "What I read this week: the seed book of 1871, again.", 6, "18:00", "planned"),
    # The bakery's page.
    Planned(
        "bakery", ("Hogaza Bakery",), "Stollen can be ordered from Monday, at every counter.", 2, "09:30", "planned"
    ),
]
