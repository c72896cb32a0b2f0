"""Say what an asset shows, and what is to be said with it."""

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.history.actions.record_event import record_event
from menudo.library.models import Asset
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo_core.text.storable import unstorable_reason

MAX_LABELS = 20


def describe_asset(context: BrandContext, asset: Asset, changes: dict[str, str | list[str]]) -> Asset:
    """Change any of name, alt, caption, credit and labels, wherever the asset is used. Raises InvalidError."""
    context.require(Capability.WRITE)
    faults = []
    for part, value in changes.items():
        for text in [value] if isinstance(value, str) else value:
            if words := unstorable_reason(text):
                faults.append(Fault(f"/{part}", words, "unusable"))
    if not str(changes.get("name", "x")).strip():
        faults.append(Fault("/name", "Give it a name.", "missing"))
    if faults:
        raise InvalidError(faults=faults)
    if isinstance(labels := changes.get("labels"), list):
        changes["labels"] = clean_labels(labels)
    with transaction.atomic():
        before = {part: getattr(asset, part) for part in changes}
        for part, value in changes.items():
            setattr(asset, part, value)
        asset.save(update_fields=list(changes))
        words = f"described {asset.name}"
        record_event(
            context.brand.pk, context.actor, "describe", "asset", asset.pk, words, before, dict(changes), join=True
        )
        publish_change(context.brand.pk, "asset", asset.pk)
    return asset


def clean_labels(labels: list[str]) -> list[str]:
    """Each label once, whatever its case, without empty ones."""
    return list({label.strip().casefold(): label.strip() for label in reversed(labels) if label.strip()}.values())[::-1]
