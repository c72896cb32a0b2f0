"""Routes for laying out and for bringing plans in."""

from typing import Any

from django.db import transaction
from django.http import HttpRequest
from ninja import File, Form, Router, Schema
from ninja.files import UploadedFile
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import ERRORS, Invalid
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.plans import schemas
from menudo.plans.actions.bring import bring
from menudo.plans.actions.lay import lay
from menudo.plans.laying import Laid, look
from menudo.plans.matched import Matched
from menudo.plans.reading import MOST_BYTES, read_plan
from menudo_core.timing.walltimes import wall_in

router = Router(tags=["plans"])


@router.post("/brands/{brand}/laid/look", response={200: schemas.LookedOut, **ERRORS}, operation_id="lookAtLaying")
def look_at(request: HttpRequest, brand: str, data: schemas.LayIn) -> dict[str, Any]:
    """Every date that would come of laying out, with clashes, days and findings. Nothing is changed."""
    place = here(request, brand, May.PUBLISH)
    with transaction.atomic():
        rows = look(place, data, clock.now())
    return {"rows": [_laid(row) for row in rows]}


def _laid(row: Laid) -> dict[str, Any]:
    return {
        "thing": row.number, "post": row.thing.post.pk if row.thing.post else None, "asset": row.thing.asset,
        "headline": row.thing.headline, "thumb": row.thing.thumb, "profile": row.profile.pk,
        "wall": wall_in(row.at, row.zone).isoformat(timespec="minutes") if row.at else None, "zone": row.zone.key,
        "sway": row.sway, "notes": [{"kind": kind, "words": words} for kind, words in row.notes],
    }  # fmt: skip


@router.post("/brands/{brand}/laid", response={200: schemas.FixedOut, **ERRORS}, operation_id="layOut")
def fix(request: HttpRequest, brand: str, data: schemas.FixIn) -> dict[str, Any]:
    """Plan many posts and pictures, each at its own time, in one step with one undo."""
    done = lay(here(request, brand, May.PUBLISH), data.rows, data.seed)
    left = [{"row": row, "words": words} for row, words in done.left]
    return {"planned": done.planned, "made": done.made, "left": left, "undo": done.undo}


class PlanFormIn(Schema):
    """`lines`: with commas; empty is every row that has no fault and wasn't brought in before."""

    lines: str = Field(default="", max_length=20_000)
    plans: bool = True
    again: bool = False


@router.post("/brands/{brand}/plans/read", response={200: schemas.PlanReadOut, **ERRORS}, operation_id="readPlan")
def read(request: HttpRequest, brand: str, file: File[UploadedFile]) -> dict[str, Any]:
    """Read a plan (CSV) and say what each row would be, with every fault by row and column. Nothing is changed."""
    place = here(request, brand, May.WRITE)
    found = read_plan(place, _body(file), clock.now())
    table = found.table
    return {
        "name": file.name or "plan.csv", "columns": list(table.header), "encoding": table.encoding,
        "separator": table.separator, "known": found.known, "rows": [_row(m) for m in found.rows],
    }  # fmt: skip


def _body(file: UploadedFile) -> bytes:
    if (file.size or 0) > MOST_BYTES:
        raise Invalid.at("/file", "A plan is 5 MB at most. Split it.", "large")
    return file.read()


def _row(m: Matched) -> dict[str, Any]:
    return {
        "line": m.row.line, "wall": wall_in(m.at, m.zone).isoformat(timespec="minutes") if m.at else None,
        "day": m.row.day, "zone": m.zone.key, "handles": [p.called or p.handle for p in m.profiles],
        "text": m.row.text or next(iter(m.row.texts.values()), ""),
        "media": [*(a.name for a in m.assets), *m.addresses], "labels": [*(x.name for x in m.labels), *m.new_labels],
        "title": m.row.title, "faults": [{"column": f.column, "words": f.words} for f in m.faults],
        "advice": [{"column": f.column, "words": f.words} for f in m.advice], "known": m.known,
    }  # fmt: skip


@router.post("/brands/{brand}/plans", response={200: schemas.TakenOut, **ERRORS}, operation_id="bringPlan")
def take(request: HttpRequest, brand: str, file: File[UploadedFile], data: Form[PlanFormIn]) -> dict[str, Any]:
    """Bring a plan's rows in, all that were chosen or none. Faults point to /rows/LINE/COLUMN."""
    place = here(request, brand, May.WRITE)
    lines = (
        {int(n) for n in data.lines.split(",") if n.isascii() and n.isdigit() and len(n) < 8} if data.lines else None
    )
    done = bring(place, _body(file), file.name or "plan.csv", lines, data.plans, data.again)
    return {"posts": done.posts, "planned": done.planned, "undo": done.undo}
