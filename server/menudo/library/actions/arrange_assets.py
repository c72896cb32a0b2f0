"""Move, copy and label media, many at once; make, name, copy and remove the folders they lie in."""

from django.db import IntegrityError, transaction

from menudo.base.live import publish_change
from menudo.base.problems import InvalidError, NotFoundError
from menudo.base.sentences import Sentence, say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.labels.actions.find_or_create import find_or_create_labels
from menudo.library.models import Asset, Folder
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext

_LABELS = Asset.labels.through


def assets_by_ids(context: BrandContext, ids: list[int]) -> list[Asset]:
    """The assets of these ids, in their order. Raises NotFoundError when any isn't the brand's."""
    rows = Asset.objects.filter(brand=context.brand, pk__in=ids).prefetch_related("labels")
    by_id = {a.pk: a for a in rows}
    if len(by_id) != len(set(ids)):
        raise NotFoundError(say("asset.gone"))
    return [by_id[asset_id] for asset_id in dict.fromkeys(ids)]


def folder_of(context: BrandContext, folder_id: int | None) -> Folder | None:
    """The folder of this id; None for none. Raises NotFoundError, also for another brand's."""
    if folder_id is None:
        return None
    found = Folder.objects.filter(brand=context.brand, pk=folder_id).first()
    if found is None:
        raise NotFoundError(say("folder.gone"))
    return found


def move_assets(context: BrandContext, ids: list[int], into: int | None) -> int:
    """Into a folder, or out of all (None). How many."""
    context.require(Capability.WRITE)
    target = folder_of(context, into)
    with transaction.atomic():
        assets = assets_by_ids(context, ids)
        Asset.objects.filter(pk__in=[a.pk for a in assets]).update(folder=target)
        said = _about(assets, "asset.moved", folder=target.name) if target else _about(assets, "asset.moved_out")
        _record_and_publish(context, "move", assets, said)
    return len(assets)


def copy_assets(context: BrandContext, ids: list[int], into: int | None) -> list[Asset]:
    """Copies with alt texts, captions and labels of their own, into a folder. The files themselves lie there once."""
    context.require(Capability.WRITE)
    target = folder_of(context, into)
    with transaction.atomic():
        assets = assets_by_ids(context, ids)
        made = [
            _copy_of(a, target, a.name if a.folder_id != (target and target.pk) else f"Copy of {a.name}"[:200])
            for a in assets
        ]
        Asset.objects.bulk_create(made)
        labels = [(a.pk, label.pk) for copied, a in zip(assets, made, strict=True) for label in copied.labels.all()]
        _LABELS.objects.bulk_create(_LABELS(asset_id=asset_id, label_id=label_id) for asset_id, label_id in labels)
        _record_and_publish(context, "copy", assets, _about(assets, "asset.copied"))
    return made


def _copy_of(asset: Asset, target: Folder | None, name: str) -> Asset:
    same = (
        "brand_id",
        "kind",
        "format",
        "codec",
        "width",
        "height",
        "size",
        "seconds",
        "sha256",
        "alt",
        "caption",
        "credit",
    )
    return Asset(**{field: getattr(asset, field) for field in same}, name=name, folder=target)


def label_assets(context: BrandContext, ids: list[int], add: list[str], remove: list[str]) -> int:
    """Give labels to many, and take labels from them. How many changed. Raises InvalidError."""
    context.require(Capability.WRITE)
    gone = {" ".join(name.split()).casefold() for name in remove}
    with transaction.atomic():
        assets = assets_by_ids(context, ids)
        there = {label.pk for asset in assets for label in asset.labels.all() if label.name.casefold() in gone}
        _LABELS.objects.filter(asset__in=assets, label__in=there).delete()
        added = [label.pk for label in find_or_create_labels(context, add, "/add")]
        rows = [_LABELS(asset_id=asset.pk, label_id=label_id) for asset in assets for label_id in added]
        _LABELS.objects.bulk_create(rows, ignore_conflicts=True)
        _record_and_publish(context, "label", assets, _about(assets, "asset.labelled"))
    return len(assets)


def save_folder(context: BrandContext, folder_id: int | None, name: str, bundle: bool) -> Folder:
    """A new folder (id None), or another name for one. Raises InvalidError, NotFoundError."""
    context.require(Capability.WRITE)
    row = folder_of(context, folder_id) or Folder(brand=context.brand)
    name = " ".join(name.split())
    if not name or storage_refusal(name):
        raise InvalidError.at("/name", storage_refusal(name) or say("folder.nameless"))
    row.name, row.bundle = name, bundle
    verb = "named" if row.pk else "made"
    try:
        with transaction.atomic():
            row.save()
            record_event(context.brand.pk, context.actor, verb, "folder", row.pk, say(f"folder.{verb}", name=name))
            publish_change(context.brand.pk, "asset", 0)
    except IntegrityError as error:
        raise InvalidError.at("/name", say("folder.name_taken", name=name)) from error
    return row


def remove_folder(context: BrandContext, folder_id: int) -> int:
    """The folder goes; what lies in it stays in the library, in no folder. How many lay in it."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        found = folder_of(context, folder_id)
        assert found is not None
        count = found.assets.count()
        record_event(
            context.brand.pk, context.actor, "remove", "folder", folder_id, say("folder.removed", name=found.name)
        )
        found.delete()
        publish_change(context.brand.pk, "asset", 0)
    return count


def copy_folder(context: BrandContext, folder_id: int, name: str) -> Folder:
    """A copy of a folder with copies of all that lies in it: a bundle made one's own. Raises InvalidError, NotFoundError."""
    with transaction.atomic():
        found = folder_of(context, folder_id)
        assert found is not None
        made = save_folder(context, None, name or f"{found.name} (copy)", found.bundle)
        rows = found.assets.filter(deleted_at=None).order_by("pk")
        Asset.objects.bulk_create([_copy_of(asset, made, asset.name) for asset in rows])
    return made


def _about(assets: list[Asset], code: str, **more: str) -> Sentence:
    return say(code, count=len(assets), name=assets[0].name, **more)


def _record_and_publish(context: BrandContext, verb: str, assets: list[Asset], sentence: Sentence) -> None:
    record_event(context.brand.pk, context.actor, verb, "asset", assets[0].pk if len(assets) == 1 else 0, sentence)
    publish_change(context.brand.pk, "asset", 0)
