"""Routes for media: the library, its folders, and what is brought in."""

from pathlib import Path
from tempfile import NamedTemporaryFile
from typing import Any

from django.core.files.uploadedfile import TemporaryUploadedFile
from django.http import HttpRequest
from ninja import File, Form, Query, Router, Status, UploadedFile

from menudo.base.problems import ERRORS
from menudo.library import reads, schemas
from menudo.library.actions import arrange, bin, stores
from menudo.library.actions.add import add
from menudo.library.actions.describe import describe
from menudo.library.actions.unzip import Unpacked, unzip
from menudo.library.models import Asset, Folder, Store, Use
from menudo.people.capabilities import May
from menudo.people.here import here

router = Router(tags=["library"])


@router.get("/brands/{brand}/assets", response={200: schemas.AssetsOut, **ERRORS}, operation_id="assets")
def assets(
    request: HttpRequest,
    brand: str,
    words: str = Query("", max_length=200),
    folder: int | None = Query(None, ge=0, le=2**63 - 1, description="0: in no folder"),
    label: str = Query("", max_length=60),
    kind: schemas.Kind = "",
    used: bool | None = None,
    binned: bool = False,
    before: int | None = Query(None, ge=1, le=2**63 - 1),
) -> dict[str, Any]:
    """A page of the library."""
    wanted = reads.Wanted(words, folder, label, kind, used, binned, before)
    found, total = reads.assets(here(request, brand), wanted)
    return {"assets": found, "total": total}


@router.post("/brands/{brand}/assets", response={201: schemas.AssetOut, **ERRORS}, operation_id="addAsset")
def upload(
    request: HttpRequest,
    brand: str,
    file: File[UploadedFile],
    folder: Form[schemas.Id | None] = None,
) -> Status[Asset]:
    """Add a picture or video. It is turned upright and loses its metadata."""
    place = here(request, brand, May.WRITE)
    target = arrange.folder(place, folder)
    source = Path(file.temporary_file_path()) if isinstance(file, TemporaryUploadedFile) else file.read()
    return Status(201, add(place, source, file.name or "picture", folder=target))


@router.patch("/brands/{brand}/assets/{id}", response={200: schemas.AssetOut, **ERRORS}, operation_id="describeAsset")
def set_alt(request: HttpRequest, brand: str, id: int, data: schemas.DescribeIn) -> Asset:
    """Change an asset's name, alt text, caption, credit or labels."""
    place = here(request, brand, May.WRITE)
    return describe(place, reads.asset(place, id), data.model_dump(exclude_none=True))


@router.get("/brands/{brand}/assets/{id}", response={200: schemas.AssetOut, **ERRORS}, operation_id="asset")
def one(request: HttpRequest, brand: str, id: int) -> Asset:
    """One asset."""
    return reads.asset(here(request, brand), id)


@router.get("/brands/{brand}/assets/{id}/uses", response={200: list[schemas.UseOut], **ERRORS}, operation_id="uses")
def uses(request: HttpRequest, brand: str, id: int) -> list[Use]:
    """The posts that use it."""
    return reads.uses(here(request, brand), id)


@router.get("/brands/{brand}/shelves", response={200: schemas.ShelvesOut, **ERRORS}, operation_id="shelves")
def shelves(request: HttpRequest, brand: str) -> dict[str, Any]:
    """Folders, labels and the storage used."""
    return reads.shelves(here(request, brand))


@router.post("/brands/{brand}/media/move", response={200: schemas.DoneOut, **ERRORS}, operation_id="moveMedia")
def move(request: HttpRequest, brand: str, data: schemas.IntoIn) -> dict[str, int]:
    """Move media into a folder, or out of all."""
    return {"count": arrange.move(here(request, brand, May.WRITE), data.ids, data.folder)}


@router.post("/brands/{brand}/media/copy", response={200: list[schemas.AssetOut], **ERRORS}, operation_id="copyMedia")
def copy(request: HttpRequest, brand: str, data: schemas.IntoIn) -> list[Asset]:
    """Copy media into a folder: alt texts, captions and labels become the copies' own."""
    return arrange.copy(here(request, brand, May.WRITE), data.ids, data.folder)


@router.post("/brands/{brand}/media/label", response={200: schemas.DoneOut, **ERRORS}, operation_id="labelMedia")
def label(request: HttpRequest, brand: str, data: schemas.LabelIn) -> dict[str, int]:
    """Give labels to media, and take labels from them."""
    return {"count": arrange.label(here(request, brand, May.WRITE), data.ids, data.add, data.remove)}


