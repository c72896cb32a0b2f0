"""The brand sheet as others read it."""

from typing import Any

from menudo.brandsheet.models import BrandSheet
from menudo.people.models import Brand


def sheet_values(brand: Brand) -> dict[str, Any]:
    """What the brand's sheet says, as brandsheet/schemas.py has it; empty while there is none."""
    values: dict[str, Any] | None = BrandSheet.objects.filter(brand=brand).values_list("values", flat=True).first()
    return values or {}
