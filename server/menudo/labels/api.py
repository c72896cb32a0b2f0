"""Routes for labels."""

from django.http import HttpRequest
from ninja import Router, Status

from menudo.labels.actions.save_label import delete_label, save_label
from menudo.labels.models import Label
from menudo.labels.schemas import PostLabelIn, PostLabelOut
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context

router = Router(tags=["labels"])


@router.get("/brands/{brand}/labels", response=list[PostLabelOut], operation_id="labels")
def list_labels(request: HttpRequest, brand: str) -> list[Label]:
    """The brand's labels, by name."""
    return list(Label.objects.filter(brand=brand_context(request, brand).brand))


@router.post("/brands/{brand}/labels", response={201: PostLabelOut}, operation_id="createLabel")
def create_label(request: HttpRequest, brand: str, data: PostLabelIn) -> Status[Label]:
    """A new label."""
    return Status(201, save_label(brand_context(request, brand, Capability.WRITE), None, data.name, data.ink))


@router.put("/brands/{brand}/labels/{label_id}", response=PostLabelOut, operation_id="updateLabel")
def update_label(request: HttpRequest, brand: str, label_id: int, data: PostLabelIn) -> Label:
    """Rename a label, or give it another ink."""
    return save_label(brand_context(request, brand, Capability.WRITE), label_id, data.name, data.ink)


@router.delete("/brands/{brand}/labels/{label_id}", response={204: None}, operation_id="deleteLabel")
def destroy_label(request: HttpRequest, brand: str, label_id: int) -> Status[None]:
    """Delete a label; its posts stay."""
    delete_label(brand_context(request, brand, Capability.WRITE), label_id)
    return Status(204, None)
