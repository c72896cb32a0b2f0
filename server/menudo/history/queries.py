"""The history of a brand: who did what when, narrowed and taken out."""

from datetime import datetime, time
from zoneinfo import ZoneInfo

from django.db.models import QuerySet

from menudo.history import schemas
from menudo.history.models import HistoryEvent
from menudo_core.plans.csv_writer import write_csv
from menudo_core.timing.walltimes import day_bounds

PAGE = 100
_MAX_ROWS = 50_000
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
    brand_id: int, zone: ZoneInfo, wanted: schemas.HistoryFilter, manages_people: bool, before: int | None
) -> schemas.HistoryOut:
    """A page of entries, older than entry `before`; `more` is what to ask for next, None at the end. Two statements."""
    found = matching_events(brand_id, zone, wanted, manages_people)
    rows = list((found.filter(pk__lt=before) if before else found)[: PAGE + 1])
    who = (
        HistoryEvent.objects.filter(brand_id=brand_id)
        .values_list("actor_id", "actor_name")
        .distinct()
        .order_by("actor_name")
    )
    people: dict[int, str] = {}
    for actor_id, name in who:
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


def history_csv(brand_id: int, zone: ZoneInfo, wanted: schemas.HistoryFilter, manages_people: bool) -> bytes:
    """The same as CSV, oldest last; times on the wall of the brand's zone, with their offset."""
    # What each thing was before and after isn't told here, and needn't be read.
    rows = matching_events(brand_id, zone, wanted, manages_people).defer("before", "after")[:_MAX_ROWS]
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
            for e in rows.iterator()
        ),
    )
