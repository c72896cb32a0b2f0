"""Deliveries as the cards of a calendar: as much as a card shows, a page at a time."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import Count, Q, QuerySet

from menudo.base.problems import InvalidError
from menudo.base.rows import AnyOf, EpochMicroseconds
from menudo.base.sentences import say
from menudo.calendar import schemas
from menudo.calendar.deliveries import calendar_deliveries, window_bounds
from menudo.calendar.filters import CalendarFilter
from menudo.calendar.spacing import lane_marks
from menudo.people.context import BrandContext
from menudo.posts.models import Delivery, Post
from menudo.posts.times import TAKES_A_SLOT
from menudo.profiles.models import Profile
from menudo_core.signoff.states import DeliveryState, Event, accepts

CARDS_AT_ONCE = 600
_MOVES = frozenset(s.value for s in DeliveryState if accepts(s, Event.MOVE))
CARD = (
    "id",
    "post_id",
    "profile_id",
    "state",
    EpochMicroseconds("due_at"),
    "headline",
    "thumb_id",
    "picture_count",
    "reason",
    "revision",
    "held_for",
    "brand_id",
)
_STATE, _DUE, BRAND = 3, 4, CARD.index("brand_id")
HELD_WORDS = {"signoff": "waits for sign-off", "paused": "paused", "reconnect": "its profile must be reconnected"}
_MICROSECOND = timedelta(microseconds=1)
_EPOCH = datetime(1970, 1, 1, tzinfo=UTC)


@dataclass(frozen=True, slots=True)
class CardsQuery:
    """Which cards are asked for: `days` days from `first`, counted from `origin`; what a filter leaves of them; `after` the place at
    which the page before ended, empty for the first; and whether with the marks of the profiles that the filter names."""

    first: date
    days: int
    origin: date
    narrow: CalendarFilter
    after: str = ""
    marks: bool = False


def cards_page(context: BrandContext, asked: CardsQuery) -> schemas.CardsPage:
    """Some cards of a window, in the order of their times; with its first page also the marks. Three statements, and two or three more
    for marks."""
    start, end = window_bounds(asked.first, asked.days, context.zone)
    there = calendar_deliveries([context.brand.pk], start, end)
    rows = asked.narrow.filter_deliveries(there, context)
    if asked.after:
        at, delivery_id = _read_place(asked.after)
        rows = rows.filter(Q(due_at__gt=at) | Q(due_at=at, pk__gt=delivery_id), due_at__gte=at)
    read = list(rows.values_list(*CARD)[: CARDS_AT_ONCE + 1])
    marks: list[schemas.LaneMarksOut] = []
    if asked.marks and not asked.after and asked.narrow.profiles is not None:
        profiles = list(Profile.objects.filter(brand=context.brand, pk__in=asked.narrow.profiles))
        # What no filter leaves out, and fits a page, is all that stands there.
        is_all = not asked.narrow.filters_posts and len(read) <= CARDS_AT_ONCE
        marks = marks_of(context, profiles, read if is_all else there, asked.first, asked.days)
    last = read[CARDS_AT_ONCE - 1] if len(read) > CARDS_AT_ONCE else None
    return {
        "tickets": cards_of(read[:CARDS_AT_ONCE], {context.brand.pk: context.zone}, asked.origin),
        "marks": marks,
        "next": f"{last[_DUE]}.{last[0]}" if last else None,
    }


def _read_place(after: str) -> tuple[datetime, int]:
    micros, _, delivery_id = after.partition(".")
    try:
        return _EPOCH + int(micros) * _MICROSECOND, int(delivery_id)
    except (ValueError, OverflowError):
        raise InvalidError.at("query:after", say("calendar.no_such_page")) from None


def marks_of(
    context: BrandContext,
    profiles: list[Profile],
    there: QuerySet[Delivery] | list[tuple[Any, ...]],
    first: date,
    days: int,
) -> list[schemas.LaneMarksOut]:
    """Gaps and crowding of the profiles' lanes, of all that stands `there`, whatever a filter leaves of it: the rows of a query, or those
    that were read already (columns of CARD). One statement, or two."""
    if isinstance(there, QuerySet):
        there = list(there.filter(AnyOf("profile_id", [p.pk for p in profiles])).values_list(*CARD))
    standing = [(row[0], row[2], _EPOCH + row[_DUE] * _MICROSECOND) for row in there if row[_STATE] in TAKES_A_SLOT]
    return lane_marks(context, profiles, standing, first, first + timedelta(days=days - 1))


def cards_of(rows: list[tuple[Any, ...]], zones: Mapping[int, ZoneInfo], first: date) -> list[schemas.TicketRow]:
    """The cards of deliveries (columns of CARD), with their posts' labels, by the labels' names, and how many deliveries of each post
    can be moved. Days count from `first`, in the zone of each one's brand. Two statements."""
    posts = {row[1] for row in rows}
    links = Post.labels.through.objects.filter(AnyOf("post_id", posts)).order_by("label__name")
    labels: dict[int, list[int]] = {}
    for post, label in links.values_list("post_id", "label_id"):
        labels.setdefault(post, []).append(label)
    moving = Delivery.objects.filter(AnyOf("post_id", posts), state__in=_MOVES)
    movable = dict(moving.values_list("post_id").annotate(Count("pk")))
    origin = first.toordinal()
    return [_card_of(row, zones[row[BRAND]], origin, labels.get(row[1], []), movable.get(row[1], 0)) for row in rows]


def _card_of(row: tuple[Any, ...], zone: ZoneInfo, origin: int, labels: list[int], movable: int) -> schemas.TicketRow:
    delivery_id, post, profile, state, due, headline, thumb, pictures, reason, revision, held_for, _ = row
    here = datetime.fromtimestamp(due // 1_000_000, zone)
    return {
        "id": delivery_id,
        "post": post,
        "profile": profile,
        "state": state,
        "day": here.toordinal() - origin,
        "time": f"{here.hour:02d}:{here.minute:02d}",
        "headline": headline,
        "thumb": thumb,
        "pictures": pictures,
        "reason": reason or HELD_WORDS.get(held_for, "") if state == DeliveryState.HELD else reason,
        "revision": revision,
        "moves": state in _MOVES,
        "movable": movable,
        "labels": labels,
    }
