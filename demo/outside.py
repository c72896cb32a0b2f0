"""What stands outside Menudo in the demo: two feeds, and the nursery's list. All invented."""

import json
from datetime import datetime, timedelta
from typing import Any
from xml.sax.saxutils import escape

from menudo.base import clock

# Hours ago, title, summary, category, a picture's colour (None: none), whether its page is there.
SKY = [
    (2, "The Hunter is back over the valley", "From nine in the evening he stands clear of the eastern ridge, belt first. No instrument is needed, only a coat.", "evening", "#1d2c50", True),
    (20, "Frost, and why the stars tremble", "What looks like cold in the sky is warm air rising from the roofs. A short walk uphill calms every star.", "seeing", "#2f4a7a", True),
    (44, "A bright visitor beside the Moon", "On Friday the Moon passes a planet that many will take for a lamp on the mountain.", "moon", "#6a7fb0", True),
    (70, "The long exposure that failed", "Four hours, one fox, and a lesson about lens caps.", "nights", None, True),
    (95, "An entry whose page has gone", "It was here yesterday.", "nights", None, False),
    (160, "Autumn's great square", "Four stars make a window that rises on its corner.", "evening", "#14161c", True),
    (240, "First light of the small dome", "The new mirror saw its first star at ten past two.", "dome", "#2f4a7a", True),
]  # fmt: skip # a table: a row to a line
JOURNAL = [
    (3, "Forty mosses on one wall", "We counted along the north wall of the old quarry, on our knees, with a hand lens and a thermos.", "moss", "#5c7a3d", True),
    (28, "What the pond does in winter", "Very little, and that is the point of it. Leave the leaves at its edge.", "pond", "#3f5b46", True),
    (52, "A hedge is a long, thin wood", "Cut every third year, it feeds more birds than a feeder ever will.", "hedges", "#7c9a3d", True),
    (200, "Seeds that wait for frost", "Some will not wake without six weeks of cold. Sow them now and forget them.", "seeds", "#8a5a2b", True),
]  # fmt: skip # a table: a row to a line
HEAD = ("key", "plant", "price", "status", "pot", "photo", "opens", "notes")
PLANTS = [
    ("H-01", "Hellebore ‘Night Valley’", "12.50", "", "3 l", "#5b1f45", "", "Flowers from January, nearly black, and asks for nothing."),
    ("H-02", "Hellebore ‘First Snow’", "11.00", "", "2 l", "#c7d8b4", "", "White, then green, then white again in memory."),
    ("F-01", "Hart’s tongue fern", "6.80", "", "1 l", "#3e5230", "", "For the north side, where nothing else wants to be."),
    ("F-02", "Soft shield fern", "7.20", "", "2 l", "#2f6b4a", "", "Bronze when it uncurls."),
    ("M-01", "A tray of sheet moss", "14.00", "", "tray", "#7c9a3d", "", "Grown on our own roof."),
    ("W-01", "Witch hazel ‘Copper’", "38.00", "", "10 l", "#b57a06", "", "The scent of a January lunchtime."),
    ("S-01", "Snowdrops in the green, ten", "9.50", "coming soon", "bunch", "#c7d8b4", "", "Lifted to order in February."),
    ("Q-01", "Quince ‘Valdemora’", "29.00", "", "7 l", "#8a5a2b", "", "Our own, from the tree by the gate."),
    ("R-01", "Rose ‘Miller’s Daughter’", "18.00", "", "5 l", "#a8321a", "", "Climbs, scents, forgives."),
    ("G-01", "Ginkgo, four years old", "45.00", "", "12 l", "#e7b23f", "", "Plant it for somebody else."),
]  # fmt: skip # a table: a row to a line
# What is different a day later: by key, the columns that change; a key of its own is new.
LATER: dict[str, dict[str, str]] = {
    "H-01": {"price": "9.90"}, "W-01": {"status": "reserved"}, "M-01": {"status": "sold"},
    "S-01": {"opens": "next"},
}  # fmt: skip # a table: a row to a line
NEW = (
    "E-01",
    "Epimedium ‘Lantern’",
    "8.40",
    "",
    "1 l",
    "#b57a06",
    "",
    "Small yellow lanterns, then leaves like hearts.",
)


def build_entries(
    rows: list[tuple[Any, ...]], site: str, pictures: dict[str, str], older_than: float
) -> list[dict[str, Any]]:
    """Entries that appeared so many hours ago or earlier, as JSON Feed has them."""
    now = clock.now()
    return [
        {
            "id": f"{site}#{hours}",
            "title": title,
            "summary": summary,
            "tags": [tag],
            "url": f"{site}{'' if there else 'nowhere-any-more/'}?note={hours}",
            "date_published": (now - timedelta(hours=hours)).isoformat(),
            **({"image": pictures[colour]} if colour else {}),
        }
        for hours, title, summary, tag, colour, there in rows
        if hours >= older_than
    ]


def build_json_feed(title: str, site: str, items: list[dict[str, Any]]) -> str:
    """As JSON Feed 1.1."""
    document = {"version": "https://jsonfeed.org/version/1.1", "title": title, "home_page_url": site, "language": "en"}
    return json.dumps({**document, "items": items})


def build_atom_feed(title: str, site: str, items: list[dict[str, Any]]) -> str:
    """The same as Atom (RFC 4287)."""
    found = "".join(
        f'<entry><id>{escape(one["id"])}</id><title>{escape(one["title"])}</title><link href="{escape(one["url"])}"/>'
        f"<updated>{one['date_published']}</updated><published>{one['date_published']}</published>"
        f'<category term="{escape(one["tags"][0])}"/><summary>{escape(one["summary"])}</summary>'
        + (f'<link rel="enclosure" type="image/jpeg" href="{escape(one["image"])}"/>' if "image" in one else "")
        + "</entry>"
        for one in items
    )
    return (
        f'<?xml version="1.0" encoding="utf-8"?><feed xmlns="http://www.w3.org/2005/Atom" xml:lang="en"><title>{escape(title)}</title>'
        f'<id>{escape(site)}</id><link href="{escape(site)}"/><updated>{clock.now().isoformat()}</updated>{found}</feed>'
    )


def plants_csv(pictures: dict[str, str], later: bool, now: datetime) -> str:
    """The nursery's list as CSV, as it was or a day later."""
    rows = [dict(zip(HEAD, plant, strict=True)) for plant in (*PLANTS, *((NEW,) if later else ()))]
    day = (now + timedelta(days=9)).date().isoformat()
    for row in rows:
        if later:
            row.update({name: day if value == "next" else value for name, value in LATER.get(row["key"], {}).items()})
        row["photo"] = pictures[row["photo"]]
    lines = [";".join(HEAD), *(";".join(row[name] for name in HEAD) for row in rows)]
    return "\n".join(lines) + "\n"
