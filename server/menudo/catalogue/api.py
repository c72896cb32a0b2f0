"""Routes for catalogues."""

from typing import TypeVar

from django.http import HttpRequest
from ninja import File, Form, Router, Status
from ninja.files import UploadedFile
from pydantic import BaseModel, ValidationError

from menudo.base.problems import Fault, InvalidError
from menudo.base.revisions import if_match_revision
from menudo.catalogue import queries, schemas
from menudo.catalogue.actions import save_catalogue as keeping
from menudo.catalogue.actions.poll_catalogue import poll_catalogue
from menudo.catalogue.schemas import CatalogueFormIn, LookFormIn
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context

router = Router(tags=["catalogue"])
_Model = TypeVar("_Model", bound=BaseModel)


@router.get("/brands/{brand}/catalogues", response=list[schemas.CatalogueOut], operation_id="catalogues")
def list_catalogues(request: HttpRequest, brand: str) -> list[schemas.CatalogueOut]:
    """The brand's catalogues, by name."""
    return queries.catalogue_list(brand_context(request, brand))


@router.post("/brands/{brand}/catalogues", response={201: schemas.CatalogueOut}, operation_id="createCatalogue")
def create_catalogue(request: HttpRequest, brand: str, data: schemas.CatalogueIn) -> Status[schemas.CatalogueOut]:
    """A catalogue at an address. What stands in it now is where it begins: nothing has happened yet."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return Status(201, queries.catalogue_out(keeping.save_catalogue(context, None, data)))


@router.post(
    "/brands/{brand}/catalogues/file",
    response={201: schemas.CatalogueOut},
    operation_id="createCatalogueFromFile",
)
def create_from_file(
    request: HttpRequest, brand: str, data: Form[CatalogueFormIn], file: File[UploadedFile]
) -> Status[schemas.CatalogueOut]:
    """A catalogue that is brought as files, from its first."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return Status(
        201,
        queries.catalogue_out(
            keeping.save_catalogue(
                context, None, _parse_form(schemas.CatalogueIn, data.settings), file.read(keeping.MAX_BYTES + 1)
            )
        ),
    )


def _parse_form(model: type[_Model], text: str) -> _Model:
    try:
        return model.model_validate_json(text)
    except ValidationError as error:
        faults = [Fault("/" + "/".join(str(part) for part in e["loc"]), e["msg"]) for e in error.errors()]
        raise InvalidError(faults=faults) from error


@router.post(
    "/brands/{brand}/catalogues/inspect",
    response=schemas.InspectionOut,
    operation_id="inspectCatalogue",
)
def inspect_address(request: HttpRequest, brand: str, data: schemas.InspectIn) -> schemas.InspectionOut:
    """What an address has: its columns, which is which as it is guessed or said, and rows as they would be understood."""
    return queries.inspection_out(
        keeping.inspect_catalogue(brand_context(request, brand, Capability.WRITE), data.address, None), data.mapping
    )


@router.post(
    "/brands/{brand}/catalogues/inspect/file",
    response=schemas.InspectionOut,
    operation_id="inspectCatalogueFile",
)
def inspect_file(
    request: HttpRequest, brand: str, data: Form[LookFormIn], file: File[UploadedFile]
) -> schemas.InspectionOut:
    """The same for a file."""
    rows = keeping.inspect_catalogue(
        brand_context(request, brand, Capability.WRITE), "", file.read(keeping.MAX_BYTES + 1)
    )
    return queries.inspection_out(
        rows, _parse_form(schemas.InspectIn, data.settings).mapping if data.settings else None
    )


@router.get(
    "/brands/{brand}/catalogues/{catalogue_id}",
    response=schemas.CataloguePage,
    operation_id="catalogue",
)
def get_catalogue(request: HttpRequest, brand: str, catalogue_id: int, words: str = "") -> schemas.CataloguePage:
    """A catalogue with its things and what happened lately."""
    return queries.catalogue_page(keeping.catalogue_of(brand_context(request, brand), catalogue_id), words[:200])


@router.put(
    "/brands/{brand}/catalogues/{catalogue_id}",
    response=schemas.CatalogueOut,
    operation_id="updateCatalogue",
)
def update_catalogue(
    request: HttpRequest, brand: str, catalogue_id: int, data: schemas.CatalogueIn
) -> schemas.CatalogueOut:
    """Its name, address, columns, own events, and how often it is read."""
    context = brand_context(request, brand, Capability.PUBLISH)
    keeping.catalogue_of(context, catalogue_id)
    return queries.catalogue_out(
        keeping.save_catalogue(context, catalogue_id, data, revision=if_match_revision(request))
    )


@router.delete("/brands/{brand}/catalogues/{catalogue_id}", response={204: None}, operation_id="deleteCatalogue")
def destroy_catalogue(request: HttpRequest, brand: str, catalogue_id: int) -> Status[None]:
    """Delete a catalogue with its things and relays; what was posted stays."""
    keeping.delete_catalogue(brand_context(request, brand, Capability.PUBLISH), catalogue_id)
    return Status(204, None)


@router.post(
    "/brands/{brand}/catalogues/{catalogue_id}/file",
    response=schemas.CatalogueImportedOut,
    operation_id="importCatalogueFile",
)
def upload_file(
    request: HttpRequest, brand: str, catalogue_id: int, file: File[UploadedFile]
) -> schemas.CatalogueImportedOut:
    """Another file of a catalogue: what is different from the last has happened."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return schemas.CatalogueImportedOut(
        events=keeping.import_file(
            context, keeping.catalogue_of(context, catalogue_id), file.read(keeping.MAX_BYTES + 1)
        )
    )


@router.post(
    "/brands/{brand}/catalogues/{catalogue_id}/read",
    response=schemas.CatalogueImportedOut,
    operation_id="pollCatalogue",
)
def poll_now(request: HttpRequest, brand: str, catalogue_id: int) -> schemas.CatalogueImportedOut:
    """Read a catalogue at its address now."""
    context = brand_context(request, brand, Capability.PUBLISH)
    return schemas.CatalogueImportedOut(events=poll_catalogue(keeping.catalogue_of(context, catalogue_id).pk))


@router.post(
    "/brands/{brand}/items/{item_id}/events",
    response={201: schemas.CatalogueEventOut},
    operation_id="createCatalogueEvent",
)
def create_event(
    request: HttpRequest, brand: str, item_id: int, data: schemas.CatalogueEventIn
) -> Status[schemas.CatalogueEventOut]:
    """Say by hand what happened to a thing."""
    context = brand_context(request, brand, Capability.PUBLISH)
    made = keeping.report_event(context, item_id, data.kind, data.price, data.open_day, data.name)
    return Status(201, queries.event_out(made))
