"""What lies in the demo's libraries: folders, labels, a bundle with captions to fill in; snippets, tag sets, link tags; a store."""

import base64

from demo.pictures import draw_fern, draw_loaf, draw_stars, encode_picture

# By brand: the folder each picture's key lies in, and its labels.
FOLDERS: dict[str, dict[str, tuple[str, ...]]] = {
    "garden": {"Glasshouses": ("palm", "frost", "frost2", "pots", "pots2"), "Moss week": ("moss", "moss2", "wide", "film", "short")},
    "bakery": {"Loaves": ("loaf", "loaf2", "loaf3")},
}  # fmt: skip # a table: a row to a line
LABELS: dict[str, dict[str, tuple[str, ...]]] = {
    "garden": {"winter": ("frost", "frost2", "wreath"), "upright": ("frost2", "pots", "bark", "short"), "film": ("film", "short")},
    "bakery": {"seasonal": ("loaf2", "loaf3")},
}  # fmt: skip # a table: a row to a line
CREDITS = {"palm": "Maud Ellery", "moss": "Teo Brandt"}
# A bundle: pictures with captions that have blanks to fill in.
BUNDLES = {
    "bakery": ("Six loaves, six weeks", [
        ("six-1.jpg", draw_loaf, 41, "Out of the oven at ___: the ___ loaf, with flour from ___."),
        ("six-2.jpg", draw_loaf, 42, "This week's bread is ___. It goes well with ___."),
        ("six-3.jpg", draw_loaf, 43, "Ask ___ at the counter what went into this one."),
        ("six-4.jpg", draw_loaf, 44, "Rye, slow and dark. Rested overnight, baked at five."),
        ("six-5.jpg", draw_loaf, 45, "Half a loaf is a whole supper: ___."),
        ("six-6.jpg", draw_loaf, 46, "The last of the olive bread until spring."),
    ]),
}  # fmt: skip # a table: a row to a line
SNIPPETS = {
    "garden": {
        "Moss walk, how to find us": "From the bus stop, follow the wall to the green gate. We wait at the bench. {link}",
        "Opening hours, winter": "Open ten to four, Wednesday to Sunday. Closed on days of hard frost.",
        "Sign off": "See you in the garden. {brand}",
    },
    "bakery": {"Where we are": "Mill Lane, Station, Riverside, Upper Square. From seven.", "Order by": "Order by ___ for {day}."},
}  # fmt: skip # a table: a row to a line
TAG_SETS = {
    "garden": {
        "moss-week": ["moss", "bryophyta", "mossweek", "valdemora", "botanicgarden", "closeup", "greenwall", "spores", "winterwalk"],
        "nursery": ["plantnursery", "newin", "valdemora"],
    },
    "bakery": {"daily": ["bread", "valdemora", "sourdough"]},
}  # fmt: skip # a table: a row to a line
LINK_TAGS = {
    "garden": {
        "Usual": {"source": "{network}", "medium": "social", "campaign": "{campaign}", "content": "{profile}"},
        "Moss week": {"source": "{network}", "medium": "social", "campaign": "moss-week", "term": "{date}"},
    },
    "bakery": {"Usual": {"source": "{network}", "medium": "social", "content": "{title}"}},
}  # fmt: skip # a table: a row to a line
RISING = [
    {"network": "vitrine", "tag": "winterwalk", "posts": 214}, {"network": "vitrine", "tag": "moss", "posts": 96},
    {"network": "vitrine", "tag": "closeup", "posts": 530}, {"network": "brisk", "tag": "bread", "posts": 310},
    {"network": "brisk", "tag": "glasshouse", "posts": 41}, {"network": "plaza", "tag": "valdemora", "posts": 77},
]  # fmt: skip # a table: a row to a line
STORE = {"name": "The valley's shared store", "user": "desk", "password": "starlight"}
SHEETS = {
    "garden": {
        "about": "A botanic garden since 1871: four glasshouses, a nursery, and talks on Thursdays.",
        "topics": ["moss", "glasshouses", "winter garden", "nursery", "talks"], "hashtags": ["fernhollow"], "language": "en", "emoji": 2,
    },
    "bakery": {
        "about": "A family bakery with four counters and a nineteen-year-old starter.", "topics": ["bread", "sourdough", "seasonal offers"],
        "hashtags": ["hogaza"], "salesy": 2, "emoji": 2, "language": "en",
    },
}  # fmt: skip # a table: a row to a line
PAGES = {
    "fernhollow": [
        {"slug": "moss-week", "title": "Moss week at the old glasshouse", "description": "Forty kinds on one wall. Come and count them with us, Thursday at three; hand lenses are provided."},
        {"slug": "broken", "title": "A page whose picture is gone", "description": "Its words are still good.", "broken": True},
    ],
    "hogaza": [{"slug": "stollen", "title": "Stollen, from the first of December", "description": "Order by Friday, collect at any counter."}],
    "cieloalto": [],
}  # fmt: skip # a table: a row to a line


def shared_files() -> dict[str, str]:
    """What lies in the shared store, by path, as base64."""
    drawn = {
        "Autumn walk/fronds-1.jpg": encode_picture(draw_fern((1200, 900), 51)),
        "Autumn walk/fronds-2.jpg": encode_picture(draw_fern((900, 1200), 52)),
        "Autumn walk/read-me.txt": b"Pictures from the walk of the 9th. Credit: Lena of the valley walkers.",
        "Night of the Leonids/sky-1.jpg": encode_picture(draw_stars((1600, 900), 53)),
        "poster.png": encode_picture(draw_fern((800, 1200), 54), "PNG"),
    }
    return {path: base64.b64encode(data).decode() for path, data in drawn.items()}
