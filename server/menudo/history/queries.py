"""The history of a brand: who did what when, narrowed and taken out."""

from collections.abc import Iterable, Iterator
from datetime import datetime, time
from zoneinfo import ZoneInfo

from django.db.models import QuerySet

from menudo.history import schemas
from menudo.history.models import HistoryEvent
from menudo_core.plans.csv_writer import write_csv
from menudo_core.timing.walltimes import day_bounds

PAGE = 100
_LATELY = 5000
_MAX_ROWS, _ROWS_A_PAGE = 50_000, 1000
# What a person would ask for, and the verbs of the entries that are it.
WHAT: dict[str, tuple[str, ...]] = {
    "written": ("make", "write", "duplicate", "bin", "restore", "mark"),
    "planned": ("plan", "lay", "move", "swap", "unplan", "call_off", "undo", "catch_up", "zone"),
    "signed": ("put_up", "withdraw", "agree", "send_back", "rules", "settle_remark", "assign", "done"),
    "sent": ("publish", "comment", "hand_over", "retry", "settle", "take_down", "update_there"),
    "failed": ("fail", "miss", "hold"),
}


# Whoever is invited isn't of the brand yet: their addresses are for those who manage people.
_OF_PEOPLE = "invitation"


def matching_events(
    brand_id: int, zone: ZoneInfo, wanted: schemas.HistoryFilter, manages_people: bool
) -> QuerySet[HistoryEvent]:
    """The events that fit, newest first; `zone` is the brand's, in which days are meant. Invitations only for who `manages_people`."""
    found = HistoryEvent.objects.filter(brand_id=brand_id).order_by("-id")
    if not manages_people:
        found = found.exclude(kind=_OF_PEOPLE)
    if wanted.who is not None:
        found = found.filter(actor_id=wanted.who or None)
    if wanted.what:
        found = found.filter(verb__in=WHAT[wanted.what])
    if wanted.words.strip():
        found = found.filter(summary__icontains=wanted.words.strip())
    if wanted.first is not None:
        found = found.filter(occurred_at__gte=day_bounds(datetime.combine(wanted.first, time()), zone, 1)[0])
    if wanted.last is not None:
        found = found.filter(occurred_at__lt=day_bounds(datetime.combine(wanted.last, time()), zone, 1)[1])
    return found


def history_page(
    brand_id: int,
    zone: ZoneInfo,
    wanted: schemas.HistoryFilter,
    manages_people: bool,
    before: int | None,
    members: Iterable[tuple[int, str]],
) -> schemas.HistoryOut:
    """A page of entries, older than entry `before`; `more` is what to ask for next, None at the end. `members` are the brand's people
    (id and name). Two statements."""
    found = matching_events(brand_id, zone, wanted, manages_people)
    rows = list((found.filter(pk__lt=before) if before else found)[: PAGE + 1])
    # Whoever did something lately, or is of the brand: to look at every entry there ever was takes long.
    lately = HistoryEvent.objects.filter(brand_id=brand_id).order_by("-id").values("pk")[:_LATELY]
    who = {
        *HistoryEvent.objects.filter(pk__in=lately).values_list("actor_id", "actor_name").distinct(),
        *members,
    }
    people: dict[int, str] = {}
    for actor_id, name in sorted(who, key=lambda one: one[1]):
        people.setdefault(actor_id or 0, name)
    return schemas.HistoryOut(
        events=[
            schemas.HistoryEventOut(
                id=e.pk,
                occurred_at=e.occurred_at,
                actor=e.actor_name,
                summary=e.summary,
                code=e.code,
                params=e.params,
                kind=e.kind,
                object=e.object_id,
                undone=e.undone,
            )
            for e in rows[:PAGE]
        ],
        more=rows[PAGE - 1].pk if len(rows) > PAGE else None,
        people=[schemas.HistoryPerson(id=actor_id, name=name) for actor_id, name in people.items()],
    )


def history_csv(brand_id: int, zone: ZoneInfo, wanted: schemas.HistoryFilter, manages_people: bool) -> Iterator[bytes]:
    """The same as CSV, in pieces, oldest last; times on the wall of the brand's zone, with their offset."""
    rows = _in_pages(matching_events(brand_id, zone, wanted, manages_people))
    return write_csv(
        ("at", "who", "what", "on", "words", "undone"),
        (
            (
                e.occurred_at.astimezone(zone).isoformat(timespec="seconds"),
                e.actor_name,
                e.verb,
                f"{e.kind} {e.object_id}",
                e.summary,
                "yes" if e.undone else "",
            )
            for e in rows
        ),
    )


def _in_pages(found: QuerySet[HistoryEvent]) -> Iterator[HistoryEvent]:
    """Newest first, a page at a time, 50,000 at most. What each thing was before and after isn't told here, and needn't be read."""
    found = found.defer("before", "after")
    left, rows = _MAX_ROWS, list(found[:_ROWS_A_PAGE])
    while rows and left > 0:
        yield from rows[:left]
        left -= len(rows)
        rows = list(found.filter(pk__lt=rows[-1].pk)[:_ROWS_A_PAGE]) if len(rows) == _ROWS_A_PAGE else []
