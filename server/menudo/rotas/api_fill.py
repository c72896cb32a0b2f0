"""Routes that fill rotas from elsewhere: quotations, a table."""

from dataclasses import asdict

from django.http import HttpRequest
from ninja import File, Router, Status
from ninja.files import UploadedFile

from menudo.base import clock
from menudo.brandsheet.queries import brand_sheet
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.rotas import schemas
from menudo.rotas.actions.import_turns import MAX_TABLE_BYTES, add_quotations, add_table
from menudo.rotas.actions.save_rota import rota_of
from menudo.rotas.queries import card_of, rota_top_posts
from menudo_core.quotations.collection import SOURCES, Quotation, Subject, find_quotations

router = Router(tags=["rotas"])
_MAX_QUOTATIONS = 120


@router.get("/brands/{brand}/quotations", response=schemas.QuotationsOut, operation_id="quotations")
def search_quotations(
    request: HttpRequest, brand: str, words: str = "", subject: Subject | None = None
) -> schemas.QuotationsOut:
    """Quotations out of copyright, those near to the brand's topics first; 120 at most at once."""
    context = brand_context(request, brand)
    found = find_quotations(words[:200], subject, brand_sheet(context.brand).topics)
    return schemas.QuotationsOut(count=len(found), quotations=[_quotation_out(one) for one in found[:_MAX_QUOTATIONS]])


def _quotation_out(one: Quotation) -> schemas.QuotationOut:
    return schemas.QuotationOut(
        id=one.id,
        subject=one.subject,
        text=one.text,
        author=one.author,
        died=one.died,
        work=one.work,
        year=one.year,
        source=SOURCES[one.source],
    )


@router.post(
    "/brands/{brand}/rotas/{rota_id}/quotations",
    response={201: schemas.AddedOut},
    operation_id="addQuotations",
)
def create_quotation_turns(
    request: HttpRequest, brand: str, rota_id: int, data: schemas.QuotationsIn
) -> Status[schemas.AddedOut]:
    """A turn for each quotation, as text or as a picture; the rota goes out once a day at most from then on."""
    context = brand_context(request, brand, Capability.PUBLISH)
    count = add_quotations(context, rota_of(context, rota_id), data.quotations, data.pictures, data.tags)
    return Status(201, schemas.AddedOut(turns=count))


@router.post("/brands/{brand}/rotas/{rota_id}/table", response={201: schemas.AddedOut}, operation_id="addTable")
def upload_table(request: HttpRequest, brand: str, rota_id: int, file: File[UploadedFile]) -> Status[schemas.AddedOut]:
    """A turn for each row of a CSV file: text (several are wordings), picture, link, times, until. All or none."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return Status(
        201, schemas.AddedOut(turns=add_table(context, rota_of(context, rota_id), file.read(MAX_TABLE_BYTES + 1)))
    )


@router.get("/brands/{brand}/top-posts", response=list[schemas.TopPostOut], operation_id="topPosts")
def list_top_posts(request: HttpRequest, brand: str) -> list[schemas.TopPostOut]:
    """The posts of the last year that did better than their profiles usually do, the best 30."""
    found = rota_top_posts(brand_context(request, brand).brand, clock.now(), 30)
    return [
        schemas.TopPostOut(**asdict(card_of(post)), times_usual=round(one.times_usual, 1), reactions=int(one.earned))
        for post, one in found
    ]
