"""Add a file to a brand's media."""

import hashlib

from django.db import IntegrityError, transaction

from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.history.actions.record import record
from menudo.library import files
from menudo.library.models import Asset
from menudo.library.reading import Unreadable, ready
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo_core.text.clean import unusable


def add(place: Here, data: bytes, name: str, alt: str = "") -> Asset:
    """Ready the file and keep it; the same picture added again is the asset already there. Raises Invalid."""
    place.needs(May.WRITE)
    name = "".join(c for c in name if c.isprintable() and not "\ud800" <= c <= "\udfff")[-120:] or "picture"
    try:
        readied = ready(data, name)
    except Unreadable as error:
        raise Invalid.at("/file", str(error), "unreadable") from error
    sha = hashlib.sha256(readied.data).hexdigest()
    known = Asset.objects.filter(brand=place.brand, sha256=sha).first()
    if known is not None:
        return known
    files.keep(sha, "whole", readied.data)
    files.keep(sha, "thumb", readied.thumb)
    try:
        with transaction.atomic():
            asset = Asset.objects.create(
                brand=place.brand, name=name, kind=readied.kind, format=readied.format, width=readied.width,
                height=readied.height, size=len(readied.data), seconds=readied.seconds, sha256=sha, alt=alt,
            )  # fmt: skip
            record(place.brand.pk, place.actor, "add", "asset", asset.pk, f"added {name}")
    except IntegrityError:
        return Asset.objects.get(brand=place.brand, sha256=sha)
    return asset


def describe(place: Here, asset: Asset, alt: str) -> Asset:
    """Set an asset's alt text, wherever the asset is used. Raises Invalid."""
    place.needs(May.WRITE)
    if words := unusable(alt):
        raise Invalid.at("/alt", words, "unusable")
    with transaction.atomic():
        before = asset.alt
        asset.alt = alt
        asset.save(update_fields=["alt"])
        record(
            place.brand.pk,
            place.actor,
            "describe",
            "asset",
            asset.pk,
            f"described {asset.name}",
            {"alt": before},
            {"alt": alt},
        )
        tell(place.brand.pk, "asset", asset.pk)
    return asset
