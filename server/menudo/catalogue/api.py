"""Routes for catalogues."""

from typing import Any, TypeVar

from django.http import HttpRequest
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import BaseModel, Field, ValidationError

from menudo.base.problems import ERRORS, Fault, Invalid
from menudo.base.revisions import began_from
from menudo.catalogue import reads, schemas
from menudo.catalogue.actions import keep as keeping
from menudo.catalogue.actions.read_catalogue import read_catalogue
from menudo.people.capabilities import May
from menudo.people.here import here

router = Router(tags=["catalogue"])
_Said = TypeVar("_Said", bound=BaseModel)


class CatalogueFormIn(Schema):
    said: str = Field(max_length=50_000, description="a CatalogueIn as JSON")


class LookFormIn(Schema):
    said: str = Field(default="", max_length=10_000, description="a LookAtIn as JSON; empty: as it is guessed")


@router.get(
    "/brands/{brand}/catalogues", response={200: list[schemas.CatalogueOut], **ERRORS}, operation_id="catalogues"
)
def catalogues(request: HttpRequest, brand: str) -> list[dict[str, Any]]:
    """The brand's catalogues, by name."""
    return reads.catalogues(here(request, brand))


@router.post("/brands/{brand}/catalogues", response={201: schemas.CatalogueOut, **ERRORS}, operation_id="makeCatalogue")
def make(request: HttpRequest, brand: str, data: schemas.CatalogueIn) -> Status[dict[str, Any]]:
    """A catalogue at an address. What stands in it now is where it begins: nothing has happened yet."""
    place = here(request, brand, May.PUBLISH)
    return Status(201, reads.catalogue(keeping.keep(place, None, data)))


@router.post(
    "/brands/{brand}/catalogues/file",
    response={201: schemas.CatalogueOut, **ERRORS},
    operation_id="makeCatalogueOfFile",
)
def make_of_file(
    request: HttpRequest, brand: str, data: Form[CatalogueFormIn], file: File[UploadedFile]
) -> Status[dict[str, Any]]:
    """A catalogue that is brought as files, from its first."""
    place = here(request, brand, May.PUBLISH)
    return Status(
        201,
        reads.catalogue(
            keeping.keep(place, None, _said(schemas.CatalogueIn, data.said), file.read(keeping.MOST_BYTES + 1))
        ),
    )


def _said(model: type[_Said], said: str) -> _Said:
    try:
        return model.model_validate_json(said)
    except ValidationError as error:
        faults = [Fault("/" + "/".join(str(part) for part in e["loc"]), e["msg"]) for e in error.errors()]
        raise Invalid(faults=faults) from error


@router.post(
    "/brands/{brand}/catalogues/look", response={200: schemas.LookedAtOut, **ERRORS}, operation_id="lookAtCatalogue"
)
def look(request: HttpRequest, brand: str, data: schemas.LookAtIn) -> dict[str, Any]:
    """What an address has: its columns, which is which as it is guessed or said, and rows as they would be understood."""
    return reads.looked(keeping.look(here(request, brand, May.WRITE), data.address, None), data.mapping)


@router.post(
    "/brands/{brand}/catalogues/look/file",
    response={200: schemas.LookedAtOut, **ERRORS},
    operation_id="lookAtCatalogueFile",
)
def look_at_file(request: HttpRequest, brand: str, data: Form[LookFormIn], file: File[UploadedFile]) -> dict[str, Any]:
    """The same for a file."""
    rows = keeping.look(here(request, brand, May.WRITE), "", file.read(keeping.MOST_BYTES + 1))
    return reads.looked(rows, _said(schemas.LookAtIn, data.said).mapping if data.said else None)


@router.get(
    "/brands/{brand}/catalogues/{id}", response={200: schemas.CataloguePage, **ERRORS}, operation_id="catalogue"
)
def page(request: HttpRequest, brand: str, id: int, words: str = "") -> dict[str, Any]:
    """A catalogue with its things and what happened lately."""
    return reads.page(keeping.catalogue_of(here(request, brand), id), words[:200])


@router.put(
    "/brands/{brand}/catalogues/{id}", response={200: schemas.CatalogueOut, **ERRORS}, operation_id="changeCatalogue"
)
def change(request: HttpRequest, brand: str, id: int, data: schemas.CatalogueIn) -> dict[str, Any]:
    """Its name, address, columns, own events, and how often it is read."""
    place = here(request, brand, May.PUBLISH)
    keeping.catalogue_of(place, id)
    return reads.catalogue(keeping.keep(place, id, data, began=began_from(request)))


@router.delete("/brands/{brand}/catalogues/{id}", response={204: None, **ERRORS}, operation_id="deleteCatalogue")
def delete(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Delete a catalogue with its things and relays; what was posted stays."""
    keeping.delete(here(request, brand, May.PUBLISH), id)
    return Status(204, None)


@router.post(
    "/brands/{brand}/catalogues/{id}/file",
    response={200: schemas.CatalogueBroughtOut, **ERRORS},
    operation_id="bringCatalogue",
)
def bring(request: HttpRequest, brand: str, id: int, file: File[UploadedFile]) -> dict[str, Any]:
    """Another file of a catalogue: what is different from the last has happened."""
    place = here(request, brand, May.PUBLISH)
    return {"happened": keeping.bring(place, keeping.catalogue_of(place, id), file.read(keeping.MOST_BYTES + 1))}


@router.post(
    "/brands/{brand}/catalogues/{id}/read",
    response={200: schemas.CatalogueBroughtOut, **ERRORS},
    operation_id="readCatalogue",
)
def read_now(request: HttpRequest, brand: str, id: int) -> dict[str, Any]:
    """Read a catalogue at its address now."""
    place = here(request, brand, May.PUBLISH)
    return {"happened": read_catalogue(keeping.catalogue_of(place, id).pk)}


@router.post(
    "/brands/{brand}/things/{id}/happened", response={201: schemas.HappeningOut, **ERRORS}, operation_id="sayHappened"
)
def happened(request: HttpRequest, brand: str, id: int, data: schemas.HappenIn) -> Status[dict[str, Any]]:
    """Say by hand what happened to a thing."""
    place = here(request, brand, May.PUBLISH)
    thing = keeping.thing_of(place, id)
    return Status(201, reads.happening(keeping.say(place, thing, data.happened, data.price, data.open_day, data.name)))
