"""The history of a brand: who did what when, narrowed and taken out."""

from dataclasses import dataclass
from datetime import date, datetime, time
from typing import Any

from django.db.models import QuerySet

from menudo.history.models import Entry
from menudo.people.here import Here
from menudo_core.plans.out import written
from menudo_core.timing.walltimes import day_bounds

PAGE = 100
_MOST = 50_000
# What a person would ask for, and the verbs of the entries that are it.
WHAT: dict[str, tuple[str, ...]] = {
    "written": ("make", "write", "duplicate", "bin", "restore", "mark"),
    "planned": ("plan", "lay", "move", "swap", "unplan", "call_off", "undo", "catch_up", "zone"),
    "signed": ("put_up", "withdraw", "agree", "send_back", "rules", "settle_remark", "assign", "done"),
    "sent": ("publish", "comment", "hand_over", "retry", "settle", "take_down", "update_there"),
    "failed": ("fail", "miss", "hold"),
}


@dataclass(frozen=True, slots=True)
class Wanted:
    """What is asked for: by whom (0: Menudo itself), what, in which words, between which days of the brand's calendar."""

    who: int | None = None
    what: str = ""
    words: str = ""
    first: date | None = None
    last: date | None = None


def entries(place: Here, wanted: Wanted) -> QuerySet[Entry]:
    """The entries that fit, newest first."""
    found = Entry.objects.filter(brand_id=place.brand.pk).order_by("-id")
    if wanted.who is not None:
        found = found.filter(actor_id=wanted.who or None)
    if wanted.what:
        found = found.filter(verb__in=WHAT[wanted.what])
    if wanted.words.strip():
        found = found.filter(words__icontains=wanted.words.strip())
    if wanted.first is not None:
        found = found.filter(at__gte=day_bounds(datetime.combine(wanted.first, time()), place.zone, 1)[0])
    if wanted.last is not None:
        found = found.filter(at__lt=day_bounds(datetime.combine(wanted.last, time()), place.zone, 1)[1])
    return found


def page(place: Here, wanted: Wanted, before: int | None) -> dict[str, Any]:
    """A page of entries, older than entry `before`; `more` is what to ask for next, None at the end. Two statements."""
    found = entries(place, wanted)
    rows = list((found.filter(pk__lt=before) if before else found)[: PAGE + 1])
    who = (
        Entry.objects.filter(brand_id=place.brand.pk)
        .values_list("actor_id", "actor_name")
        .distinct()
        .order_by("actor_name")
    )
    people: dict[int, str] = {}
    for id, name in who:
        people.setdefault(id or 0, name)
    return {
        "entries": [
            {"id": e.pk, "at": e.at, "who": e.actor_name, "words": e.words, "kind": e.kind, "object": e.object_id, "undone": e.undone}
            for e in rows[:PAGE]
        ],
        "more": rows[PAGE - 1].pk if len(rows) > PAGE else None,
        "people": [{"id": id, "name": name} for id, name in people.items()],
    }  # fmt: skip


def as_csv(place: Here, wanted: Wanted) -> bytes:
    """The same as CSV, oldest last; times on the wall of the brand's zone, with their offset."""
    # What each thing was before and after isn't told here, and needn't be read.
    rows = entries(place, wanted).defer("before", "after")[:_MOST]
    return written(
        ("at", "who", "what", "on", "words", "undone"),
        (
            (e.at.astimezone(place.zone).isoformat(timespec="seconds"), e.actor_name, e.verb, f"{e.kind} {e.object_id}", e.words, "yes" if e.undone else "")
            for e in rows.iterator()
        ),
    )  # fmt: skip
