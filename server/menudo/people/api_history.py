"""Routes for a brand's history: here, since who may read it is a matter of people, who stand above `history`."""

from typing import Annotated

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Query, Router

from menudo.base.downloads import csv_response
from menudo.history.queries import history_csv, history_page
from menudo.history.schemas import HistoryFilter, HistoryOut
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext, brand_context
from menudo.people.models import Membership

router = Router(tags=["history"])


@router.get("/brands/{brand}/history", response=HistoryOut, operation_id="history")
def list_history(
    request: HttpRequest,
    brand: str,
    asked: Query[HistoryFilter],
    before: Annotated[int | None, Query(ge=1, le=2**63 - 1)] = None,
) -> HistoryOut:
    """Who did what when, newest first, a hundred at a time."""
    context = brand_context(request, brand)
    members = Membership.objects.filter(brand=context.brand).values_list("user_id", "user__name")
    return history_page(context.brand.pk, context.zone, asked, _manages_people(context), before, members)


@router.get("/brands/{brand}/history.csv", response={200: None}, operation_id="historyCsv")
def export_history(request: HttpRequest, brand: str, asked: Query[HistoryFilter]) -> StreamingHttpResponse:
    """The same as CSV."""
    context = brand_context(request, brand)
    pieces = history_csv(context.brand.pk, context.zone, asked, _manages_people(context))
    return csv_response(pieces, f"{context.brand.slug}-history.csv")


def _manages_people(context: BrandContext) -> bool:
    return Capability.MANAGE_PEOPLE in context.capabilities
