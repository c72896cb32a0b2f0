"""Media, as pages need them, in a fixed number of statements."""

from dataclasses import dataclass

from django.db.models import Count, F, Q, QuerySet, Sum, prefetch_related_objects

from menudo.base.rows import first_or_404
from menudo.labels.models import Label
from menudo.library import schemas
from menudo.library.models import Asset, Folder, Use
from menudo.people.context import BrandContext

PAGE = 60


@dataclass(frozen=True, slots=True)
class AssetFilter:
    """What is looked for. `folder` 0: in no folder; None: anywhere. `used` None: whether used or not."""

    words: str = ""
    folder: int | None = None
    label: str = ""
    kind: str = ""
    used: bool | None = None
    deleted: bool = False
    before: int | None = None


def asset_of(context: BrandContext, asset_id: int) -> Asset:
    """One asset of the brand. Raises NotFoundError, also for another brand's."""
    return first_or_404(Asset.objects.filter(brand=context.brand, pk=asset_id).prefetch_related("labels"))


def asset_out(asset: Asset) -> schemas.AssetOut:
    return schemas.AssetOut(
        id=asset.pk,
        name=asset.name,
        kind=asset.kind,
        format=asset.format,
        codec=asset.codec,
        width=asset.width,
        height=asset.height,
        size=asset.size,
        seconds=asset.seconds,
        alt=asset.alt,
        caption=asset.caption,
        credit=asset.credit,
        labels=[label.name for label in asset.labels.all()],
        folder=asset.folder_id,
        created_at=asset.created_at,
        deleted_at=asset.deleted_at,
        used_in=getattr(asset, "used_in", 0),
    )


def assets_out(assets: list[Asset]) -> list[schemas.AssetOut]:
    """Each of them, in one statement for the labels of all."""
    prefetch_related_objects(assets, "labels")
    return [asset_out(asset) for asset in assets]


def asset_page(context: BrandContext, wanted: AssetFilter) -> schemas.AssetsOut:
    """A page of assets, newest first, and how many there are in all. Three statements."""
    found = _matching_assets(context, wanted)
    total = found.count()
    if wanted.before:
        found = found.filter(pk__lt=wanted.before)
    page = found.annotate(used_in=Count("uses", distinct=True)).order_by("-id")[:PAGE]
    return schemas.AssetsOut(assets=assets_out(list(page)), total=total)


def _matching_assets(context: BrandContext, wanted: AssetFilter) -> QuerySet[Asset]:
    found = Asset.objects.filter(brand=context.brand, deleted_at__isnull=not wanted.deleted)
    for word in wanted.words.split()[:8]:
        of_posts = Use.objects.filter(Q(excerpt__icontains=word) | Q(title__icontains=word)).values("asset_id")
        here = Q(name__icontains=word) | Q(alt__icontains=word) | Q(caption__icontains=word) | Q(credit__icontains=word)
        labelled = Asset.labels.through.objects.filter(label__name__icontains=word).values("asset_id")
        found = found.filter(here | Q(pk__in=labelled) | Q(pk__in=of_posts))
    if wanted.folder is not None:
        found = found.filter(folder=wanted.folder or None) if wanted.folder else found.filter(folder=None)
    if wanted.label:
        found = found.filter(labels__name__iexact=wanted.label)
    if wanted.kind:
        found = found.filter(kind=wanted.kind)
    if wanted.used is not None:
        found = found.filter(pk__in=Use.objects.values("asset_id")) if wanted.used else found.filter(uses=None)
    return found


def library_shelves(context: BrandContext) -> schemas.ShelvesOut:
    """Folders with counts, labels with counts, and the storage used. Three statements; the same file counts once."""
    mine = Asset.objects.filter(brand=context.brand)
    folders = Folder.objects.filter(brand=context.brand).annotate(
        count=Count("assets", filter=Q(assets__deleted_at=None))
    )
    labels = (
        Label.objects.filter(brand=context.brand)
        .annotate(count=Count("assets", filter=Q(assets__deleted_at=None)))
        .filter(count__gt=0)
    )
    files = mine.values("sha256").annotate(bytes=F("size")).distinct()
    counts = mine.aggregate(
        all=Count("pk", filter=Q(deleted_at=None)),
        loose=Count("pk", filter=Q(deleted_at=None, folder=None)),
        binned=Count("pk", filter=~Q(deleted_at=None)),
    )
    return schemas.ShelvesOut(
        folders=[
            schemas.FolderOut(id=f.pk, name=f.name, bundle=f.bundle, count=f.count) for f in folders.order_by("name")
        ],
        labels=[
            schemas.LabelOut(label=label.name, count=label.count)
            for label in sorted(labels, key=lambda label: label.name.casefold())
        ],
        all=counts["all"],
        loose=counts["loose"],
        binned=counts["binned"],
        bytes=files.aggregate(sum=Sum("bytes"))["sum"] or 0,
    )


def asset_uses(context: BrandContext, asset_id: int) -> list[Use]:
    """The posts that use an asset, newest first. Raises NotFoundError."""
    return list(Use.objects.filter(asset=asset_of(context, asset_id)).order_by("-post_id")[:100])
