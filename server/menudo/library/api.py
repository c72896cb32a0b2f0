"""Routes for media: the library, its folders, and what is brought in."""

from pathlib import Path
from tempfile import NamedTemporaryFile
from typing import Annotated, Any

from django.core.files.uploadedfile import TemporaryUploadedFile
from django.http import HttpRequest
from ninja import File, Form, Router, Status, UploadedFile
from pydantic import Field

from menudo.library import queries, schemas
from menudo.library.actions import arrange_assets, bin_assets, stores
from menudo.library.actions.add_asset import add_asset
from menudo.library.actions.describe_asset import AssetDescription, describe_asset
from menudo.library.actions.import_zip import ImportedMedia, import_zip
from menudo.library.models import Folder, Store, Use
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context

router = Router(tags=["library"])


@router.get("/brands/{brand}/assets", response=schemas.AssetsOut, operation_id="assets")
def list_assets(
    request: HttpRequest,
    brand: str,
    words: Annotated[str, Field(max_length=200)] = "",
    folder: Annotated[int | None, Field(ge=0, le=2**63 - 1, description="0: in no folder")] = None,
    label: Annotated[str, Field(max_length=60)] = "",
    kind: schemas.Kind = "",
    used: bool | None = None,
    binned: bool = False,
    before: Annotated[int | None, Field(ge=1, le=2**63 - 1)] = None,
) -> schemas.AssetsOut:
    """A page of the library."""
    wanted = queries.AssetFilter(words, folder, label, kind, used, binned, before)
    return queries.asset_page(brand_context(request, brand), wanted)


@router.post("/brands/{brand}/assets", response={201: schemas.AssetOut}, operation_id="addAsset")
def upload_asset(
    request: HttpRequest,
    brand: str,
    file: File[UploadedFile],
    folder: Form[schemas.Id | None] = None,
) -> Status[schemas.AssetOut]:
    """Add a picture or video. It is turned upright and loses its metadata."""
    context = brand_context(request, brand, Capability.WRITE)
    target = arrange_assets.folder_of(context, folder)
    source = Path(file.temporary_file_path()) if isinstance(file, TemporaryUploadedFile) else file.read()
    return Status(201, queries.asset_out(add_asset(context, source, file.name or "picture", folder=target)))


@router.patch("/brands/{brand}/assets/{asset_id}", response=schemas.AssetOut, operation_id="describeAsset")
def update_asset(request: HttpRequest, brand: str, asset_id: int, data: schemas.DescribeIn) -> schemas.AssetOut:
    """Change an asset's name, alt text, caption, credit or labels."""
    context = brand_context(request, brand, Capability.WRITE)
    changes = AssetDescription(data.name, data.alt, data.caption, data.credit, data.labels)
    return queries.asset_out(describe_asset(context, queries.asset_of(context, asset_id), changes))


@router.get("/brands/{brand}/assets/{asset_id}", response=schemas.AssetOut, operation_id="asset")
def get_asset(request: HttpRequest, brand: str, asset_id: int) -> schemas.AssetOut:
    """One asset."""
    return queries.asset_out(queries.asset_of(brand_context(request, brand), asset_id))


@router.get("/brands/{brand}/assets/{asset_id}/uses", response=list[schemas.UseOut], operation_id="uses")
def list_uses(request: HttpRequest, brand: str, asset_id: int) -> list[Use]:
    """The posts that use it."""
    return queries.asset_uses(brand_context(request, brand), asset_id)


@router.get("/brands/{brand}/shelves", response=schemas.ShelvesOut, operation_id="shelves")
def get_shelves(request: HttpRequest, brand: str) -> schemas.ShelvesOut:
    """Folders, labels and the storage used."""
    return queries.library_shelves(brand_context(request, brand))


@router.post("/brands/{brand}/media/move", response=schemas.DoneOut, operation_id="moveMedia")
def move_to_folder(request: HttpRequest, brand: str, data: schemas.IntoIn) -> schemas.DoneOut:
    """Move media into a folder, or out of all."""
    return schemas.DoneOut(
        count=arrange_assets.move_assets(brand_context(request, brand, Capability.WRITE), data.ids, data.folder)
    )


@router.post("/brands/{brand}/media/copy", response=list[schemas.AssetOut], operation_id="copyMedia")
def copy_to_folder(request: HttpRequest, brand: str, data: schemas.IntoIn) -> list[schemas.AssetOut]:
    """Copy media into a folder: alt texts, captions and labels become the copies' own."""
    context = brand_context(request, brand, Capability.WRITE)
    return queries.assets_out(arrange_assets.copy_assets(context, data.ids, data.folder))


@router.post("/brands/{brand}/media/label", response=schemas.DoneOut, operation_id="labelMedia")
def update_labels(request: HttpRequest, brand: str, data: schemas.LabelIn) -> schemas.DoneOut:
    """Give labels to media, and take labels from them."""
    return schemas.DoneOut(
        count=arrange_assets.label_assets(
            brand_context(request, brand, Capability.WRITE), data.ids, data.add, data.remove
        )
    )


