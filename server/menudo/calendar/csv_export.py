"""The plan as CSV: a row for each delivery, with its own wording, in the columns that can be brought in again."""

from collections import Counter, defaultdict
from collections.abc import Callable, Collection, Iterator
from dataclasses import dataclass
from datetime import date, datetime
from functools import partial, reduce
from operator import or_

from django.db.models import Q, QuerySet
from django.db.models.functions import Lower

from menudo.calendar.deliveries import calendar_deliveries, window_bounds
from menudo.calendar.filters import CalendarFilter
from menudo.labels.models import Label
from menudo.library.models import Asset, LinkTags
from menudo.people.context import BrandContext
from menudo.posts import csv_cells
from menudo.posts.models import Delivery, Post, Version
from menudo.posts.serializers import asset_ids_in, load_content, load_overrides, store_content
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of
from menudo_core.networks.content import Content, Overrides, apply_overrides
from menudo_core.plans.csv_writer import write_csv
from menudo_core.plans.lists import join_names

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


_ROWS_AT_ONCE = 200


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


def window_deliveries(context: BrandContext, first: date, days: int, narrow: CalendarFilter) -> QuerySet[Delivery]:
    """Every delivery of the window that the filter leaves, earliest first."""
    there = calendar_deliveries([context.brand.pk], *window_bounds(first, days, context.zone))
    return narrow.filter_deliveries(there, context)


def planned_deliveries(rows: QuerySet[Delivery]) -> list[PlannedDelivery]:
    """The deliveries with their wording, in their order: two statements, and each wording is put together once.

    The wording is as its version has it, placeholders and all, or as it was sent.
    """
    found = list(
        rows.values_list(
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
            "post__master",
        )
    )
    versions = Version.objects.filter(post__in={row[6] for row in found if not row[9]})
    owns = {
        (post, network, profile): overrides
        for post, network, profile, overrides in versions.values_list("post_id", "network", "profile_id", "overrides")
    }
    known: dict[tuple[int, str, int | None], Content] = {}
    listed = []
    for delivery_id, wall_time, zone, state, remote_url, handle, post, profile, network, sent, master in found:
        split = (post, network, profile)
        key = split if split in owns else (post, network, None)
        if not sent and key not in known:
            own = load_overrides(owns[key]) if key in owns else Overrides()
            known[key] = apply_overrides(load_content(master), own)
        content = load_content(sent) if sent else known[key]
        listed.append(
            PlannedDelivery(delivery_id, wall_time, zone, state, remote_url, handle, post, network, profile, content)
        )
    return listed


def plan_csv(context: BrandContext, first: date, days: int, narrow: CalendarFilter) -> Iterator[bytes]:
    """The window as CSV, in pieces; UTF-8, safe from formulas. `state` and `published at` are told, and passed over when the file is
    brought in."""
    there = window_deliveries(context, first, days, narrow)
    plan = _PlanWriter(context)
    # Columns that few plans need are there when they say something. What says nothing of them needn't be read for that.
    special = planned_deliveries(there.filter(_says_more(there)))
    fields = sorted({n for one in special for n in plan.fields_of(one)})
    more = plan.more_cells(special)
    header = [*HEADER, *(f"field {name}" for name in fields), *more]
    ids = list(there.values_list("pk", flat=True))
    return write_csv(header, plan.rows(ids, fields, more))


def _says_more(there: QuerySet[Delivery]) -> Q:
    """Whether something is said of what few say: looked for in the post, in its versions and in what was sent."""

    def says(column: str) -> Q:
        lists = (Q(**{f"{column}__{n}__isnull": False}) & ~Q(**{f"{column}__{n}": {}}) for n in ("fields", "shown"))
        others = (
            Q(**{f"{column}__{n}__isnull": False}) & ~Q(**{f"{column}__{n}": None}) for n in ("card", "link_tags")
        )
        return reduce(or_, [*lists, *others])

    versions = Version.objects.filter(says("overrides"), post__in=there.order_by().values("post_id"))
    return says("post__master") | says("sent_content") | Q(post__in=versions.values("post_id"))


