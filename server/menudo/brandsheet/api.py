"""Routes for the brand sheet."""

from django.http import HttpRequest, HttpResponse
from ninja import Router

from menudo.base.problems import ERRORS
from menudo.base.revisions import began_from
from menudo.brandsheet.actions.read_page import propose
from menudo.brandsheet.actions.write import present, write
from menudo.brandsheet.filled import PARTS, filled
from menudo.brandsheet.models import BrandSheet
from menudo.brandsheet.schemas import PageIn, ReadOut, SheetIO, SheetOut
from menudo.people.capabilities import May
from menudo.people.here import here

router = Router(tags=["brand sheet"])


def _out(response: HttpResponse, row: BrandSheet) -> SheetOut:
    response["ETag"] = f'"{row.revision}"'
    sheet = SheetIO(**row.said)
    return SheetOut(sheet=sheet, revision=row.revision, filled=filled(sheet), parts=PARTS)


@router.get("/brands/{brand}/sheet", response={200: SheetOut, **ERRORS}, operation_id="brandSheet")
def show(request: HttpRequest, response: HttpResponse, brand: str) -> SheetOut:
    """The brand sheet; its revision is the ETag."""
    return _out(response, present(here(request, brand)))


@router.put("/brands/{brand}/sheet", response={200: SheetOut, **ERRORS}, operation_id="writeSheet")
def put(request: HttpRequest, response: HttpResponse, brand: str, data: SheetIO) -> SheetOut:
    """Write the brand sheet (If-Match)."""
    return _out(response, write(here(request, brand, May.EDIT_OTHERS), data, began_from(request)))


@router.post("/brands/{brand}/sheet/read", response={200: ReadOut, **ERRORS}, operation_id="readBrandPage")
def read(request: HttpRequest, brand: str, data: PageIn) -> ReadOut:
    """Read the brand's own page: proposals to take or leave."""
    return propose(here(request, brand, May.EDIT_OTHERS), data.address)
