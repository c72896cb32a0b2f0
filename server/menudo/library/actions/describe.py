"""Say what an asset shows, and what is to be said with it."""

from django.db import transaction

from menudo.base.live import tell
from menudo.base.problems import Fault, Invalid
from menudo.history.actions.record import record
from menudo.library.models import Asset
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo_core.text.clean import unusable

MOST_LABELS = 20


def describe(place: Here, asset: Asset, said: dict[str, str | list[str]]) -> Asset:
    """Change any of name, alt, caption, credit and labels, wherever the asset is used. Raises Invalid."""
    place.needs(May.WRITE)
    faults = []
    for part, value in said.items():
        for text in [value] if isinstance(value, str) else value:
            if words := unusable(text):
                faults.append(Fault(f"/{part}", words, "unusable"))
    if not str(said.get("name", "x")).strip():
        faults.append(Fault("/name", "Give it a name.", "missing"))
    if faults:
        raise Invalid(faults=faults)
    if isinstance(labels := said.get("labels"), list):
        said["labels"] = clean_labels(labels)
    with transaction.atomic():
        before = {part: getattr(asset, part) for part in said}
        for part, value in said.items():
            setattr(asset, part, value)
        asset.save(update_fields=list(said))
        words = f"described {asset.name}"
        record(place.brand.pk, place.actor, "describe", "asset", asset.pk, words, before, dict(said), join=True)
        tell(place.brand.pk, "asset", asset.pk)
    return asset


def clean_labels(labels: list[str]) -> list[str]:
    """Each label once, whatever its case, without empty ones."""
    return list({label.strip().casefold(): label.strip() for label in reversed(labels) if label.strip()}.values())[::-1]
