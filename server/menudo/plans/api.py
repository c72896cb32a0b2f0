"""Routes for laying out and for bringing plans in."""

from django.db import transaction
from django.http import HttpRequest
from ninja import File, Form, Router
from ninja.files import UploadedFile

from menudo.base import clock
from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.plans import schemas
from menudo.plans.actions.import_plan import import_plan
from menudo.plans.actions.schedule_batch import schedule_batch
from menudo.plans.batch import BatchRow, preview_rows
from menudo.plans.matched_row import MatchedRow
from menudo.plans.plan_parser import MAX_BYTES, parse_plan
from menudo.plans.schemas import PlanFormIn
from menudo_core.timing.walltimes import wall_time_in

router = Router(tags=["plans"])


@router.post("/brands/{brand}/batches/preview", response=schemas.BatchPreviewOut, operation_id="previewBatch")
def preview_batch(request: HttpRequest, brand: str, data: schemas.BatchIn) -> schemas.BatchPreviewOut:
    """Every date that would come of laying out, with clashes, days and findings. Nothing is changed."""
    context = brand_context(request, brand, Capability.PUBLISH)
    with transaction.atomic():
        rows = preview_rows(context, data, clock.now())
    return schemas.BatchPreviewOut(rows=[_batch_row_out(row) for row in rows])


def _batch_row_out(row: BatchRow) -> schemas.BatchRowOut:
    return schemas.BatchRowOut(
        item=row.number,
        post=row.item.post.pk if row.item.post else None,
        asset=row.item.asset,
        headline=row.item.headline,
        thumb=row.item.thumb,
        profile=row.profile.pk,
        wall_time=wall_time_in(row.at, row.zone).isoformat(timespec="minutes") if row.at else None,
        zone=row.zone.key,
        jitter=row.jitter,
        notes=[schemas.BatchNote(kind=kind, message=words) for kind, words in row.notes],
    )


@router.post("/brands/{brand}/batches", response=schemas.BatchResultOut, operation_id="scheduleBatch")
def schedule_rows(request: HttpRequest, brand: str, data: schemas.BatchScheduleIn) -> schemas.BatchResultOut:
    """Plan many posts and pictures, each at its own time, in one step with one undo."""
    done = schedule_batch(brand_context(request, brand, Capability.PUBLISH), data.rows, data.seed)
    left = [schemas.SkippedRow(row=row, reason=words) for row, words in done.left]
    return schemas.BatchResultOut(planned=done.planned, made=done.made, left=left, undo=done.undo)


@router.post("/brands/{brand}/plans/read", response=schemas.PlanReadOut, operation_id="inspectPlan")
def inspect_plan(request: HttpRequest, brand: str, file: File[UploadedFile]) -> schemas.PlanReadOut:
    """Read a plan (CSV) and say what each row would be, with every fault by row and column. Nothing is changed."""
    context = brand_context(request, brand, Capability.WRITE)
    found = parse_plan(context, _file_bytes(file), clock.now())
    table = found.table
    return schemas.PlanReadOut(
        name=file.name or "plan.csv",
        columns=list(table.header),
        encoding=table.encoding,
        separator=table.separator,
        known=found.known,
        rows=[_plan_row_out(m) for m in found.rows],
    )


def _file_bytes(file: UploadedFile) -> bytes:
    if (file.size or 0) > MAX_BYTES:
        raise InvalidError.at("/file", say("plan.large"))
    return bytes(file.read())


def _plan_row_out(m: MatchedRow) -> schemas.PlanRowOut:
    return schemas.PlanRowOut(
        line=m.row.line,
        wall_time=wall_time_in(m.at, m.zone).isoformat(timespec="minutes") if m.at else None,
        day=m.row.day,
        zone=m.zone.key,
        handles=[p.display_name or p.handle for p in m.profiles],
        text=m.row.text or next(iter(m.row.texts.values()), ""),
        media=[*(a.name for a in m.assets), *m.addresses],
        labels=[*(x.name for x in m.labels), *m.new_labels],
        title=m.row.title,
        faults=[schemas.CellOut(column=f.column, message=f.message) for f in m.faults],
        advice=[schemas.CellOut(column=f.column, message=f.message) for f in m.advice],
        known=m.known,
    )


@router.post("/brands/{brand}/plans", response=schemas.ImportResultOut, operation_id="importPlan")
def import_plan_file(
    request: HttpRequest, brand: str, file: File[UploadedFile], data: Form[PlanFormIn]
) -> schemas.ImportResultOut:
    """Bring a plan's rows in, all that were chosen or none. Faults point to /rows/LINE/COLUMN."""
    context = brand_context(request, brand, Capability.WRITE)
    lines = (
        {int(n) for n in data.lines.split(",") if n.isascii() and n.isdigit() and len(n) < 8} if data.lines else None
    )
    done = import_plan(context, _file_bytes(file), file.name or "plan.csv", lines, data.plans, data.again)
    return schemas.ImportResultOut(posts=done.posts, planned=done.planned, undo=done.undo)
