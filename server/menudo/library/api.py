"""Routes for media."""

from django.http import FileResponse, HttpRequest, HttpResponseBase
from ninja import File, Router, Schema, Status, UploadedFile
from pydantic import Field

from menudo.base.problems import ERRORS, NotFound
from menudo.base.schemas import In
from menudo.library import files
from menudo.library.actions.add import add, describe
from menudo.library.models import Asset
from menudo.people.capabilities import May
from menudo.people.here import Here, here

router = Router(tags=["library"])


class AssetOut(Schema):
    id: int
    name: str
    kind: str
    format: str
    width: int
    height: int
    size: int = Field(description="bytes")
    seconds: float | None
    alt: str


class AltIn(In):
    alt: str = Field(max_length=4000)


def asset(place: Here, id: int) -> Asset:
    """One asset of the brand. Raises NotFound, also for another brand's."""
    found = Asset.objects.filter(brand=place.brand, pk=id).first()
    if found is None:
        raise NotFound()
    return found


@router.post("/brands/{brand}/assets", response={201: AssetOut, **ERRORS}, operation_id="addAsset")
def upload(request: HttpRequest, brand: str, file: File[UploadedFile]) -> Status[Asset]:
    """Add a picture. It is turned upright, re-encoded and loses its metadata."""
    return Status(201, add(here(request, brand, May.WRITE), file.read(), file.name or "picture"))


@router.patch("/brands/{brand}/assets/{id}", response={200: AssetOut, **ERRORS}, operation_id="describeAsset")
def set_alt(request: HttpRequest, brand: str, id: int, data: AltIn) -> Asset:
    """Set the alt text."""
    place = here(request, brand, May.WRITE)
    return describe(place, asset(place, id), data.alt)


def picture(request: HttpRequest, brand: str, id: int, part: str) -> HttpResponseBase:
    """The file itself, only for those who may see the brand."""
    if not request.user.is_authenticated:
        raise NotFound()
    found = asset(here(request, brand), id)
    content_type = (
        "image/webp" if part == "thumb" else f"{'video' if found.kind == 'video' else 'image'}/{found.format}"
    )
    response = FileResponse(files.path(found.sha256, part).open("rb"), content_type=content_type)
    response.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    response.headers["Content-Security-Policy"] = "default-src 'none'; sandbox"
    return response
