"""The plan as CSV: a row for each delivery, with its own wording, in the columns that can be brought in again."""

from collections import Counter, defaultdict
from collections.abc import Callable, Collection
from dataclasses import dataclass
from datetime import date, datetime, time
from functools import partial

from menudo.calendar.filters import CalendarFilter
from menudo.calendar.queries import calendar_deliveries
from menudo.labels.models import Label
from menudo.library.models import Asset, LinkTags
from menudo.people.context import BrandContext
from menudo.posts import csv_cells
from menudo.posts.models import Post, Version
from menudo.posts.serializers import asset_ids_in, load_content, load_overrides, store_content
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo_core.networks.content import Content, Overrides, apply_overrides
from menudo_core.plans.csv_writer import write_csv
from menudo_core.plans.lists import join_names
from menudo_core.timing.walltimes import day_bounds

HEADER = (
    "date",
    "time",
    "zone",
    "profiles",
    "text",
    "media",
    "link",
    "labels",
    "kind",
    "title",
    "first comment",
    "campaign",
    "state",
    "published at",
)


@dataclass(frozen=True, slots=True)
class PlannedDelivery:
    """A delivery and what it says. `wall_time` is in `zone`, None without a time."""

    id: int
    wall_time: datetime | None
    zone: str
    state: str
    remote_url: str
    handle: str
    post: int
    network: str
    profile: int
    content: Content


def planned_deliveries(context: BrandContext, first: date, days: int, narrow: CalendarFilter) -> list[PlannedDelivery]:
    """Every delivery of the window that the filter leaves, with its wording, earliest first: three statements, and each
    wording is put together once.

    The wording is as its version has it, placeholders and all, or as it was sent.
    """
    start, end = day_bounds(datetime.combine(first, time()), context.zone, days)
    rows = narrow.filter_deliveries(calendar_deliveries(start, end).filter(brand=context.brand), context).values_list(
        "id",
        "wall_time",
        "zone",
        "state",
        "remote_url",
        "profile__handle",
        "post_id",
        "profile_id",
        "profile__network",
        "sent_content",
    )
    found = list(rows)
    posts = {row[6] for row in found}
    masters = dict(Post.objects.filter(pk__in=posts).values_list("pk", "master"))
    owns = {
        (post, network, profile): overrides
        for post, network, profile, overrides in Version.objects.filter(post__in=posts).values_list(
            "post_id", "network", "profile_id", "overrides"
        )
    }
    known: dict[tuple[int, str, int | None], Content] = {}
    listed = []
    for delivery_id, wall_time, zone, state, remote_url, handle, post, profile, network, sent in found:
        split = (post, network, profile)
        key = split if split in owns else (post, network, None)
        if not sent and key not in known:
            known[key] = apply_overrides(
                load_content(masters[post]), load_overrides(owns[key]) if key in owns else Overrides()
            )
        content = load_content(sent) if sent else known[key]
        listed.append(
            PlannedDelivery(delivery_id, wall_time, zone, state, remote_url, handle, post, network, profile, content)
        )
    return listed


def plan_csv(context: BrandContext, first: date, days: int, narrow: CalendarFilter) -> bytes:
    """The same as CSV; UTF-8, safe from formulas. `state` and `published at` are told, and passed over when the file is
    brought in: three statements more."""
    listed = planned_deliveries(context, first, days, narrow)
    used = {asset for one in listed for asset in asset_ids_in(store_content(one.content))}
    names = _file_names(context, used)
    handles = _profile_names(context)
    sheets = sheets_of(context.brand.pk)
    field_names = {network: [rule.name for rule in sheet.fields] for network, sheet in sheets.items()}
    fields = sorted({n for one in listed for n in field_names.get(one.network, ()) if one.content.fields.get(n)})
    about = Post.objects.filter(pk__in={one.post for one in listed}).values_list("pk", "title", "campaign__name")
    titles = {post: (title, campaign or "") for post, title, campaign in about}
    labels = defaultdict(list)
    for post, label in Label.objects.filter(posts__in=titles).order_by("name").values_list("posts", "name"):
        labels[post].append(label)
    presets = dict(LinkTags.objects.filter(brand=context.brand).values_list("pk", "name"))
    cells: list[tuple[str, Callable[[Content], str]]] = [
        (csv_cells.SHOWING, partial(csv_cells.format_presentation, names=names)),
        (csv_cells.CARD, partial(csv_cells.format_card, names=names)),
        (csv_cells.LINK_TAGS, partial(csv_cells.format_link_tags, presets=presets)),
    ]
    # Columns that few plans need are there when they say something.
    more = [(name, cell) for name, cell in cells if any(cell(one.content) for one in listed)]
    return write_csv(
        [*HEADER, *(f"field {name}" for name in fields), *(name for name, _ in more)],
        [
            [
                f"{one.wall_time:%Y-%m-%d}" if one.wall_time else "",
                f"{one.wall_time:%H:%M}" if one.wall_time else "",
                one.zone,
                join_names([handles.get(one.profile, f"{one.network}:{one.handle}")]),
                one.content.text,
                join_names(names[asset] for asset in one.content.media if asset in names),
                one.content.link,
                join_names(labels[one.post]),
                one.content.form,
                titles[one.post][0],
                one.content.first_comment,
                titles[one.post][1],
                one.state.replace("_", " "),
                one.remote_url,
                *(one.content.fields.get(n, "") if n in field_names.get(one.network, ()) else "" for n in fields),
                *(cell(one.content) for _, cell in more),
            ]
            for one in listed
        ],
    )


def _profile_names(context: BrandContext) -> dict[int, str]:
    """What each of the brand's profiles is found by when the file is brought in: network and handle, and its number where
    another goes by the same."""
    rows = list(
        Profile.objects.filter(brand=context.brand)
        .exclude(state=Profile.State.DISCONNECTED)
        .values_list("pk", "network", "handle")
    )
    names = {pk: f"{network}:{handle}" for pk, network, handle in rows}
    counts = Counter(name.casefold().replace(":@", ":") for name in names.values())
    return {
        pk: name if counts[name.casefold().replace(":@", ":")] == 1 else f"{name}#{pk}" for pk, name in names.items()
    }


def _file_names(context: BrandContext, used: Collection[int]) -> dict[int, str]:
    """What each file is found by: its name, and its number where others are named so, or where it reads like an address."""
    names = dict(Asset.objects.filter(brand=context.brand, pk__in=used).values_list("pk", "name"))
    counts = Counter(
        name.casefold()
        for name in Asset.objects.filter(brand=context.brand, deleted_at=None).values_list("name", flat=True)
    )
    plain = {pk: counts[name.casefold()] == 1 and name == name.strip() for pk, name in names.items()}
    return {pk: name if plain[pk] else f"{name}#{pk}" for pk, name in names.items()}