@router.post("/brands/{brand}/media/bin", response={200: schemas.DoneOut, **ERRORS}, operation_id="binMedia")
def to_bin(request: HttpRequest, brand: str, data: schemas.IdsIn) -> dict[str, int]:
    """Put media in the bin; what a post uses stays."""
    return {"count": bin.put_in_bin(here(request, brand, May.WRITE), data.ids)}


@router.post("/brands/{brand}/media/restore", response={200: schemas.DoneOut, **ERRORS}, operation_id="restoreMedia")
def restore(request: HttpRequest, brand: str, data: schemas.IdsIn) -> dict[str, int]:
    """Take media out of the bin."""
    return {"count": bin.restore(here(request, brand, May.WRITE), data.ids)}


@router.post("/brands/{brand}/folders", response={201: schemas.FolderOut, **ERRORS}, operation_id="makeFolder")
def make_folder(request: HttpRequest, brand: str, data: schemas.FolderIn) -> Status[Folder]:
    """A new folder, or a bundle."""
    return Status(201, arrange.keep_folder(here(request, brand, May.WRITE), None, data.name, data.bundle))


@router.put("/brands/{brand}/folders/{id}", response={200: schemas.FolderOut, **ERRORS}, operation_id="changeFolder")
def change_folder(request: HttpRequest, brand: str, id: int, data: schemas.FolderIn) -> Folder:
    """Another name; a bundle or not."""
    return arrange.keep_folder(here(request, brand, May.WRITE), id, data.name, data.bundle)


@router.delete("/brands/{brand}/folders/{id}", response={200: schemas.DoneOut, **ERRORS}, operation_id="removeFolder")
def remove_folder(request: HttpRequest, brand: str, id: int) -> dict[str, int]:
    """Remove a folder; what lies in it stays in the library."""
    return {"count": arrange.remove_folder(here(request, brand, May.WRITE), id)}


@router.post(
    "/brands/{brand}/folders/{id}/copy", response={201: schemas.FolderOut, **ERRORS}, operation_id="copyFolder"
)
def copy_folder(request: HttpRequest, brand: str, id: int, data: schemas.FolderCopyIn) -> Status[Folder]:
    """A copy of a folder with all that lies in it."""
    return Status(201, arrange.copy_folder(here(request, brand, May.WRITE), id, data.name))


@router.post("/brands/{brand}/zips", response={200: schemas.BroughtOut, **ERRORS}, operation_id="unzip")
def zips(request: HttpRequest, brand: str, file: File[UploadedFile]) -> dict[str, Any]:
    """Bring media in from a ZIP."""
    place = here(request, brand, May.WRITE)
    if isinstance(file, TemporaryUploadedFile):
        return _brought(unzip(place, Path(file.temporary_file_path()), file.name or "the ZIP"))
    with NamedTemporaryFile(suffix=".zip") as kept:
        kept.write(file.read())
        kept.flush()
        return _brought(unzip(place, Path(kept.name), file.name or "the ZIP"))


@router.get("/brands/{brand}/stores", response={200: list[schemas.StoreOut], **ERRORS}, operation_id="stores")
def all_stores(request: HttpRequest, brand: str) -> list[Store]:
    """The brand's shared stores."""
    return list(Store.objects.filter(brand=here(request, brand).brand).order_by("name"))


@router.post("/brands/{brand}/stores", response={201: schemas.StoreOut, **ERRORS}, operation_id="keepStore")
def keep_store(request: HttpRequest, brand: str, data: schemas.StoreIn) -> Status[Store]:
    """Name a shared store (WebDAV); it is looked into first."""
    place = here(request, brand, May.MANAGE_PROFILES)
    return Status(201, stores.keep_store(place, data.name, data.address, data.user, data.password))


@router.delete("/brands/{brand}/stores/{id}", response={204: None, **ERRORS}, operation_id="forgetStore")
def forget_store(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Forget a store."""
    stores.forget_store(here(request, brand, May.MANAGE_PROFILES), id)
    return Status(204, None)


@router.get(
    "/brands/{brand}/stores/{id}", response={200: list[schemas.StoreEntry], **ERRORS}, operation_id="lookInStore"
)
def look(request: HttpRequest, brand: str, id: int, path: str = Query("", max_length=1000)) -> list[Any]:
    """What lies in a store, folders first."""
    return stores.look(here(request, brand, May.WRITE), id, path)


@router.post("/brands/{brand}/stores/{id}", response={200: schemas.BroughtOut, **ERRORS}, operation_id="bringIn")
def bring_in(request: HttpRequest, brand: str, id: int, data: schemas.BringIn) -> dict[str, Any]:
    """Bring files in from a store."""
    return _brought(stores.bring_in(here(request, brand, May.WRITE), id, data.paths, data.folder))


def _brought(found: Unpacked) -> dict[str, Any]:
    return {"added": found.added, "left": [{"name": name, "words": words} for name, words in found.left]}