@router.post("/brands/{brand}/media/bin", response=schemas.DoneOut, operation_id="binMedia")
def bin_many(request: HttpRequest, brand: str, data: schemas.IdsIn) -> schemas.DoneOut:
    """Put media in the bin; what a post uses stays."""
    return schemas.DoneOut(count=bin_assets.bin_assets(brand_context(request, brand, Capability.WRITE), data.ids))


@router.post("/brands/{brand}/media/restore", response=schemas.DoneOut, operation_id="restoreMedia")
def restore_many(request: HttpRequest, brand: str, data: schemas.IdsIn) -> schemas.DoneOut:
    """Take media out of the bin."""
    return schemas.DoneOut(count=bin_assets.restore_assets(brand_context(request, brand, Capability.WRITE), data.ids))


@router.post("/brands/{brand}/folders", response={201: schemas.FolderOut}, operation_id="createFolder")
def create_folder(request: HttpRequest, brand: str, data: schemas.FolderIn) -> Status[Folder]:
    """A new folder, or a bundle."""
    return Status(
        201, arrange_assets.save_folder(brand_context(request, brand, Capability.WRITE), None, data.name, data.bundle)
    )


@router.put("/brands/{brand}/folders/{folder_id}", response=schemas.FolderOut, operation_id="updateFolder")
def update_folder(request: HttpRequest, brand: str, folder_id: int, data: schemas.FolderIn) -> Folder:
    """Another name; a bundle or not."""
    return arrange_assets.save_folder(
        brand_context(request, brand, Capability.WRITE), folder_id, data.name, data.bundle
    )


@router.delete("/brands/{brand}/folders/{folder_id}", response=schemas.DoneOut, operation_id="removeFolder")
def destroy_folder(request: HttpRequest, brand: str, folder_id: int) -> schemas.DoneOut:
    """Remove a folder; what lies in it stays in the library."""
    return schemas.DoneOut(
        count=arrange_assets.remove_folder(brand_context(request, brand, Capability.WRITE), folder_id)
    )


@router.post("/brands/{brand}/folders/{folder_id}/copy", response={201: schemas.FolderOut}, operation_id="copyFolder")
def create_folder_copy(request: HttpRequest, brand: str, folder_id: int, data: schemas.FolderCopyIn) -> Status[Folder]:
    """A copy of a folder with all that lies in it."""
    return Status(
        201, arrange_assets.copy_folder(brand_context(request, brand, Capability.WRITE), folder_id, data.name)
    )


@router.post("/brands/{brand}/zips", response=schemas.ImportedMediaOut, operation_id="importZip")
def upload_zip(request: HttpRequest, brand: str, file: File[UploadedFile]) -> schemas.ImportedMediaOut:
    """Bring media in from a ZIP."""
    context = brand_context(request, brand, Capability.WRITE)
    if isinstance(file, TemporaryUploadedFile):
        return _imported_out(import_zip(context, Path(file.temporary_file_path()), file.name or "the ZIP"))
    with NamedTemporaryFile(suffix=".zip") as kept:
        kept.write(file.read())
        kept.flush()
        return _imported_out(import_zip(context, Path(kept.name), file.name or "the ZIP"))


@router.get("/brands/{brand}/stores", response=list[schemas.StoreOut], operation_id="stores")
def list_stores(request: HttpRequest, brand: str) -> list[Store]:
    """The brand's shared stores."""
    return list(Store.objects.filter(brand=brand_context(request, brand).brand).order_by("name"))


@router.post("/brands/{brand}/stores", response={201: schemas.StoreOut}, operation_id="createStore")
def create_store(request: HttpRequest, brand: str, data: schemas.StoreIn) -> Status[Store]:
    """Name a shared store (WebDAV); it is looked into first."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    return Status(201, stores.save_store(context, data.name, data.address, data.user, data.password))


@router.delete("/brands/{brand}/stores/{store_id}", response={204: None}, operation_id="deleteStore")
def destroy_store(request: HttpRequest, brand: str, store_id: int) -> Status[None]:
    """Forget a store."""
    stores.delete_store(brand_context(request, brand, Capability.MANAGE_PROFILES), store_id)
    return Status(204, None)


@router.get("/brands/{brand}/stores/{store_id}", response=list[schemas.StoreEntry], operation_id="listStore")
def list_store_folder(
    request: HttpRequest, brand: str, store_id: int, path: Annotated[str, Field(max_length=1000)] = ""
) -> list[Any]:
    """What lies in a store, folders first."""
    return stores.list_store(brand_context(request, brand, Capability.WRITE), store_id, path)


@router.post(
    "/brands/{brand}/stores/{store_id}",
    response=schemas.ImportedMediaOut,
    operation_id="importFromStore",
)
def import_from_store(
    request: HttpRequest, brand: str, store_id: int, data: schemas.ImportFilesIn
) -> schemas.ImportedMediaOut:
    """Bring files in from a store."""
    return _imported_out(
        stores.import_media(brand_context(request, brand, Capability.WRITE), store_id, data.paths, data.folder)
    )


def _imported_out(found: ImportedMedia) -> schemas.ImportedMediaOut:
    return schemas.ImportedMediaOut(
        added=queries.assets_out(found.added),
        left=[schemas.SkippedFile(name=name, reason=words) for name, words in found.left],
    )
