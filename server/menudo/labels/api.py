"""Routes for labels."""

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from menudo.base.problems import ERRORS
from menudo.base.schemas import In
from menudo.labels.actions.keep import delete_label, keep_label
from menudo.labels.models import Label
from menudo.people.capabilities import May
from menudo.people.here import here

router = Router(tags=["labels"])


class PostLabelIn(In):
    name: str = Field(max_length=40)
    ink: str = Field(max_length=12, description="one of the twelve inks")


class PostLabelOut(Schema):
    id: int
    name: str
    ink: str


@router.get("/brands/{brand}/labels", response={200: list[PostLabelOut], **ERRORS}, operation_id="labels")
def labels(request: HttpRequest, brand: str) -> list[Label]:
    """The brand's labels, by name."""
    return list(Label.objects.filter(brand=here(request, brand).brand))


@router.post("/brands/{brand}/labels", response={201: PostLabelOut, **ERRORS}, operation_id="makeLabel")
def make(request: HttpRequest, brand: str, data: PostLabelIn) -> Status[Label]:
    """A new label."""
    return Status(201, keep_label(here(request, brand, May.WRITE), None, data.name, data.ink))


@router.put("/brands/{brand}/labels/{id}", response={200: PostLabelOut, **ERRORS}, operation_id="changeLabel")
def change(request: HttpRequest, brand: str, id: int, data: PostLabelIn) -> Label:
    """Rename a label, or give it another ink."""
    return keep_label(here(request, brand, May.WRITE), id, data.name, data.ink)


@router.delete("/brands/{brand}/labels/{id}", response={204: None, **ERRORS}, operation_id="deleteLabel")
def delete(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Delete a label; its posts stay."""
    delete_label(here(request, brand, May.WRITE), id)
    return Status(204, None)
