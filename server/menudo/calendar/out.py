"""The plan as CSV: a row for each delivery, with its own wording, in the columns that can be brought in again."""

from collections import Counter, defaultdict
from collections.abc import Callable, Collection
from dataclasses import dataclass
from datetime import date, datetime, time
from functools import partial

from menudo.calendar.narrow import Narrow
from menudo.calendar.reads import on_calendar
from menudo.labels.models import Label
from menudo.library.models import Asset, LinkTags
from menudo.people.here import Here
from menudo.posts import csv_cells
from menudo.posts.models import Post, Version
from menudo.posts.serializers import assets_in, load_content, load_overrides, store_content
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo_core.networks.content import Content, Overrides, apply_overrides
from menudo_core.plans.lists import join_names
from menudo_core.plans.out import written
from menudo_core.timing.walltimes import day_bounds

HEADER = (
    "date", "time", "zone", "profiles", "text", "media", "link", "labels", "kind", "title", "first comment", "campaign",
    "state", "published at",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Planned:
    """A delivery and what it says. `wall` is in `zone`, None without a time."""

    id: int
    wall: datetime | None
    zone: str
    state: str
    remote_url: str
    handle: str
    post: int
    network: str
    profile: int
    content: Content


def planned(place: Here, first: date, days: int, narrow: Narrow) -> list[Planned]:
    """Every delivery of the window that the filter leaves, with its wording, earliest first: three statements, and each
    wording is put together once.

    The wording is as its version has it, placeholders and all, or as it was sent.
    """
    start, end = day_bounds(datetime.combine(first, time()), place.zone, days)
    rows = narrow.of_deliveries(on_calendar(start, end).filter(brand=place.brand), place).values_list(
        "id",
        "wall",
        "zone",
        "state",
        "remote_url",
        "profile__handle",
        "post_id",
        "profile_id",
        "profile__network",
        "sent",
    )
    found = list(rows)
    posts = {row[6] for row in found}
    masters = dict(Post.objects.filter(pk__in=posts).values_list("pk", "master"))
    owns = {
        (post, network, profile): own
        for post, network, profile, own in Version.objects.filter(post__in=posts).values_list(
            "post_id", "network", "profile_id", "own"
        )
    }
    known: dict[tuple[int, str, int | None], Content] = {}
    said = []
    for id, wall, zone, state, remote_url, handle, post, profile, network, sent in found:
        split = (post, network, profile)
        key = split if split in owns else (post, network, None)
        if not sent and key not in known:
            known[key] = apply_overrides(
                load_content(masters[post]), load_overrides(owns[key]) if key in owns else Overrides()
            )
        content = load_content(sent) if sent else known[key]
        said.append(Planned(id, wall, zone, state, remote_url, handle, post, network, profile, content))
    return said


def plan_csv(place: Here, first: date, days: int, narrow: Narrow) -> bytes:
    """The same as CSV; UTF-8, safe from formulas. `state` and `published at` are told, and passed over when the file is
    brought in: three statements more."""
    said = planned(place, first, days, narrow)
    used = {asset for one in said for asset in assets_in(store_content(one.content))}
    names = _file_names(place, used)
    handles = _profile_names(place)
    sheets = sheets_of(place.brand.pk)
    own = {network: [rule.name for rule in sheet.fields] for network, sheet in sheets.items()}
    fields = sorted({n for one in said for n in own.get(one.network, ()) if one.content.fields.get(n)})
    about = Post.objects.filter(pk__in={one.post for one in said}).values_list("pk", "title", "campaign__name")
    titles = {post: (title, campaign or "") for post, title, campaign in about}
    labels = defaultdict(list)
    for post, label in Label.objects.filter(posts__in=titles).order_by("name").values_list("posts", "name"):
        labels[post].append(label)
    presets = dict(LinkTags.objects.filter(brand=place.brand).values_list("pk", "name"))
    cells: list[tuple[str, Callable[[Content], str]]] = [
        (csv_cells.SHOWING, partial(csv_cells.showing_cell, names=names)),
        (csv_cells.CARD, partial(csv_cells.card_cell, names=names)),
        (csv_cells.LINK_TAGS, partial(csv_cells.link_tags_cell, presets=presets)),
    ]
    # Columns that few plans need are there when they say something.
    more = [(name, cell) for name, cell in cells if any(cell(one.content) for one in said)]
    return written(
        [*HEADER, *(f"field {name}" for name in fields), *(name for name, _ in more)],
        [
            [
                f"{one.wall:%Y-%m-%d}" if one.wall else "", f"{one.wall:%H:%M}" if one.wall else "", one.zone,
                join_names([handles.get(one.profile, f"{one.network}:{one.handle}")]), one.content.text,
                join_names(names[asset] for asset in one.content.media if asset in names), one.content.link,
                join_names(labels[one.post]), one.content.form, titles[one.post][0],
                one.content.first_comment, titles[one.post][1], one.state.replace("_", " "), one.remote_url,
                *(one.content.fields.get(n, "") if n in own.get(one.network, ()) else "" for n in fields),
                *(cell(one.content) for _, cell in more),
            ]
            for one in said
        ],
    )  # fmt: skip


def _profile_names(place: Here) -> dict[int, str]:
    """What each of the brand's profiles is found by when the file is brought in: network and handle, and its number where
    another goes by the same."""
    rows = list(
        Profile.objects.filter(brand=place.brand)
        .exclude(state=Profile.State.DISCONNECTED)
        .values_list("pk", "network", "handle")
    )
    names = {pk: f"{network}:{handle}" for pk, network, handle in rows}
    counts = Counter(name.casefold().replace(":@", ":") for name in names.values())
    return {
        pk: name if counts[name.casefold().replace(":@", ":")] == 1 else f"{name}#{pk}" for pk, name in names.items()
    }


def _file_names(place: Here, used: Collection[int]) -> dict[int, str]:
    """What each file is found by: its name, and its number where others are named so, or where it reads like an address."""
    names = dict(Asset.objects.filter(brand=place.brand, pk__in=used).values_list("pk", "name"))
    counts = Counter(
        name.casefold() for name in Asset.objects.filter(brand=place.brand, binned=None).values_list("name", flat=True)
    )
    plain = {pk: counts[name.casefold()] == 1 and name == name.strip() for pk, name in names.items()}
    return {pk: name if plain[pk] else f"{name}#{pk}" for pk, name in names.items()}
