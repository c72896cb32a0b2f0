"""The bakery's posts in the demo."""

from demo.planned import Planned

_H, _M = "@hogaza", "@hogaza.mill"
BAKERY = [
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
    # The bakery's page.
    Planned(
        "bakery", ("Hogaza Bakery",), "Stollen can be ordered from Monday, at every counter.", 2, "09:30", "planned"
    ),
]
