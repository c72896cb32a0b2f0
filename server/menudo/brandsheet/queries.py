"""The brand sheet as others read it."""

from menudo.brandsheet.completeness import PARTS, filled_parts
from menudo.brandsheet.models import BrandSheet
from menudo.brandsheet.schemas import SheetIO, SheetOut
from menudo.people.models import Brand


def brand_sheet(brand: Brand) -> SheetIO:
    """What the brand's sheet says; one that says nothing while there is none."""
    values = BrandSheet.objects.filter(brand=brand).values_list("values", flat=True).first()
    return SheetIO.model_validate(values or {})


def sheet_out(row: BrandSheet) -> SheetOut:
    sheet = SheetIO.model_validate(row.values)
    return SheetOut(sheet=sheet, revision=row.revision, filled=filled_parts(sheet), parts=PARTS)
