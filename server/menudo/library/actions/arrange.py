"""Move, copy and label media, many at once; make, name, copy and remove the folders they lie in."""

from django.db import IntegrityError, transaction

from menudo.base.live import tell
from menudo.base.problems import Invalid, NotFound
from menudo.history.actions.record import record
from menudo.library.actions.describe import MOST_LABELS, clean_labels
from menudo.library.models import Asset, Folder
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo_core.text.clean import unusable


def chosen(place: Here, ids: list[int]) -> list[Asset]:
    """The assets of these ids, in their order. Raises NotFound when any isn't the brand's."""
    by_id = {a.pk: a for a in Asset.objects.filter(brand=place.brand, pk__in=ids)}
    if len(by_id) != len(set(ids)):
        raise NotFound("One of these isn't in the library any more.")
    return [by_id[id] for id in dict.fromkeys(ids)]


def folder(place: Here, id: int | None) -> Folder | None:
    """The folder of this id; None for none. Raises NotFound, also for another brand's."""
    if id is None:
        return None
    found = Folder.objects.filter(brand=place.brand, pk=id).first()
    if found is None:
        raise NotFound("That folder isn't there any more.")
    return found


def move(place: Here, ids: list[int], into: int | None) -> int:
    """Into a folder, or out of all (None). How many."""
    place.needs(May.WRITE)
    target = folder(place, into)
    with transaction.atomic():
        assets = chosen(place, ids)
        Asset.objects.filter(pk__in=[a.pk for a in assets]).update(folder=target)
        _told(place, "move", assets, f"moved {_many(assets)} to {target.name if target else 'no folder'}")
    return len(assets)


def copy(place: Here, ids: list[int], into: int | None) -> list[Asset]:
    """Copies with alt texts, captions and labels of their own, into a folder. The files themselves lie there once."""
    place.needs(May.WRITE)
    target = folder(place, into)
    with transaction.atomic():
        assets = chosen(place, ids)
        made = [
            _copied(a, target, a.name if a.folder_id != (target and target.pk) else f"Copy of {a.name}"[:200])
            for a in assets
        ]
        Asset.objects.bulk_create(made)
        _told(place, "copy", assets, f"copied {_many(assets)}")
    return made


def _copied(asset: Asset, target: Folder | None, name: str) -> Asset:
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
    return Asset(
        **{field: getattr(asset, field) for field in same}, labels=list(asset.labels), name=name, folder=target
    )


def label(place: Here, ids: list[int], add: list[str], remove: list[str]) -> int:
    """Give labels to many, and take labels from them. How many changed. Raises Invalid."""
    place.needs(May.WRITE)
    for text in add:
        if words := unusable(text):
            raise Invalid.at("/add", words, "unusable")
    gone = {text.strip().casefold() for text in remove}
    with transaction.atomic():
        assets = chosen(place, ids)
        for asset in assets:
            kept = [text for text in asset.labels if text.casefold() not in gone]
            asset.labels = clean_labels([*kept, *add])[:MOST_LABELS]
        Asset.objects.bulk_update(assets, ["labels"])
        _told(place, "label", assets, f"labelled {_many(assets)}")
    return len(assets)


def keep_folder(place: Here, id: int | None, name: str, bundle: bool) -> Folder:
    """A new folder (id None), or another name for one. Raises Invalid, NotFound."""
    place.needs(May.WRITE)
    row = folder(place, id) or Folder(brand=place.brand)
    name = " ".join(name.split())
    if not name or unusable(name):
        raise Invalid.at("/name", unusable(name) or "Give the folder a name.", "missing")
    row.name, row.bundle = name, bundle
    verb = "named" if row.pk else "made"
    try:
        with transaction.atomic():
            row.save()
            record(place.brand.pk, place.actor, verb, "folder", row.pk, f"{verb} the folder “{name}”")
            tell(place.brand.pk, "asset", 0)
    except IntegrityError as error:
        raise Invalid.at("/name", f"There is a folder named “{name}” already.", "taken") from error
    return row


def remove_folder(place: Here, id: int) -> int:
    """The folder goes; what lies in it stays in the library, in no folder. How many lay in it."""
    place.needs(May.WRITE)
    with transaction.atomic():
        found = folder(place, id)
        assert found is not None
        count = found.assets.count()
        record(place.brand.pk, place.actor, "remove", "folder", id, f"removed the folder “{found.name}”")
        found.delete()
        tell(place.brand.pk, "asset", 0)
    return count


def copy_folder(place: Here, id: int, name: str) -> Folder:
    """A copy of a folder with copies of all that lies in it: a bundle made one's own. Raises Invalid, NotFound."""
    with transaction.atomic():
        found = folder(place, id)
        assert found is not None
        made = keep_folder(place, None, name or f"{found.name} (copy)", found.bundle)
        rows = found.assets.filter(binned=None).order_by("pk")
        Asset.objects.bulk_create([_copied(asset, made, asset.name) for asset in rows])
    return made


def _many(assets: list[Asset]) -> str:
    return assets[0].name if len(assets) == 1 else f"{len(assets)} pictures and videos"


def _told(place: Here, verb: str, assets: list[Asset], words: str) -> None:
    record(place.brand.pk, place.actor, verb, "asset", assets[0].pk if len(assets) == 1 else 0, words)
    tell(place.brand.pk, "asset", 0)
