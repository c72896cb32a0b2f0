"""Posts of the demo that the Bench has adapted: versions of their own, videos, a story, first comments, offers."""

from demo.planned import Planned

_F, _P, _V, _C = "@fernhollow", "Fernhollow Garden", "fernhollow.garden", "Fernhollow Trust"
_T, _L, _S, _W = "Winter borders", "Fernhollow films", "fernhollow", "Garden, Valdemora"
_LINK = "http://{standin}/site/fernhollow/read/moss-week"
BENCH = [
    Planned(
        "garden",
        (_F, "@fernhollow.nursery", _P, _V, _C, _T, _W, "fernhollow.example"),
        "Forty kinds of moss live on the north wall of the old glasshouse. This week we are counting them, and you can help: "
        "Thursday at 15:00, hand lenses provided, boots advised. Bring a friend who says that moss is moss; we will see about "
        "that. The record stands at thirty-eight kinds in one hour, and it was set by a class of nine-year-olds.",
        title="Moss week: the wall",
        state="unplanned",
        post_state="draft",
        picture=("moss", "moss2", "wide"),
        link=_LINK,
        overrides={
            "vitrine": {
                "text": "Forty mosses, one wall. 🌿\nCome and count them with us on Thursday at three. We bring the lenses, you bring the boots.",
                "first_comment": "#moss #bryophyta #mossweek #valdemora #botanicgarden #closeup #greenwall #spores #winterwalk",
                "fields": {"place": "North Glasshouse"},
            },
            "guildhall": {
                "text": "A wall of forty species is a small archive. On Thursday our volunteers begin the first full count since 1987; colleagues "
                "from other collections are welcome."
            },
            "tackboard": {"text": "Forty kinds of moss, one wall.", "fields": {"title": "Moss, close up", "board": "Small green things"}},
            "waypost": {
                "text": "Count the mosses with us: Thursday, 15:00, at the old glasshouse. Hand lenses provided.",
                "fields": {"listing_kind": "event", "title": "Moss count", "start": "{day+2}T15:00", "end": "{day+2}T17:00", "button": "sign up"},
            },
        },
    ),
    Planned(
        "garden", (_L,), "A wall, a camera, twelve months. What moves is the moss.", 4, "18:00", "planned", ("film",),
        overrides={"cinta": {"fields": {"title": "A year of moss", "visibility": "public", "tags": "moss, time lapse", "topic": "nature"}}},
    ),
    Planned("garden", (_S,), "Once round the palm house, before anyone is in.", 2, "17:00", "planned", ("short",)),
    Planned(
        "garden", (_V,), "", 1, "09:00", "planned", ("frost2", "short"), title="Story: first frost",
        overrides={
            "vitrine": {
                "form": "story",
                "shown": {"frost2": {"crop": {"x": 0.14, "y": 0.0, "w": 0.703125, "h": 1.0}, "words": "6 below at seven", "words_at": "top"}},
            }
        },
    ),
    Planned(
        "garden", (_T,), "Borders that look good in frost.", 5, "10:30", "planned", ("wreath",), link=_LINK,
        overrides={"tackboard": {"fields": {"title": "Frost on the borders", "board": "Winter borders"}}},
    ),
    Planned(
        "bakery", ("Hogaza, Mill Lane", "Hogaza, Station", "Hogaza, Riverside"),
        "Two olive loaves for the price of one, every evening from six until they are gone.", 3, "08:00", "planned", ("loaf2",),
        link="http://{standin}/site/hogaza/read/stollen",
        overrides={
            "waypost": {
                "fields": {
                    "listing_kind": "offer", "title": "Evening olive loaf", "start": "{day+3}T18:00", "end": "{day+9}T20:00", "code": "OLIVA",
                    "button": "get offer",
                }
            }
        },
    ),
]  # fmt: skip # a table: a row to a line