class _PlanWriter:
    """What the rows of a plan need to know of their brand, read once."""

    def __init__(self, context: BrandContext) -> None:
        self._context = context
        self._handles = _profile_names(context)
        sheets = sheets_of(context.brand.pk)
        self._field_names = {network: [rule.name for rule in sheet.fields] for network, sheet in sheets.items()}
        self._presets = dict(LinkTags.objects.filter(brand=context.brand).values_list("pk", "name"))

    def fields_of(self, one: PlannedDelivery) -> list[str]:
        """The fields of its network that it fills."""
        return [n for n in self._field_names.get(one.network, ()) if one.content.fields.get(n)]

    def more_cells(self, special: list[PlannedDelivery]) -> list[str]:
        """Which of the rarer columns say something of these."""
        cells = self._cells(_file_names(self._context, _assets_of(special)))
        return [name for name, cell in cells.items() if any(cell(one.content) for one in special)]

    def _cells(self, names: dict[int, str]) -> dict[str, Callable[[Content], str]]:
        return {
            csv_cells.SHOWING: partial(csv_cells.format_presentation, names=names),
            csv_cells.CARD: partial(csv_cells.format_card, names=names),
            csv_cells.LINK_TAGS: partial(csv_cells.format_link_tags, presets=self._presets),
        }

    def rows(self, ids: list[int], fields: list[str], more: list[str]) -> Iterator[list[str]]:
        """A row for each delivery, read a few hundred at a time: five statements each."""
        for begin in range(0, len(ids), _ROWS_AT_ONCE):
            some = Delivery.objects.filter(pk__in=ids[begin : begin + _ROWS_AT_ONCE]).order_by("due_at", "id")
            yield from self._some_rows(planned_deliveries(some), fields, more)

    def _some_rows(self, listed: list[PlannedDelivery], fields: list[str], more: list[str]) -> Iterator[list[str]]:
        names = _file_names(self._context, _assets_of(listed))
        cells = self._cells(names)
        about = Post.objects.filter(pk__in={one.post for one in listed}).values_list("pk", "title", "campaign__name")
        titles = {post: (name, of or "") for post, name, of in about}
        labels = defaultdict(list)
        for post, label in Label.objects.filter(posts__in=titles).order_by("name").values_list("posts", "name"):
            labels[post].append(label)
        for one in listed:
            own = self._field_names.get(one.network, ())
            # A post may go for good while its rows are on their way.
            title, campaign = titles.get(one.post, ("", ""))
            yield [
                f"{one.wall_time:%Y-%m-%d}" if one.wall_time else "",
                f"{one.wall_time:%H:%M}" if one.wall_time else "",
                one.zone,
                join_names([self._handles.get(one.profile, f"{one.network}:{one.handle}")]),
                one.content.text,
                join_names(names[asset] for asset in one.content.media if asset in names),
                one.content.link,
                join_names(labels[one.post]),
                one.content.form,
                title,
                one.content.first_comment,
                campaign,
                one.state.replace("_", " "),
                one.remote_url,
                *(one.content.fields.get(n, "") if n in own else "" for n in fields),
                *(cells[name](one.content) for name in more),
            ]


def _assets_of(listed: list[PlannedDelivery]) -> set[int]:
    return {asset for one in listed for asset in asset_ids_in(store_content(one.content))}


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
    if not names:
        return {}
    # Those of these names alone: of thousands of files the rest needn't be read.
    alike = Asset.objects.filter(brand=context.brand, deleted_at=None).annotate(lower=Lower("name"))
    lowered = {name.lower() for name in names.values()} | {name.casefold() for name in names.values()}
    counts = Counter(name.casefold() for name in alike.filter(lower__in=lowered).values_list("name", flat=True))
    plain = {pk: counts[name.casefold()] == 1 and name == name.strip() for pk, name in names.items()}
    return {pk: name if plain[pk] else f"{name}#{pk}" for pk, name in names.items()}
