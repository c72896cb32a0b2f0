"""Routes for the brand sheet."""

from django.http import HttpRequest, HttpResponse
from ninja import Router

from menudo.base.revisions import if_match_revision
from menudo.brandsheet.actions.read_page import propose_from_page
from menudo.brandsheet.actions.save_sheet import current_sheet, save_sheet
from menudo.brandsheet.models import BrandSheet
from menudo.brandsheet.queries import sheet_out
from menudo.brandsheet.schemas import PageIn, ReadOut, SheetIO, SheetOut
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context

router = Router(tags=["brand sheet"])


def _sheet_response(response: HttpResponse, row: BrandSheet) -> SheetOut:
    response["ETag"] = f'"{row.revision}"'
    return sheet_out(row)


@router.get("/brands/{brand}/sheet", response=SheetOut, operation_id="brandSheet")
def get_sheet(request: HttpRequest, response: HttpResponse, brand: str) -> SheetOut:
    """The brand sheet; its revision is the ETag."""
    return _sheet_response(response, current_sheet(brand_context(request, brand)))


@router.put("/brands/{brand}/sheet", response=SheetOut, operation_id="saveBrandSheet")
def update_sheet(request: HttpRequest, response: HttpResponse, brand: str, data: SheetIO) -> SheetOut:
    """Write the brand sheet (If-Match)."""
    return _sheet_response(
        response, save_sheet(brand_context(request, brand, Capability.EDIT_OTHERS), data, if_match_revision(request))
    )


@router.post("/brands/{brand}/sheet/read", response=ReadOut, operation_id="readBrandPage")
def read_page(request: HttpRequest, brand: str, data: PageIn) -> ReadOut:
    """Read the brand's own page: proposals to take or leave."""
    return propose_from_page(brand_context(request, brand, Capability.EDIT_OTHERS), data.address)
